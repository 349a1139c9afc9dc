import { type Counting, type GradeFacts, termEnd } from '@rosemary/core';
import { makeDatesFor, readReach } from '../opening/index.ts';
import { type Db, often, rows } from '../platform/database.ts';
import { Pairs } from '../platform/pairs.ts';
import { getTerm } from '../term/index.ts';
import { readColumns } from './factColumns.ts';
import type { CourseFacts, FactColumn, FactGrade, FactHandIn, FactPerson } from './factTypes.ts';
import { getPolicy } from './readPolicy.ts';

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
  const found = await askOf(scope)<{
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

/** The way to one student's rows is always the same; the way to those of a class depends on how many there are. */
const askOf = ({ enrolmentId }: Scope): typeof rows => (enrolmentId === undefined ? rows : often);

type HandInRow = [string, string, Date, number, Date];

interface Veiled {
  readonly untilReleased: readonly string[];
  readonly untilDate: readonly string[];
}

/** The columns of items marked without names: those whose names come with the release, and those whose date for it is still to come. Without a time every date is. */
async function listVeiled(db: Db, courseId: string, now?: number): Promise<Veiled> {
  const found = await often<{ id: string; is_before_date: boolean }>(
    db,
    `select c.id, a.anonymous = 'date' and ($2::float8 is null or a.anonymous_until > to_timestamp($2 / 1000.0)) as is_before_date
     from grade_column c join assignment a on a.item_id = c.item_id where c.course_id = $1 and a.anonymous <> 'none'`,
    [courseId, now ?? null],
  );
  return { untilReleased: found.map((row) => row.id), untilDate: found.flatMap((row) => (row.is_before_date ? [row.id] : [])) };
}

async function readGrades(
  db: Db,
  scope: Scope,
  columns: readonly FactColumn[],
  ids: readonly string[],
  veiled: Veiled,
): Promise<Pairs<FactGrade>> {
  // One row a student, columns by their place: a row for each of a hundred thousand grades costs more to take apart than all the sums after it.
  const found = await askOf(scope)<{ enrolment_id: string; grades: string }>(
    db,
    `
    select g.enrolment_id, string_agg(t.place || ' ' || coalesce(g.state, '-') || ' ' || coalesce(g.raw::text, '-') || ' ' || g.is_released || ' ' || g.last_event_id, ',') as grades
    from unnest($2::uuid[]) with ordinality as t(column_id, place) join grade g on g.column_id = t.column_id
    where g.enrolment_id = any($1) and (g.is_released or g.column_id <> all($3)) and g.column_id <> all($4) group by g.enrolment_id`,
    [ids, columns.map((c) => c.id), veiled.untilReleased, veiled.untilDate],
  );
  const grades = new Pairs<FactGrade>();
  for (const { enrolment_id: enrolmentId, grades: written } of found) {
    for (const grade of written.split(',')) {
      const [place, state = '-', raw = '-', isReleased, eventId = ''] = grade.split(' ');
      grades.set(columns[Number(place) - 1]?.id ?? '', enrolmentId, {
        state: state === '-' ? null : (state as GradeFacts['state']),
        // Three decimals always, so without its point it is the whole number of thousandths.
        raw: raw === '-' ? null : Number(raw.replace('.', '')),
        isReleased: isReleased === 'true',
        eventId,
      });
    }
  }
  return grades;
}

async function readHandIns(db: Db, scope: Scope, columns: readonly FactColumn[], ids: readonly string[]): Promise<Pairs<FactHandIn>> {
  const worksCounted = (counted: Counting): string[] =>
    columns.flatMap((c) => (c.itemId !== null && c.role === 'work' && c.counted === counted ? [c.itemId] : []));
  const handIns = new Pairs<FactHandIn>();
  const found = await db.query<HandInRow>({
    rowMode: 'array',
    ...(scope.enrolmentId === undefined ? {} : { name: 'hand-ins-of-one' }),
    text: `
    select h.item_id, h.enrolment_id, case when h.item_id = any($2) then min(h.handed_in_at) else max(h.handed_in_at) end, max(h.number), max(h.handed_in_at) from hand_in h
    where h.enrolment_id = any($1) group by 1, 2
    union all
    select p.item_id, p.enrolment_id, min(p.created_at), 1, min(p.created_at) from post p
    where p.enrolment_id = any($1) and p.removed_at is null group by 1, 2`,
    values: [ids, worksCounted('first')],
  });
  for (const [itemId, enrolmentId, at, number, latest] of found.rows)
    handIns.set(itemId, enrolmentId, { at: at.getTime(), number, latestAt: latest.getTime() });
  await takeBestTimes(db, worksCounted('best'), handIns);
  return handIns;
}

export async function readFacts(db: Db, courseId: string, scope: Scope = {}): Promise<CourseFacts> {
  // What does not wait for one another is asked together.
  const [{ zone, term }, { policy, late, row }, columnsOf, people, reach, veiled] = await Promise.all([
    getTerm(db, courseId),
    getPolicy(db, courseId),
    readColumns(db, courseId),
    listPeople(db, courseId, scope),
    readReach(db, courseId),
    scope.seesVeiled === true ? { untilReleased: [], untilDate: [] } : listVeiled(db, courseId, scope.now),
  ]);
  const columns = columnsOf(late);
  const termEndsAt = termEnd(term, zone);
  const ids = people.map((p) => p.enrolmentId);
  const [datesFor, grades, handIns] = await Promise.all([
    makeDatesFor(db, courseId, zone, termEndsAt, reach, { of: scope.enrolmentId ?? null }),
    readGrades(db, scope, columns, ids, veiled),
    readHandIns(db, scope, columns, ids),
  ]);
  return {
    courseId,
    zone,
    term,
    termEndsAt,
    policy,
    showsFloorAndReach: row.shows_floor_and_reach,
    policyVersion: row.version,
    columns,
    people,
    grades,
    handIns,
    datesFor,
    reach,
  };
}
