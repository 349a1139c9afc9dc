import type { CourseSettings, NewSection, SectionChange, SectionMoved, SectionsParted } from '@rosemary/api';
import { randomUUID } from 'node:crypto';
import { getSettings, requireSection } from '../course/index.ts';
import { dropKeptDates, keepSectionDates } from '../opening/index.ts';
import { type Db, maybe, rows, run } from '../platform/database.ts';
import { AppError, invalid, notFound } from '../platform/errors.ts';
import { addSampleStudent, type Move, recordMoves } from '../roster/index.ts';

/** A section at the end of those that are there; the title is looked at by whoever asks. */
export async function putSection(db: Db, courseId: string, title: string): Promise<string> {
  const made = await rows<{ id: string }>(
    db,
    'insert into section (course_id, title, position) select $1, $2, coalesce(max(position), -1) + 1 from section where course_id = $1 returning id',
    [courseId, title],
  );
  return made[0]?.id ?? '';
}

async function requireTitle(db: Db, courseId: string, title: string | undefined, besides: string | null): Promise<void> {
  if (title === undefined) return;
  const taken = await maybe<{ removed_at: Date | null }>(
    db,
    'select removed_at from section where course_id = $1 and lower(title) = lower($2) and id is distinct from $3',
    [courseId, title, besides],
  );
  if (taken !== null)
    throw invalid(
      'title',
      `A section “${title}” ${taken.removed_at === null ? 'is here' : 'was here, and was merged with another,'} already. Choose another title.`,
    );
}

/** Whoever changes section keeps the dates that were set for the one they leave: they become their own. Answers how many moved. */
export async function moveStudents(
  db: Db,
  courseId: string,
  enrolmentIds: readonly string[],
  into: string,
  now: number,
  actId: string = randomUUID(),
): Promise<number> {
  const moved = await rows<{ id: string; section_id: string }>(
    db,
    "select id, section_id from enrolment where course_id = $1 and id = any($2) and role = 'student' and section_id is not null and section_id <> $3 for update",
    [courseId, enrolmentIds, into],
  );
  const moves = moved.map((m): Move => ({ id: randomUUID(), enrolmentId: m.id, from: m.section_id, to: into }));
  await recordMoves(db, courseId, moves, actId, now);
  await keepSectionDates(db, moves);
  return moves.length;
}

/** A section more: empty, or parted from others with the students named. Nothing of theirs is touched. */
export async function addSection(db: Db, courseId: string, wish: NewSection, now: number): Promise<SectionMoved & { id: string }> {
  await requireTitle(db, courseId, wish.title, null);
  const id = await putSection(db, courseId, wish.title);
  await addSampleStudent(db, courseId, id, wish.title);
  const actId = randomUUID();
  const moved = await moveStudents(db, courseId, wish.enrolmentIds, id, now, actId);
  if (moved !== wish.enrolmentIds.length)
    throw invalid('enrolmentIds', 'A student chosen is no longer in the course. Look again at whom to part.');
  return { id, actId, settings: await getSettings(db, courseId) };
}

export async function changeSection(db: Db, courseId: string, sectionId: string, change: SectionChange): Promise<void> {
  await requireSection(db, courseId, sectionId);
  await requireTitle(db, courseId, change.title, sectionId);
  await run(
    db,
    'update section set title = coalesce($2, title), meeting_days = case when $3 then $4::smallint[] else meeting_days end where id = $1',
    [sectionId, change.title ?? null, change.meetingDays !== undefined, change.meetingDays ?? null],
  );
}

/** Joins a section to another: its students move with all their work and their dates, what is for it stays theirs, and it is out of sight. */
export async function joinSection(db: Db, courseId: string, sectionId: string, into: string, now: number): Promise<SectionMoved> {
  await requireSection(db, courseId, sectionId);
  await requireSection(db, courseId, into);
  if (sectionId === into) throw invalid('into', 'A section cannot be merged with itself. Choose another.');
  const students = await rows<{ id: string }>(db, "select id from enrolment where section_id = $1 and role = 'student' and not is_sample", [
    sectionId,
  ]);
  const actId = randomUUID();
  await moveStudents(
    db,
    courseId,
    students.map((s) => s.id),
    into,
    now,
    actId,
  );
  await run(
    db,
    'insert into section_joining (act_id, course_id, section_id, into_id, at) values ($1, $2, $3, $4, to_timestamp($5 / 1000.0))',
    [actId, courseId, sectionId, into, now],
  );
  await run(db, 'update section set removed_at = to_timestamp($2 / 1000.0) where id = $1', [sectionId, now]);
  return { actId, settings: await getSettings(db, courseId) };
}

/**
 * Takes a joining or a parting back, at any later time: everyone whom it moved goes to the section they came from, which is there again,
 * and the dates that became their own by it are the section's again. Who has changed section by themselves since stays where they are.
 */
export async function partAgain(db: Db, courseId: string, actId: string, now: number): Promise<SectionsParted> {
  const moved = await rows<{ id: string; from_section_id: string; section_id: string; is_own: boolean; is_here: boolean }>(
    db,
    `
    select m.enrolment_id as id, m.from_section_id, e.section_id, e.withdrawn_at is null as is_here,
           exists (select 1 from section_move later where later.enrolment_id = m.enrolment_id and later.number > m.number
                   and not exists (select 1 from section_joining j where j.act_id = later.act_id and j.parted_at is null)) as is_own
    from section_move m join enrolment e on e.id = m.enrolment_id where m.act_id = $2 and m.course_id = $1 for update of e`,
    [courseId, actId],
  );
  const joining = await maybe<{ section_id: string }>(
    db,
    'update section_joining set parted_at = to_timestamp($3 / 1000.0) where act_id = $2 and course_id = $1 and parted_at is null returning section_id',
    [courseId, actId, now],
  );
  if (moved.length === 0 && joining === null) throw notFound();
  await run(db, 'update section set removed_at = null where course_id = $1 and id = any($2)', [
    courseId,
    [...moved.map((m) => m.from_section_id), joining?.section_id],
  ]);
  const back = moved.filter((m) => !m.is_own && m.section_id !== m.from_section_id);
  const since = await rows<{ id: string }>(
    db,
    `select later.id from section_move m join section_move later on later.enrolment_id = m.enrolment_id and later.number >= m.number
     where m.act_id = $1 and m.enrolment_id = any($2)`,
    [actId, back.map((m) => m.id)],
  );
  await dropKeptDates(
    db,
    since.map((m) => m.id),
  );
  const moves = back.map((m): Move => ({ id: randomUUID(), enrolmentId: m.id, from: m.section_id, to: m.from_section_id }));
  await recordMoves(db, courseId, moves, randomUUID(), now);
  // Who was withdrawn goes back with the others, and is counted nowhere.
  const here = moved.filter((m) => m.is_here);
  const count = here.filter((m) => back.includes(m)).length;
  return { settings: await getSettings(db, courseId), back: count, stayed: here.length - count };
}

/** Takes an empty section out of sight. */
export async function removeSection(db: Db, courseId: string, sectionId: string, now: number): Promise<CourseSettings> {
  const title = await requireSection(db, courseId, sectionId);
  const settings = await getSettings(db, courseId);
  const students = settings.sections.find((s) => s.id === sectionId)?.students ?? 0;
  if (students > 0)
    throw new AppError(
      'not-now',
      `“${title}” has ${students === 1 ? 'a student' : `${students} students`}. Join it to another section, and they move there.`,
    );
  if (settings.sections.length === 1) throw new AppError('not-now', 'A course has at least one section.');
  await run(db, 'update section set removed_at = to_timestamp($2 / 1000.0) where id = $1', [sectionId, now]);
  return getSettings(db, courseId);
}
