import { rows, run, type Db } from './database.ts';
import { JOB_WORDS, type JobName } from './jobs.ts';

export interface FailureRow {
  readonly job: JobName;
  readonly words: string;
  readonly piece: string;
  readonly tries: number;
  readonly reason: string;
  readonly firstAt: string;
  readonly lastAt: string;
  /** Null where it was tried often enough and is set aside. */
  readonly nextAt: string | null;
}

/** What failed of the background work and waits for its next try, the latest first. */
export async function listFailures(db: Db): Promise<FailureRow[]> {
  const found = await rows<{
    job: JobName;
    piece: string;
    tries: number;
    reason: string;
    first_at: Date;
    last_at: Date;
    next_at: Date | null;
  }>(db, 'select job, piece, tries, reason, first_at, last_at, next_at from job_failure order by last_at desc limit 200');
  return found.map((row) => ({
    job: row.job,
    words: JOB_WORDS[row.job],
    piece: row.piece,
    tries: row.tries,
    reason: row.reason,
    firstAt: row.first_at.toISOString(),
    lastAt: row.last_at.toISOString(),
    nextAt: row.next_at?.toISOString() ?? null,
  }));
}

/** Has a piece tried at the next opportunity rather than after its pause. False where it no longer waits. */
export const tryAgain = async (db: Db, job: string, piece: string, now: number): Promise<boolean> =>
  (await run(db, 'update job_failure set next_at = to_timestamp($3 / 1000.0) where job = $1 and piece = $2', [job, piece, now])) > 0;
