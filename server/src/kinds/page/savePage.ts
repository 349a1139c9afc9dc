import type { DocumentChange } from '@rosemary/api';
import { checked, getPlanItem, keepItemFiles } from '../../items/index.ts';
import { listEmbedHosts } from '../../people/index.ts';
import { type Db, maybe } from '../../platform/database.ts';
import { conflict, notFound } from '../../platform/errors.ts';
import { findPage } from './findPage.ts';
import { keepVersion } from './versions.ts';

export async function savePage(
  db: Db,
  courseId: string,
  itemId: string,
  change: DocumentChange,
  personId: string,
  now: number,
): Promise<number> {
  await getPlanItem(db, courseId, itemId, now);
  const before = await findPage(db, itemId);
  const document = checked(change.document, 'document', await listEmbedHosts(db));
  const saved = await maybe<{ version: number }>(
    db,
    'update page set document = $2, version = version + 1 where item_id = $1 and version = $3 returning version',
    [itemId, document, change.version],
  );
  if (saved === null) {
    const current = await findPage(db, itemId);
    throw current === null ? notFound() : conflict(current);
  }
  await keepItemFiles(db, courseId, itemId, document);
  await keepVersion(db, itemId, before?.document ?? null, document, personId, now, change.isReplacing);
  return saved.version;
}
