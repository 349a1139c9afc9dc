import { type Db, maybe, rows } from '../platform/database.ts';
import { millis } from '../platform/instants.ts';

/** A work that can be reviewed: what its authors handed in last. It is known by the submission of whoever handed it in for them. */
export interface PeerWorkRow {
  readonly id: string;
  readonly authors: readonly string[];
  /** The submissions of all of them, by which reviews of an earlier hand-in still find the work. */
  readonly submissionIds: readonly string[];
  /** The attempt it stands in; null where it is no attempt: posts, or the answers of a quiz. */
  readonly attemptId: string | null;
  readonly handedInAt: number;
}

/** The works of an item, each once however many handed it in together; authors in a fixed order. */
export async function listPeerWorks(db: Db, itemId: string): Promise<PeerWorkRow[]> {
  const found = await rows<{ id: string; attempt_id: string | null; handed_in_at: Date; authors: string[]; submission_ids: string[] }>(
    db,
    `select w.work_id as id, w.attempt_id, w.handed_in_at, array_agg(w.enrolment_id order by w.enrolment_id) as authors, array_agg(w.own_id) as submission_ids
     from reviewed_work w where w.item_id = $1 group by w.work_id, w.attempt_id, w.handed_in_at order by w.handed_in_at, w.work_id`,
    [itemId],
  );
  return found.map((row) => ({
    ...{ id: row.id, attemptId: row.attempt_id, authors: row.authors },
    ...{ submissionIds: row.submission_ids, handedInAt: millis(row.handed_in_at) ?? 0 },
  }));
}

/** The work of one student: the submissions of all of its authors; null where nothing is handed in. */
export async function findOwnWork(
  db: Db,
  itemId: string,
  enrolmentId: string,
): Promise<{ readonly submissionIds: readonly string[] } | null> {
  const row = await maybe<{ ids: string[] | null }>(
    db,
    `select array_agg(m.own_id) as ids from reviewed_work own join reviewed_work m on m.item_id = own.item_id and m.work_id = own.work_id where own.item_id = $1 and own.enrolment_id = $2`,
    [itemId, enrolmentId],
  );
  const ids = row?.ids ?? null;
  return ids === null ? null : { submissionIds: ids };
}
