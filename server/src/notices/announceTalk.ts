import { announce, announceTo } from '../platform/events.ts';
import type { MemberContext } from '../platform/route.ts';

/** Whom something that was said is for: everybody in the course, its staff with these students, or these members alone. */
type TalkHearers = { readonly kind: 'everybody' } | { readonly kind: 'staffAnd' | 'only'; readonly enrolmentIds: readonly string[] };

/** Something was said: open pages of whoever may hear of it look again, and what each of them may see is asked for anew. */
export async function announceTalk(c: MemberContext<unknown>, hearers: TalkHearers): Promise<void> {
  const event = {
    topic: 'talk',
    courseId: c.courseId,
    itemId: c.params.itemId ?? null,
    enrolmentId: null,
    rows: null,
    tab: c.request.get('x-tab') ?? null,
    by: '',
  } as const;
  if (hearers.kind === 'everybody') {
    await announce(c.db, { ...event, hearers: 'everybody' });
    return;
  }
  if (hearers.kind === 'staffAnd') await announce(c.db, { ...event, hearers: 'staff' });
  await announceTo(c.db, event, hearers.enrolmentIds);
}
