import * as api from '@rosemary/api/endpoints';
import { urlOf } from '@rosemary/api/endpoints';
import type { CourseSettings, NewSection, PublicCourse, SectionChange, SectionMoved, SectionSetting, SettingsChange } from '@rosemary/api';
import { IANAZone } from 'luxon';
import { getTerm } from '../gradebook/facts.ts';
import { maybe, rows, run, type Db } from '../platform/database.ts';
import { AppError, conflict, invalid, notFound } from '../platform/errors.ts';
import { addSampleStudent } from '../school/create.ts';

interface Row {
  code: string;
  run: string;
  title: string;
  short_title: string;
  description: string;
  time_zone: string;
  progress_by: 'items' | 'minutes';
  language: string;
  pacing: 'term' | 'self';
  picture_file_id: string | null;
  picture_alt: string;
  is_public: boolean;
  enrols_from: Date | null;
  enrols_until: Date | null;
  version: number;
}
const iso = (date: Date | null): string | null => date?.toISOString() ?? null;

async function getRow(db: Db, courseId: string): Promise<Row> {
  const row = await maybe<Row>(
    db,
    'select code, run, title, short_title, description, time_zone, progress_by, language, pacing, picture_file_id, picture_alt, is_public, enrols_from, enrols_until, version from course where id = $1',
    [courseId],
  );
  if (row === null) throw notFound();
  return row;
}

async function listSectionSettings(db: Db, courseId: string): Promise<SectionSetting[]> {
  const found = await rows<{ id: string; title: string; meeting_days: number[] | null; students: number }>(
    db,
    `
    select s.id, s.title, s.meeting_days, count(e.id)::int as students
    from section s left join enrolment e on e.section_id = s.id and e.role = 'student' and e.withdrawn_at is null and not e.is_sample
    where s.course_id = $1 and s.removed_at is null group by s.id order by s.position, s.title`,
    [courseId],
  );
  return found.map((s) => ({ id: s.id, title: s.title, meetingDays: s.meeting_days, students: s.students }));
}

export async function getSettings(db: Db, courseId: string): Promise<CourseSettings> {
  const row = await getRow(db, courseId);
  const { term } = await getTerm(db, courseId);
  return {
    code: row.code,
    run: row.run,
    term,
    title: row.title,
    shortTitle: row.short_title,
    description: row.description,
    timeZone: row.time_zone,
    language: row.language,
    pacing: row.pacing,
    picture:
      row.picture_file_id === null
        ? null
        : { fileId: row.picture_file_id, src: urlOf(api.getFile, { courseId, fileId: row.picture_file_id }), alt: row.picture_alt },
    progressBy: row.progress_by,
    isPublic: row.is_public,
    enrolsFrom: iso(row.enrols_from),
    enrolsUntil: iso(row.enrols_until),
    version: row.version,
    sections: await listSectionSettings(db, courseId),
  };
}

/** A language as the standard writes it; what is none is refused. */
function languageOf(text: string): string {
  try {
    const [known] = Intl.getCanonicalLocales(text);
    if (known !== undefined && new Intl.DisplayNames('en', { type: 'language', fallback: 'none' }).of(known) !== undefined) return known;
  } catch {
    // Said below, as for one that is written well and is none.
  }
  throw invalid('language', `“${text}” is no language. It is written like en, de or pt-PT.`);
}

async function requirePicture(db: Db, courseId: string, fileId: string | null): Promise<void> {
  if (fileId === null) return;
  const file = await maybe<{ media_type: string }>(
    db,
    'select b.media_type from file f join file_blob b on b.sha256 = f.sha256 where f.id = $1 and f.course_id = $2 and f.is_kept and f.removed_at is null',
    [fileId, courseId],
  );
  if (file === null) throw invalid('pictureFileId', 'This picture is no longer in the course. Choose another.');
  if (!file.media_type.startsWith('image/')) throw invalid('pictureFileId', 'The picture of a course is a picture: PNG, JPEG or WebP.');
}

/** Changes the fields named. Code and run are fixed: they stand in addresses. */
export async function changeSettings(db: Db, courseId: string, change: SettingsChange): Promise<CourseSettings> {
  const before = await getSettings(db, courseId);
  if (before.version !== change.version) throw conflict(before);
  const next = { ...before, pictureFileId: before.picture?.fileId ?? null, pictureAlt: before.picture?.alt ?? '', ...change };
  const language = languageOf(next.language);
  await requirePicture(db, courseId, next.pictureFileId);
  if (!IANAZone.isValidZone(next.timeZone))
    throw invalid('timeZone', `“${next.timeZone}” is not a time zone. It is written like Europe/Lisbon.`);
  if (next.enrolsFrom !== null && next.enrolsUntil !== null && Date.parse(next.enrolsUntil) <= Date.parse(next.enrolsFrom))
    throw invalid('enrolsUntil', 'Enrolment ends before it begins. Set a later end or an earlier beginning.');
  await run(
    db,
    `
    update course set title = $2, short_title = $3, description = $4, time_zone = $5, progress_by = $6, is_public = $7, enrols_from = $8, enrols_until = $9,
      language = $10, pacing = $11, picture_file_id = $12, picture_alt = $13, version = version + 1 where id = $1`,
    [
      courseId,
      next.title,
      next.shortTitle,
      next.description,
      next.timeZone,
      next.progressBy,
      next.isPublic,
      next.enrolsFrom,
      next.enrolsUntil,
      language,
      next.pacing,
      next.pictureFileId,
      next.pictureFileId === null ? '' : next.pictureAlt,
    ],
  );
  return getSettings(db, courseId);
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
      `A section “${title}” ${taken.removed_at === null ? 'is here' : 'was here, and was joined to another,'} already. Choose another title.`,
    );
}

async function requireSection(db: Db, courseId: string, sectionId: string): Promise<string> {
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

const isEnrolling = (row: Pick<Row, 'enrols_from' | 'enrols_until'>, now: number): boolean =>
  row.enrols_from !== null && row.enrols_from.getTime() <= now && (row.enrols_until === null || now < row.enrols_until.getTime());

/** What anyone may read of a course that shows itself; of any other nothing, not even that it is there. */
export async function getPublicCourse(db: Db, courseId: string, now: number): Promise<PublicCourse> {
  const row = await getRow(db, courseId);
  if (!row.is_public) throw notFound();
  const { term } = await getTerm(db, courseId);
  const staff = await rows<{ name: string }>(
    db,
    "select p.given_name || ' ' || p.family_name as name from enrolment e join person p on p.id = e.person_id where e.course_id = $1 and e.role = 'instructor' and e.withdrawn_at is null order by e.is_of_record desc, p.family_name",
    [courseId],
  );
  const school = await maybe<{ title: string }>(db, 'select title from school');
  return {
    language: row.language,
    isSelfPaced: row.pacing === 'self',
    picture: row.picture_file_id === null ? null : { src: urlOf(api.getPublicCoursePicture, { publicId: courseId }), alt: row.picture_alt },
    title: row.title,
    code: row.code,
    school: school?.title ?? '',
    description: row.description,
    term,
    staff: staff.map((s) => s.name),
    sections: (await listSectionSettings(db, courseId)).map((s) => ({
      id: s.id,
      title: s.title,
      meetingDays: s.meetingDays ?? term.meetingDays,
    })),
    enrolsFrom: iso(row.enrols_from),
    enrolsUntil: iso(row.enrols_until),
    isEnrolling: isEnrolling(row, now),
  };
}

/** The file that is the picture of a course which shows itself; of any other nothing. */
export async function getPublicPicture(db: Db, courseId: string): Promise<string> {
  const row = await getRow(db, courseId);
  if (!row.is_public || row.picture_file_id === null) throw notFound();
  return row.picture_file_id;
}

/** Enrols whoever asks, while the window is open. Someone withdrawn asks their instructor. */
export async function enrolSelf(db: Db, courseId: string, personId: string, sectionId: string, now: number): Promise<void> {
  const row = await getRow(db, courseId);
  if (!row.is_public) throw notFound();
  if (!isEnrolling(row, now)) throw new AppError('not-now', 'Enrolment is not open now. The page says when it is.');
  await requireSection(db, courseId, sectionId);
  const member = await maybe<{ withdrawn_at: Date | null }>(
    db,
    'select withdrawn_at from enrolment where course_id = $1 and person_id = $2',
    [courseId, personId],
  );
  if (member !== null)
    throw new AppError(
      'not-now',
      member.withdrawn_at === null ? 'You are in this course already.' : 'You were withdrawn from this course. Ask its instructor.',
    );
  await run(
    db,
    "insert into enrolment (course_id, person_id, role, section_id, started_at) values ($1, $2, 'student', $3, to_timestamp($4 / 1000.0))",
    [courseId, personId, sectionId, now],
  );
}
