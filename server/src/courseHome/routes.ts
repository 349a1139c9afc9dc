import { type CourseHead, type CourseStart, documentChange, ownCourseStart } from '@rosemary/api';
import * as api from '@rosemary/api/endpoints';
import { starterOutline } from '@rosemary/core';
import { listTeachersOfCode } from '../bank/index.ts';
import { closeCourse, getCourse, getLife, listSections, noteSeen, openCourse, removeCourse, setArchived } from '../course/index.ts';
import { listGroupNames } from '../groups/index.ts';
import { countToMark } from '../marking/index.ts';
import { listVisible } from '../opening/index.ts';
import { aboutCourse, makeTermLine } from '../plan/index.ts';
import { type Db, maybe, rows } from '../platform/database.ts';
import { AppError, invalid } from '../platform/errors.ts';
import { implement, type Route } from '../platform/route.ts';
import type { SignedIn } from '../platform/signedIn.ts';
import { getTerm, listTerms } from '../term/index.ts';
import { addCourse } from './addCourse.ts';
import { layOutline } from '../plan/index.ts';
import { courseSteps } from './firstSteps.ts';
import { lookEnds } from '../people/index.ts';
import { makeProgramme, saveProgramme } from './programme.ts';

/** Whoever teaches already, or administers the school, may make a course; others are given one. */
function requireTeacher(person: SignedIn): void {
  if (!person.isAdministrator && !person.teaches && !person.memberships.some((m) => m.role === 'instructor' && m.isActive))
    throw new AppError('refused', 'Courses are made by those who teach. Ask an administrator of the school for your first one.');
}

/**
 * A new course joins the bank of the courses with its code, so only those who write in that bank, or an administrator, add one to a code that
 * is there already. Two who take a new code at once wait for one another.
 */
async function requireCode(db: Db, code: string, person: SignedIn): Promise<void> {
  if (person.isAdministrator) return;
  await db.query('select pg_advisory_xact_lock(hashtextextended($1, 0))', [`code ${code}`]);
  const teachers = await listTeachersOfCode(db, code);
  const isKnown = (await maybe(db, 'select 1 as one from course where code = $1 limit 1', [code])) !== null;
  if (!isKnown || teachers.some((t) => t.personId === person.personId)) return;
  const teacher = teachers.find((t) => t.isOfCode);
  const whom =
    teacher === undefined ? 'an administrator of the school' : `${teacher.name}, who teaches it, or an administrator of the school,`;
  throw invalid('code', `${code} is the code of a subject that others teach. Ask ${whom} to add your course, or choose another code.`);
}

export const courseRoutes: readonly Route[] = [
  implement(api.getCourseStart, async ({ db, person }): Promise<CourseStart> => {
    requireTeacher(person);
    return {
      terms: await listTerms(db),
      taken: await rows(
        db,
        `select code, run from course where $1 or code in (select c.code from course c join enrolment e on e.course_id = c.id where e.person_id = $2 and e.role = 'instructor' and e.withdrawn_at is null)
         order by code, run`,
        [person.isAdministrator, person.personId],
      ),
    };
  }),
  implement(api.startCourse, ownCourseStart, async ({ db, person, body, account }) => {
    requireTeacher(person);
    const { outline, ...course } = body;
    await requireCode(db, course.code, person);
    const byId = person.isAdministrator ? null : person.personId;
    const courseId = await addCourse(db, { ...course, instructorId: person.personId }, false, byId);
    const { term, zone } = await getTerm(db, courseId);
    if (outline !== 'empty') await layOutline(db, courseId, starterOutline(outline, term, zone));
    account({ courseId });
    return { id: courseId };
  }),
  implement(api.getCourseHead, async ({ db, courseId, member, person, isSeenAs, now }): Promise<CourseHead> => {
    const course = await getCourse(db, courseId);
    const isStaff = member.role !== 'student';
    const { term, zone } = await getTerm(db, courseId);
    const sections = (await listSections(db, courseId)).filter((s) => member.sectionIds === null || member.sectionIds.includes(s.id));
    const students = sections.reduce((sum, s) => sum + s.students, 0);
    const own = isStaff ? null : new Map((await listVisible(db, courseId, member, now)).map((v) => [v.item.id, v.dates.due.at]));
    const line = await makeTermLine(db, [{ id: courseId, students }], term, zone, now, own);
    const seen = isSeenAs
      ? await maybe<{ name: string }>(
          db,
          "select p.given_name || ' ' || p.family_name as name from enrolment e join person p on p.id = e.person_id where e.id = $1",
          [member.enrolmentId],
        )
      : null;
    return {
      id: courseId,
      code: course.code,
      run: course.run,
      title: course.title,
      shortTitle: course.short_title === '' ? course.title : course.short_title,
      term: course.term_title,
      timeZone: zone,
      language: course.language,
      isSelfPaced: course.pacing === 'self',
      role: member.role,
      isOpen: course.is_open,
      isArchived: course.is_archived,
      ...aboutCourse(course, line),
      sections: isStaff ? sections : [],
      groups: isStaff ? await listGroupNames(db, courseId) : [],
      line,
      toMark: isStaff ? await countToMark(db, courseId, member, person.personId, now) : 0,
      now: new Date(now).toISOString(),
      version: course.version,
      looksUntil: member.isLook === true ? await lookEnds(db, courseId, person.personId, now) : null,
      seenAs: seen?.name ?? null,
    };
  }),
  implement(api.getProgramme, ({ db, courseId, member, now }) => makeProgramme(db, courseId, member, now)),
  implement(api.saveProgramme, documentChange, async ({ db, courseId, body }) => {
    const version = await saveProgramme(db, courseId, body);
    return { version };
  }),
  implement(api.getFirstSteps, ({ db, courseId, person }) => courseSteps(db, courseId, person.personId)),
  implement(api.noteSeen, async ({ db, courseId, now }) => {
    await noteSeen(db, courseId, now);
  }),
  implement(api.getCourseLife, ({ db, courseId }) => getLife(db, courseId)),
  implement(api.closeCourse, async ({ db, courseId }) => {
    await closeCourse(db, courseId);
    return getLife(db, courseId);
  }),
  implement(api.archiveCourse, async ({ db, courseId, now }) => {
    await setArchived(db, courseId, now);
    return getLife(db, courseId);
  }),
  implement(api.unarchiveCourse, async ({ db, courseId }) => {
    await setArchived(db, courseId, null);
    return getLife(db, courseId);
  }),
  implement(api.removeCourse, ({ db, courseId, person, now }) => removeCourse(db, courseId, person.isAdministrator, now)),
  implement(api.openCourse, async ({ db, courseId }) => {
    if (!(await openCourse(db, courseId))) throw new AppError('not-now', 'The course is open already.');
  }),
];
