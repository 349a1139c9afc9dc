import { cellOf, type GradedCell, type GradedColumn, type Policy, prepare, type Prepared, threeTotals, type Total } from '@rosemary/core';
import type { CourseFacts, FactColumn, FactHandIn, FactPerson, WorkColumn } from './factTypes.ts';

/** The columns that stand in totals: counting, and of no draft. */
export function gradedColumns(facts: CourseFacts): readonly FactColumn[] {
  return facts.columns.filter((column) => column.counts && !column.isDraft);
}

export function toGraded(column: FactColumn): GradedColumn {
  return {
    id: column.id,
    itemId: column.itemId,
    title: column.title,
    categoryId: column.categoryId,
    periodId: column.periodId,
    possible: column.possible,
    multiplier: column.multiplier,
    isExtraCredit: column.isExtraCredit,
    dueAt: column.dated.dueAt,
    order: column.order,
  };
}

/** Whether a column is for somebody: as its item is, or for everybody where it has none. */
export const isFor = (facts: CourseFacts, column: FactColumn, person: FactPerson): boolean =>
  column.itemId === null || facts.reach.isFor(column.itemId, person);

/** What somebody handed in for a column: nothing where it is not of an item’s work. */
export const handInOf = (facts: CourseFacts, column: FactColumn, person: FactPerson): FactHandIn | undefined =>
  column.itemId === null || column.role !== 'work' ? undefined : facts.handIns.get(column.itemId, person.enrolmentId);

export const isWorkColumn = (column: FactColumn): column is WorkColumn =>
  column.role === 'work' && column.itemId !== null && column.kind !== null;

/** The column of an item’s work, where it has one and is no draft. */
export const findWorkColumn = (facts: CourseFacts, itemId: string): WorkColumn | undefined =>
  facts.columns.filter(isWorkColumn).find((column) => column.itemId === itemId && !column.isDraft);

/** One cell; a student's view (`releasedOnly`) counts released marks only. */
export function cellFor(facts: CourseFacts, column: FactColumn, person: FactPerson, now: number, releasedOnly: boolean): GradedCell {
  return cellOf({
    isForStudent: !column.isDraft && isFor(facts, column, person),
    expectsHandIn: column.expectsHandIn,
    possible: column.possible,
    dates: facts.datesFor(column.dated, person),
    handedInAt: handInOf(facts, column, person)?.at ?? null,
    grade: facts.grades.get(column.id, person.enrolmentId) ?? null,
    late: column.late,
    curve: column.curve,
    now,
    releasedOnly,
  });
}

export interface Calculation {
  readonly columns: readonly FactColumn[];
  /** Where a column stands among the counted ones. */
  readonly placeOf: ReadonlyMap<string, number>;
  readonly prepared: Prepared;
  readonly cellsOf: (person: FactPerson) => readonly GradedCell[];
  readonly totalsOf: (cells: readonly GradedCell[]) => Record<'soFar' | 'floor' | 'reach', Total>;
}

/** The one calculation of a course: the same for gradebook, working, ripple, student and Desk. */
export function calculate(facts: CourseFacts, now: number, releasedOnly: boolean, policy: Policy = facts.policy): Calculation {
  const columns = gradedColumns(facts);
  const prepared = prepare(policy, columns.map(toGraded));
  return {
    columns,
    prepared,
    placeOf: new Map(columns.map((column, n) => [column.id, n])),
    cellsOf: (person) => columns.map((column) => cellFor(facts, column, person, now, releasedOnly)),
    totalsOf: (cells) => threeTotals(prepared, cells),
  };
}
