import type { CourseSettings, NewSection, SectionChange, SectionMoved } from '@rosemary/api';
import { type Db, maybe, rows, run } from '../platform/database.ts';
import { AppError, invalid, notFound } from '../platform/errors.ts';
import { addSampleStudent } from '../roster/index.ts';
import { getSettings } from './settings.ts';

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
      `A section “${title}” ${taken.removed_at === null ? 'is here' : 'was here, and was joined to another,'} already. Choose another title.`,
    );
}

export async function requireSection(db: Db, courseId: string, sectionId: string): Promise<string> {
  const found = await maybe<{ title: string }>(db, 'select title from section where id = $1 and course_id = $2 and removed_at is null', [
    sectionId,
    courseId,
  ]);
  if (found === null) throw notFound();
  return found.title;
}

/** Whoever changes section keeps the dates that were set for the one they leave: they become their own. */
export async function moveStudents(
  db: Db,
  courseId: string,
  enrolmentIds: readonly string[],
  into: string,
): Promise<SectionMoved['moved']> {
  const moved = await rows<{ id: string; section_id: string }>(
    db,
    "select id, section_id from enrolment where course_id = $1 and id = any($2) and role = 'student' and section_id is not null and section_id <> $3 for update",
    [courseId, enrolmentIds, into],
  );
  const ids = moved.map((m) => m.id);
  await run(
    db,
    `
    insert into date_variant (item_id, enrolment_id, announced_at, opens_at, due_at, closes_at)
    select v.item_id, e.id, v.announced_at, v.opens_at, v.due_at, v.closes_at from enrolment e join date_variant v on v.section_id = e.section_id
    where e.id = any($1) and not exists (select 1 from date_variant o where o.item_id = v.item_id and o.enrolment_id = e.id)`,
    [ids],
  );
  await run(db, 'update enrolment set section_id = $2, version = version + 1 where id = any($1)', [ids, into]);
  return moved.map((m) => ({ enrolmentId: m.id, from: m.section_id }));
}

/** A section more: empty, or parted from others with the students named. Nothing of theirs is touched. */
export async function addSection(db: Db, courseId: string, wish: NewSection): Promise<SectionMoved & { id: string }> {
  await requireTitle(db, courseId, wish.title, null);
  const made = await rows<{ id: string }>(
    db,
    'insert into section (course_id, title, position) select $1, $2, coalesce(max(position), -1) + 1 from section where course_id = $1 returning id',
    [courseId, wish.title],
  );
  const id = made[0]?.id ?? '';
  await addSampleStudent(db, courseId, id, wish.title);
  const moved = await moveStudents(db, courseId, wish.enrolmentIds, id);
  if (moved.length !== wish.enrolmentIds.length)
    throw invalid('enrolmentIds', 'A student chosen is no longer in the course. Look again at whom to part.');
  return { id, moved, settings: await getSettings(db, courseId) };
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

/** Joins a section to another: its students move with all their work and their dates, and it is out of sight. */
export async function joinSection(db: Db, courseId: string, sectionId: string, into: string): Promise<SectionMoved> {
  await requireSection(db, courseId, sectionId);
  await requireSection(db, courseId, into);
  if (sectionId === into) throw invalid('into', 'A section cannot be joined to itself. Choose another.');
  const students = await rows<{ id: string }>(db, "select id from enrolment where section_id = $1 and role = 'student' and not is_sample", [
    sectionId,
  ]);
  const moved = await moveStudents(
    db,
    courseId,
    students.map((s) => s.id),
    into,
  );
  await run(db, 'update section set removed_at = now() where id = $1', [sectionId]);
  return { moved, settings: await getSettings(db, courseId) };
}

/** Takes a joining or a parting back: everyone to the section they came from, which is there again. */
export async function partAgain(db: Db, courseId: string, moved: SectionMoved['moved']): Promise<CourseSettings> {
  await run(db, 'update section set removed_at = null where course_id = $1 and id = any($2)', [courseId, moved.map((m) => m.from)]);
  const back = await run(
    db,
    `
    update enrolment e set section_id = t.section_id, version = version + 1
    from unnest($2::uuid[], $3::uuid[]) as t(id, section_id) join section s on s.id = t.section_id and s.course_id = $1
    where e.id = t.id and e.course_id = $1 and e.role = 'student'`,
    [courseId, moved.map((m) => m.enrolmentId), moved.map((m) => m.from)],
  );
  if (back !== moved.length) throw notFound();
  return getSettings(db, courseId);
}

/** Takes an empty section out of sight. */
export async function removeSection(db: Db, courseId: string, sectionId: string): Promise<CourseSettings> {
  const title = await requireSection(db, courseId, sectionId);
  const settings = await getSettings(db, courseId);
  const students = settings.sections.find((s) => s.id === sectionId)?.students ?? 0;
  if (students > 0)
    throw new AppError(
      'not-now',
      `“${title}” has ${students === 1 ? 'a student' : `${students} students`}. Join it to another section, and they move there.`,
    );
  if (settings.sections.length === 1) throw new AppError('not-now', 'A course has at least one section.');
  await run(db, 'update section set removed_at = now() where id = $1', [sectionId]);
  return getSettings(db, courseId);
}
