import { announce } from '../platform/events.ts';
import type { MemberContext } from '../platform/route.ts';

/** A post is told to everyone who looks at the course: students talk to each other. Open pages of the course look again at what is said in it; what each of them may see is asked for anew. */
export async function announceTalk(c: MemberContext<unknown>): Promise<void> {
  await announce(c.db, {
    topic: 'talk',
    courseId: c.courseId,
    itemId: c.params.itemId ?? null,
    enrolmentId: null,
    rows: null,
    tab: c.request.get('x-tab') ?? null,
    by: '',
    studentIds: [],
  });
}
