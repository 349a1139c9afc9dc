import { createHash } from 'node:crypto';
import { maybe, run, type Db } from './database.ts';
import { AppError } from './errors.ts';

/** Wrong tries that cost no wait, the first wait after them, and the longest: it doubles in between. */
const [FREE, FIRST_MS, LONGEST_MS] = [4, 5_000, 15 * 60_000];

const DAY = 86_400_000;

/** How long nobody may try again after so many wrong tries in a row, a day apart at most. */
export const waitAfter = (many: number): number => (many <= FREE ? 0 : Math.min(LONGEST_MS, FIRST_MS * 2 ** (many - FREE - 1)));

/** What is tried, as it stands in the database: nobody who reads that learns an email or a code from it. */
export const hashOf = (what: readonly string[]): Buffer => createHash('sha256').update(JSON.stringify(what)).digest();

/** A wait in words. Example: `Wait 40 seconds and try again.` */
export function waitInWords(ms: number): string {
  const seconds = Math.ceil(ms / 1000);
  const [many, word] = seconds < 120 ? [seconds, 'second'] : [Math.ceil(seconds / 60), 'minute'];
  return `Wait ${many} ${word}${many === 1 ? '' : 's'} and try again.`;
}

/**
 * Refuses a try at a secret while its wait is not over. `what` names who tries at what, and tries of the same are made one after another: a
 * hundred at once are no way round the wait.
 */
export async function requireNoWait(db: Db, what: readonly string[], now: number): Promise<void> {
  const hash = hashOf(what);
  await db.query("select pg_advisory_xact_lock(hashtextextended(encode($1::bytea, 'hex'), 0))", [hash]);
  const row = await maybe<{ wait_until: Date | null }>(db, 'select wait_until from wrong_try where what = $1', [hash]);
  const left = (row?.wait_until?.getTime() ?? 0) - now;
  if (left > 0) throw new AppError('too-many', `That was wrong too often. ${waitInWords(left)}`);
}

/** Counts a wrong try. Gives how many there were in a row; what is counted must outlive the refusal, so that is answered as a value. */
export async function noteWrong(db: Db, what: readonly string[], now: number): Promise<number> {
  const hash = hashOf(what);
  const row = await maybe<{ many: number }>(
    db,
    `insert into wrong_try as t (what, many, last_at) values ($1, 1, to_timestamp($2 / 1000.0))
     on conflict (what) do update set many = case when t.last_at < to_timestamp($3 / 1000.0) then 1 else t.many + 1 end, last_at = excluded.last_at returning many`,
    [hash, now, now - DAY],
  );
  const many = row?.many ?? 1;
  await run(db, 'update wrong_try set wait_until = to_timestamp($2 / 1000.0) where what = $1', [hash, now + waitAfter(many)]);
  await run(db, 'delete from wrong_try where last_at < to_timestamp($1 / 1000.0)', [now - DAY]);
  return many;
}

export const forgetWrong = (db: Db, what: readonly string[]): Promise<number> =>
  run(db, 'delete from wrong_try where what = $1', [hashOf(what)]);
