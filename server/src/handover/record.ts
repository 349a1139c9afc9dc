import { createHash } from 'node:crypto';
import { type Db, maybe, rows, run } from '../platform/database.ts';
import { workingOf } from '../gradebook/index.ts';
import { readFinalFacts } from './finals.ts';
import { tellCourses } from './rows.ts';
import { setClosed } from './setting.ts';

/** A grade as the record of a section holds it. */
export interface RecordedGrade {
  readonly key: string;
  readonly name: string;
  readonly letter: string;
  readonly percent: string | null;
  readonly lastDay: string | null;
  readonly expiresOn: string | null;
  readonly lapsesTo: string | null;
  readonly receipt: string | null;
  readonly state: string;
  readonly sentBy: string;
  readonly settledAt: string;
  readonly reason: string;
  readonly working: unknown;
}
export interface RecordContent {
  readonly course: string;
  readonly section: string;
  readonly sectionKey: string;
  readonly grades: readonly RecordedGrade[];
}

/** The sections of these rows in which nothing is under way any more, and every student is held. */
const listWhole = (db: Db, rowIds: readonly string[]) =>
  rows<{ section_id: string; course_id: string; actor_id: string }>(
    db,
    `
    select distinct on (r.section_id) r.section_id, r.course_id, r.asked_by as actor_id from handover_row r where r.id = any($1)
    and not exists (select 1 from handover_row o where o.section_id = r.section_id and o.state in ('awaits approval', 'waiting', 'sending', 'unknown'))
    and not exists (select 1 from enrolment e where e.section_id = r.section_id and e.role = 'student' and not e.is_sample and e.withdrawn_at is null and not e.is_auditing
                    and not exists (select 1 from handover_row o where o.enrolment_id = e.id and o.state in ('accepted', 'by hand')))
    order by r.section_id, r.place desc`,
    [rowIds],
  );

interface GradeRow extends Omit<RecordedGrade, 'working'> {
  readonly enrolment_id: string;
}
const listGrades = (db: Db, sectionId: string) =>
  rows<GradeRow & Record<string, unknown>>(
    db,
    `
    select distinct on (r.enrolment_id) r.enrolment_id, coalesce(p.source, p.id::text) as key, p.family_name || ', ' || p.given_name as name, a.sent_letter as letter, a.percent, a.last_day::text as "lastDay",
           a.expires_on::text as "expiresOn", a.lapses_to as "lapsesTo", r.receipt, r.state, b.given_name || ' ' || b.family_name as "sentBy", to_char(r.settled_at at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS"Z"') as "settledAt",
           case when r.corrects_id is null then a.reason else r.reason end as reason
    from handover_row r join agreed_grade a on a.id = r.agreed_id join enrolment e on e.id = r.enrolment_id join person p on p.id = e.person_id join person b on b.id = r.asked_by
    where r.section_id = $1 and r.state in ('accepted', 'by hand') order by r.enrolment_id, r.place desc`,
    [sectionId],
  );

async function writeRecord(db: Db, courseId: string, sectionId: string, actorId: string, now: number): Promise<void> {
  const head = await maybe<{ course: string; section: string; key: string }>(
    db,
    `select c.code || ' ' || c.run || ', ' || c.title as course, s.title as section, coalesce(s.source, s.id::text) as key from section s join course c on c.id = s.course_id where s.id = $1`,
    [sectionId],
  );
  const grades = await listGrades(db, sectionId);
  const { facts } = await readFinalFacts(db, courseId, null, now);
  const people = new Map(facts.people.map((p) => [p.enrolmentId, p]));
  const content: RecordContent = {
    course: head?.course ?? '',
    section: head?.section ?? '',
    sectionKey: head?.key ?? '',
    grades: grades
      .map(({ enrolment_id: id, ...grade }) => {
        const person = people.get(id);
        return { ...grade, working: person === undefined ? null : workingOf(facts, person, 'soFar', now, false) };
      })
      .sort((a, b) => a.name.localeCompare(b.name)),
  };
  const text = JSON.stringify(content);
  await run(
    db,
    'insert into handover_record (course_id, section_id, at, actor_id, content, sha256) values ($1, $2, to_timestamp($3 / 1000.0), $4, $5, $6)',
    [courseId, sectionId, now, actorId, text, createHash('sha256').update(text).digest()],
  );
}

/**
 * Writes the record of each section that has become whole by these rows, with the working of every grade as it stands; and closes the grades
 * of a course all of whose sections are.
 */
export async function settleRecords(db: Db, rowIds: readonly string[], now: number): Promise<void> {
  const whole = await listWhole(db, rowIds);
  for (const { section_id: sectionId, course_id: courseId, actor_id: actorId } of whole)
    await writeRecord(db, courseId, sectionId, actorId, now);
  for (const courseId of new Set(whole.map((w) => w.course_id))) {
    const open = await maybe(
      db,
      `select 1 as one from section s where s.course_id = $1 and s.removed_at is null and not exists (select 1 from handover_record r where r.section_id = s.id)
       and exists (select 1 from enrolment e where e.section_id = s.id and e.role = 'student' and e.withdrawn_at is null and not e.is_sample)`,
      [courseId],
    );
    if (open === null) await setClosed(db, courseId, now);
  }
  await tellCourses(
    db,
    whole.map((w) => w.course_id),
  );
}

/** The same for the last rows of these students. */
export async function settleRecordsOf(db: Db, courseId: string, enrolmentIds: readonly string[], now: number): Promise<void> {
  const found = await rows<{ id: string }>(db, 'select id from handover_row where course_id = $1 and enrolment_id = any($2)', [
    courseId,
    enrolmentIds,
  ]);
  await settleRecords(
    db,
    found.map((row) => row.id),
    now,
  );
}
