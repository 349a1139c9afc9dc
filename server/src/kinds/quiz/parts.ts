import { OWN_KEY, VERSION, type PartsOfItem } from '../../items/index.ts';

/** The rows of its own that a quiz consists of. */
export const PARTS = {
  quiz: {
    copied: [
      ...['taken', 'instructions', 'layout', 'may_go_back', 'shuffles_sections', 'shuffles_answers', 'limit_minutes', 'at_end'],
      ...['attempts_allowed', 'counted', 'retry_until', 'review', 'allows_calculator', 'records_leaving', 'discourages_copying'],
      ...['pass_points', 'merit_points', 'allowed_addresses'],
    ],
    ofCourse: [],
    left: { item_id: OWN_KEY, version: VERSION, access_code: 'a code is made for one room' },
  },
  quiz_section: {
    copied: ['position', 'title', 'instructions', 'is_shuffled'],
    ofCourse: [],
    left: { id: OWN_KEY, item_id: OWN_KEY },
  },
  quiz_part: {
    copied: ['position', 'question_id', 'points', 'floor', 'draw'],
    ofCourse: [],
    left: { id: OWN_KEY, section_id: OWN_KEY, question_version: 'the newest: nobody has taken the copy' },
  },
} as const satisfies PartsOfItem;
