import { checkDocument, type DiscussionChange } from '@rosemary/api';
import type { DocumentNode } from '@rosemary/core';
import { getPlanItem, keepItemFiles } from '../../items/index.ts';
import { type Db, maybe } from '../../platform/database.ts';
import { conflict, invalid, notFound } from '../../platform/errors.ts';

export interface DiscussionRow {
  document: DocumentNode;
  is_post_first: boolean;
  is_closed: boolean;
  version: number;
}

export async function saveDiscussion(db: Db, courseId: string, itemId: string, change: DiscussionChange, now: number): Promise<number> {
  await getPlanItem(db, courseId, itemId, now);
  if (change.document !== undefined) {
    const check = checkDocument(change.document);
    if (!check.ok) throw invalid('document', check.reason);
  }
  const saved = await maybe<{ version: number }>(
    db,
    `
    update discussion set document = coalesce($2::jsonb, document), is_post_first = coalesce($3, is_post_first), is_closed = coalesce($4, is_closed), version = version + 1
    where item_id = $1 and version = $5 returning version`,
    [
      itemId,
      change.document === undefined ? null : JSON.stringify(change.document),
      change.isPostFirst ?? null,
      change.isClosed ?? null,
      change.version,
    ],
  );
  if (saved !== null) {
    if (change.document !== undefined) await keepItemFiles(db, courseId, itemId, change.document);
    return saved.version;
  }
  const current = await maybe<DiscussionRow>(db, 'select document, is_post_first, is_closed, version from discussion where item_id = $1', [
    itemId,
  ]);
  throw current === null ? notFound() : conflict(current);
}
