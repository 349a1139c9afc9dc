import { type DoneRule, isDone, type ItemKind, type ItemStanding, type Traces, visibilityFor } from '@rosemary/core';
import { readHidden } from '../anonymity/index.ts';
import { type CourseFacts, type FactPerson, isWorkColumn, readFacts } from '../gradebook/index.ts';
import { datedOf } from '../opening/index.ts';
import { type Db, rows } from '../platform/database.ts';
import { type Pairs, pairsOf } from '../platform/pairs.ts';

export interface ItemRow {
  id: string;
  kind: ItemKind;
  title: string;
  unit_id: string;
  unit: string;
  estimated_minutes: number;
  done_rule: DoneRule;
  done_score: number | null;
  is_required: boolean;
  task_type_id: string | null;
  announced_at: Date | null;
  opens_at: Date | null;
  due_at: Date | null;
  closes_at: Date | null;
}

export interface ReadCourse {
  readonly facts: CourseFacts;
  /** The column of each item’s work, where it has one. */
  readonly columnOf: ReadonlyMap<string, string>;
  readonly items: readonly ItemRow[];
  readonly opened: Pairs<Date>;
  readonly ticked: Pairs<Date>;
  /** Whether all reviews that somebody was to give are given; where there are none, nothing. */
  readonly reviewed: Pairs<boolean>;
  readonly last: ReadonlyMap<string, Date>;
  /** Where names are hidden no minute is told: it would lead from a student to the work that came then. */
  readonly isHidden: (itemId: string, enrolmentId: string) => boolean;
}

export async function readCourse(
  db: Db,
  courseId: string,
  scope: { enrolmentId?: string; sectionIds?: readonly string[] | null },
  now: number,
): Promise<ReadCourse> {
  const [facts, isHidden, items, visits, ticks, reviews] = await Promise.all([
    readFacts(db, courseId, scope),
    readHidden(db, courseId, now),
    rows<ItemRow>(
      db,
      `
      select i.id, i.kind, i.title, u.id as unit_id, u.title as unit, i.estimated_minutes, i.done_rule, (i.done_score * 1000)::int as done_score, i.is_required, i.task_type_id, i.announced_at, i.opens_at, i.due_at, i.closes_at
      from item i join unit_item ui on ui.item_id = i.id join unit u on u.id = ui.unit_id and u.removed_at is null and not u.is_standing
      where i.course_id = $1 and i.removed_at is null and not i.is_draft order by u.position, ui.position`,
      [courseId],
    ),
    rows<{ item_id: string; enrolment_id: string; first: Date; last: Date }>(
      db,
      `
      select v.item_id, v.enrolment_id, v.first_at as first, v.last_at as last from item_opened v join enrolment e on e.id = v.enrolment_id
      where e.course_id = $1 and ($2::uuid is null or e.id = $2)`,
      [courseId, scope.enrolmentId ?? null],
    ),
    rows<{ item_id: string; enrolment_id: string; at: Date }>(
      db,
      'select k.item_id, k.enrolment_id, k.at from tick k join enrolment e on e.id = k.enrolment_id where e.course_id = $1',
      [courseId],
    ),
    rows<{ item_id: string; enrolment_id: string; are_given: boolean }>(
      db,
      'select r.item_id, r.enrolment_id, r.are_given from reviews_given r join enrolment e on e.id = r.enrolment_id where e.course_id = $1',
      [courseId],
    ),
  ]);
  const last = new Map<string, Date>();
  for (const v of visits) {
    if (isHidden(v.item_id, v.enrolment_id)) continue;
    const known = last.get(v.enrolment_id);
    if (known === undefined || known < v.last) last.set(v.enrolment_id, v.last);
  }
  return {
    facts,
    columnOf: new Map(facts.columns.filter(isWorkColumn).map((column) => [column.itemId, column.id])),
    items,
    last,
    isHidden,
    opened: pairsOf(
      visits,
      (v) => v.item_id,
      (v) => v.enrolment_id,
      (v) => v.first,
    ),
    ticked: pairsOf(
      ticks,
      (k) => k.item_id,
      (k) => k.enrolment_id,
      (k) => k.at,
    ),
    reviewed: pairsOf(
      reviews,
      (r) => r.item_id,
      (r) => r.enrolment_id,
      (r) => r.are_given,
    ),
  };
}

export function tracesOf(course: ReadCourse, item: ItemRow, person: FactPerson): Traces {
  const [itemId, enrolmentId] = [item.id, person.enrolmentId];
  const grade = course.facts.grades.get(course.columnOf.get(itemId) ?? '', enrolmentId);
  return {
    openedAt: course.opened.get(itemId, enrolmentId)?.getTime() ?? null,
    tickedAt: course.ticked.get(itemId, enrolmentId)?.getTime() ?? null,
    handedInAt: course.facts.handIns.get(itemId, enrolmentId)?.at ?? null,
    result: grade?.raw ?? null,
    isMarked: grade?.state === 'scored',
    isExempt: grade?.state === 'exempt',
    areReviewsGiven: course.reviewed.get(itemId, enrolmentId) === true,
  };
}

/** Where a student stands at an item. What is not for them asks nothing of them. */
export function standingOf(course: ReadCourse, item: ItemRow, person: FactPerson, now: number): ItemStanding {
  const visibility = visibilityFor(false, course.facts.datesFor(datedOf(item.id, item), person), now);
  return {
    isFor: course.facts.reach.isFor(item.id, person),
    isRequired: item.is_required,
    isDue: visibility === 'open' || visibility === 'closed',
    isDone: isDone(item.done_rule, tracesOf(course, item, person), item.done_score),
  };
}
