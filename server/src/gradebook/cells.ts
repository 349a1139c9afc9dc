import { cellOf, type GradedCell, type GradedItem, type Policy, prepare, type Prepared, threeTotals, type Total } from '@rosemary/core';
import type { CourseFacts, FactItem, FactPerson } from './factTypes.ts';

/** The items that stand in totals: counting, and no drafts. */
export function gradedItems(facts: CourseFacts): readonly FactItem[] {
  return facts.items.filter((item) => item.counts && !item.isDraft);
}

export function toGraded(item: FactItem): GradedItem {
  return {
    id: item.id,
    title: item.title,
    categoryId: item.categoryId,
    periodId: item.periodId,
    possible: item.possible,
    multiplier: item.multiplier,
    isExtraCredit: item.isExtraCredit,
    dueAt: item.dueAt,
    order: item.order,
  };
}

/** One cell; a student's view (`releasedOnly`) counts released marks only. */
export function cellFor(facts: CourseFacts, item: FactItem, person: FactPerson, now: number, releasedOnly: boolean): GradedCell {
  return cellOf({
    isForStudent: !item.isDraft && facts.reach.isFor(item.id, person),
    expectsHandIn: item.expectsHandIn,
    possible: item.possible,
    dates: facts.datesFor(item, person),
    handedInAt: facts.handIns.get(item.id, person.enrolmentId)?.at ?? null,
    grade: facts.grades.get(item.id, person.enrolmentId) ?? null,
    late: item.late,
    now,
    releasedOnly,
  });
}

export interface Calculation {
  readonly items: readonly FactItem[];
  /** Where an item stands among the counted ones. */
  readonly placeOf: ReadonlyMap<string, number>;
  readonly prepared: Prepared;
  readonly cellsOf: (person: FactPerson) => readonly GradedCell[];
  readonly totalsOf: (cells: readonly GradedCell[]) => Record<'soFar' | 'floor' | 'reach', Total>;
}

/** The one calculation of a course: the same for gradebook, working, ripple, student and Desk. */
export function calculate(facts: CourseFacts, now: number, releasedOnly: boolean, policy: Policy = facts.policy): Calculation {
  const items = gradedItems(facts);
  const prepared = prepare(policy, items.map(toGraded));
  return {
    items,
    prepared,
    placeOf: new Map(items.map((item, n) => [item.id, n])),
    cellsOf: (person) => items.map((item) => cellFor(facts, item, person, now, releasedOnly)),
    totalsOf: (cells) => threeTotals(prepared, cells),
  };
}
