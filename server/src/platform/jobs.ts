import type { Logger } from 'pino';
import PgBoss from 'pg-boss';
import type { Clock } from './clock.ts';
import { withDb, type Db, type Pool } from './database.ts';
import { isDatabaseAway } from './errors.ts';

/** Work done every minute; doing it twice must do nothing twice. */
export interface Job {
  readonly name: string;
  readonly work: (db: Db, now: number) => Promise<unknown>;
}

/** The job queue lives in PostgreSQL, so that of several servers one does the work. */
export async function startJobs(
  databaseUrl: string,
  pool: Pool,
  clock: Clock,
  log: Logger,
  jobs: readonly Job[],
): Promise<{ stop: () => Promise<void>; kick: (name: string) => void }> {
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
  for (const job of jobs) {
    await boss.createQueue(job.name);
    await boss.schedule(job.name, '* * * * *');
    await boss.work(job.name, async () => {
      await withDb(pool, true, (db) => job.work(db, clock.now()));
    });
  }
  return {
    stop: () => boss.stop({ graceful: false, wait: false }),
    // Done soon rather than with the minute; what is lost here is done with the minute.
    kick: (name) => {
      boss.send(name, {}).catch((error: unknown) => {
        if (!isDatabaseAway(error)) log.error({ err: error }, 'job queue');
      });
    },
  };
}
