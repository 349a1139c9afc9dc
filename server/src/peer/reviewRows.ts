import type { ReviewContent, RubricView } from '@rosemary/api';
import { type Db, maybe, rows } from '../platform/database.ts';
import { millis } from '../platform/instants.ts';

/** A review as it stands in the database. Instants in milliseconds since 1970. */
export interface ReviewRow extends ReviewContent {
  readonly id: string;
  readonly role: 'peer' | 'self' | 'teacher';
  readonly workId: string;
  readonly enrolmentId: string | null;
  readonly origin: 'drawn' | 'hand' | 'own';
  readonly drawId: string | null;
  readonly madeAt: number;
  readonly seconds: number;
  readonly savedAt: number | null;
  readonly handedInAt: number | null;
  readonly form: RubricView | null;
  readonly attemptId: string | null;
  readonly version: number;
  readonly setAsideAt: number | null;
  readonly setAsideWhy: string;
  readonly keepsCredit: boolean;
  /** Criteria whose words the author took up. */
  readonly answered: readonly string[];
  readonly answer: string;
  readonly isThanked: boolean;
  readonly reportedWhy: string;
  readonly answerVersion: number;
}

interface Row {
  id: string;
  role: ReviewRow['role'];
  submission_id: string;
  enrolment_id: string | null;
  origin: ReviewRow['origin'];
  draw_id: string | null;
  made_at: Date;
  choices: Record<string, string>;
  given: Record<string, number>;
  comments: Record<string, string>;
  words: string;
  seconds: number;
  saved_at: Date | null;
  handed_in_at: Date | null;
  form: RubricView | null;
  attempt_id: string | null;
  version: number;
  set_aside_at: Date | null;
  set_aside_why: string;
  keeps_credit: boolean;
  answered: Record<string, true>;
  answer: string;
  is_thanked: boolean;
  reported_why: string;
  answer_version: number;
}

const COLUMNS = `r.id, r.role, r.submission_id, r.enrolment_id, r.origin, r.draw_id, r.made_at, r.choices, r.given, r.comments, r.words, r.seconds, r.saved_at, r.handed_in_at,
  r.form, r.attempt_id, r.version, r.set_aside_at, r.set_aside_why, r.keeps_credit, r.answered, r.answer, r.is_thanked, r.reported_why, r.answer_version`;

const toReview = (row: Row): ReviewRow => ({
  ...{ id: row.id, role: row.role, workId: row.submission_id, enrolmentId: row.enrolment_id, origin: row.origin, drawId: row.draw_id },
  ...{ madeAt: row.made_at.getTime(), choices: row.choices, given: row.given, comments: row.comments, words: row.words },
  ...{
    seconds: row.seconds,
    savedAt: millis(row.saved_at),
    handedInAt: millis(row.handed_in_at),
    form: row.form,
    attemptId: row.attempt_id,
  },
  ...{ version: row.version, setAsideAt: millis(row.set_aside_at), setAsideWhy: row.set_aside_why, keepsCredit: row.keeps_credit },
  answered: Object.keys(row.answered),
  ...{ answer: row.answer, isThanked: row.is_thanked, reportedWhy: row.reported_why, answerVersion: row.answer_version },
});

/** The reviews of an item that stand: none that was taken from its reviewer again. */
export async function listReviews(db: Db, itemId: string): Promise<ReviewRow[]> {
  const found = await rows<Row & Record<string, unknown>>(
    db,
    `select ${COLUMNS} from review r where r.item_id = $1 and r.dropped_at is null order by r.id`,
    [itemId],
  );
  return found.map(toReview);
}

/** The reviews that one student is to give, in an order that says nothing of when they were drawn. */
export async function listReviewsOf(db: Db, itemId: string, enrolmentId: string): Promise<ReviewRow[]> {
  const found = await rows<Row & Record<string, unknown>>(
    db,
    `select ${COLUMNS} from review r where r.item_id = $1 and r.enrolment_id = $2 and r.dropped_at is null order by r.role, md5(r.id::text)`,
    [itemId, enrolmentId],
  );
  return found.map(toReview);
}

/** One review of an item by its identifier, locked where it is to be changed; null where there is none or it was taken back. */
export async function findReview(db: Db, itemId: string, reviewId: string, forUpdate = false): Promise<ReviewRow | null> {
  const row = await maybe<Row & Record<string, unknown>>(
    db,
    `select ${COLUMNS} from review r where r.item_id = $1 and r.id = $2 and r.dropped_at is null ${forUpdate ? 'for update' : ''}`,
    [itemId, reviewId],
  );
  return row === null ? null : toReview(row);
}

/** The reviews of a work that its authors read: handed in, not set aside, and of those one’s own only by oneself. Their order says nothing of when. */
export async function listReceived(db: Db, submissionIds: readonly string[], enrolmentId: string): Promise<ReviewRow[]> {
  const found = await rows<Row & Record<string, unknown>>(
    db,
    `select ${COLUMNS} from review r where r.submission_id = any($1) and r.dropped_at is null and r.handed_in_at is not null and r.set_aside_at is null
       and (r.role <> 'self' or r.enrolment_id = $2) order by md5(r.id::text)`,
    [submissionIds, enrolmentId],
  );
  return found.map(toReview);
}
