import { makePool, rows, withDb } from '../src/index.ts';
import { makeDatabase } from './school.ts';

/** A connection that breaks takes down what was done on it, and nothing else. */
describe('a connection that breaks', () => {
  it('while somebody holds it between two statements fails their next one, and the next connection works', async () => {
    const database = await makeDatabase('broken');
    const pool = makePool(database.appUrl, 2);
    try {
      for (const writes of [false, true]) {
        const broken = withDb(pool, writes, async (db) => {
          const [own] = await rows<{ pid: number }>(db, 'select pg_backend_pid() as pid');
          const ended = new Promise((done) => db.once('end', done));
          // Its own role may end its own connections; nobody is asking anything of it at this moment.
          await withDb(pool, false, (other) => other.query('select pg_terminate_backend($1)', [own?.pid]));
          await ended;
          await rows(db, 'select 1');
        });
        await expect(broken).rejects.toThrow();
        expect(await withDb(pool, writes, (db) => rows(db, 'select 1 as one'))).toEqual([{ one: 1 }]);
      }
    } finally {
      await pool.end();
      await database.drop();
    }
  });
});

describe('a transaction', () => {
  it('in which something failed and was passed over is not acknowledged', async () => {
    const database = await makeDatabase('passed');
    const pool = makePool(database.appUrl, 2);
    try {
      const work = withDb(pool, true, async (db) => {
        await rows(db, 'select 1 / 0').catch(() => []);
        return 'done';
      });
      await expect(work).rejects.toThrow('rolled back at its end');
      expect(await withDb(pool, true, (db) => rows(db, 'select 1 as one'))).toEqual([{ one: 1 }]);
    } finally {
      await pool.end();
      await database.drop();
    }
  });
});
