import { termEnd, visibilityFor } from '@rosemary/core';
import { type Db, maybe, rows } from '../platform/database.ts';
import { getTerm } from '../term/index.ts';
import { datedOf, makeDatesFor } from './dates.ts';
import { readReach } from './reach.ts';

/**
 * The students to whom an item is open or closed now, so that they may hear of what happens in it. Of an item that waits for another to be
 * done, those who have opened it.
 */
export async function listReaders(db: Db, courseId: string, itemId: string, now: number): Promise<readonly string[]> {
  const item = await maybe<{
    is_draft: boolean;
    announced_at: Date | null;
    opens_at: Date | null;
    due_at: Date | null;
    closes_at: Date | null;
  }>(db, 'select is_draft, announced_at, opens_at, due_at, closes_at from item where id = $1 and course_id = $2 and removed_at is null', [
    itemId,
    courseId,
  ]);
  if (item === null || item.is_draft) return [];
  const reach = await readReach(db, courseId);
  const { zone, term } = await getTerm(db, courseId);
  const datesFor = await makeDatesFor(db, courseId, zone, termEnd(term, zone), reach);
  const isWaitedFor = reach.openingOf(itemId).rules.some((rule) => rule.kind !== 'date');
  const people = await rows<{ id: string; section_id: string | null; has_opened: boolean }>(
    db,
    `select e.id, e.section_id, exists (select 1 from item_opened v where v.item_id = $2 and v.enrolment_id = e.id) as has_opened
     from enrolment e where e.course_id = $1 and e.role = 'student' and e.withdrawn_at is null`,
    [courseId, itemId],
  );
  const dated = datedOf(itemId, item);
  return people.flatMap(({ id, section_id: sectionId, has_opened: hasOpened }) => {
    const person = { enrolmentId: id, sectionId };
    const isOpenedByHand = reach.isOpenedByHand(itemId, person, now);
    const visibility = visibilityFor(false, datesFor(dated, person), now, { isOpenedByHand, isWaiting: isWaitedFor && !hasOpened });
    return reach.isFor(itemId, person) && (visibility === 'open' || visibility === 'closed') ? [id] : [];
  });
}
