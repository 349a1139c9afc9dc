import { exactText, type Ratio } from '../exact/ratio.ts';
import type { SchemeLevel } from './policy.ts';
import { readTotal } from './scheme.ts';

export interface RippleInput {
  readonly id: string;
  readonly name: string;
  readonly before: Ratio | null;
  readonly after: Ratio | null;
  /** The other two totals, where they are known. */
  readonly floor?: readonly [before: Ratio | null, after: Ratio | null];
  readonly reach?: readonly [before: Ratio | null, after: Ratio | null];
}

/** Another total than so far that moves, as it is read. */
export interface OtherMove {
  readonly before: string | null;
  readonly after: string | null;
}

export interface RippleRow {
  readonly id: string;
  readonly name: string;
  readonly before: string | null;
  readonly after: string | null;
  readonly letterBefore: string | null;
  readonly letterAfter: string | null;
  /** Exact difference in percentage points, as text; null where one side has no total. */
  readonly change: string | null;
  readonly move: 'rises' | 'falls' | 'stays' | 'appears' | 'vanishes';
  readonly crosses: boolean;
  /** Null where this total does not move. */
  readonly floor: OtherMove | null;
  readonly reach: OtherMove | null;
}

export interface Ripple {
  readonly rows: readonly RippleRow[];
  readonly rise: number;
  readonly fall: number;
  readonly cross: number;
  readonly sentence: string;
  /** Whose floor or reach moves, in words; empty where none does. */
  readonly others: string;
}

/** Whether a change moves nobody: no total of any kind rises, falls, appears or vanishes, and no letter is crossed. */
export const isStill = (rows: readonly RippleRow[]): boolean =>
  rows.every((row) => row.move === 'stays' && !row.crosses && row.floor === null && row.reach === null);

/** Before and after, each read by its own scheme. */
export interface Readers {
  readonly decimals: number;
  readonly levels: readonly SchemeLevel[];
}

function moveOf(before: Ratio | null, after: Ratio | null): RippleRow['move'] {
  if (before === null) return after === null ? 'stays' : 'appears';
  if (after === null) return 'vanishes';
  const order = after.compare(before);
  return order > 0 ? 'rises' : order < 0 ? 'falls' : 'stays';
}

/**
 * The effect of a change that has not been made: two runs of the same calculation, compared.
 *
 * A rise or fall is of the exact total, not of the rounded one; a letter is crossed when the letter read differs.
 * Rows stand with the largest change first. Worked example: 72.9 → 73.1 with B from 73 rises and crosses a letter.
 */
export function rippleOf(people: readonly RippleInput[], before: Readers, after: Readers): Ripple {
  const rows = people.map((person) => {
    const was = readTotal(person.before, before.decimals, before.levels);
    const will = readTotal(person.after, after.decimals, after.levels);
    const change = person.before !== null && person.after !== null ? person.after.sub(person.before).mul(100) : null;
    const row: RippleRow = {
      id: person.id,
      name: person.name,
      before: was?.percent ?? null,
      after: will?.percent ?? null,
      letterBefore: was?.letter ?? null,
      letterAfter: will?.letter ?? null,
      change: change === null ? null : exactText(change),
      move: moveOf(person.before, person.after),
      crosses: (was?.letter ?? null) !== (will?.letter ?? null),
      floor: otherMove(person.floor, before, after),
      reach: otherMove(person.reach, before, after),
    };
    return { row, size: change === null ? 0 : change.abs().valueOf() };
  });
  rows.sort((a, b) => Number(b.row.crosses) - Number(a.row.crosses) || b.size - a.size || a.row.name.localeCompare(b.row.name));
  const count = (move: RippleRow['move']): number => rows.filter((r) => r.row.move === move).length;
  const rise = count('rises');
  const fall = count('falls');
  const cross = rows.filter((r) => r.row.crosses).length;
  const moved = (which: 'floor' | 'reach'): number => rows.filter((r) => r.row[which] !== null).length;
  const others = othersSentence(moved('floor'), moved('reach'));
  const isStill = rise === 0 && fall === 0 && cross === 0 && others !== '';
  return {
    rows: rows.map((r) => r.row),
    rise,
    fall,
    cross,
    others,
    sentence: isStill ? 'No total so far moves' : rippleSentence(rise, fall, cross),
  };
}

/** How another total moves, read as it is shown; null where its exact value stays. */
function otherMove(pair: RippleInput['floor'], before: Readers, after: Readers): OtherMove | null {
  if (pair === undefined || moveOf(pair[0], pair[1]) === 'stays') return null;
  return {
    before: readTotal(pair[0], before.decimals, before.levels)?.percent ?? null,
    after: readTotal(pair[1], after.decimals, after.levels)?.percent ?? null,
  };
}

/** `The floor of 12 and the reach of 3 move`; empty where neither does. */
function othersSentence(floor: number, reach: number): string {
  const parts = [...(floor > 0 ? [`the floor of ${floor}`] : []), ...(reach > 0 ? [`the reach of ${reach}`] : [])];
  const text = parts.join(' and ');
  return text === ''
    ? ''
    : `${text.charAt(0).toUpperCase()}${text.slice(1)} ${parts.length + Math.max(floor, reach) > 2 ? 'move' : 'moves'}`;
}

/** `12 rise, 3 fall, 2 cross a letter`; `Nobody moves` where nothing changes. */
export function rippleSentence(rise: number, fall: number, cross: number): string {
  if (rise === 0 && fall === 0 && cross === 0) return 'Nobody moves';
  const verb = (n: number, one: string, many: string): string => `${n === 0 ? 'none' : n} ${n === 1 ? one : many}`;
  const text = `${verb(rise, 'rises', 'rise')}, ${verb(fall, 'falls', 'fall')}, ${verb(cross, 'crosses', 'cross')} a letter`;
  return text.charAt(0).toUpperCase() + text.slice(1);
}
