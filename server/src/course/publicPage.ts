import type { PublicCourse } from '@rosemary/api';
import * as api from '@rosemary/api/endpoints';
import { urlOf } from '@rosemary/api/endpoints';
import { type Db, maybe, rows } from '../platform/database.ts';
import { isoOf } from '../platform/instants.ts';
import { AppError, notFound } from '../platform/errors.ts';
import { getTerm } from '../term/index.ts';
import { addMember } from '../roster/index.ts';
import { requireSection } from './requireSection.ts';
import { listSectionSettings } from './sectionSettings.ts';
import { getRow, type Row } from './settings.ts';

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
    enrolsFrom: isoOf(row.enrols_from),
    enrolsUntil: isoOf(row.enrols_until),
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
  await addMember(db, courseId, personId, 'student', sectionId, { startedAt: now });
}
