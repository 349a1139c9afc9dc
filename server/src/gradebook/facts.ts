import {
  datesInForce,
  daysAfterStart,
  termEnd,
  type Arrangement,
  type Category,
  type Counting,
  type DatesInForce,
  type DateVariant,
  type GradeFacts,
  type ItemKind,
  type LatePolicy,
  type Policy,
  type ResultReading,
  type Term,
} from '@rosemary/core';
import type { Judged } from '@rosemary/api';
import type { Db } from '../platform/database.ts';
import { maybe, rows } from '../platform/database.ts';
import { notFound } from '../platform/errors.ts';
import { Pairs } from './pairs.ts';
import { readReach, type Reach } from '../release/reach.ts';
import { categoryOf, lateJson, lateOf, type CategoryRow, type PolicyRow } from './policyRows.ts';

export interface FactItem {
  readonly id: string;
  readonly kind: ItemKind;
  readonly title: string;
  readonly categoryId: string | null;
  readonly periodId: string | null;
  readonly possible: number;
  readonly multiplier: number;
  readonly isExtraCredit: boolean;
  readonly counts: boolean;
  readonly isDraft: boolean;
  readonly announcedAt: number | null;
  readonly opensAt: number | null;
  readonly dueAt: number | null;
  readonly closesAt: number | null;
  readonly order: number;
  readonly expectsHandIn: boolean;
  readonly unitId: string | null;
  readonly releaseMode: 'finished' | 'date' | 'hand';
  /** The item's own late policy, else its category's, else the course's. */
  readonly late: LatePolicy | null;
  readonly counted: Counting;
  readonly markers: 1 | 2;
  readonly showsStatistics: boolean;
  readonly studentReads: ResultReading;
  readonly staffReads: ResultReading;
}
/** What the date in force needs of an item. */
export type DatedItem = Pick<FactItem, 'id' | 'announcedAt' | 'opensAt' | 'dueAt' | 'closesAt'>;
export interface FactPerson {
  readonly enrolmentId: string;
  readonly personId: string;
  readonly givenName: string;
  readonly familyName: string;
  readonly sectionId: string | null;
  readonly isSample: boolean;
}
export interface FactGrade extends GradeFacts {
  readonly eventId: string;
}
export interface FactHandIn {
  /** When the attempt that counts came, and when the latest did. */
  readonly at: number;
  readonly latestAt: number;
  readonly number: number;
}

/** Everything the grades of a course are computed from, read once. */
export interface CourseFacts {
  readonly courseId: string;
  readonly zone: string;
  readonly term: Term;
  readonly termEndsAt: number;
  readonly policy: Policy;
  readonly showsFloorAndReach: boolean;
  readonly policyVersion: number;
  readonly items: readonly FactItem[];
  readonly people: readonly FactPerson[];
  readonly grades: Pairs<FactGrade>;
  readonly handIns: Pairs<FactHandIn>;
  readonly datesFor: (item: DatedItem, person: Pick<FactPerson, 'enrolmentId' | 'sectionId'>) => DatesInForce;
  readonly reach: Reach;
}

interface CourseRow {
  time_zone: string;
  is_self_paced: boolean;
  title: string;
  starts_on: string;
  ends_on: string;
  meeting_days: number[];
  holidays: { title: string; startsOn: string; endsOn: string }[];
}

/** The term of a course with its holidays. */
export async function getTerm(db: Db, courseId: string): Promise<{ zone: string; term: Term; isSelfPaced: boolean }> {
  const row = await maybe<CourseRow>(
    db,
    `
    select c.time_zone, c.pacing = 'self' as is_self_paced, t.title, t.starts_on, t.ends_on, t.meeting_days,
           coalesce((select json_agg(json_build_object('title', h.title, 'startsOn', h.starts_on, 'endsOn', h.ends_on) order by h.starts_on)
                     from term_holiday h where h.term_id = t.id), '[]') as holidays
    from course c join term t on t.id = c.term_id where c.id = $1`,
    [courseId],
  );
  if (row === null) throw notFound();
  return {
    zone: row.time_zone,
    isSelfPaced: row.is_self_paced,
    term: { title: row.title, startsOn: row.starts_on, endsOn: row.ends_on, meetingDays: row.meeting_days, holidays: row.holidays },
  };
}

export async function getPolicy(
  db: Db,
  courseId: string,
): Promise<{
  policy: Policy;
  late: LatePolicy | null;
  /** Late policies of categories' own. */
  ownLate: ReadonlyMap<string, LatePolicy>;
  row: PolicyRow;
}> {
  const row = await maybe<PolicyRow>(
    db,
    `
    select total, whole_drop_lowest, is_renormalised, is_missing_zero, decimals, shows_floor_and_reach, (late_rate_percent * 1000)::int as late_rate_percent, late_step_minutes, late_base,
           (late_cap_percent * 1000)::int as late_cap_percent, (late_floor_percent * 1000)::int as late_floor_percent, late_grace_minutes, version, scheme_id
    from grading_policy where course_id = $1`,
    [courseId],
  );
  if (row === null) throw notFound();
  const late = lateOf(row);
  const categories = await rows<CategoryRow>(
    db,
    `
    select id, title, (weight_percent * 1000)::int as weight_percent, method, drop_lowest, keep_best, drop_highest, is_extra_credit, is_capped, declared_items, (declared_points * 1000)::int as declared_points,
           ${lateJson('l')} as own_late
    from category c left join category_late l on l.category_id = c.id where course_id = $1 order by position, title`,
    [courseId],
  );
  const levels = await rows<{ label: string; cut_point: number }>(
    db,
    'select label, (cut_point * 1000)::int as cut_point from scheme_level where scheme_id = $1 order by position',
    [row.scheme_id],
  );
  const periods = await rows<{ id: string; title: string; weight: number; starts_at: Date | null; ends_at: Date | null }>(
    db,
    `select p.id, p.title, (p.weight_percent * 1000)::int as weight, p.starts_on::timestamp at time zone c.time_zone as starts_at, (p.ends_on + 1)::timestamp at time zone c.time_zone as ends_at
     from grading_period p join course c on c.id = p.course_id where p.course_id = $1 order by p.position`,
    [courseId],
  );
  return {
    row,
    late,
    ownLate: new Map(categories.flatMap((c) => (c.own_late === null ? [] : [[c.id, c.own_late]]))),
    policy: {
      total: row.total,
      whole: { dropLowest: row.whole_drop_lowest, keepBest: 0, dropHighest: 0, isCapped: false },
      isRenormalised: row.is_renormalised,
      isMissingZero: row.is_missing_zero,
      decimals: row.decimals,
      categories: categories.map((c): Category => categoryOf(c, late)),
      levels: levels.map((l) => ({ label: l.label, cutPoint: l.cut_point })),
      periods: periods
        .filter((p) => p.weight > 0)
        .map((p) => ({ id: p.id, title: p.title, weightPercent: p.weight, startsAt: millis(p.starts_at), endsAt: millis(p.ends_at) })),
    },
  };
}

/** How late work of one item is reduced: by its own policy, else by its category's, else by the course's. */
export async function getItemLate(db: Db, courseId: string, itemId: string): Promise<LatePolicy | null> {
  const row = await maybe<{ late: LatePolicy | null }>(
    db,
    `select coalesce(${lateJson('l')}, ${lateJson('cl')}) as late
     from item i left join item_late l on l.item_id = i.id left join category_late cl on cl.category_id = i.category_id where i.id = $1`,
    [itemId],
  );
  return row?.late ?? (await getPolicy(db, courseId)).late;
}

interface ItemRow {
  id: string;
  kind: ItemKind;
  title: string;
  category_id: string | null;
  period_id: string | null;
  possible: number;
  multiplier: number;
  is_extra_credit: boolean;
  counts: boolean;
  is_draft: boolean;
  announced_at: Date | null;
  opens_at: Date | null;
  due_at: Date | null;
  closes_at: Date | null;
  place: string;
  unit_id: string | null;
  expects: boolean;
  judged: Judged;
  release_mode: 'finished' | 'date' | 'hand';
  counted: Counting;
  markers: 1 | 2;
  shows_statistics: boolean;
  own_late: LatePolicy | null;
  student_reads: ResultReading;
  staff_reads: ResultReading;
}

const millis = (date: Date | null): number | null => (date === null ? null : date.getTime());

async function listItems(db: Db, courseId: string, late: LatePolicy | null): Promise<FactItem[]> {
  const found = await rows<ItemRow>(
    db,
    `
    select i.id, i.kind, i.title, i.category_id, i.period_id, (i.possible * 1000)::int as possible, (i.multiplier * 1000)::int as multiplier, i.is_extra_credit, i.counts and coalesce(a.judged in ('points', 'done'), true) as counts, i.is_draft,
           i.announced_at, i.opens_at, i.due_at, i.closes_at, first.unit_id, i.release_mode, row_number() over (order by first.unit_position, first.position) as place,
           ((i.kind = 'quiz' and z.taken <> 'paper') or i.kind = 'discussion' or (i.kind = 'assignment' and coalesce(a.takes_work, true))) as expects, coalesce(a.judged, 'points') as judged, coalesce(a.counted, z.counted, 'latest') as counted, coalesce(a.markers, 1) as markers, i.shows_statistics,
           coalesce(${lateJson('l')}, ${lateJson('cl')}) as own_late, i.student_reads, i.staff_reads
    from item i
    left join assignment a on a.item_id = i.id
    left join quiz z on z.item_id = i.id
    left join item_late l on l.item_id = i.id
    left join category_late cl on cl.category_id = i.category_id
    left join lateral (select ui.unit_id, ui.position, u.position as unit_position from unit_item ui join unit u on u.id = ui.unit_id and u.removed_at is null
                       where ui.item_id = i.id order by u.position limit 1) first on true
    where i.course_id = $1 and i.removed_at is null and (first.unit_id is not null or i.kind = 'activity') and i.kind in ('assignment', 'quiz', 'discussion', 'activity')
      -- Nor has a reminder with a date.
      and coalesce(a.judged, 'points') <> 'none'
      -- A discussion that is only talk has no place in the gradebook.
      and (i.kind <> 'discussion' or i.counts or i.possible > 0)
    order by place`,
    [courseId],
  );
  return found.map((row) => ({
    id: row.id,
    kind: row.kind,
    title: row.title,
    categoryId: row.category_id,
    periodId: row.period_id,
    possible: row.possible,
    multiplier: row.multiplier,
    isExtraCredit: row.is_extra_credit,
    counts: row.counts,
    isDraft: row.is_draft,
    announcedAt: millis(row.announced_at),
    opensAt: millis(row.opens_at),
    dueAt: millis(row.due_at),
    closesAt: millis(row.closes_at),
    order: Number(row.place),
    unitId: row.unit_id,
    expectsHandIn: row.expects,
    releaseMode: row.release_mode,
    late: row.own_late ?? late,
    counted: row.counted,
    markers: row.markers,
    showsStatistics: row.shows_statistics,
    studentReads: row.student_reads,
    staffReads: row.staff_reads,
  }));
}

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

/** How many days after the first of the term each student began, in a course that is counted so; null in one dated by its term. */
async function readStarts(db: Db, courseId: string, zone: string): Promise<ReadonlyMap<string, number> | null> {
  const found = await rows<{ id: string | null; started_at: Date | null; starts_on: string }>(
    db,
    "select e.id, e.started_at, t.starts_on::text from course c join term t on t.id = c.term_id left join enrolment e on e.course_id = c.id and e.role = 'student' where c.id = $1 and c.pacing = 'self'",
    [courseId],
  );
  if (found.length === 0) return null;
  return new Map(
    found.flatMap((f) =>
      f.id === null || f.started_at === null ? [] : [[f.id, daysAfterStart(f.starts_on, f.started_at.getTime(), zone)]],
    ),
  );
}

/** One function for the dates of everyone at everything; the common case (no date of one's own) is worked out once a section. */
export async function makeDatesFor(
  db: Db,
  courseId: string,
  zone: string,
  termEndsAt: number | null,
  reach: Reach,
  withArrangements = true,
): Promise<CourseFacts['datesFor']> {
  const variants = await rows<VariantRow>(
    db,
    `
    select v.item_id, v.section_id, coalesce(v.enrolment_id, m.enrolment_id) as enrolment_id, v.group_id, false as is_revision, coalesce(s.title, g.title, '') as name, v.announced_at, v.opens_at, v.due_at, v.closes_at
    from date_variant v join item i on i.id = v.item_id left join section s on s.id = v.section_id
    left join course_group g on g.id = v.group_id left join group_member m on m.group_id = g.id where i.course_id = $1 and (v.group_id is null or m.enrolment_id is not null)
    union all
    -- A revision asked for has its own date, and stays open until then at least.
    select s.item_id, null, s.enrolment_id, null, true, '', null, null, r.due_at, case when i.closes_at is not null then greatest(i.closes_at, r.due_at) end
    from revision r join submission s on s.id = r.submission_id join item i on i.id = s.item_id where i.course_id = $1 and r.ended_at is null
      and not exists (select 1 from revision later where later.submission_id = r.submission_id and later.ended_at is null and later.attempt_number > r.attempt_number)`,
    [courseId],
  );
  const given = await rows<{ enrolment_id: string; extra_days: number; time_multiplier: string; reason: string }>(
    db,
    `
    select a.enrolment_id, a.extra_days, a.time_multiplier, a.reason from arrangement a join enrolment e on e.id = a.enrolment_id where e.course_id = $1 and $2`,
    [courseId, withArrangements],
  );
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
  const startOf = await readStarts(db, courseId, zone);
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

/** Where the best attempt counts, the hand-in that lateness is counted from is that attempt's. */
async function takeBestTimes(db: Db, itemIds: readonly string[], handIns: Pairs<FactHandIn>): Promise<void> {
  if (itemIds.length === 0) return;
  const found = await rows<{ item_id: string; enrolment_id: string; at: Date }>(
    db,
    `select distinct on (t.item_id, t.enrolment_id) t.item_id, t.enrolment_id, t.at from (
       select s.item_id, s.enrolment_id, a.handed_in_at as at, m.raw, a.number from attempt_mark m join attempt a on a.id = m.attempt_id join submission s on s.id = a.submission_id
       union all select item_id, enrolment_id, handed_in_at, score, number from quiz_attempt where state = 'handed in' and score is not null) t
     where t.item_id = any($1) order by t.item_id, t.enrolment_id, t.raw desc, t.number`,
    [itemIds],
  );
  for (const row of found) {
    const known = handIns.get(row.item_id, row.enrolment_id);
    if (known !== undefined) handIns.set(row.item_id, row.enrolment_id, { ...known, at: row.at.getTime() });
  }
}

/** Whose facts are read: everyone's, or one student's; the sample students only when one is asked for. */
export interface Scope {
  readonly enrolmentId?: string;
  readonly sectionIds?: readonly string[] | null;
  /** Marks of works whose students' names are hidden are left out, but for those who mark them: a score beside a name would tell. */
  readonly seesVeiled?: boolean;
  readonly now?: number;
}

async function listPeople(db: Db, courseId: string, scope: Scope): Promise<FactPerson[]> {
  const found = await rows<{
    id: string;
    person_id: string;
    given_name: string;
    family_name: string;
    section_id: string | null;
    is_sample: boolean;
  }>(
    db,
    `
    select e.id, e.person_id, p.given_name, p.family_name, e.section_id, e.is_sample from enrolment e join person p on p.id = e.person_id
    where e.course_id = $1 and e.role = 'student' and e.withdrawn_at is null and ($2::uuid is null and not e.is_sample or e.id = $2) and ($3::uuid[] is null or e.section_id = any($3))
    order by p.family_name collate "C", p.given_name collate "C"`,
    [courseId, scope.enrolmentId ?? null, scope.sectionIds ?? null],
  );
  return found.map((row) => ({
    enrolmentId: row.id,
    personId: row.person_id,
    givenName: row.given_name,
    familyName: row.family_name,
    sectionId: row.section_id,
    isSample: row.is_sample,
  }));
}

type HandInRow = [string, string, Date, number, Date];

/** The items marked without names: those whose names come with the release, and those whose date for it is still to come. Without a time every date is. */
async function listVeiled(db: Db, courseId: string, now?: number): Promise<{ untilReleased: string[]; untilDate: string[] }> {
  const found = await rows<{ id: string; is_before_date: boolean }>(
    db,
    `select i.id, a.anonymous = 'date' and ($2::float8 is null or a.anonymous_until > to_timestamp($2 / 1000.0)) as is_before_date
     from item i join assignment a on a.item_id = i.id where i.course_id = $1 and a.anonymous <> 'none'`,
    [courseId, now ?? null],
  );
  return { untilReleased: found.map((row) => row.id), untilDate: found.flatMap((row) => (row.is_before_date ? [row.id] : [])) };
}

export async function readFacts(db: Db, courseId: string, scope: Scope = {}): Promise<CourseFacts> {
  const { zone, term } = await getTerm(db, courseId);
  const { policy, late, row } = await getPolicy(db, courseId);
  const items = await listItems(db, courseId, late);
  const people = await listPeople(db, courseId, scope);
  const termEndsAt = termEnd(term, zone);
  const reach = await readReach(db, courseId);
  const datesFor = await makeDatesFor(db, courseId, zone, termEndsAt, reach);
  const ids = people.map((p) => p.enrolmentId);
  const grades = new Pairs<FactGrade>();
  // One row a student, items by their place: a row for each of a hundred thousand grades costs more to take apart than all the sums after it.
  const veiled = scope.seesVeiled === true ? { untilReleased: [], untilDate: [] } : await listVeiled(db, courseId, scope.now);
  const gradeRows = await rows<{ enrolment_id: string; grades: string }>(
    db,
    `
    select g.enrolment_id, string_agg(t.place || ' ' || coalesce(g.state, '-') || ' ' || coalesce(g.raw::text, '-') || ' ' || g.is_released || ' ' || g.last_event_id, ',') as grades
    from unnest($2::uuid[]) with ordinality as t(item_id, place) join grade g on g.item_id = t.item_id
    where g.enrolment_id = any($1) and (g.is_released or g.item_id <> all($3)) and g.item_id <> all($4) group by g.enrolment_id`,
    [ids, items.map((i) => i.id), veiled.untilReleased, veiled.untilDate],
  );
  for (const { enrolment_id: enrolmentId, grades: written } of gradeRows) {
    for (const grade of written.split(',')) {
      const [place, state = '-', raw = '-', isReleased, eventId = ''] = grade.split(' ');
      grades.set(items[Number(place) - 1]?.id ?? '', enrolmentId, {
        state: state === '-' ? null : (state as GradeFacts['state']),
        // Three decimals always, so without its point it is the whole number of thousandths.
        raw: raw === '-' ? null : Number(raw.replace('.', '')),
        isReleased: isReleased === 'true',
        eventId,
      });
    }
  }
  const handIns = new Pairs<FactHandIn>();
  const handInRows = await db.query<HandInRow>({
    rowMode: 'array',
    text: `
    select h.item_id, h.enrolment_id, case when h.item_id = any($2) then min(h.handed_in_at) else max(h.handed_in_at) end, max(h.number), max(h.handed_in_at) from hand_in h
    where h.enrolment_id = any($1) group by 1, 2
    union all
    select p.item_id, p.enrolment_id, min(p.created_at), 1, min(p.created_at) from post p
    where p.enrolment_id = any($1) and p.removed_at is null group by 1, 2`,
    values: [ids, items.filter((i) => i.counted === 'first').map((i) => i.id)],
  });
  for (const [itemId, enrolmentId, at, number, latest] of handInRows.rows)
    handIns.set(itemId, enrolmentId, { at: at.getTime(), number, latestAt: latest.getTime() });
  await takeBestTimes(
    db,
    items.filter((i) => i.counted === 'best').map((i) => i.id),
    handIns,
  );
  return {
    courseId,
    zone,
    term,
    termEndsAt,
    policy,
    showsFloorAndReach: row.shows_floor_and_reach,
    policyVersion: row.version,
    items,
    people,
    grades,
    handIns,
    datesFor,
    reach,
  };
}
