import type { RippleAnswer } from '@rosemary/api';
import { type Ratio, rippleOf } from '@rosemary/core';
import type { Db } from '../platform/database.ts';
import { calculate } from './cells.ts';
import { readFacts } from './facts.ts';
import type { CourseFacts } from './factTypes.ts';

interface Standing {
  readonly facts: CourseFacts;
  readonly totals: ReadonlyMap<
    string,
    { readonly name: string; readonly soFar: Ratio | null; readonly floor: Ratio | null; readonly reach: Ratio | null }
  >;
}

async function readStanding(db: Db, courseId: string, now: number): Promise<Standing> {
  const facts = await readFacts(db, courseId);
  const calculation = calculate(facts, now, false);
  const totals = facts.people.map((person) => {
    const { soFar, floor, reach } = calculation.totalsOf(calculation.cellsOf(person));
    const name = `${person.familyName}, ${person.givenName}`;
    return [person.enrolmentId, { name, soFar: soFar.ratio, floor: floor.ratio, reach: reach.ratio }] as const;
  });
  return { facts, totals: new Map(totals) };
}

/**
 * The ripple of any change: the totals as they stand, then the change itself, then the totals again. The caller takes the
 * whole transaction back afterwards, so what is shown is exactly what applying would do.
 */
export async function rehearse(db: Db, courseId: string, now: number, change: () => Promise<unknown>): Promise<RippleAnswer> {
  const before = await readStanding(db, courseId, now);
  await change();
  const after = await readStanding(db, courseId, now);
  // Whoever came or went with the change has no total to be held against.
  const people = [...before.totals].flatMap(([id, was]) => {
    const will = after.totals.get(id);
    if (will === undefined) return [];
    return {
      id,
      name: was.name,
      before: was.soFar,
      after: will.soFar,
      floor: [was.floor, will.floor] as const,
      reach: [was.reach, will.reach] as const,
    };
  });
  return { ...rippleOf(people, before.facts.policy, after.facts.policy), levels: after.facts.policy.levels };
}
