import type { RippleAnswer } from '@rosemary/api';
import type { Endpoint } from '@rosemary/api/endpoints';
import type { decide, Membership } from '@rosemary/core';
import type { Logger } from 'pino';
import type { Clock } from './clock.ts';
import type { Config } from './config.ts';
import type { Db, Pool } from './database.ts';
import type { EventHub } from './events.ts';
import type { JobName } from './jobs.ts';
import type { Route } from './route.ts';

/** Who is asking is looked up by the people feature, which the platform does not know. */
export interface Lookup<P> {
  readonly findSignedIn: (db: Db, personId: string, now: number) => Promise<P | null>;
  readonly findStudentMembership: (db: Db, courseId: string, enrolmentId: string) => Promise<Membership | null>;
  readonly listEmbedHosts: (db: Db) => Promise<readonly string[]>;
  /** The identifier under which those who mark know a work now: another than the student's while names are hidden. */
  readonly workId: (db: Db, work: { readonly itemId: string; readonly enrolmentId: string }, now: number) => Promise<string>;
  /** Whether an event may name whose row of the gradebook a change of this item is: not while names are hidden, nor where work is of a group. */
  readonly namesRows: (db: Db, itemId: string) => Promise<boolean>;
}

export interface Parts {
  readonly config: Config;
  readonly pool: Pool;
  /** Connections for sessions alone, so that nobody waits for their session behind those who are at work. */
  readonly sessionPool?: Pool;
  /** The one connection of the health answer, which tells how the database is and not how busy the school is. */
  readonly healthPool?: Pool;
  readonly clock: Clock;
  readonly events: EventHub;
  readonly log: Logger;
  readonly routes: readonly Route[];
  /** The ripple of a change, given as the change itself. */
  readonly rehearse: (db: Db, courseId: string, now: number, change: () => Promise<unknown>) => Promise<RippleAnswer>;
  /** Carries a change out; where it would reach somebody who is taking a quiz, only as it was chosen for them. */
  readonly mindRunning: (db: Db, courseId: string, choice: string | undefined, change: () => Promise<unknown>) => Promise<unknown>;
  /** In tests: what must not differ before and after a write that is not said to move grades. */
  readonly totalsOf?: (db: Db, courseId: string, now: number) => Promise<ReadonlyMap<string, string>>;
  /** In tests: every answer is held against the type its endpoint names. */
  readonly requireAnswer?: (at: Endpoint, answer: unknown) => void;
  readonly lookup: Lookup<Parameters<typeof decide>[0] & { personId: string }>;
  /** Has a job done soon; without it every job is done with the minute. */
  readonly kick?: (job: JobName) => void;
}
