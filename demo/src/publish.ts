import type { TextSaved } from '@rosemary/api';
import { publishText, type Db } from '@rosemary/server';

/** What is laid out is read at once, also where students read the item already. */
export async function publish(db: Db, courseId: string, itemId: string, saved: TextSaved, now: number): Promise<void> {
  if (saved.isWorking) await publishText(db, courseId, itemId, saved.version, now);
}
