import { OWN_KEY, type PartsOfItem, VERSION } from '../items/index.ts';

const BY_NEW_FORM = 'said by the criteria of the copied form';

/** The rows that the peer review of an item consists of. Its dates come along where an item’s own do. */
export const PEER_PARTS = {
  peer_setting: {
    copied: [
      ...['is_on', 'reviews_per_work', 'reviews_per_student', 'own_work', 'shows_authors', 'shows_reviewers', 'needs_own_work'],
      ...['reviews_open', 'drawing', 'fits_late_works', 'takes_late_reviews', 'least_words', 'work_from'],
      ...['teacher_counts', 'teacher_weight', 'reviewing_from', 'strictness', 'samples'],
    ],
    ofCourse: ['group_set_id', 'among', 'reviews_open_at', 'reviews_due_at', 'draw_at', 'results_at', 'revision_due_at'],
    left: {
      item_id: OWN_KEY,
      prompt: 'its links and pictures find their new places',
      rubric_id: 'the form is copied with it',
      drawn_at: 'nothing is drawn for a copy yet',
      fitted_at: 'nothing is drawn for a copy yet',
      results_out_at: 'a copy has no results',
      closing: 'it is said to the students who were there',
      closing_version: 'it is said to the students who were there',
      veil_key: 'every item has its own, or works of two could be told apart',
      version: VERSION,
    },
  },
  peer_sample: {
    copied: ['title', 'made_at', 'words', 'taken_from', 'leave'],
    ofCourse: [],
    left: {
      id: OWN_KEY,
      item_id: OWN_KEY,
      document: 'its links and pictures find their new places',
      ...{ choices: BY_NEW_FORM, given: BY_NEW_FORM, comments: BY_NEW_FORM },
      removed_at: 'what is deleted is not copied',
      version: VERSION,
    },
  },
} as const satisfies PartsOfItem;
