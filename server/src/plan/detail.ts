import type { ItemDetail } from '@rosemary/api';
import { getPlanItem } from '../items/index.ts';
import { servedKind } from '../kinds/index.ts';
import type { Db } from '../platform/database.ts';
import { findText } from './publish.ts';

export async function getItemDetail(db: Db, courseId: string, itemId: string, now: number): Promise<ItemDetail> {
  const item = await getPlanItem(db, courseId, itemId, now);
  return {
    item,
    page: null,
    link: null,
    file: null,
    assignment: null,
    rubric: null,
    hasPeers: false,
    text: await findText(db, courseId, item, now),
    ...(await servedKind(item.kind).detail(db, itemId)),
  };
}
