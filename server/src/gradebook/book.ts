import type { BookCell, BookPart, BookRow, Gradebook, TotalsText } from '@rosemary/api';
import {
  exactPoints,
  formatPoints,
  type GradedCell,
  periodOf,
  type Policy,
  type Ratio,
  readResult,
  readTotal,
  roundHalfUp,
  toRatio,
  type Total,
} from '@rosemary/core';
import { isoAt } from '../platform/instants.ts';
import { calculate, type Calculation, cellFor, handInOf } from './cells.ts';
import type { CourseFacts, FactGrade, FactColumn, FactPerson } from './factTypes.ts';

/** The three totals as they are read; each rounded once, from its exact value. */
export function readTotals(facts: CourseFacts, totals: Record<'soFar' | 'floor' | 'reach', Total>): TotalsText {
  const { decimals, levels } = facts.policy;
  const soFar = readTotal(totals.soFar.ratio, decimals, levels);
  const percent = (total: Total): string | null => readTotal(total.ratio, decimals, levels)?.percent ?? null;
  return { soFar: soFar?.percent ?? null, floor: percent(totals.floor), reach: percent(totals.reach), letter: soFar?.letter ?? null };
}

/** What somebody gave: a score before lateness, or a state that was said; null where nothing was. */
function givenOf(grade: FactGrade | undefined): BookCell[6] {
  if (grade === undefined || grade.state === null || grade.state === 'judged') return null;
  return grade.state === 'scored' ? grade.raw : grade.state;
}

function bookCell(facts: CourseFacts, column: FactColumn, person: FactPerson, cell: GradedCell): BookCell | 0 {
  const grade = facts.grades.get(column.id, person.enrolmentId);
  const waits = handInOf(facts, column, person) !== undefined && cell.state !== 'marked' && cell.state !== 'exempt';
  if (grade === undefined && !waits && cell.state === 'none') return 0;
  const text = cell.result === null ? '' : typeof cell.result === 'number' ? formatPoints(cell.result) : exactPoints(cell.result);
  const known = [
    cell.state,
    text,
    cell.isReleased ? 1 : 0,
    cell.late === null ? 0 : 1,
    grade?.eventId ?? null,
    waits ? 1 : 0,
    givenOf(grade),
  ] as const;
  return column.staffReads === 'points' || cell.state !== 'marked' || cell.result === null
    ? known
    : [...known, readResult(column.staffReads, cell.result, column, facts.policy)];
}

/** The result of each part so far, as it is read: every category, in every weighted grading period. */
const subtotalsOf = (facts: CourseFacts, total: Total): (string | null)[] =>
  facts.policy.total !== 'weights'
    ? []
    : total.periods.flatMap((period) => period.categories.map(({ total: { ratio } }) => percentText(facts, ratio)));

const percentText = (facts: CourseFacts, ratio: Ratio | null): string | null =>
  ratio === null ? null : roundHalfUp(ratio.mul(100), facts.policy.decimals);

/** A row of the gradebook: every shown item's cell, the subtotal of each part, the total of each grading period, the three totals. */
export function bookRow(
  facts: CourseFacts,
  calculation: Calculation,
  shown: readonly FactColumn[],
  person: FactPerson,
  now: number,
): BookRow {
  const counted = calculation.cellsOf(person);
  const totals = calculation.totalsOf(counted);
  return {
    enrolmentId: person.enrolmentId,
    givenName: person.givenName,
    familyName: person.familyName,
    sectionId: person.sectionId,
    cells: shown.map((column) =>
      bookCell(facts, column, person, counted[calculation.placeOf.get(column.id) ?? -1] ?? cellFor(facts, column, person, now, false)),
    ),
    subtotals: subtotalsOf(facts, totals.soFar),
    periods: facts.policy.periods.length === 0 ? [] : totals.soFar.periods.map((period) => percentText(facts, period.ratio)),
    totals: readTotals(facts, totals),
  };
}

const SHARES_DRAWN = 120;

/** Shares of an item's results for its dot strip: 0 to 100, at most 120 of them, for drawing only. */
function dotShares(facts: CourseFacts, column: FactColumn): number[] {
  const shares: number[] = [];
  for (const person of facts.people) {
    const grade = facts.grades.get(column.id, person.enrolmentId);
    if (grade?.raw !== null && grade?.raw !== undefined && column.possible > 0)
      shares.push(Math.round((grade.raw / column.possible) * 100));
    if (shares.length >= SHARES_DRAWN) break;
  }
  return shares;
}

/** Where columns count together, in the order in which the totals are made. */
function partsOfBook({ total, periods, categories }: Policy): BookPart[] {
  if (total !== 'weights') return [];
  const within = (period: { readonly id: string; readonly title: string } | null): BookPart[] =>
    categories.map((c) => ({
      categoryId: c.id,
      periodId: period?.id ?? null,
      title: period === null ? c.title : `${period.title}: ${c.title}`,
      weightPercent: c.weightPercent,
    }));
  return periods.length === 0 ? within(null) : periods.flatMap(within);
}

export function makeBook(facts: CourseFacts, now: number, pastSince?: string | null): Gradebook {
  const shown = facts.columns.filter((column) => !column.isDraft);
  const calculation = calculate(facts, now, false);
  const weights = facts.policy.categories.filter((c) => !c.isExtraCredit).reduce((sum, c) => sum + c.weightPercent, 0);
  return {
    columns: shown.map((column) => ({
      id: column.id,
      itemId: column.itemId,
      role: column.role,
      kind: column.kind,
      title: column.title,
      categoryId: column.categoryId,
      possible: column.possible,
      isDraft: column.isDraft,
      counts: column.counts,
      dueAt: isoAt(column.dated.dueAt),
      madeAt: new Date(column.madeAt).toISOString(),
      order: column.order,
      isAlone: column.unitId === null,
      periodId: periodOf({ periodId: column.periodId, dueAt: column.dated.dueAt }, facts.policy.periods)?.id ?? null,
      hasCurve: column.curve !== null,
      isExtraCredit: column.isExtraCredit,
      multiplier: column.multiplier,
      takesLetters: [column.staffReads, column.studentReads].includes('letter'),
      ownLevels: column.ownLevels,
    })),
    parts: partsOfBook(facts.policy),
    periods: facts.policy.periods.map(({ id, title, weightPercent }) => ({ id, title, weightPercent })),
    categories: facts.policy.categories.map((c) => ({ id: c.id, title: c.title, weightPercent: c.weightPercent })),
    rows: facts.people.map((person) => bookRow(facts, calculation, shown, person, now)),
    total: facts.policy.total,
    weightsSum: weights,
    shares: shown.map((column) => dotShares(facts, column)),
    levels: facts.policy.levels,
    passPercent: facts.policy.passPercent ?? null,
    asOf: pastSince === undefined ? null : { at: new Date(now).toISOString(), knownSince: pastSince },
  };
}

/** A score as it is read beside what is possible: `45.125 of 60`. */
export function scoreText(cell: GradedCell, possible: number): string | null {
  if (cell.state !== 'marked' || cell.result === null) return null;
  return `${exactPoints(toRatio(cell.result))} of ${formatPoints(possible)}`;
}
