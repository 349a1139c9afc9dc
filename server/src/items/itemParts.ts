import { COLUMN_PARTS } from '../gradebook/index.ts';

/** What becomes of the columns of a table where an item is copied. */
export interface PartOfItem {
  /** Comes along wherever the item goes. */
  readonly copied: readonly string[];
  /** Comes along within the same course: it names people, sections, categories or days of that course. */
  readonly ofCourse: readonly string[];
  /** Stays behind, or is made anew: with the reason. */
  readonly left: { readonly [column: string]: string };
}

export const OWN_KEY = 'the copy has its own';

export const VERSION = 'counted from the first again';

export interface PartsOfItem {
  readonly [table: string]: PartOfItem;
}

/**
 * What an item of any kind consists of: every table with a row or rows of its own, and every column of each. What a kind adds stands in its
 * folder. Duplicating, carrying forward and copying to another course take their columns from these lists; a test holds them against the
 * database, so that a new column is placed before it lands.
 */
export const COMMON_PARTS = {
  ...COLUMN_PARTS,
  item: {
    copied: [
      ...[
        'kind',
        'is_required',
        'estimated_minutes',
        'marking_minutes',
        'done_rule',
        'done_score',
        'is_staff_only',
        'opening_needs',
        'task_type_id',
        'next_note',
      ],
    ],
    ofCourse: ['announced_at', 'opens_at', 'due_at', 'closes_at', 'week', 'release_mode', 'release_at'],
    left: {
      id: OWN_KEY,
      course_id: 'the course it is copied to',
      title: 'says that it is a copy, within the same course',
      is_draft: 'a copy is a draft',
      off_was_draft: 'a copy is a draft that is on',
      removed_at: 'what is deleted is not copied',
      created_at: OWN_KEY,
      version: VERSION,
      source_item_id: 'the item it was carried from',
    },
  },
  item_file: { copied: ['file_id', 'part'], ofCourse: [], left: { item_id: OWN_KEY } },
  match_setting: {
    copied: ['looks_at_class', 'looks_at_earlier', 'looks_at_collection', 'leaves_quotations', 'shows_students', 'joins_collection'],
    ofCourse: [],
    left: { item_id: OWN_KEY, version: VERSION },
  },
  date_variant: {
    copied: [],
    ofCourse: ['section_id', 'enrolment_id', 'group_id', 'announced_at', 'opens_at', 'due_at', 'closes_at'],
    left: { id: OWN_KEY, item_id: OWN_KEY, move_id: 'a copy’s date is its own, however the first came about' },
  },
  review_date: {
    copied: [],
    ofCourse: ['section_id', 'enrolment_id', 'group_id', 'opens_at', 'due_at'],
    left: { id: OWN_KEY, item_id: OWN_KEY, move_id: 'a copy’s date is its own, however the first came about' },
  },
  audience: {
    copied: [],
    ofCourse: ['section_id', 'enrolment_id', 'group_id'],
    left: { id: OWN_KEY, item_id: OWN_KEY, unit_id: 'the audience of a unit is the unit’s' },
  },
  given_item: {
    copied: [],
    ofCourse: [],
    left: {
      item_id: OWN_KEY,
      giving_id: 'a copy of what was given is not given itself',
      of_item_id: 'a copy of what was given is not given itself',
      section_id: 'a copy of what was given is not given itself',
      announcement_id: 'a copy of what was given is not given itself',
    },
  },
  opening_rule: {
    copied: ['position', 'kind', 'at', 'other_item_id', 'least'],
    ofCourse: [],
    left: { item_id: OWN_KEY },
  },
  objective_use: {
    copied: ['objective_id'],
    ofCourse: [],
    left: { item_id: OWN_KEY, criterion_id: 'that of the copied criterion' },
  },
  working_copy: {
    copied: [],
    ofCourse: [],
    left: {
      item_id: OWN_KEY,
      document: 'is the text that the copy begins with',
      begun_at: 'the copy is a draft, which needs none',
      begun_by: 'the copy is a draft, which needs none',
      search: 'made from the document',
    },
  },
  unit_item: { copied: [], ofCourse: ['unit_id'], left: { item_id: OWN_KEY, position: 'after its original, or at the end' } },
} as const satisfies PartsOfItem;

/** Tables that point at an item and are no part of it: what people did with it, and what is made for one class. */
export const NOT_OF_ITEM: { readonly [table: string]: string } = {
  cell_words: 'words on the results of students',
  column_curve: 'a curve fits the results that it was made for',
  grade: 'grades',
  grade_event: 'grades',
  attempt_mark: 'marks',
  finished_mark: 'marks',
  follow_rule: 'acts on the people of one class, by whoever made it',
  hand_opening: 'opened by hand for people of one class',
  marking_share: 'work shared out among markers of one class',
  match_run: 'a look at works that were handed in',
  page_version: 'the versions of the page it is copied from',
  paper_answer: 'answers',
  paper_scan: 'scans',
  paper_sheet: 'sheets of one class',
  paper_form: 'forms that were printed for one class',
  paper_test: 'the printing of one class',
  post: 'posts',
  post_read: 'posts',
  review: 'reviews',
  peer_result: 'how the results of reviews came about',
  shown_work: 'works that are shown to their class',
  question_share: 'questions shared out among markers of one class',
  quiz_attempt: 'attempts',
  quiz_correction: 'corrections of what was taken',
  quiz_share: 'shared with colleagues by name',
  submission: 'works',
  tick: 'what students ticked',
  upload: 'files on their way',
  item_opened: 'visits',
  visit: 'visits',
};

/** The columns of a part that come along, within the same course or beyond it, as they stand in SQL. */
export function columnsOf(part: PartOfItem, isWithinCourse: boolean): { readonly names: string; readonly from: (alias: string) => string } {
  const names = [...part.copied, ...(isWithinCourse ? part.ofCourse : [])];
  return { names: names.join(', '), from: (alias) => names.map((column) => `${alias}.${column}`).join(', ') };
}
