import type { ProgressVisits } from '@rosemary/api';
import { activityOf, readTotal } from '@rosemary/core';
import { calculate, readFacts } from '../gradebook/index.ts';
import { type Db, maybe } from '../platform/database.ts';
import { AppError } from '../platform/errors.ts';
import { makeRhythm } from './rhythm.ts';

/** How much each student was here against the total so far; refused where the school does not show the two together. */
export async function makeVisits(db: Db, courseId: string, sectionIds: readonly string[] | null, now: number): Promise<ProgressVisits> {
  const school = await maybe<{ shows: boolean }>(db, 'select shows_visits_against_results as shows from school');
  if (school?.shows !== true)
    throw new AppError('not-now', 'This school does not show visits against results. An administrator can switch it on.');
  const [facts, rhythm] = await Promise.all([readFacts(db, courseId, { sectionIds }), makeRhythm(db, courseId, { sectionIds })]);
  const calculation = calculate(facts, now, false);
  const activeOf = new Map(rhythm.people.map((p) => [p.enrolmentId, p.active]));
  return {
    people: facts.people.map((person) => {
      const { days, minutes } = activityOf(activeOf.get(person.enrolmentId) ?? []);
      const total = calculation.totalsOf(calculation.cellsOf(person)).soFar.ratio;
      return { enrolmentId: person.enrolmentId, days, minutes, soFar: readTotal(total, facts.policy.decimals, [])?.percent ?? null };
    }),
  };
}
