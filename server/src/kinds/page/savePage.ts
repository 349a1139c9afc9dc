import type { DocumentChange, TextSaved } from '@rosemary/api';
import { checked, findEdited, getPlanItem, takeText } from '../../items/index.ts';
import { listEmbedHosts } from '../../people/index.ts';
import type { Db } from '../../platform/database.ts';
import { conflict, notFound } from '../../platform/errors.ts';
import { findPage, PAGE_TEXT } from './findPage.ts';
import { keepVersion } from './versions.ts';

export async function savePage(
  db: Db,
  courseId: string,
  itemId: string,
  change: DocumentChange,
  personId: string,
  now: number,
): Promise<TextSaved> {
  const item = await getPlanItem(db, courseId, itemId, now);
  const before = await findPage(db, itemId);
  const document = checked(change.document, 'document', await listEmbedHosts(db));
  if (before === null) throw notFound();
  if (before.version !== change.version) throw conflict({ ...before, document: await findEdited(db, itemId, before.document) });
  const next = await takeText(db, courseId, item, document, personId, now);
  const version = await PAGE_TEXT.write(db, itemId, change.version, next);
  if (version === null) throw conflict(before);
  await keepVersion(db, itemId, before.document, document, personId, now, change.isReplacing);
  return { version, isWorking: next === undefined };
}
