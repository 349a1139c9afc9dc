import type { ItemDetail, LinkChange } from '@rosemary/api';
import { getPlanItem } from '../../items/index.ts';
import { type Db, maybe, run } from '../../platform/database.ts';
import { conflict, notFound } from '../../platform/errors.ts';

export async function findLink(db: Db, itemId: string): Promise<ItemDetail['link']> {
  return maybe(db, 'select address, note, version from item_link where item_id = $1', [itemId]);
}

export async function saveLink(db: Db, courseId: string, itemId: string, change: LinkChange, now: number): Promise<number> {
  await getPlanItem(db, courseId, itemId, now);
  const current = await findLink(db, itemId);
  if (current === null) throw notFound();
  if (current.version !== change.version) throw conflict(current);
  const next = { ...current, ...change };
  await run(db, 'update item_link set address = $2, note = $3, version = version + 1 where item_id = $1', [
    itemId,
    next.address,
    next.note,
  ]);
  return current.version + 1;
}
