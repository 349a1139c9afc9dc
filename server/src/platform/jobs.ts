import type { Logger } from 'pino';
import PgBoss from 'pg-boss';
import type { Clock } from './clock.ts';
import { rows, run, withDb, type Db, type Pool } from './database.ts';
import { isDatabaseAway } from './errors.ts';

/** The jobs there are, and what a piece of each does, for whoever reads that one failed. A feature asks for one of its own by name. */
export const JOB_WORDS = {
  'release-marks': 'Releasing the marks of an item',
  'tell-announcements': 'Telling of an announcement',
  'keep-links': 'Keeping a copy of a link that was handed in',
  'hand-in-quizzes': 'Handing in an attempt whose time is over',
  'mark-again': 'Marking attempts again after a key was corrected',
  'follow-results': 'Doing what follows from a result',
  'match-texts': 'Comparing the texts of an item',
  'tidy-files': 'Clearing away what nobody uses',
  'check-keys': 'Checking the keys of a folder of questions',
  'check-ledger': 'Comparing the ledger with the grades',
  'hand-over': 'Handing final grades to the registrar',
  'forget-activity': 'Forgetting activity older than the school keeps it',
  'draw-reviewers': 'Giving out works to be reviewed',
  'give-peer-results': 'Giving out the results of a peer review',
} as const;
export type JobName = keyof typeof JOB_WORDS;

/** What a piece of work reaches the database with: nothing that waits on a network stands within either. */
export interface Work {
  readonly read: <T>(work: (db: Db) => Promise<T>) => Promise<T>;
  readonly write: <T>(work: (db: Db) => Promise<T>) => Promise<T>;
}

type Named = Pick<Pieces<{ id: string }>, 'name' | 'isRisky'>;

/** How a job is made of pieces: what is due, and how one of it is done. Doing a piece twice must do nothing twice. */
interface Pieces<P extends { readonly id: string }> {
  readonly name: JobName;
  readonly due: (db: Db, now: number) => Promise<readonly P[]>;
  readonly one: (work: Work, piece: P, now: number) => Promise<unknown>;
  /**
   * Opens or fetches what somebody outside chose. A try counts when it is begun, so that one which ends the server itself is not begun for
   * ever; after the third the piece is set aside.
   */
  readonly isRisky?: true;
}

export interface Done {
  readonly done: number;
  readonly failed: number;
}

/** Work that is done every minute, piece by piece. */
export interface Job {
  readonly name: JobName;
  /** Once `ending` is told, the piece that is being done is the last. */
  readonly run: (pool: Pool, log: Logger, now: number, ending?: AbortSignal) => Promise<Done>;
}

/** A job whose pieces read, let go of the database, ask elsewhere, and write. */
export const jobInSteps = <P extends { readonly id: string }>(pieces: Pieces<P>): Job => ({
  name: pieces.name,
  run: (pool, log, now, ending) => runPieces(pool, log, pieces, now, ending),
});

/** A job whose pieces are each one transaction. */
export const jobOf = <P extends { readonly id: string }>(
  pieces: Omit<Pieces<P>, 'one'> & { readonly one: (db: Db, piece: P, now: number) => Promise<unknown> },
): Job => jobInSteps<P>({ ...pieces, one: (work, piece, now) => work.write((db) => pieces.one(db, piece, now)) });

const MINUTE = 60_000;
const LONGEST_PAUSE = 24 * 60 * MINUTE;
/** The pause before a piece is tried again: a minute, then twice as long each time, a day at most. */
export const pauseAfter = (tries: number): number => Math.min(LONGEST_PAUSE, MINUTE * 2 ** Math.min(tries - 1, 20));

const MOST_RISKY_TRIES = 3;

const BROKE_OFF = 'It is running now, or the server ended while it ran.';

const nextTry = (isRisky: boolean, tries: number, now: number): number | null =>
  isRisky && tries >= MOST_RISKY_TRIES ? null : now + pauseAfter(tries);

async function noteFailure(db: Db, { name: job, isRisky }: Named, piece: string, reason: string, now: number): Promise<number> {
  const [row] = await rows<{ tries: number }>(
    db,
    `insert into job_failure as f (job, piece, reason, first_at, last_at, next_at) values ($1, $2, $3, to_timestamp($4 / 1000.0), to_timestamp($4 / 1000.0), to_timestamp($5 / 1000.0))
     on conflict (job, piece) do update set tries = f.tries + 1, reason = excluded.reason, last_at = excluded.last_at returning tries`,
    [job, piece, reason, now, now + pauseAfter(1)],
  );
  const tries = row?.tries ?? 1;
  await run(db, 'update job_failure set next_at = to_timestamp($3 / 1000.0) where job = $1 and piece = $2', [
    job,
    piece,
    nextTry(isRisky === true, tries, now),
  ]);
  return tries;
}

/** Does one piece and keeps account of it. Gives whether it was done. */
async function tryPiece<P extends { readonly id: string }>(
  guard: Db,
  log: Logger,
  job: Pieces<P>,
  work: Work,
  piece: P,
  failedBefore: boolean,
  now: number,
): Promise<boolean> {
  const counted = job.isRisky === true ? await noteFailure(guard, job, piece.id, BROKE_OFF, now) : null;
  const forget = (): Promise<number> => run(guard, 'delete from job_failure where job = $1 and piece = $2', [job.name, piece.id]);
  try {
    await job.one(work, piece, now);
    if (failedBefore || counted !== null) await forget();
    return true;
  } catch (error) {
    // A database that is away is nobody's fault here: the next minute tries again.
    if (isDatabaseAway(error)) throw error;
    const reason = (error instanceof Error ? error.message : String(error)).slice(0, 500);
    const tries = counted ?? (await noteFailure(guard, job, piece.id, reason, now));
    if (counted !== null)
      await run(guard, 'update job_failure set reason = $3 where job = $1 and piece = $2', [job.name, piece.id, reason]);
    log.error({ err: error, job: job.name, piece: piece.id, tries }, 'a piece of a job failed');
    return false;
  }
}

/**
 * Does what is due of a job, each piece by itself: one that fails is logged, counted and left until its next try, and holds up no other.
 * Of several servers one does a job at a time.
 */
async function runPieces<P extends { readonly id: string }>(
  pool: Pool,
  log: Logger,
  job: Pieces<P>,
  now: number,
  ending?: AbortSignal,
): Promise<Done> {
  return withDb(pool, false, async (guard) => {
    const [lock] = await rows<{ ok: boolean }>(guard, 'select pg_try_advisory_lock(hashtextextended($1, 0)) as ok', [`job ${job.name}`]);
    if (lock?.ok !== true) return { done: 0, failed: 0 };
    try {
      const failures = await rows<{ piece: string; is_waiting: boolean }>(
        guard,
        'select piece, next_at is null or next_at > to_timestamp($2 / 1000.0) as is_waiting from job_failure where job = $1',
        [job.name, now],
      );
      const failedBefore = new Map(failures.map((f) => [f.piece, f.is_waiting]));
      const due = await job.due(guard, now);
      // What is no longer due has nothing left to be tried.
      const gone = [...failedBefore.keys()].filter((id) => !due.some((piece) => piece.id === id));
      if (gone.length > 0) await run(guard, 'delete from job_failure where job = $1 and piece = any($2)', [job.name, gone]);
      const work: Work = { read: (one) => withDb(pool, false, one), write: (one) => withDb(pool, true, one, now) };
      let [done, failed] = [0, 0];
      for (const piece of due.filter((one) => failedBefore.get(one.id) !== true)) {
        if (ending?.aborted === true) break;
        if (await tryPiece(guard, log, job, work, piece, failedBefore.has(piece.id), now)) done += 1;
        else failed += 1;
      }
      return { done, failed };
    } finally {
      await guard.query('select pg_advisory_unlock(hashtextextended($1, 0))', [`job ${job.name}`]);
    }
  });
}

/** The job queue lives in PostgreSQL, so that of several servers one does the work. */
export async function startJobs(
  databaseUrl: string,
  pool: Pool,
  clock: Clock,
  log: Logger,
  jobs: readonly Job[],
): Promise<{ stop: () => Promise<void>; kick: (name: JobName) => void }> {
  const boss = new PgBoss({
    connectionString: databaseUrl,
    schema: 'job',
    max: 3,
    application_name: 'rosemary-jobs',
  } as PgBoss.ConstructorOptions);
  boss.on('error', (error) => {
    if (!isDatabaseAway(error)) log.error({ err: error }, 'job queue');
  });
  await boss.start();
  const ending = new AbortController();
  const going = new Set<Promise<unknown>>();
  for (const job of jobs) {
    await boss.createQueue(job.name);
    await boss.schedule(job.name, '* * * * *');
    await boss.work(job.name, async () => {
      const running = job.run(pool, log, clock.now(), ending.signal);
      going.add(running);
      try {
        await running;
      } catch (error) {
        if (!isDatabaseAway(error)) log.error({ err: error, job: job.name }, 'a job failed');
        throw error;
      } finally {
        going.delete(running);
      }
    });
  }
  return {
    stop: async () => {
      ending.abort();
      await Promise.allSettled(going);
      await boss.stop({ graceful: false, wait: false });
    },
    // Done soon rather than with the minute; what is lost here is done with the minute.
    kick: (name) => {
      boss.send(name, {}).catch((error: unknown) => {
        if (!isDatabaseAway(error)) log.error({ err: error }, 'job queue');
      });
    },
  };
}
