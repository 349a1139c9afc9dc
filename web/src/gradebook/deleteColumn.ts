import * as api from '@rosemary/api/endpoints';
import type { BookColumn } from '@rosemary/api';
import { call, takeBack } from '../platform/call.ts';
import { useNotices } from '../stores/noticeStore.ts';

/** Deletes the item of a column, once whom it moves was seen; it comes back with its results by Undo. Tells whether it is gone. */
export async function deleteColumn(courseId: string, column: BookColumn, changed: () => void): Promise<boolean> {
  const notices = useNotices();
  if (column.itemId === null) return false;
  const at = { courseId, itemId: column.itemId };
  try {
    if ((await call(api.removeItem, at, undefined, `Delete “${column.title}”`)) === null) return false;
    notices.say(`“${column.title}” deleted.`, async () => {
      await takeBack(api.removeItem, at);
      changed();
    });
    changed();
    return true;
  } catch (error) {
    notices.sayFault(error);
    return false;
  }
}
