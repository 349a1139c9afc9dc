import { OWN_KEY, VERSION, type PartsOfItem } from '../../items/index.ts';

/** The rows of its own that a link consists of. */
export const PARTS = {
  item_link: { copied: ['address', 'note'], ofCourse: [], left: { item_id: OWN_KEY, version: VERSION } },
} as const satisfies PartsOfItem;
