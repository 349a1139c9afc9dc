import { followWish } from '@rosemary/api';
import * as api from '@rosemary/api/endpoints';
import { reachesSection } from '@rosemary/core';
import { itemOf, requireQuiz } from '../kinds/quiz/index.ts';
import { maybe } from '../platform/database.ts';
import { notFound } from '../platform/errors.ts';
import { implement, type MemberContext, type Route } from '../platform/route.ts';
import { followAgain, undoFollow } from './follow.ts';
import { addFollowRule, listFollowUps, setFollowStopped } from './rules.ts';

async function requireReached(c: MemberContext<unknown, { readonly enrolmentId: string }>): Promise<string> {
  const who = await maybe<{ section_id: string | null }>(c.db, 'select section_id from enrolment where id = $1 and course_id = $2', [
    c.params.enrolmentId,
    c.courseId,
  ]);
  if (who === null || !reachesSection(c.member, who.section_id)) throw notFound();
  return c.params.enrolmentId;
}

async function setStopped(
  c: MemberContext<unknown, { readonly itemId: string; readonly ruleId: string }>,
  stoppedAt: number | null,
): Promise<void> {
  await requireQuiz(c);
  await setFollowStopped(c.db, itemOf(c), c.params.ruleId, stoppedAt);
  c.kick('follow-results');
}

export const followUpRoutes: readonly Route[] = [
  implement(api.getFollowUps, async (c) => {
    await requireQuiz(c);
    return listFollowUps(c.db, c.courseId, itemOf(c), c.member);
  }),
  implement(api.addFollowUp, followWish, async (c) => {
    await requireQuiz(c);
    const made = await addFollowRule(c.db, c.courseId, itemOf(c), c.body, c.person.personId, c.now);
    c.kick('follow-results');
    return made;
  }),
  implement(api.removeFollowUp, (c) => setStopped(c, c.now)),
  implement(api.restoreFollowUp, (c) => setStopped(c, null)),
  implement(api.takeBackFollowUp, async (c) => {
    await requireQuiz(c);
    const enrolmentId = await requireReached(c);
    await undoFollow(c.db, c.courseId, itemOf(c), c.params.ruleId, enrolmentId, c.person.personId, c.now);
  }),
  implement(api.tryFollowUpAgain, async (c) => {
    await requireQuiz(c);
    await followAgain(c.db, itemOf(c), c.params.ruleId, await requireReached(c));
    c.kick('follow-results');
  }),
];
