import { OWN_KEY, VERSION, type PartsOfItem } from '../../items/index.ts';

/** The rows of its own that a file consists of. */
export const PARTS = {
  item_shown_file: { copied: ['file_id', 'note'], ofCourse: [], left: { item_id: OWN_KEY, version: VERSION } },
} as const satisfies PartsOfItem;
