import type { MemberContext } from '../platform/route.ts';
import { calculate } from './cells.ts';
import { readFacts } from './facts.ts';

/** How each student stands so far, as a share, to make groups that are alike. */
export async function readStandings(c: MemberContext<unknown>): Promise<Map<string, number | null>> {
  const facts = await readFacts(c.db, c.courseId, { now: c.now });
  const calculation = calculate(facts, c.now, false);
  return new Map(
    facts.people.map((person) => {
      const { ratio } = calculation.totalsOf(calculation.cellsOf(person)).soFar;
      return [person.enrolmentId, ratio === null ? null : ratio.valueOf()];
    }),
  );
}
