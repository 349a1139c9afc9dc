import { followWish, type FollowWish } from '@rosemary/api';
import { reachesSection } from '@rosemary/core';
import { maybe } from '../platform/database.ts';
import { notFound } from '../platform/errors.ts';
import { courseRoute, type MemberContext, type Route } from '../platform/route.ts';
import { followAgain, undoFollow } from './follow.ts';
import { addFollowRule, listFollowUps, setFollowStopped } from './rules.ts';
import { auditQuiz, itemOf, QUIZ, requireQuiz } from '../quiz/quizRoute.ts';

const FOLLOW = `${QUIZ}/follow-ups`;
const param = (c: MemberContext<unknown>, name: string): string => c.params[name] ?? '';
async function requireReached(c: MemberContext<unknown>): Promise<string> {
  const who = await maybe<{ section_id: string | null }>(c.db, 'select section_id from enrolment where id = $1 and course_id = $2', [
    param(c, 'enrolmentId'),
    c.courseId,
  ]);
  if (who === null || !reachesSection(c.member, who.section_id)) throw notFound();
  return param(c, 'enrolmentId');
}

export const followUpRoutes: readonly Route[] = [
  courseRoute('marking.see', {
    method: 'get',
    path: FOLLOW,
    handle: async (c) => {
      await requireQuiz(c);
      return listFollowUps(c.db, c.courseId, itemOf(c), c.member);
    },
  }),
  courseRoute<FollowWish>('plan.edit', {
    method: 'post',
    path: FOLLOW,
    body: followWish,
    handle: async (c) => {
      await requireQuiz(c);
      const made = await addFollowRule(c.db, c.courseId, itemOf(c), c.body, c.person.personId, c.now);
      await auditQuiz(c, 'what follows: added', c.body);
      c.kick('follow-results');
      return made;
    },
  }),
  ...(['delete', 'post'] as const).map((method) =>
    courseRoute('plan.edit', {
      method,
      path: `${FOLLOW}/:ruleId${method === 'post' ? '/restore' : ''}`,
      handle: async (c) => {
        await requireQuiz(c);
        await setFollowStopped(c.db, itemOf(c), param(c, 'ruleId'), method === 'delete' ? c.now : null);
        await auditQuiz(c, method === 'delete' ? 'what follows: stopped' : 'what follows: goes on');
        c.kick('follow-results');
      },
    }),
  ),
  courseRoute('marking.mark', {
    method: 'delete',
    path: `${FOLLOW}/:ruleId/students/:enrolmentId`,
    handle: async (c) => {
      await requireQuiz(c);
      const enrolmentId = await requireReached(c);
      await undoFollow(c.db, c.courseId, itemOf(c), param(c, 'ruleId'), enrolmentId, c.person.personId, c.now);
      await auditQuiz(c, 'what followed: taken back', { ruleId: param(c, 'ruleId'), enrolmentId });
    },
  }),
  courseRoute('marking.mark', {
    method: 'post',
    path: `${FOLLOW}/:ruleId/students/:enrolmentId/again`,
    handle: async (c) => {
      await requireQuiz(c);
      await followAgain(c.db, itemOf(c), param(c, 'ruleId'), await requireReached(c));
      c.kick('follow-results');
    },
  }),
];
