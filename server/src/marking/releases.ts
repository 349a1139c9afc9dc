import type { Logger } from 'pino';
import PgBoss from 'pg-boss';
import type { Clock } from '../platform/clock.ts';
import { rows, withDb, type Db, type Pool } from '../platform/database.ts';
import { isDatabaseAway } from '../platform/errors.ts';
import { setReleased } from './marks.ts';

const QUEUE = 'release-marks';

/** Releases the finished marks of every item whose release date has come. Doing it twice does nothing twice. */
export async function releaseDue(db: Db, now: number): Promise<number> {
  const due = await rows<{ id: string; actor_id: string; enrolments: string[] }>(
    db,
    `
    select i.id, (select e.person_id from enrolment e where e.course_id = i.course_id and e.role = 'instructor' order by e.is_of_record desc limit 1) as actor_id, array_agg(g.enrolment_id) as enrolments
    from item i join grade g on g.item_id = i.id and not g.is_released and g.state is not null
    where i.release_mode = 'date' and i.release_at <= to_timestamp($1 / 1000.0) and i.removed_at is null and not i.is_draft group by i.id`,
    [now],
  );
  let many = 0;
  for (const item of due) many += await setReleased(db, item.id, item.enrolments, true, item.actor_id, now, 'job');
  return many;
}

/** The job queue lives in PostgreSQL, so that of several servers one does the work. */
export async function startReleases(databaseUrl: string, pool: Pool, clock: Clock, log: Logger): Promise<{ stop: () => Promise<void> }> {
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
  await boss.createQueue(QUEUE);
  await boss.schedule(QUEUE, '* * * * *');
  await boss.work(QUEUE, async () => {
    await withDb(pool, true, (db) => releaseDue(db, clock.now()));
  });
  return { stop: () => boss.stop({ graceful: false, wait: false }) };
}
