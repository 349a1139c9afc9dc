import { PEER_BEGINS, PEER_PROMPT, type DocumentNode, type PeerChoices } from '@rosemary/core';
import { type Db, maybe, rows } from '../platform/database.ts';
import { millis } from '../platform/instants.ts';

/** What is set of the peer review of an item. Instants in milliseconds since 1970. */
export interface Peer extends PeerChoices {
  readonly isOn: boolean;
  readonly prompt: DocumentNode;
  readonly rubricId: string | null;
  readonly groupSetId: string | null;
  readonly reviewsOpenAt: number | null;
  readonly reviewsDueAt: number | null;
  readonly drawAt: number | null;
  readonly resultsAt: number | null;
  readonly revisionDueAt: number | null;
  /** What the teacher says to everybody at the end. */
  readonly closing: DocumentNode | null;
  readonly closingVersion: number;
  readonly drawnAt: number | null;
  readonly resultsOutAt: number | null;
  readonly veilKey: string;
  readonly version: number;
}

/** The columns of the table that are choices, by the names they have elsewhere. */
export const CHOICE_COLUMNS: { readonly [choice in keyof PeerChoices]: string } = {
  reviewsPerWork: 'reviews_per_work',
  reviewsPerStudent: 'reviews_per_student',
  ownWork: 'own_work',
  showsAuthors: 'shows_authors',
  showsReviewers: 'shows_reviewers',
  needsOwnWork: 'needs_own_work',
  among: 'among',
  reviewsOpen: 'reviews_open',
  drawing: 'drawing',
  fitsLateWorks: 'fits_late_works',
  takesLateReviews: 'takes_late_reviews',
  leastWords: 'least_words',
  workFrom: 'work_from',
  teacherCounts: 'teacher_counts',
  teacherWeight: 'teacher_weight',
  reviewingFrom: 'reviewing_from',
  strictness: 'strictness',
  samples: 'samples',
};
export const CHOICES = Object.keys(CHOICE_COLUMNS) as readonly (keyof PeerChoices)[];

interface PeerRow {
  is_on: boolean;
  prompt: DocumentNode;
  rubric_id: string | null;
  group_set_id: string | null;
  reviews_open_at: Date | null;
  reviews_due_at: Date | null;
  draw_at: Date | null;
  results_at: Date | null;
  revision_due_at: Date | null;
  closing: DocumentNode | null;
  closing_version: number;
  drawn_at: Date | null;
  results_out_at: Date | null;
  veil_key: string;
  version: number;
  choices: PeerChoices;
}

/** The choices as one object, in SQL. */
export const AS_CHOICES = `json_build_object(${CHOICES.map((c) => `'${c}', ${CHOICE_COLUMNS[c]}`).join(', ')}) as choices`;

/** The peer review of an item as it was set, also where it is switched off; null where none was ever set. */
export async function findPeer(db: Db, itemId: string, forUpdate = false): Promise<Peer | null> {
  const row = await maybe<PeerRow>(
    db,
    `select is_on, prompt, rubric_id, group_set_id, reviews_open_at, reviews_due_at, draw_at, results_at, revision_due_at, closing, closing_version, drawn_at, results_out_at, veil_key, version, ${AS_CHOICES}
     from peer_setting where item_id = $1 ${forUpdate ? 'for update' : ''}`,
    [itemId],
  );
  if (row === null) return null;
  return {
    ...row.choices,
    ...{ isOn: row.is_on, prompt: row.prompt, rubricId: row.rubric_id, groupSetId: row.group_set_id },
    ...{ reviewsOpenAt: millis(row.reviews_open_at), reviewsDueAt: millis(row.reviews_due_at), drawAt: millis(row.draw_at) },
    ...{ resultsAt: millis(row.results_at), drawnAt: millis(row.drawn_at), resultsOutAt: millis(row.results_out_at) },
    ...{ revisionDueAt: millis(row.revision_due_at), closing: row.closing, closingVersion: row.closing_version },
    ...{ veilKey: row.veil_key, version: row.version },
  };
}

const paragraph = (text: string): DocumentNode => ({ type: 'paragraph', content: [{ type: 'text', text }] });
const FIRST_PROMPT: DocumentNode = {
  type: 'doc',
  content: [
    paragraph(PEER_PROMPT.opening),
    { type: 'bulletList', content: PEER_PROMPT.questions.map((q) => ({ type: 'listItem', content: [paragraph(q)] })) },
  ],
};

/** What a peer review begins with, before anything of it is set. */
export const NEW_PEER: Omit<Peer, 'veilKey'> = {
  ...PEER_BEGINS,
  isOn: false,
  prompt: FIRST_PROMPT,
  ...{ rubricId: null, groupSetId: null, reviewsOpenAt: null, reviewsDueAt: null, drawAt: null, resultsAt: null },
  ...{ revisionDueAt: null, closing: null, closingVersion: 1 },
  ...{ drawnAt: null, resultsOutAt: null, version: 0 },
};

/** The items of a course whose results come from the reviews of students, so that no work of them waits for a marker. */
export const listMarkedByPeers = async (db: Db, courseId: string): Promise<ReadonlySet<string>> =>
  new Set(
    (
      await rows<{ id: string }>(
        db,
        "select p.item_id as id from peer_setting p join item i on i.id = p.item_id where i.course_id = $1 and p.is_on and p.work_from <> 'teacher'",
        [courseId],
      )
    ).map((row) => row.id),
  );
