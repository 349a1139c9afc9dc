import type { Membership } from '@rosemary/core';
import { setAnnouncementRemoved } from '../announcements/index.ts';
import { setItemsRemoved } from '../plan/index.ts';
import { type Db, maybe, rows, run } from '../platform/database.ts';
import { AppError, notFound } from '../platform/errors.ts';
import { taught } from './places.ts';

/**
 * Deletes the copies of a giving with what was announced of them, or brings back what was deleted so. A copy that somebody deleted by
 * itself stays deleted.
 */
export async function setGiving(
  db: Db,
  courseId: string,
  givingId: string,
  isTakenBack: boolean,
  memberships: readonly Membership[],
  now: number,
): Promise<void> {
  const giving = await maybe<{ taken_back_at: Date | null }>(
    db,
    'select taken_back_at from giving where id = $1 and course_id = $2 for update',
    [givingId, courseId],
  );
  if (giving === null) throw notFound();
  if ((giving.taken_back_at !== null) === isTakenBack)
    throw new AppError('not-now', isTakenBack ? 'This is taken back already.' : 'This stands as it was given.');
  const copies = await rows<{ id: string; course_id: string; announcement_id: string | null }>(
    db,
    `select i.id, i.course_id, n.announcement_id from given_item n join item i on i.id = n.item_id
     where n.giving_id = $1 and i.removed_at is not distinct from $2`,
    [givingId, giving.taken_back_at],
  );
  const allowed = new Set(taught(memberships, courseId));
  if (copies.some((copy) => !allowed.has(copy.course_id)))
    throw new AppError(
      'not-now',
      'One of these classes is in a course that you no longer teach, or that is archived. Delete the copies one by one.',
    );
  const removedAt = isTakenBack ? now : null;
  for (const id of new Set(copies.map((copy) => copy.course_id))) {
    const own = copies.filter((copy) => copy.course_id === id);
    await setItemsRemoved(
      db,
      id,
      own.map((copy) => copy.id),
      removedAt,
    );
    for (const news of new Set(own.flatMap((copy) => copy.announcement_id ?? []))) await setAnnouncementRemoved(db, id, news, removedAt);
  }
  await run(db, 'update giving set taken_back_at = to_timestamp($2 / 1000.0) where id = $1', [givingId, removedAt]);
}
