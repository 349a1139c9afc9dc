import { followWish } from '@rosemary/api';
import * as api from '@rosemary/api/endpoints';
import { reachesSection } from '@rosemary/core';
import { maybe } from '../platform/database.ts';
import { notFound } from '../platform/errors.ts';
import { implement, type MemberContext, type Route } from '../platform/route.ts';
import { followAgain, undoFollow } from './follow.ts';
import { addFollowRule, findFollowed, listFollowUps, setFollowStopped } from './rules.ts';

/** What follows stands at quizzes, and at what students review. */
const requireFollowed = async (c: MemberContext<unknown, { readonly itemId: string }>): Promise<void> => {
  await findFollowed(c.db, c.courseId, c.params.itemId);
};

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
  await requireFollowed(c);
  await setFollowStopped(c.db, c.params.itemId, c.params.ruleId, stoppedAt);
  c.kick('follow-results');
}

export const followUpRoutes: readonly Route[] = [
  implement(api.getFollowUps, async (c) => {
    await requireFollowed(c);
    return listFollowUps(c.db, c.courseId, c.params.itemId, c.member);
  }),
  implement(api.addFollowUp, followWish, async (c) => {
    await requireFollowed(c);
    const made = await addFollowRule(c.db, c.courseId, c.params.itemId, c.body, c.person.personId, c.now);
    c.kick('follow-results');
    return made;
  }),
  implement(api.removeFollowUp, (c) => setStopped(c, c.now)),
  implement(api.restoreFollowUp, (c) => setStopped(c, null)),
  implement(api.takeBackFollowUp, async (c) => {
    await requireFollowed(c);
    const enrolmentId = await requireReached(c);
    await undoFollow(c.db, c.courseId, c.params.itemId, c.params.ruleId, enrolmentId, c.person.personId, c.now);
  }),
  implement(api.tryFollowUpAgain, async (c) => {
    await requireFollowed(c);
    await followAgain(c.db, c.params.itemId, c.params.ruleId, await requireReached(c));
    c.kick('follow-results');
  }),
];
