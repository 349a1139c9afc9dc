import { exactPoints, exactText, ratio, roundHalfUp, toRatio, type Ratio } from '../exact/ratio.ts';
import { countOf } from '../exact/countOf.ts';
import { formatPoints } from '../exact/points.ts';
import type { CategoryTotal, ColumnLine } from './category.ts';
import type { GradedCell, GradedColumn } from './cell.ts';
import type { Policy } from './policy.ts';
import { readTotal } from './scheme.ts';
import type { PeriodTotal, Total, WeightedCategory } from './totals.ts';

/** One line of a working: a rule in words, a value, and the lines it opens into. */
export interface WorkingLine {
  readonly rule: string;
  readonly value: string;
  readonly look: 'plain' | 'sum' | 'out' | 'note';
  readonly itemId: string | null;
  readonly lines: readonly WorkingLine[];
}

function line(
  rule: string,
  value: string,
  look: WorkingLine['look'] = 'plain',
  lines: readonly WorkingLine[] = [],
  itemId: string | null = null,
): WorkingLine {
  return { rule, value, look, itemId, lines };
}

/** How an instant is written: the zone and the year are known to whoever shows the working. */
export type AtText = (instant: number) => string;

const percentText = (value: Ratio): string => `${exactText(value.mul(100))} %`;
const weightText = (value: number): string => formatPoints(value);

/** What was given, before curve and lateness changed it; empty where neither did. */
const givenText = ({ raw, late, curve }: GradedCell): string =>
  late === null && (curve ?? null) === null ? '' : `${formatPoints(raw ?? 0)} → `;

/** What a curve made of the result, what a late column lost, and when it came and was due. */
function changeNotes({ late, curve }: GradedCell, at: AtText): WorkingLine[] {
  const curved =
    curve === undefined || curve === null ? [] : [line(curve.rule, `${formatPoints(curve.from)} → ${exactPoints(curve.to)}`, 'note')];
  return late === null
    ? curved
    : [
        ...curved,
        line(`handed in ${at(late.handedInAt)}, due ${at(late.dueAt)}`, '', 'note'),
        line(late.rule, `− ${exactPoints(late.penalty)}`, 'note'),
      ];
}

/** The working of one column: raw → curve → late → result. Worked example: `47.5 → 45.125 / 60`, opening to the late rule and − 2.375. */
export function workingOfCell(column: GradedColumn, cell: GradedCell, at: AtText): WorkingLine {
  const possible = formatPoints(column.possible);
  if (cell.state !== 'marked' || cell.result === null) return line(column.title, `${stateWords(cell)}`, 'plain', [], column.itemId);
  const notes: WorkingLine[] = [];
  notes.push(...changeNotes(cell, at));
  if (!cell.isReleased) notes.push(line('finished, not yet released to the student', '', 'note'));
  const value = `${givenText(cell)}${exactPoints(cell.result)} / ${possible}`;
  return line(column.title, value, 'plain', notes, column.itemId);
}

export function stateWords(cell: GradedCell): string {
  const words = {
    none: 'no mark yet',
    missing: 'missing',
    exempt: 'exempt',
    unfinished: 'unfinished',
    judged: 'judged in words',
    outside: 'not for this student',
    marked: 'marked',
  };
  return words[cell.state];
}

function workingOfLine(entry: ColumnLine, method: CategoryTotal['method'], at: AtText): WorkingLine {
  const { column, cell, basis } = entry;
  const notes: WorkingLine[] = [];
  if (basis === 'mark') notes.push(...changeNotes(cell, at));
  if (basis === 'mark' && !cell.isReleased) notes.push(line('finished, not yet released', '', 'note'));
  if (basis !== 'mark') notes.push(line(basisWords(basis), '', 'note'));
  if (column.multiplier !== 1000) notes.push(line('multiplier', `× ${formatPoints(column.multiplier)}`, 'note'));
  if (column.isExtraCredit || column.possible === 0) notes.push(line('extra credit: adds points, not weight', '', 'note'));
  if (entry.leftOut !== null) {
    notes.push(
      line(entry.leftOut === 'lowest' ? 'left out: without it the share is greatest' : 'left out: the highest of what stayed', '', 'note'),
    );
  }
  // What is worth 0 points is extra credit; by equal share it counts as so many of a hundred.
  const of = column.possible === 0 && method === 'share' ? 100_000 : column.possible;
  const share = method === 'share' ? ` = ${percentText(toRatio(entry.earned).div(of))}` : '';
  const raw = basis === 'mark' ? givenText(cell) : '';
  const value = `${raw}${exactPoints(entry.earned)} / ${formatPoints(of)}${share}`;
  return line(column.title, value, entry.leftOut === null ? 'plain' : 'out', notes, column.itemId);
}

function basisWords(basis: ColumnLine['basis']): string {
  const words = {
    mark: 'marked',
    missing: 'missing counts as zero',
    'no mark yet': 'no mark yet: counts 0 in the floor',
    'full marks': 'can still come: counts with the most it can bring',
    closed: 'closed, nothing can come any more: counts 0',
    'not built yet': 'declared work that is not built yet',
  };
  return words[basis];
}

/** The lines of one category: every column that counted, what was left out, the sum, and the rounding. */
export function workingOfCategory(total: CategoryTotal, decimals: number, at: AtText): readonly WorkingLine[] {
  const columns = total.lines.map((entry) => workingOfLine(entry, total.method, at));
  if (total.ratio === null) return [...columns, line('Nothing counted yet, so there is no result', '', 'sum')];
  const byPoints = total.method === 'points';
  const earned = byPoints ? exactText(total.earned.div(1_000_000)) : exactText(total.earned.div(1000));
  const possible = byPoints ? exactText(total.possible.div(1_000_000)) : exactText(total.possible.div(1000));
  return [
    ...columns,
    line(
      byPoints ? `${earned} of ${possible} points` : `shares add to ${earned}, of ${countOf(possible, 'piece')}`,
      percentText(total.ratio),
      'sum',
    ),
    ...(total.isCapped ? [line('capped at 100 %', '', 'note')] : []),
    line(
      `read to ${decimals === 1 ? 'one decimal' : `${decimals} decimals`}, half up`,
      `${roundHalfUp(total.ratio.mul(100), decimals)} %`,
      'note',
    ),
  ];
}

/** How a category is made, in one phrase: `by points, leaving out the lowest one`. */
export function categoryRule(method: CategoryTotal['method'], dropLowest: number, keepBest: number, dropHighest: number): string {
  const parts = [method === 'points' ? 'by points' : 'by equal share'];
  const many = (n: number): string => (n === 1 ? 'one' : String(n));
  if (keepBest > 0) parts.push(`keeping the best ${many(keepBest)}`);
  else if (dropLowest > 0) parts.push(`leaving out the lowest ${many(dropLowest)}`);
  if (dropHighest > 0 && method === 'share') parts.push(`leaving out the highest ${many(dropHighest)}`);
  return parts.join(', ');
}

/**
 * What a category brings to the total, in percentage points: its share of the weights that counted, or of the whole where it is extra credit
 * and comes on top. Null where it has no result.
 * Worked example: 80 % at weight 20 where the weights that counted add to 70: 160/7.
 */
export function partOfTotal(entry: WeightedCategory, period: Pick<PeriodTotal, 'weightSum'>): Ratio | null {
  const { category, total, weightPercent } = entry;
  if (total.ratio === null) return null;
  return category?.isExtraCredit === true
    ? total.ratio.mul(ratio(weightPercent, 1000))
    : total.ratio.mul(100).mul(ratio(weightPercent, Math.max(1, period.weightSum)));
}

function workingOfWeighted(entry: WeightedCategory, period: PeriodTotal, policy: Policy, at: AtText): WorkingLine {
  const { category, total } = entry;
  const inside = workingOfCategory(total, policy.decimals, at);
  if (category === null) {
    return line(
      `All items ${categoryRule(total.method, policy.whole.dropLowest, policy.whole.keepBest, policy.whole.dropHighest)}`,
      total.ratio === null ? 'no result' : percentText(total.ratio),
      'plain',
      inside,
    );
  }
  const weight = weightText(entry.weightPercent);
  if (total.ratio === null) {
    return line(`${category.title}, weight ${weight}`, policy.isRenormalised ? 'left aside' : 'counts 0', 'note', inside);
  }
  const part = partOfTotal(entry, period);
  return line(
    `${category.title}, weight ${weight}${category.isExtraCredit ? ', on top' : ''}`,
    `${exactText(total.ratio.mul(100))} % → ${part === null ? '' : exactText(part)}`,
    'plain',
    inside,
  );
}

/**
 * The account of one grading period (or of a course without any): each category with what it brings, and what it all comes to.
 * Worked example: `Quizzes, weight 20 | 85 % → 17`, …, `Weights counted: 100 of 100`.
 */
export function workingOfPeriod(period: PeriodTotal, policy: Policy, at: AtText): readonly WorkingLine[] {
  const lines = period.categories.map((entry) => workingOfWeighted(entry, period, policy, at));
  const made =
    period.period === null || period.ratio === null ? [] : [line(`${period.period.title}, all of it`, percentText(period.ratio), 'sum')];
  if (period.categories.length > 0 && period.categories[0]?.category === null) return [...lines, ...made];
  return [...lines, line(`Weights counted: ${weightText(period.weightSum)} of 100`, '', 'note'), ...made];
}

/**
 * The whole account of one total, from each column to the letter; every value exact, the one rounding named.
 * Worked example: the last lines of a total of 79.5140625 % are `79.5140625 %`, `read to one decimal, half up → 79.5 %`
 * and `B, from 73`.
 */
export function workingOfTotal(total: Total, policy: Policy, at: AtText): readonly WorkingLine[] {
  const parts = total.periods.flatMap((period) =>
    period.period === null
      ? workingOfPeriod(period, policy, at)
      : [
          line(
            `${period.period.title}, weight ${weightText(period.period.weightPercent)}`,
            period.ratio === null ? 'nothing yet' : percentText(period.ratio),
            'plain',
            workingOfPeriod(period, policy, at),
          ),
        ],
  );
  if (total.ratio === null) return [...parts, line('Nothing counts yet, so there is no total', '', 'sum')];
  const reading = readTotal(total.ratio, policy.decimals, policy.levels);
  const level = policy.levels.find((l) => l.label === reading?.letter);
  const weights = total.periods.reduce((sum, p) => sum + (p.period === null || p.ratio === null ? 0 : p.period.weightPercent), 0);
  return [
    ...parts,
    ...(weights === 0 ? [] : [line(`Weights of the periods counted: ${weightText(weights)}`, '', 'note')]),
    line(`Total ${total.kind}`, percentText(total.ratio), 'sum'),
    line(
      `read to ${policy.decimals === 1 ? 'one decimal' : `${policy.decimals} decimals`}, half up`,
      `${reading?.percent ?? ''} %`,
      'note',
    ),
    ...(level === undefined
      ? []
      : [line(`the letter whose cut-point is reached: from ${formatPoints(level.cutPoint)}`, level.label, 'note')]),
  ];
}
