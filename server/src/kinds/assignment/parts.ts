import { OWN_KEY, VERSION, type PartsOfItem } from '../../items/index.ts';

/** The rows of its own that an assignment consists of. */
export const PARTS = {
  assignment: {
    copied: [
      ...[
        'accepts_text',
        'accepts_files',
        'file_types',
        'most_files',
        'most_bytes',
        'attempts_allowed',
        'accepts_link',
        'accepts_recording',
      ],
      ...['on_paper', 'judged', 'counted', 'allows_withdrawal', 'markers'],
    ],
    ofCourse: ['group_set_id', 'anonymous', 'anonymous_until'],
    left: {
      item_id: OWN_KEY,
      instructions: 'its links and pictures find their new places',
      rubric_id: 'the rubric is copied with it',
      version: VERSION,
      search: 'made from the instructions',
      takes_work: 'worked out from the kinds of submission that are allowed',
      anonymous_key: 'every item has its own, or works of two could be told apart',
    },
  },
} as const satisfies PartsOfItem;
