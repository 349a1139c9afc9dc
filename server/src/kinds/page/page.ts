import { emptyDocument } from '@rosemary/api';
import type { DocumentNode } from '@rosemary/core';
import { listTextsToCopy, putBeforeText } from '../../items/index.ts';
import { rows, run } from '../../platform/database.ts';
import { type ServedKind, takesAnyChange } from '../servedKind.ts';
import { findPage, PAGE_TEXT } from './findPage.ts';
import { PARTS } from './parts.ts';
import { savePage } from './savePage.ts';

interface Text {
  readonly item_id: string;
  readonly document: DocumentNode;
}

export const page: ServedKind = {
  parts: PARTS,
  putFirst: putBeforeText('page', 'document'),
  text: PAGE_TEXT,
  insert: async (db, itemIds) => {
    await run(db, 'insert into page (item_id, document) select unnest($1::uuid[]), $2::jsonb', [itemIds, emptyDocument]);
  },
  copy: async ({ db, copies, moved }) => {
    const texts = await listTextsToCopy(db, 'page', 'document', copies);
    await run(db, 'insert into page (item_id, document) select * from unnest($1::uuid[], $2::jsonb[])', [
      texts.map((t) => t.made),
      texts.map((t) => JSON.stringify(moved(t.document))),
    ]);
  },
  detail: async (db, itemId) => ({ page: await findPage(db, itemId) }),
  checkChange: takesAnyChange,
  readOut: async (db, itemIds) => {
    const texts = await rows<Text>(db, 'select item_id, document from page where item_id = any($1)', [itemIds]);
    return { items: new Map(texts.map((t) => [t.item_id, { page: t.document }])) };
  },
  bring: async ({ db, courseId, itemId, actor, now, moved }, item) => {
    if (item.page !== null) await savePage(db, courseId, itemId, { document: moved(item.page), version: 1 }, actor.personId, now);
  },
};
