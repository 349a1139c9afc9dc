import { createHash } from 'node:crypto';
import pg from 'pg';
import { takeChangedRows } from './changedRows.ts';

export type Db = pg.ClientBase;
export type Pool = pg.Pool;

// Calendar dates stay text and big integers stay text: neither passes through a binary float or a time zone.
pg.types.setTypeParser(pg.types.builtins.DATE, (text) => text);
pg.types.setTypeParser(pg.types.builtins.INT8, (text) => text);

// A crowd that hands in at the same minute waits its turn; a database that is away refuses at once, and is told so at once.
const WAIT_MS = 20_000;

/**
 * No statement, no wait for somebody else's lock and no pause within a transaction lasts for ever: what is beyond these is taken back, and
 * whoever waited for it goes on.
 */
const LIMITS = { statement_timeout: 60_000, lock_timeout: 15_000, idle_in_transaction_session_timeout: 60_000 } as const;

export function makePool(databaseUrl: string, most = 20): Pool {
  const pool = new pg.Pool({
    connectionString: databaseUrl,
    max: most,
    connectionTimeoutMillis: WAIT_MS,
    idleTimeoutMillis: 30_000,
    // What is asked together is sent together: a page of many small reads waits once for the way there and back, not once for each.
    pipeline: true,
    ...LIMITS,
  });
  // An idle connection that breaks must not end the process: the next request finds out and says so.
  pool.on('error', () => undefined);
  // Nor one that breaks while somebody holds it between two statements: their next statement finds out.
  pool.on('connect', (client) => client.on('error', () => undefined));
  return pool;
}

/**
 * Runs work on one connection, in a transaction when it writes; any error takes everything back. `now` is the time by the clock of the school,
 * for what the database itself notes of a change.
 */
export async function withDb<T>(pool: Pool, writes: boolean, work: (db: Db) => Promise<T>, now?: number): Promise<T> {
  const db = await pool.connect();
  let isBroken = false;
  try {
    if (!writes) return await work(db);
    // What a transaction before this one noted on the same connection is not of this one.
    takeChangedRows(db);
    await Promise.all([
      db.query('begin'),
      ...(now === undefined ? [] : [db.query("select set_config('rosemary.now', $1, true)", [String(now)])]),
    ]);
    const result = await work(db);
    // A transaction in which something failed unseen ends with a rollback, and says so in no other way: nothing may be acknowledged then.
    const { command } = await db.query('commit');
    if (command !== 'COMMIT') throw new Error('The transaction was rolled back at its end: something in it failed and was passed over.');
    return result;
  } catch (error) {
    if (writes)
      await db.query('rollback').catch(() => {
        isBroken = true;
      });
    throw error;
  } finally {
    db.release(isBroken);
  }
}

/** All rows, mapped. */
export async function rows<R extends pg.QueryResultRow>(db: Db, sql: string, values: readonly unknown[] = []): Promise<R[]> {
  return (await db.query<R>(sql, values as unknown[])).rows;
}

const names = new Map<string, string>();

function nameOf(sql: string): string {
  const name = names.get(sql) ?? createHash('sha256').update(sql).digest('hex').slice(0, 24);
  names.set(sql, name);
  return name;
}

/**
 * The same for what is asked very often: each connection reads and plans the statement once. For a text that never changes, and whose best
 * way does not depend on its values: a plan is kept for all of them.
 */
export async function often<R extends pg.QueryResultRow>(db: Db, sql: string, values: readonly unknown[] = []): Promise<R[]> {
  return (await db.query<R>({ name: nameOf(sql), text: sql, values: values as unknown[] })).rows;
}

/** The only row, or null. */
export async function maybe<R extends pg.QueryResultRow>(db: Db, sql: string, values: readonly unknown[] = []): Promise<R | null> {
  return (await rows<R>(db, sql, values))[0] ?? null;
}

export async function run(db: Db, sql: string, values: readonly unknown[] = []): Promise<number> {
  return (await db.query(sql, values as unknown[])).rowCount ?? 0;
}

/** Does one piece of work on a connection, which is given back after it. */
export type Read = <T>(work: (db: Db) => Promise<T>) => Promise<T>;
