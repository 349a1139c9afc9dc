import { type Db, rows, run } from '../platform/database.ts';

export async function addSampleStudent(db: Db, courseId: string, sectionId: string, title: string): Promise<void> {
  const person = await rows<{ id: string }>(
    db,
    "insert into person (email, given_name, family_name) values ('sample-' || $1 || '@rosemary.invalid', 'Sample student', $2) returning id",
    [sectionId, title],
  );
  await run(db, "insert into enrolment (course_id, person_id, role, section_id, is_sample) values ($1, $2, 'student', $3, true)", [
    courseId,
    person[0]?.id,
    sectionId,
  ]);
}
