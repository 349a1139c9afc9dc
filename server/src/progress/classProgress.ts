import type { ClassProgress } from '@rosemary/api';
import { howFar, roundHalfUp, stepOf } from '@rosemary/core';
import { getSettings } from '../course/index.ts';
import type { Db } from '../platform/database.ts';
import { readCourse, standingOf } from './readCourse.ts';

/** Of fewer a mean would tell of single people. */
const LEAST = 5;

/** How far the class is, for its students: where the course shows it, and of five students at least. */
export async function readClassProgress(db: Db, courseId: string, now: number): Promise<ClassProgress> {
  const settings = await getSettings(db, courseId);
  if (settings.progressShows !== 'class') return { share: null };
  const course = await readCourse(db, courseId, {}, now);
  const people = course.facts.people.map((person) => ({
    steps: course.items.map((item) => stepOf(standingOf(course, item, person, now))).join(''),
  }));
  const all = course.items.map((_, place) => place);
  const minutes = course.items.map((item) => item.estimated_minutes);
  const far = howFar(people, all, [], minutes, settings.progressBy);
  return { share: far.counted < LEAST || far.class.all === null ? null : `${roundHalfUp(far.class.all.mul(100), 0)} %` };
}
