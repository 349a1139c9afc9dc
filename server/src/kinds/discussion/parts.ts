import { OWN_KEY, VERSION, type PartsOfItem } from '../../items/index.ts';

/** The rows of its own that a discussion consists of. */
export const PARTS = {
  discussion: {
    copied: ['document', 'is_post_first'],
    ofCourse: [],
    left: { item_id: OWN_KEY, is_closed: 'a talk that is over is begun again', version: VERSION },
  },
} as const satisfies PartsOfItem;
