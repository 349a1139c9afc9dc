import { type Arrangement, datesInForce, type DatesInForce, type DateVariant, daysAfterStart } from '@rosemary/core';
import { type Db, often } from '../platform/database.ts';
import { millis } from '../platform/instants.ts';
import { Pairs } from '../platform/pairs.ts';
import type { Reach } from './reach.ts';

/** What the date in force needs of an item. */
export interface DatedItem {
  readonly id: string;
  readonly announcedAt: number | null;
  readonly opensAt: number | null;
  readonly dueAt: number | null;
  readonly closesAt: number | null;
}
/** The dates of an item as they stand in its row. */
interface DateRow {
  readonly announced_at: Date | null;
  readonly opens_at: Date | null;
  readonly due_at: Date | null;
  readonly closes_at: Date | null;
}
export const datedOf = (id: string, row: DateRow): DatedItem => ({
  id,
  announcedAt: millis(row.announced_at),
  opensAt: millis(row.opens_at),
  dueAt: millis(row.due_at),
  closesAt: millis(row.closes_at),
});
/** Somebody the dates of an item are asked for. */
export interface DatedPerson {
  readonly enrolmentId: string;
  readonly sectionId: string | null;
}
/** The dates that are in force at an item for a person. */
export type DatesFor = (item: DatedItem, person: DatedPerson) => DatesInForce;

interface VariantRow {
  item_id: string;
  section_id: string | null;
  enrolment_id: string | null;
  group_id: string | null;
  is_revision: boolean;
  name: string;
  announced_at: Date | null;
  opens_at: Date | null;
  due_at: Date | null;
  closes_at: Date | null;
}

const courseAnd = (courseId: string, of: string | null): string[] => (of === null ? [courseId] : [courseId, of]);

interface ArrangementRow {
  enrolment_id: string;
  extra_days: number;
  time_multiplier: string;
  reason: string;
}

const listVariants = (db: Db, courseId: string, of: string | null): Promise<VariantRow[]> =>
  often<VariantRow>(
    db,
    `
    select v.item_id, v.section_id, coalesce(v.enrolment_id, m.enrolment_id) as enrolment_id, v.group_id, false as is_revision, coalesce(s.title, g.title, '') as name, v.announced_at, v.opens_at, v.due_at, v.closes_at
    from date_variant v join item i on i.id = v.item_id left join section s on s.id = v.section_id
    left join course_group g on g.id = v.group_id left join group_member m on m.group_id = g.id where i.course_id = $1 and (v.group_id is null or m.enrolment_id is not null) ${of === null ? '' : 'and (v.section_id is not null or v.enrolment_id = $2 or m.enrolment_id = $2)'}
    union all
    -- A revision asked for has its own date, and stays open until then at least.
    select s.item_id, null, s.enrolment_id, null, true, '', null, null, r.due_at, case when i.closes_at is not null then greatest(i.closes_at, r.due_at) end
    from revision r join submission s on s.id = r.submission_id join item i on i.id = s.item_id where i.course_id = $1 and r.ended_at is null ${of === null ? '' : 'and s.enrolment_id = $2'}
      and not exists (select 1 from revision later where later.submission_id = r.submission_id and later.ended_at is null and later.attempt_number > r.attempt_number)`,
    courseAnd(courseId, of),
  );

/** The dates of the reviews of an item for a section, a group or a student; announced and closing they have none. */
const listReviewVariants = (db: Db, courseId: string, of: string | null): Promise<VariantRow[]> =>
  often<VariantRow>(
    db,
    `
    select v.item_id, v.section_id, coalesce(v.enrolment_id, m.enrolment_id) as enrolment_id, v.group_id, false as is_revision, coalesce(s.title, g.title, '') as name,
           null::timestamptz as announced_at, v.opens_at, v.due_at, null::timestamptz as closes_at
    from review_date v join item i on i.id = v.item_id left join section s on s.id = v.section_id
    left join course_group g on g.id = v.group_id left join group_member m on m.group_id = g.id where i.course_id = $1 and (v.group_id is null or m.enrolment_id is not null) ${of === null ? '' : 'and (v.section_id is not null or v.enrolment_id = $2 or m.enrolment_id = $2)'}`,
    courseAnd(courseId, of),
  );

const listArrangements = (db: Db, courseId: string, of: string | null): Promise<ArrangementRow[]> =>
  often<ArrangementRow>(
    db,
    `select a.enrolment_id, a.extra_days, a.time_multiplier, a.reason from arrangement a join enrolment e on e.id = a.enrolment_id where e.course_id = $1 ${of === null ? '' : 'and e.id = $2'}`,
    courseAnd(courseId, of),
  );

/** How many days after the first of the term each student began, in a course that is counted so; null in one dated by its term. */
async function readStarts(db: Db, courseId: string, zone: string, of: string | null): Promise<ReadonlyMap<string, number> | null> {
  const found = await often<{ id: string | null; started_at: Date | null; starts_on: string }>(
    db,
    `select e.id, e.started_at, t.starts_on::text from course c join term t on t.id = c.term_id left join enrolment e on e.course_id = c.id and e.role = 'student' ${of === null ? '' : 'and e.id = $2'} where c.id = $1 and c.pacing = 'self'`,
    courseAnd(courseId, of),
  );
  if (found.length === 0) return null;
  return new Map(
    found.flatMap((f) =>
      f.id === null || f.started_at === null ? [] : [[f.id, daysAfterStart(f.starts_on, f.started_at.getTime(), zone)]],
    ),
  );
}

interface DatesAsked {
  readonly withArrangements?: boolean;
  /** The one student they are asked for, so that what is said of others is not read. */
  readonly of?: string | null;
  /** The dates of the works themselves, or of their reviews. */
  readonly phase?: 'works' | 'reviews';
}

/** One function for the dates of everyone at everything; the common case (no date of one's own) is worked out once a section. */
export async function makeDatesFor(
  db: Db,
  courseId: string,
  zone: string,
  termEndsAt: number | null,
  reach: Reach,
  { withArrangements = true, of = null, phase = 'works' }: DatesAsked = {},
): Promise<DatesFor> {
  const [variants, given, startOf] = await Promise.all([
    phase === 'reviews' ? listReviewVariants(db, courseId, of) : listVariants(db, courseId, of),
    withArrangements ? listArrangements(db, courseId, of) : [],
    readStarts(db, courseId, zone, of),
  ]);
  const arrangements = new Map<string, Arrangement[]>();
  for (const row of given)
    arrangements.set(row.enrolment_id, [
      ...(arrangements.get(row.enrolment_id) ?? []),
      { extraDays: row.extra_days, timeMultiplier: Number(row.time_multiplier), reason: row.reason },
    ]);
  const variantsFor = new Pairs<DateVariant>();
  const groupsFor = new Pairs<readonly DateVariant[]>();
  const hasOwn = new Set<string>([...arrangements.keys(), ...reach.ownHand]);
  for (const row of variants) {
    if (row.enrolment_id !== null) hasOwn.add(row.enrolment_id);
    const ofGroup = row.group_id !== null;
    const variant: DateVariant = {
      level: row.is_revision ? 'revision' : ofGroup ? 'group' : row.section_id === null ? 'person' : 'section',
      name: row.name,
      announced: millis(row.announced_at),
      opens: millis(row.opens_at),
      due: millis(row.due_at),
      closes: millis(row.closes_at),
    };
    const owner = row.section_id ?? row.enrolment_id ?? '';
    if (ofGroup || row.is_revision) groupsFor.set(row.item_id, owner, [...(groupsFor.get(row.item_id, owner) ?? []), variant]);
    else variantsFor.set(row.item_id, owner, variant);
  }
  const shared = new Pairs<DatesInForce>();
  return (item, person) => {
    const startDays = startOf?.get(person.enrolmentId) ?? 0;
    const isCommon = startDays === 0 && !hasOwn.has(person.enrolmentId);
    const known = isCommon ? shared.get(item.id, person.sectionId ?? '') : undefined;
    if (known !== undefined) return known;
    const arranged = arrangements.get(person.enrolmentId);
    const section = person.sectionId === null ? undefined : variantsFor.get(item.id, person.sectionId);
    const applying = [variantsFor.get(item.id, person.enrolmentId), ...(groupsFor.get(item.id, person.enrolmentId) ?? []), section].filter(
      (v) => v !== undefined,
    );
    const dates = datesInForce(
      { announced: item.announcedAt, opens: item.opensAt, due: item.dueAt, closes: item.closesAt },
      applying,
      arranged ?? [],
      zone,
      // Whoever is counted from their own start has no end of the term.
      startOf === null ? termEndsAt : null,
      reach.boundsOf(item.id, person),
      startDays,
    );
    if (isCommon) shared.set(item.id, person.sectionId ?? '', dates);
    return dates;
  };
}
