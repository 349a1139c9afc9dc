import { formatPoints, type Thousandths } from '../exact/points.ts';
import { exactAsText, readExact, toRatio } from '../exact/ratio.ts';
import type { CellState, GradedCell, GradedColumn } from './cell.ts';
import type { Policy } from './policy.ts';
import { readTotal, type Reading } from './scheme.ts';
import { prepare, threeTotals, type Prepared } from './totals.ts';

/** A cell as it travels to the one whose it is: exact values as text. */
export interface SentCell {
  readonly state: CellState;
  readonly result: string | null;
  readonly mostPossible: string;
}

/** What a student’s totals are made from, so that they can be worked out again with results that are only supposed. */
export interface SupposeFacts {
  readonly policy: Policy;
  readonly columns: readonly GradedColumn[];
  readonly cells: readonly SentCell[];
}

/** A cell ready to travel. Example: a result of 8 1/3 thousandths is sent as `25/3`. */
export const sentCell = (cell: GradedCell): SentCell => ({
  state: cell.state,
  result: cell.result === null ? null : exactAsText(cell.result),
  mostPossible: exactAsText(cell.mostPossible),
});

const toCell = (sent: SentCell): GradedCell => ({
  state: sent.state,
  raw: null,
  result: sent.result === null ? null : readExact(sent.result),
  late: null,
  mostPossible: readExact(sent.mostPossible),
  isReleased: true,
});

/** Results that are supposed, in thousandths of a point, by column. */
export type Supposed = ReadonlyMap<string, Thousandths>;

export interface SupposedTotals {
  readonly soFar: Reading | null;
  readonly floor: Reading | null;
  readonly reach: Reading | null;
}

/** Makes ready what a student’s totals are worked out from. */
export interface Supposing {
  readonly facts: SupposeFacts;
  readonly prepared: Prepared;
  readonly cells: readonly GradedCell[];
  /** Columns that have no result yet and can still bring one, in the order of the gradebook. */
  readonly open: readonly GradedColumn[];
}

/** Whether a result can be supposed for a cell: there is none, and something can still come. */
const isOpen = (cell: GradedCell): boolean =>
  (cell.state === 'none' || cell.state === 'missing' || cell.state === 'unfinished') && toRatio(cell.mostPossible).compare(0) > 0;

/** Prepares the policy and cells of a student once, for many suppositions. */
export function beginSupposing(facts: SupposeFacts): Supposing {
  const cells = facts.cells.map(toCell);
  const open = facts.columns.filter((column, n) => cells[n] !== undefined && isOpen(cells[n]) && column.possible > 0);
  return { facts, prepared: prepare(facts.policy, facts.columns), cells, open };
}

function cellsWith({ facts, cells }: Supposing, supposed: Supposed): GradedCell[] {
  return cells.map((cell, n) => {
    const result = supposed.get(facts.columns[n]?.id ?? '');
    return result === undefined ? cell : { ...cell, state: 'marked', raw: result, result, mostPossible: result };
  });
}

/**
 * The three totals of a student with results that are only supposed, by the same calculation as the real ones. A supposed result stands in
 * place of what is there and counts as it is typed, after curve and lateness.
 * Worked example: 80 of 100 so far and 100 supposed of another 100 points: so far 90.0 %.
 */
export function supposeTotals(supposing: Supposing, supposed: Supposed): SupposedTotals {
  const { decimals, levels } = supposing.facts.policy;
  const { soFar, floor, reach } = threeTotals(supposing.prepared, cellsWith(supposing, supposed));
  const read = (total: typeof soFar): Reading | null => readTotal(total.ratio, decimals, levels);
  return { soFar: read(soFar), floor: read(floor), reach: read(reach) };
}

/** What is needed for a letter: at every open column the same share, and at each alone; null where even full marks are not enough. */
export interface Needed {
  /** In thousandths of a percent; 0 where the letter is reached whatever comes. */
  readonly share: number | null;
  readonly alone: readonly { readonly column: GradedColumn; readonly points: Thousandths | null }[];
}
const FULL = 100_000;

/** The least whole number from 0 to `most` for which something holds that keeps holding; null where it never does. */
function least(most: number, holds: (value: number) => boolean): number | null {
  if (!holds(most)) return null;
  let [low, high] = [0, most];
  while (low < high) {
    const middle = Math.floor((low + high) / 2);
    if (holds(middle)) high = middle;
    else low = middle + 1;
  }
  return low;
}

/**
 * What a student would need for a letter, which is reached where the total so far, as it would then be, is read at or above its cut-point.
 *
 * Convention: the share is the least, in thousandths of a percent, that is enough when every open column without a supposition gets it (of
 * its points, rounded up to a thousandth); alone is the least number of points that is enough at one column while the other open ones stay
 * without a result. What is supposed stays as it is. A better result never lowers a total, so the least is found by halving.
 * Worked example: 70 of 100 and one open column of 100 points: for 75 % it needs 80 points, a share of 80 %.
 */
export function neededFor(supposing: Supposing, supposed: Supposed, cutPoint: Thousandths): Needed {
  const { decimals } = supposing.facts.policy;
  const open = supposing.open.filter((column) => !supposed.has(column.id));
  const scale = 10 ** decimals;
  const isEnough = (more: readonly (readonly [string, Thousandths])[]): boolean => {
    const total = supposeTotals(supposing, new Map([...supposed, ...more])).soFar;
    // As it is read: rounded once, and then held against the cut-point.
    return total !== null && BigInt(total.percent.replace('−', '-').replace('.', '')) * 1000n >= BigInt(cutPoint) * BigInt(scale);
  };
  const part = (possible: Thousandths, share: number): Thousandths => Math.ceil((possible * share) / FULL);
  return {
    share: open.length === 0 ? null : least(FULL, (share) => isEnough(open.map((column) => [column.id, part(column.possible, share)]))),
    alone: open.map((column) => ({ column, points: least(column.possible, (points) => isEnough([[column.id, points]])) })),
  };
}

/** A share as it is said: `82.4 %`, rounded up to a tenth so that it is enough. */
export const shareInWords = (share: number): string => `${formatPoints(Math.ceil(share / 100) * 100)} %`;
