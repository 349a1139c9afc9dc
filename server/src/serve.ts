import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { pino } from 'pino';
import { tellAnnouncements } from './announcements/index.ts';
import { namesRows, workId } from './anonymity/index.ts';
import { checkOldKeys } from './bank/index.ts';
import { tidyFiles } from './files/index.ts';
import { followResults } from './followUp/index.ts';
import { checkLedger, rehearse } from './gradebook/index.ts';
import { handOverGrades } from './handover/index.ts';
import { keepLinks } from './handIn/index.ts';
import { releaseMarks } from './markRelease/index.ts';
import { matchTexts } from './matching/index.ts';
import { drawReviewers, givePeerResults } from './peer/index.ts';
import { findSignedIn, findStudentMembership, listEmbedHosts } from './people/index.ts';
import { forgetActivity } from './own/index.ts';
import { makeApp } from './platform/app.ts';
import { type Clock, fixedClock, schoolClock } from './platform/clock.ts';
import type { Config } from './platform/config.ts';
import { drainOf } from './platform/drain.ts';
import { makePool, type Pool, withDb } from './platform/database.ts';
import { EventHub } from './platform/events.ts';
import { clearFolders } from './platform/folder.ts';
import { type Job, type JobName, startJobs } from './platform/jobs.ts';
import { markAgain } from './quizResults/index.ts';
import { handInQuizzes, mindRunning } from './quizTaking/index.ts';
import { routes } from './routes.ts';

export interface Running {
  readonly url: string;
  readonly pool: Pool;
  readonly clock: Clock;
  readonly server: Server;
  readonly stop: () => Promise<void>;
}

/** What is done every minute: every job there is a word for. */
const JOBS = {
  'release-marks': releaseMarks,
  'tell-announcements': tellAnnouncements,
  'keep-links': keepLinks,
  'hand-in-quizzes': handInQuizzes,
  'mark-again': markAgain,
  'follow-results': followResults,
  'match-texts': matchTexts,
  'check-keys': checkOldKeys,
  'check-ledger': checkLedger,
  'hand-over': handOverGrades,
  'tidy-files': tidyFiles,
  'forget-activity': forgetActivity,
  'draw-reviewers': drawReviewers,
  'give-peer-results': givePeerResults,
} satisfies { readonly [name in JobName]: Job };

/** A package of a gigabyte on a slow line; and how long a line may be silent both ways. */
const [LONGEST_REQUEST_MS, LONGEST_SILENCE_MS] = [1_800_000, 300_000];

/** Starts one server process: pool, clock, HTTP, and the jobs that release marks and tell of announcements at their time. */
export async function serve(config: Config): Promise<Running> {
  const pool = makePool(config.databaseUrl);
  const sessionPool = makePool(config.databaseUrl, 4);
  const healthPool = makePool(config.databaseUrl, 1);
  const clock = config.clock === null ? await withDb(pool, false, schoolClock) : fixedClock(config.clock);
  const log = pino({ level: process.env.ROSEMARY_LOG ?? 'warn' });
  const events = new EventHub(config.databaseUrl, log);
  await events.start();
  await clearFolders();
  let jobs: Awaited<ReturnType<typeof startJobs>> | null = null;
  const app = makeApp({
    config,
    pool,
    sessionPool,
    healthPool,
    clock,
    events,
    log,
    routes,
    rehearse,
    mindRunning,
    kick: (name) => jobs?.kick(name),
    lookup: { findSignedIn, findStudentMembership, listEmbedHosts, namesRows, workId },
  });
  const server = createServer({ headersTimeout: 20_000, requestTimeout: LONGEST_REQUEST_MS }, app);
  server.setTimeout(LONGEST_SILENCE_MS);
  const drained = drainOf(server, events);
  await new Promise<void>((done, fail) => {
    server.once('error', fail);
    server.listen(config.port, '0.0.0.0', done);
  });
  jobs = await startJobs(config.databaseUrl, pool, clock, log, Object.values(JOBS));
  const { port } = server.address() as AddressInfo;
  return {
    url: `http://localhost:${port}`,
    pool,
    clock,
    server,
    stop: async () => {
      // Jobs finish the piece they are at while requests that are under way are answered.
      await Promise.all([drained(), jobs?.stop()]);
      await events.stop();
      await Promise.all([pool.end(), sessionPool.end(), healthPool.end()]);
    },
  };
}
