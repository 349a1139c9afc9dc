import type { ProgressDetail, ProgressSaid, ProgressView } from '@rosemary/api';
import {
  classShare,
  dayAndTime,
  doneInWords,
  type DoneRule,
  isDone,
  type ItemKind,
  progressShare,
  type Ratio,
  readTotal,
  roundHalfUp,
  type Traces,
  visibilityFor,
} from '@rosemary/core';
import { readHidden } from '../anonymity/index.ts';
import { calculate, type CourseFacts, type FactPerson, isWorkColumn, readFacts } from '../gradebook/index.ts';
import { type Db, maybe, rows } from '../platform/database.ts';
import { type Pairs, pairsOf } from '../platform/pairs.ts';
import { datedOf } from '../opening/index.ts';

interface ItemRow {
  id: string;
  kind: ItemKind;
  title: string;
  unit_id: string;
  unit: string;
  estimated_minutes: number;
  done_rule: DoneRule;
  done_score: number | null;
  is_required: boolean;
  announced_at: Date | null;
  opens_at: Date | null;
  due_at: Date | null;
  closes_at: Date | null;
}

interface Course {
  readonly facts: CourseFacts;
  /** The column of each item’s work, where it has one. */
  readonly columnOf: ReadonlyMap<string, string>;
  readonly items: readonly ItemRow[];
  readonly opened: Pairs<Date>;
  readonly ticked: Pairs<Date>;
  readonly last: ReadonlyMap<string, Date>;
  readonly by: 'items' | 'minutes';
  /** Where names are hidden no minute is told: it would lead from a student to the work that came then. */
  readonly isHidden: (itemId: string, enrolmentId: string) => boolean;
}

async function readCourse(
  db: Db,
  courseId: string,
  scope: { enrolmentId?: string; sectionIds?: readonly string[] | null },
  now: number,
): Promise<Course> {
  const facts = await readFacts(db, courseId, scope);
  const isHidden = await readHidden(db, courseId, now);
  const items = await rows<ItemRow>(
    db,
    `
    select i.id, i.kind, i.title, u.id as unit_id, u.title as unit, i.estimated_minutes, i.done_rule, (i.done_score * 1000)::int as done_score, i.is_required, i.announced_at, i.opens_at, i.due_at, i.closes_at
    from item i join unit_item ui on ui.item_id = i.id join unit u on u.id = ui.unit_id and u.removed_at is null and not u.is_standing
    where i.course_id = $1 and i.removed_at is null and not i.is_draft order by u.position, ui.position`,
    [courseId],
  );
  const visits = await rows<{ item_id: string; enrolment_id: string; first: Date; last: Date }>(
    db,
    `
    select v.item_id, v.enrolment_id, min(v.at) as first, max(v.at) as last from visit v join enrolment e on e.id = v.enrolment_id where e.course_id = $1 and ($2::uuid is null or e.id = $2) group by 1, 2`,
    [courseId, scope.enrolmentId ?? null],
  );
  const ticks = await rows<{ item_id: string; enrolment_id: string; at: Date }>(
    db,
    'select k.item_id, k.enrolment_id, k.at from tick k join enrolment e on e.id = k.enrolment_id where e.course_id = $1',
    [courseId],
  );
  const last = new Map<string, Date>();
  for (const v of visits) {
    if (isHidden(v.item_id, v.enrolment_id)) continue;
    const known = last.get(v.enrolment_id);
    if (known === undefined || known < v.last) last.set(v.enrolment_id, v.last);
  }
  const course = await maybe<{ progress_by: 'items' | 'minutes' }>(db, 'select progress_by from course where id = $1', [courseId]);
  return {
    facts,
    columnOf: new Map(facts.columns.filter(isWorkColumn).map((column) => [column.itemId, column.id])),
    items,
    last,
    by: course?.progress_by ?? 'items',
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
  };
}

function tracesOf(course: Course, item: ItemRow, person: FactPerson): Traces {
  const [itemId, enrolmentId] = [item.id, person.enrolmentId];
  const grade = course.facts.grades.get(course.columnOf.get(itemId) ?? '', enrolmentId);
  return {
    openedAt: course.opened.get(itemId, enrolmentId)?.getTime() ?? null,
    tickedAt: course.ticked.get(itemId, enrolmentId)?.getTime() ?? null,
    handedInAt: course.facts.handIns.get(itemId, enrolmentId)?.at ?? null,
    result: grade?.raw ?? null,
    isMarked: grade?.state === 'scored',
    isExempt: grade?.state === 'exempt',
  };
}

function judged(
  course: Course,
  item: ItemRow,
  person: FactPerson,
  now: number,
): { minutes: number; isRequired: boolean; isDue: boolean; isDone: boolean } {
  const dates = course.facts.datesFor(datedOf(item.id, item), person);
  const visibility = visibilityFor(false, dates, now);
  return {
    minutes: item.estimated_minutes,
    // What is not for this student asks nothing of them.
    isRequired: item.is_required && course.facts.reach.isFor(item.id, person),
    isDue: visibility === 'open' || visibility === 'closed',
    isDone: isDone(item.done_rule, tracesOf(course, item, person), item.done_score),
  };
}

/** A share as a whole percentage to be drawn and read; rounded half up. */
const percent = (share: Ratio | null): number | null => (share === null ? null : Number(roundHalfUp(share.mul(100), 0)));

export async function makeProgress(db: Db, courseId: string, sectionIds: readonly string[] | null, now: number): Promise<ProgressView> {
  const course = await readCourse(db, courseId, { sectionIds }, now);
  const units = [...new Map(course.items.map((i) => [i.unit_id, { id: i.unit_id, title: i.unit }])).values()];
  const calculation = calculate(course.facts, now, false);
  const people = course.facts.people.map((person) => {
    const items = course.items.map((item) => ({ unitId: item.unit_id, ...judged(course, item, person, now) }));
    const total = calculation.totalsOf(calculation.cellsOf(person)).soFar.ratio;
    return {
      person,
      total,
      share: progressShare(items, course.by),
      units: units.map((u) =>
        progressShare(
          items.filter((i) => i.unitId === u.id),
          course.by,
        ),
      ),
    };
  });
  const name = (p: FactPerson): string => `${p.familyName}, ${p.givenName}`;
  const read = (p: (typeof people)[number] | undefined): string | null =>
    p === undefined ? null : `${name(p.person)}, ${readTotal(p.total, course.facts.policy.decimals, [])?.percent ?? ''} %`;
  const saidOf = (sectionId: string | null): ProgressSaid => {
    const own = people.filter((p) => sectionId === null || p.person.sectionId === sectionId);
    const shares = own.flatMap((p) => (p.share === null ? [] : [p.share]));
    const most = shares.reduce<Ratio | null>((best, share) => (best === null || share.compare(best) > 0 ? share : best), null);
    const furthest = own.filter((p) => p.share !== null && most !== null && p.share.equals(most));
    const ranked = own.filter((p) => p.total !== null).sort((a, b) => (a.total as Ratio).compare(b.total as Ratio));
    return {
      sectionId,
      classShare: percent(classShare(own.map((p) => p.share))),
      // Where nobody has done anything yet, nobody is furthest.
      furthest: most === null || most.equals(0) ? null : { names: furthest.map((p) => name(p.person)), share: percent(most) ?? 0 },
      highest: read(ranked.at(-1)),
      lowest: read(ranked[0]),
    };
  };
  const sections = [...new Set(people.map((p) => p.person.sectionId))].filter((id) => id !== null);
  return {
    units,
    by: course.by,
    said: [saidOf(null), ...sections.map(saidOf)],
    people: people.map((p) => ({
      enrolmentId: p.person.enrolmentId,
      name: name(p.person),
      sectionId: p.person.sectionId,
      units: p.units.map(percent),
      all: percent(p.share),
      lastVisit: course.last.get(p.person.enrolmentId)?.toISOString() ?? null,
      soFar: readTotal(p.total, course.facts.policy.decimals, [])?.percent ?? null,
    })),
  };
}

function howDone(course: Course, item: ItemRow, person: FactPerson, now: number): string {
  const traces = tracesOf(course, item, person);
  const isHidden = course.isHidden(item.id, person.enrolmentId);
  const at = (time: number): string => (isHidden ? '' : ` ${dayAndTime(time, course.facts.zone, now)}`);
  if (traces.isExempt) return 'exempt';
  if (traces.handedInAt !== null) return `handed in${at(traces.handedInAt)}`;
  if (traces.isMarked) return 'marked';
  return traces.openedAt !== null ? `first opened${at(traces.openedAt)}` : 'never opened';
}

/** How one student's share came about, item by item. */
export function makeDetail(course: Course, person: FactPerson, now: number): ProgressDetail {
  const own = course.items.filter((item) => course.facts.reach.isFor(item.id, person));
  const items = own.map((item) => {
    const state = judged(course, item, person, now);
    return {
      id: item.id,
      kind: item.kind,
      title: item.title,
      unit: item.unit,
      unitId: item.unit_id,
      isDone: state.isDone,
      isOpen: state.isDue,
      rule: doneInWords(item.done_rule, item.done_score, item.kind) + (item.is_required ? '' : ', not required'),
      how: howDone(course, item, person, now),
      minutes: item.estimated_minutes,
    };
  });
  const counted = own.map((item) => judged(course, item, person, now)).filter((i) => i.isRequired && i.isDue);
  const done = counted.filter((i) => i.isDone).length;
  return {
    name: `${person.givenName} ${person.familyName}`,
    share: `${done} of ${counted.length} required items that are open or past`,
    items,
  };
}

export async function readDetail(
  db: Db,
  courseId: string,
  enrolmentId: string,
  now: number,
): Promise<{ course: Course; person: FactPerson | null }> {
  const course = await readCourse(db, courseId, { enrolmentId }, now);
  return { course, person: course.facts.people[0] ?? null };
}
