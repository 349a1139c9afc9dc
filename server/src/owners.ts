/**
 * The floors of the server, each using only what is on it or below; which feature owns which table; and who else reads or writes one, with
 * the reason. Nothing runs from this list: a test holds the imports and the SQL of every feature against it, so that what is not written
 * here does not land, and a line that nothing needs any more is named.
 */

/** 0 platform, 1 spine, 2 rules, 3 what is built, 4 what is done, 5 what gathers. */
export const FLOORS: { readonly [feature: string]: number } = {
  platform: 0,
  term: 1,
  files: 1,
  notices: 1,
  roster: 1,
  course: 1,
  people: 1,
  groups: 1,
  paper: 1,
  bareFiles: 1,
  openFile: 2,
  anonymity: 2,
  opening: 2,
  gradebook: 2,
  sections: 2,
  items: 3,
  bank: 3,
  objectives: 3,
  rubric: 3,
  kinds: 3,
  plan: 3,
  bankSearch: 3,
  handIn: 4,
  shares: 4,
  marks: 4,
  markRelease: 4,
  matching: 4,
  marking: 4,
  offline: 4,
  quizTaking: 4,
  quizResults: 4,
  paperTest: 4,
  followUp: 4,
  announcements: 4,
  messages: 4,
  discussions: 4,
  desk: 5,
  find: 5,
  progress: 5,
  exchange: 5,
  calendar: 5,
  courseHome: 5,
  own: 5,
  fileReach: 5,
  school: 5,
  history: 5,
};

/** The tables of each feature. Only it writes them. */
export const TABLES: { readonly [feature: string]: readonly string[] } = {
  platform: ['audit', 'job_failure', 'kept_answer', 'migration', 'sign_in_count', 'wrong_try'],
  term: ['term', 'term_holiday'],
  files: ['file', 'file_blob', 'file_chunk', 'file_folder', 'file_past', 'tidied', 'upload', 'upload_part'],
  notices: ['notice', 'notice_choice', 'outbox'],
  roster: ['arrangement', 'assistant_section', 'enrolment', 'section_move'],
  course: ['course'],
  people: ['invitation', 'person', 'session'],
  groups: ['course_group', 'group_member', 'group_set'],
  sections: ['section', 'section_joining'],
  opening: ['audience', 'date_variant', 'hand_opening', 'opening_rule'],
  gradebook: [
    'category',
    'category_late',
    'cell_words',
    'column_curve',
    'column_late',
    'event_reason',
    'grade',
    'grade_column',
    'grade_event',
    'grading_period',
    'grading_policy',
    'scheme',
    'scheme_level',
  ],
  items: ['item_file'],
  bank: [
    'bank_course',
    'bank_folder',
    'bank_share',
    'question',
    'question_file',
    'question_objective',
    'question_tag',
    'question_version',
    'stimulus',
  ],
  objectives: ['objective', 'objective_use'],
  rubric: ['kept_rubric', 'rubric', 'rubric_criterion', 'rubric_level'],
  'kinds/page': ['page', 'page_template', 'page_version'],
  'kinds/link': ['item_link'],
  'kinds/file': ['item_shown_file'],
  'kinds/discussion': ['discussion'],
  'kinds/assignment': ['assignment'],
  'kinds/quiz': ['quiz', 'quiz_part', 'quiz_section', 'quiz_share'],
  plan: ['item', 'unit', 'unit_item'],
  handIn: [
    'attempt',
    'attempt_file',
    'link_copy',
    'replaced_draft',
    'revision',
    'submission',
    'submission_draft_file',
    'withdrawn_attempt',
  ],
  shares: ['marking_share'],
  marks: ['attempt_mark', 'feedback_file', 'finished_mark', 'margin_note', 'mark', 'remark', 'work_word', 'work_word_read'],
  matching: ['match_result', 'match_run', 'match_setting', 'match_source'],
  quizTaking: ['quiz_answer', 'quiz_answer_event', 'quiz_attempt', 'quiz_attempt_event', 'quiz_leave', 'quiz_score'],
  quizResults: ['question_share', 'quiz_correction'],
  paperTest: ['paper_answer', 'paper_form', 'paper_scan', 'paper_sheet', 'paper_test'],
  followUp: ['follow_done', 'follow_rule'],
  announcements: ['announcement', 'announcement_read', 'announcement_section'],
  messages: ['conversation', 'conversation_person', 'message'],
  discussions: ['post', 'post_read'],
  desk: ['slip_choice'],
  calendar: ['calendar_feed'],
  courseHome: ['course_programme'],
  own: ['tick', 'visit'],
  school: ['school'],
};

/** Views stand for the tables they read. */
export const VIEWS: { readonly [view: string]: readonly string[] } = {
  graded_item: ['item', 'grade_column'],
  hand_in: ['attempt', 'submission', 'quiz_attempt'],
  work_grade: ['grade', 'grade_column'],
};

/** Tables of the spine: whoever is above may read who is who, where and when. */
export const SPINE: readonly string[] = [
  'school',
  'session',
  'term',
  'term_holiday',
  'person',
  'course',
  'section',
  'section_move',
  'section_joining',
  'enrolment',
  'arrangement',
  'assistant_section',
  'course_group',
  'group_set',
  'group_member',
  'file',
  'file_blob',
  'notice',
  'notice_choice',
];

interface Exception {
  readonly why: string;
  readonly tables: readonly string[];
}
/** What a feature reads of tables that are another’s. */
export const READS: { readonly [feature: string]: Exception } = {
  anonymity: {
    why: 'whether names are hidden is a setting of the assignment, and ends with the release',
    tables: ['assignment', 'grade', 'grade_column', 'item'],
  },
  bank: {
    why: 'where a question is used and how it did when it was asked',
    tables: ['item', 'quiz_answer', 'quiz_attempt', 'quiz_part', 'quiz_score', 'quiz_section', 'quiz_share'],
  },
  bankSearch: {
    why: 'the quizzes that colleagues share',
    tables: ['item', 'question_file', 'quiz_share'],
  },
  desk: {
    why: 'gathers what waits in every course of a person in one reading',
    tables: ['item', 'unit', 'unit_item'],
  },
  discussions: {
    why: 'how a discussion is held is set with its item',
    tables: ['discussion'],
  },
  exchange: {
    why: 'gathers a whole course for its archive',
    tables: ['category', 'course_programme', 'item', 'match_setting', 'objective', 'objective_use', 'question_file', 'unit'],
  },
  history: {
    why: 'tells what was done in a course from the one account of every act',
    tables: ['audit'],
  },
  fileReach: {
    why: 'a file is reached through whatever shows it: one question over all of them',
    tables: [
      'attempt',
      'attempt_file',
      'feedback_file',
      'file_folder',
      'finished_mark',
      'grade',
      'grade_column',
      'item_file',
      'link_copy',
      'submission',
      'submission_draft_file',
    ],
  },
  files: {
    why: 'which items show a file',
    tables: ['item', 'item_file'],
  },
  find: {
    why: 'searches over titles and texts of every kind',
    tables: ['assignment', 'item', 'page', 'unit', 'unit_item'],
  },
  followUp: {
    why: 'a rule waits for a result and opens an item',
    tables: ['grade', 'grade_column', 'item', 'unit', 'unit_item'],
  },
  gradebook: {
    why: 'facts of a whole course in as few readings as it has parts',
    tables: ['assignment', 'attempt', 'attempt_mark', 'audit', 'item', 'post', 'quiz', 'quiz_attempt', 'submission', 'unit', 'unit_item'],
  },
  groups: {
    why: 'what of a set is in use, so that it is not taken from under it',
    tables: ['assignment', 'attempt', 'audience', 'date_variant', 'item', 'submission', 'unit'],
  },
  handIn: {
    why: 'what is handed in is asked of the assignment, and a mark keeps it from being taken back',
    tables: ['assignment', 'item', 'margin_note', 'mark'],
  },
  items: {
    why: 'an item is shown with whom it is for and when it opens',
    tables: [
      'assignment',
      'audience',
      'column_late',
      'date_variant',
      'grade_column',
      'hand_opening',
      'item',
      'opening_rule',
      'unit',
      'unit_item',
    ],
  },
  'kinds/assignment': {
    why: 'what was marked or handed in already keeps a setting as it is',
    tables: ['attempt', 'grade', 'grade_column', 'mark', 'rubric_criterion', 'rubric_level', 'submission'],
  },
  'kinds/page': {
    why: 'an older text begins when its item was made',
    tables: ['item'],
  },
  'kinds/quiz': {
    why: 'the questions of a paper stand in the bank; attempts that are running keep the paper as it is',
    tables: [
      'objective',
      'paper_test',
      'question',
      'question_file',
      'question_objective',
      'question_tag',
      'question_version',
      'quiz_attempt',
      'stimulus',
    ],
  },
  markRelease: {
    why: 'what is finished and not yet released',
    tables: ['attempt', 'grade', 'grade_column', 'grade_event', 'item', 'margin_note', 'mark', 'quiz', 'quiz_attempt', 'submission'],
  },
  marking: {
    why: 'the stack and the page of a work gather all that is known of it',
    tables: [
      'assignment',
      'attempt',
      'attempt_file',
      'grade',
      'grade_column',
      'item',
      'link_copy',
      'margin_note',
      'mark',
      'revision',
      'submission',
      'submission_draft_file',
      'unit',
      'work_word',
      'work_word_read',
    ],
  },
  marks: {
    why: 'a mark stands on the work it is of',
    tables: ['assignment', 'attempt', 'attempt_file', 'grade', 'grade_column', 'item', 'marking_share', 'revision', 'submission'],
  },
  matching: {
    why: 'texts that were handed in are compared',
    tables: ['assignment', 'attempt', 'attempt_file', 'item', 'submission'],
  },
  notices: {
    why: 'unread posts by item',
    tables: ['discussion', 'item', 'post', 'post_read'],
  },
  objectives: {
    why: 'what is aligned to an objective: items and the criteria of their rubrics',
    tables: ['assignment', 'item', 'rubric', 'rubric_criterion'],
  },
  offline: {
    why: 'works and results of a sheet for marking offline',
    tables: ['attempt', 'grade', 'grade_column', 'item', 'submission'],
  },
  opening: {
    why: 'who sees what when rests on the item, its unit, and what a student has done',
    tables: [
      'assignment',
      'attempt',
      'category',
      'grade',
      'grade_column',
      'grade_event',
      'item',
      'post',
      'quiz',
      'quiz_attempt',
      'revision',
      'submission',
      'tick',
      'unit',
      'unit_item',
      'visit',
    ],
  },
  own: {
    why: 'what a student has been given back',
    tables: ['grade', 'grade_column'],
  },
  paperTest: {
    why: 'a test on paper makes attempts',
    tables: ['quiz_attempt'],
  },
  plan: {
    why: 'the Plan shows what stands in its items, and keeps what has work',
    tables: ['assignment', 'category', 'grade', 'grade_column', 'page', 'rubric_criterion', 'rubric_level', 'submission', 'visit'],
  },
  progress: {
    why: 'how far everybody is, in one reading',
    tables: ['item', 'tick', 'unit', 'unit_item', 'visit'],
  },
  quizResults: {
    why: 'results are read from the attempts and the paper they were given',
    tables: [
      'item',
      'question',
      'question_version',
      'quiz_answer',
      'quiz_answer_event',
      'quiz_attempt',
      'quiz_attempt_event',
      'quiz_leave',
      'quiz_part',
      'quiz_score',
      'quiz_section',
    ],
  },
  quizTaking: {
    why: 'an attempt is begun by the setting of its quiz and scored with what was corrected',
    tables: ['grade', 'grade_column', 'grade_event', 'item', 'question_file', 'question_version', 'quiz', 'quiz_correction'],
  },
  rubric: {
    why: 'a rubric in use is found through its assignment',
    tables: ['assignment'],
  },
  shares: {
    why: 'works are shared out by item',
    tables: ['item'],
  },
};

/** What a feature writes into tables that are another’s. */
export const WRITES: { readonly [feature: string]: { readonly [table: string]: string } } = {
  gradebook: {
    unit: 'a category that is removed is no unit’s usual one',
  },
  handIn: {
    margin_note: 'work that is taken back takes along the notes nobody has read',
  },
  'kinds/quiz': {
    grade_column: 'the points of a quiz are those of its paper',
    item: 'whoever edits the item learns by its version that the points are others',
    quiz_attempt: 'a setting that is given to attempts that are running',
  },
  opening: {
    item: 'how many rules must hold is written with the rules, and whoever edits the item learns of it by its version',
  },
  paperTest: {
    quiz_answer: 'a sheet that was read is the answers of its attempt',
    quiz_answer_event: 'a sheet that was read is the answers of its attempt',
    quiz_attempt: 'a sheet that was read is an attempt',
    quiz_attempt_event: 'a sheet that was read is an attempt',
  },
  quizResults: {
    quiz_answer: 'staff take an answer that came late',
    quiz_attempt: 'staff open an attempt again or set it aside',
    quiz_attempt_event: 'staff open an attempt again or set it aside',
    quiz_score: 'staff give the score of an answer',
  },
  roster: {
    person: 'the sample student of a section is nobody else’s',
  },
  school: {
    course: 'lists of the registrar carry their own keys',
    enrolment: 'lists of the registrar withdraw and bring back',
    person: 'lists of the registrar carry their own keys',
    section: 'lists of the registrar carry their own keys',
    term: 'lists of the registrar carry their own keys',
  },
};
