import { emptyDocument } from '@rosemary/api';
import type { DocumentNode } from '@rosemary/core';
import { columnsOf, listTextsToCopy, putBeforeText, textIn } from '../../items/index.ts';
import { rows, run } from '../../platform/database.ts';
import { type ServedKind, takesAnyChange } from '../servedKind.ts';
import { PARTS } from './parts.ts';
import { saveDiscussion } from './saveDiscussion.ts';

export const discussion: ServedKind = {
  parts: PARTS,
  putFirst: putBeforeText('discussion', 'document'),
  text: textIn('discussion', 'document'),
  insert: async (db, itemIds) => {
    await run(db, 'insert into discussion (item_id, document) select unnest($1::uuid[]), $2::jsonb', [itemIds, emptyDocument]);
  },
  /** What is asked comes along, without what was answered. */
  copy: async ({ db, copies, isWithinCourse, moved }) => {
    const texts = await listTextsToCopy(db, 'discussion', 'document', copies);
    const others = PARTS.discussion.copied.filter((column) => column !== 'document');
    const columns = columnsOf({ ...PARTS.discussion, copied: others }, isWithinCourse);
    await run(
      db,
      `insert into discussion (item_id, document, ${columns.names}) select t.made, t.document, ${columns.from('d')}
       from unnest($1::uuid[], $2::uuid[], $3::jsonb[]) as t(old, made, document) join discussion d on d.item_id = t.old`,
      [texts.map((t) => t.old), texts.map((t) => t.made), texts.map((t) => JSON.stringify(moved(t.document)))],
    );
  },
  detail: () => Promise.resolve({}),
  checkChange: takesAnyChange,
  readOut: async (db, itemIds) => {
    const found = await rows<{ item_id: string; document: DocumentNode; isPostFirst: boolean }>(
      db,
      'select item_id, document, is_post_first as "isPostFirst" from discussion where item_id = any($1)',
      [itemIds],
    );
    return { items: new Map(found.map(({ item_id, ...own }) => [item_id, { discussion: own }])) };
  },
  bring: async ({ db, courseId, itemId, actor, now, moved }, { discussion: own }) => {
    if (own === null) return;
    const change = { document: moved(own.document), isPostFirst: own.isPostFirst, version: 1 };
    await saveDiscussion(db, courseId, itemId, change, actor.personId, now);
  },
};
