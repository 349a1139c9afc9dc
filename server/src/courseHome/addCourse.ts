import type { NewCourse } from '@rosemary/api';
import { IANAZone } from 'luxon';
import { type Db, maybe } from '../platform/database.ts';
import { giveBank } from '../bank/index.ts';
import { invalid } from '../platform/errors.ts';
import { putCourse } from '../course/index.ts';
import { startPolicy } from '../gradebook/index.ts';
import { addMember, addSampleStudent } from '../roster/index.ts';
import { putSection } from '../sections/index.ts';

/**
 * A course with its sections, a sample student in each, its instructor, a policy to start from and its bank. `byId` is the instructor who makes
 * it; an administrator is null.
 */
export async function addCourse(db: Db, course: NewCourse, isOpen = false, byId: string | null = null): Promise<string> {
  if (!IANAZone.isValidZone(course.timeZone))
    throw invalid('timeZone', `“${course.timeZone}” is not a time zone. It is written like Europe/Lisbon.`);
  if ((await maybe(db, 'select 1 as one from term where id = $1', [course.termId])) === null)
    throw invalid('termId', 'This term is no longer here. Choose another.');
  if ((await maybe(db, 'select 1 as one from person where id = $1', [course.instructorId])) === null)
    throw invalid('instructorId', 'This person is no longer here. Choose another.');
  const id = await putCourse(db, course, isOpen);
  if (id === null) throw invalid('run', `${course.code} has a run ${course.run} already. Choose another run.`);
  await addMember(db, id, course.instructorId, 'instructor', null, { isOfRecord: true });
  for (const title of course.sections) await addSampleStudent(db, id, await putSection(db, id, title), title);
  await startPolicy(db, id);
  await giveBank(db, id, course.code, byId);
  return id;
}
