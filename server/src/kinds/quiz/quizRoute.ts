import type { PlanItem } from '@rosemary/api';
import { getPlanItem } from '../../items/index.ts';
import type { MemberContext } from '../../platform/route.ts';
import { getQuiz } from './setting.ts';

/** What every route of one quiz begins with. */
export const itemOf = (c: MemberContext<unknown>): string => c.params.itemId ?? '';

/** The item of the course that is a quiz; anything else is not there. */
export async function requireQuiz(c: MemberContext<unknown>): Promise<PlanItem> {
  const found = await getPlanItem(c.db, c.courseId, itemOf(c), c.now);
  await getQuiz(c.db, itemOf(c));
  return found;
}
