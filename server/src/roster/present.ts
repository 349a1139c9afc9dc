import { rows, type Db } from '../platform/database.ts';

/** The enrolments of those who are in a course now: of these people, whatever their role, or of the students of these sections. */
export async function listPresent(
  db: Db,
  courseId: string,
  of: { readonly personIds: readonly string[] } | { readonly studentsOf: readonly string[] },
): Promise<readonly string[]> {
  const [people, sections] = 'personIds' in of ? [of.personIds, null] : [null, of.studentsOf];
  const found = await rows<{ id: string }>(
    db,
    `select id from enrolment where course_id = $1 and withdrawn_at is null
       and (person_id = any($2::uuid[]) or role = 'student' and section_id = any($3::uuid[]))`,
    [courseId, people, sections],
  );
  return found.map((row) => row.id);
}
