import { OWN_KEY, VERSION, type PartsOfItem } from '../../items/index.ts';

/** The rows of its own that a page consists of. */
export const PARTS = {
  page: { copied: ['document'], ofCourse: [], left: { item_id: OWN_KEY, version: VERSION, search: 'made from the document' } },
} as const satisfies PartsOfItem;
