import type { ClientRateLimitInfo, Options, Store } from 'express-rate-limit';
import type { Pool } from 'pg';
import { withDb } from './database.ts';
import { hashOf } from './wrongTries.ts';

/** Counts of tries within a window of time, kept in the database: every server process that uses it counts the same tries. */
export class SharedCount implements Store {
  readonly localKeys = false;
  private windowMs = 60_000;
  private readonly pool: Pool;
  private readonly of: string;

  /** `of` names what is counted, so that two limits with the same key do not count together. */
  constructor(pool: Pool, of: string) {
    this.pool = pool;
    this.of = of;
  }

  init(options: Options): void {
    this.windowMs = options.windowMs;
  }

  increment(key: string): Promise<ClientRateLimitInfo> {
    return withDb(this.pool, true, async (db) => {
      const { rows } = await db.query<{ many: number; ends_at: Date }>(
        `insert into sign_in_count as c (what, many, ends_at) values ($1, 1, now() + $2 * interval '1 millisecond')
         on conflict (what) do update set many = case when c.ends_at <= now() then 1 else c.many + 1 end,
           ends_at = case when c.ends_at <= now() then excluded.ends_at else c.ends_at end returning many, ends_at`,
        [hashOf([this.of, key]), this.windowMs],
      );
      const [row] = rows;
      if (row === undefined) throw new Error('A try was not counted.');
      // Whoever begins a new count clears away those that are over, but waits for nobody who is counting in one.
      if (row.many === 1)
        await db.query(
          'delete from sign_in_count where what in (select what from sign_in_count where ends_at <= now() limit 500 for update skip locked)',
        );
      return { totalHits: row.many, resetTime: row.ends_at };
    });
  }

  async decrement(key: string): Promise<void> {
    await withDb(this.pool, true, (db) =>
      db.query('update sign_in_count set many = greatest(0, many - 1) where what = $1', [hashOf([this.of, key])]),
    );
  }

  async resetKey(key: string): Promise<void> {
    await withDb(this.pool, true, (db) => db.query('delete from sign_in_count where what = $1', [hashOf([this.of, key])]));
  }
}
