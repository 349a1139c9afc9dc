import type { CarryPolicy, PolicyChange } from '@rosemary/api';
import { policyInWords } from '@rosemary/core';
import { applyPolicy, getPolicy, getPolicyChange } from '../gradebook/index.ts';
import { type Db, maybe, rows } from '../platform/database.ts';
import { AppError } from '../platform/errors.ts';

/** Once a mark is given a policy moves grades, and is changed where its ripple is shown. */
async function policyFault(db: Db, courseId: string): Promise<string | null> {
  const given = await maybe(
    db,
    'select 1 as one from work_grade g join item i on i.id = g.item_id where i.course_id = $1 and g.state is not null limit 1',
    [courseId],
  );
  return given === null
    ? null
    : 'Marks are given here already. Change the policy under Gradebook, Policy, where you see first whom it moves.';
}

async function readWords(db: Db, courseId: string): Promise<readonly string[]> {
  const { policy, late } = await getPolicy(db, courseId);
  return policyInWords(policy, late);
}

/** The policy of both courses in sentences, and why it could not come over, if it cannot. */
export async function readPolicies(db: Db, fromId: string, courseId: string): Promise<CarryPolicy> {
  const counting = await maybe(
    db,
    'select 1 as one from grade_column where course_id = $1 and counts and possible > 0 and removed_at is null limit 1',
    [courseId],
  );
  return {
    ...{ from: await readWords(db, fromId), here: await readWords(db, courseId), refused: await policyFault(db, courseId) },
    isUnused: counting === null,
  };
}

/**
 * Takes the policy of another course. Categories are met by their title; those here that hold items and are not in the other
 * course stay with no weight, and are named; the others go.
 */
export async function carryPolicy(
  db: Db,
  fromId: string,
  courseId: string,
): Promise<{ before: PolicyChange; after: PolicyChange; unweighted: string[] }> {
  const fault = await policyFault(db, courseId);
  if (fault !== null) throw new AppError('not-now', fault);
  const [from, here] = [await getPolicyChange(db, fromId), await getPolicyChange(db, courseId)];
  const titled = new Map(here.categories.map((c) => [c.title.toLowerCase(), c.id]));
  const taken = from.categories.map((c) => ({ ...c, id: titled.get(c.title.toLowerCase()) ?? null }));
  const used = await rows<{ id: string }>(
    db,
    'select distinct category_id as id from graded_item where course_id = $1 and category_id is not null and removed_at is null',
    [courseId],
  );
  const stay = here.categories.filter((c) => used.some((u) => u.id === c.id) && !taken.some((t) => t.id === c.id));
  const { before, after } = await applyPolicy(db, courseId, {
    ...from,
    version: here.version,
    categories: [...taken, ...stay.map((c) => ({ ...c, weightPercent: 0 }))],
    // The days of another term say nothing here: a period keeps those it has in this course, or waits for them.
    periods: from.periods.map((p) => {
      const own = here.periods.find((h) => h.title.toLowerCase() === p.title.toLowerCase());
      return { ...p, id: own?.id ?? null, startsOn: own?.startsOn ?? null, endsOn: own?.endsOn ?? null };
    }),
    moves: [],
  });
  return { before, after, unweighted: stay.map((c) => c.title) };
}
