import type { ArchiveItem } from '@rosemary/api';
import { copyParts, putBeforeNote } from '../../items/index.ts';
import { rows, run } from '../../platform/database.ts';
import { type ServedKind, takesAnyChange } from '../servedKind.ts';
import { PARTS } from './parts.ts';
import { findLink, saveLink } from './saveLink.ts';

export const link: ServedKind = {
  parts: PARTS,
  putFirst: putBeforeNote('item_link'),
  text: null,
  insert: async (db, itemIds) => {
    await run(db, 'insert into item_link (item_id) select unnest($1::uuid[])', [itemIds]);
  },
  copy: ({ db, copies, isWithinCourse }) => copyParts(db, PARTS, ['item_link'], copies, isWithinCourse),
  detail: async (db, itemId) => ({ link: await findLink(db, itemId) }),
  checkChange: takesAnyChange,
  readOut: async (db, itemIds) => {
    const found = await rows<NonNullable<ArchiveItem['link']> & { item_id: string }>(
      db,
      'select item_id, address, note from item_link where item_id = any($1)',
      [itemIds],
    );
    return { items: new Map(found.map(({ item_id, ...own }) => [item_id, { link: own }])) };
  },
  bring: async ({ db, courseId, itemId, now }, item) => {
    if (item.link !== null) await saveLink(db, courseId, itemId, { ...item.link, version: 1 }, now);
  },
};
