import type { CourseEvent, Topic } from '@rosemary/api';
import type { Permission } from '@rosemary/core';
import pg from 'pg';
import type { Logger } from 'pino';
import type { Db } from './database.ts';
import { isDatabaseAway } from './errors.ts';

const CHANNEL = 'rosemary_course';
const RETRY_MS = 1000;
/** A class hears at once; of a crowd each a little later, about as long as a page takes to be read. */
const [TOLD_AT_ONCE, TOLD_EACH_MS] = [60, 10];
/** A NOTIFY carries less than 8,000 bytes; a hundred identifiers stay well inside. */
const MOST_NAMES = 100;

/** What a write under a permission changes for those who are looking at the same course. */
export const TOPIC_OF: { readonly [permission in Permission]?: Topic } = {
  'plan.edit': 'plan',
  'marking.mark': 'marks',
  'marking.release': 'marks',
  'gradebook.edit': 'grades',
  'policy.edit': 'grades',
  'grades.handOver': 'grades',
  'work.own': 'work',
  'roster.edit': 'people',
};

/** What travels between servers: the event, its course, and who may hear it; a list is of their enrolments. */
export interface Announced extends CourseEvent {
  readonly courseId: string;
  readonly hearers: 'everybody' | 'staff' | readonly string[];
}

/** Tells every server about a change; PostgreSQL passes it on when, and only if, the transaction commits. */
export async function announce(db: Db, event: Announced): Promise<void> {
  await db.query('select pg_notify($1, $2)', [CHANNEL, JSON.stringify(event)]);
}

/** Tells these members alone, in as many events as their names need. */
export async function announceTo(db: Db, event: Omit<Announced, 'hearers'>, enrolmentIds: readonly string[]): Promise<void> {
  for (let n = 0; n < enrolmentIds.length; n += MOST_NAMES)
    await announce(db, { ...event, hearers: enrolmentIds.slice(n, n + MOST_NAMES) });
}

/** Tells students that something of theirs came back. */
export const announceReturned = (db: Db, courseId: string, itemId: string | null, enrolmentIds: readonly string[]): Promise<void> =>
  announceTo(db, { topic: 'returned', courseId, itemId, enrolmentId: null, rows: null, tab: null, by: '' }, enrolmentIds);

type Listener = (event: Announced) => void;

/** One listening connection a server process, shared by everyone who looks at a course. */
export class EventHub {
  readonly #databaseUrl: string;
  readonly #log: Logger;
  readonly #listeners = new Map<string, Set<Listener>>();
  readonly #ends = new Set<() => void>();
  #client: pg.Client | null = null;
  #retry: NodeJS.Timeout | null = null;
  #isStopped = false;

  constructor(databaseUrl: string, log: Logger) {
    this.#databaseUrl = databaseUrl;
    this.#log = log;
  }

  async start(): Promise<void> {
    const client = new pg.Client({ connectionString: this.#databaseUrl, application_name: 'rosemary-events' });
    const lost = (error?: Error): void => {
      if (this.#client !== client && this.#client !== null) return;
      this.#client = null;
      if (error !== undefined && !isDatabaseAway(error)) this.#log.error({ err: error }, 'events');
      client.end().catch(() => undefined);
      this.#again();
    };
    client.on('error', lost);
    client.on('end', () => {
      lost();
    });
    client.on('notification', (message) => {
      const event = JSON.parse(message.payload ?? '{}') as Announced;
      this.#tell(event);
    });
    try {
      await client.connect();
      await client.query(`listen ${CHANNEL}`);
      this.#client = client;
    } catch (error) {
      lost(error as Error);
    }
  }

  /** Whoever hears something reads again at once, so a crowd is told one after another: others are answered in between. */
  #tell(event: Announced): void {
    const own = this.#listeners.get(event.courseId) ?? new Set<Listener>();
    let place = 0;
    for (const listener of own) {
      place += 1;
      if (place <= TOLD_AT_ONCE) listener(event);
      else
        setTimeout(
          () => {
            if (own.has(listener)) listener(event);
          },
          (place - TOLD_AT_ONCE) * TOLD_EACH_MS,
        ).unref();
    }
  }

  /** After a gap everyone reads afresh: what happened in between was told to nobody. */
  #again(): void {
    if (this.#isStopped || this.#retry !== null) return;
    this.#retry = setTimeout(() => {
      this.#retry = null;
      void this.start().then(() => {
        if (this.#client === null) return;
        for (const courseId of this.#listeners.keys())
          this.#tell({ topic: 'again', courseId, itemId: null, enrolmentId: null, rows: null, tab: null, by: '', hearers: 'everybody' });
      });
    }, RETRY_MS);
  }

  /** Listens to a course until what it gives is called; `end` is called when this server ends and the listener has to come back elsewhere. */
  subscribe(courseId: string, listener: Listener, end: () => void): () => void {
    const own = this.#listeners.get(courseId) ?? new Set<Listener>();
    this.#listeners.set(courseId, own.add(listener));
    this.#ends.add(end);
    return () => {
      this.#ends.delete(end);
      own.delete(listener);
      if (own.size === 0) this.#listeners.delete(courseId);
    };
  }

  sendAway(): void {
    for (const end of this.#ends) end();
  }

  async stop(): Promise<void> {
    this.#isStopped = true;
    if (this.#retry !== null) clearTimeout(this.#retry);
    await this.#client?.end().catch(() => undefined);
  }
}
