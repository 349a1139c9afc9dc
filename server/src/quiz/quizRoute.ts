import type { PlanItem } from '@rosemary/api';
import { writeAudit } from '../platform/audit.ts';
import type { MemberContext } from '../platform/route.ts';
import { getPlanItem } from '../plan/queries.ts';
import { getQuiz } from './quizzes.ts';

/** What every route of one quiz begins with. */
export const QUIZ = '/courses/:courseId/quizzes/:itemId';
export const itemOf = (c: MemberContext<unknown>): string => c.params.itemId ?? '';

/** The item of the course that is a quiz; anything else is not there. */
export async function requireQuiz(c: MemberContext<unknown>): Promise<PlanItem> {
  const found = await getPlanItem(c.db, c.courseId, itemOf(c), c.now);
  await getQuiz(c.db, itemOf(c));
  return found;
}
export const auditQuiz = (c: MemberContext<unknown>, action: string, after: unknown = null): Promise<void> =>
  writeAudit(c.db, { at: c.now, actorId: c.person.personId, courseId: c.courseId, action, subject: itemOf(c), after });
