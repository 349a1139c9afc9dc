import type { DocumentNode } from '@rosemary/core';
import { textIn } from '../../items/index.ts';
import { type Db, maybe } from '../../platform/database.ts';

export const PAGE_TEXT = textIn('page', 'document');

export async function findPage(db: Db, itemId: string): Promise<{ document: DocumentNode; version: number } | null> {
  return maybe(db, 'select document, version from page where item_id = $1', [itemId]);
}

/** The first of these items that is a page. */
export const findFirstPage = (db: Db, itemIds: readonly string[]): Promise<{ id: string; document: DocumentNode } | null> =>
  maybe(
    db,
    'select p.item_id as id, p.document from unnest($1::uuid[]) with ordinality as t(id, n) join page p on p.item_id = t.id order by t.n limit 1',
    [itemIds],
  );
