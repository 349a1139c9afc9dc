import { checkDocument, type DiscussionChange, type TextSaved } from '@rosemary/api';
import type { DocumentNode } from '@rosemary/core';
import { findEdited, getPlanItem, takeText } from '../../items/index.ts';
import { type Db, maybe } from '../../platform/database.ts';
import { conflict, invalid, notFound } from '../../platform/errors.ts';

export interface DiscussionRow {
  document: DocumentNode;
  is_post_first: boolean;
  is_closed: boolean;
  version: number;
}

export async function saveDiscussion(
  db: Db,
  courseId: string,
  itemId: string,
  change: DiscussionChange,
  personId: string,
  now: number,
): Promise<TextSaved> {
  const item = await getPlanItem(db, courseId, itemId, now);
  if (change.document !== undefined) {
    const check = checkDocument(change.document);
    if (!check.ok) throw invalid('document', check.reason);
  }
  const current = await maybe<DiscussionRow>(
    db,
    'select document, is_post_first, is_closed, version from discussion where item_id = $1 for update',
    [itemId],
  );
  if (current === null) throw notFound();
  if (current.version !== change.version) throw conflict({ ...current, document: await findEdited(db, itemId, current.document) });
  const next = change.document === undefined ? undefined : await takeText(db, courseId, item, change.document, personId, now);
  const saved = await maybe<{ version: number }>(
    db,
    `
    update discussion set document = coalesce($2::jsonb, document), is_post_first = coalesce($3, is_post_first), is_closed = coalesce($4, is_closed), version = version + 1
    where item_id = $1 and version = $5 returning version`,
    [itemId, next === undefined ? null : JSON.stringify(next), change.isPostFirst ?? null, change.isClosed ?? null, change.version],
  );
  if (saved === null) throw conflict(current);
  return { version: saved.version, isWorking: change.document !== undefined && next === undefined };
}
