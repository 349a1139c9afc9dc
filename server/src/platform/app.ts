import { PART_BYTES, type RippleAnswer, type Topic } from '@rosemary/api';
import type { Endpoint, Writing } from '@rosemary/api/endpoints';
import { decide, isStill, type Membership } from '@rosemary/core';
import compression from 'compression';
import connectPgSimple from 'connect-pg-simple';
import express, { type Express, type NextFunction, type Request, type RequestHandler, type Response } from 'express';
import { ipKeyGenerator, rateLimit } from 'express-rate-limit';
import session from 'express-session';
import expressStaticGzip from 'express-static-gzip';
import helmet from 'helmet';
import { randomUUID } from 'node:crypto';
import type { Logger } from 'pino';
import { writeAudit } from './audit.ts';
import { takeChangedRows } from './changedRows.ts';
import type { Clock } from './clock.ts';
import type { Config } from './config.ts';
import { withDb, type Db, type Pool } from './database.ts';
import { makeGate } from './gate.ts';
import { announce, TOPIC_OF, type EventHub } from './events.ts';
import { AppError, isDatabaseAway, notFound } from './errors.ts';
import type { JobName } from './jobs.ts';
import { parseBody, Refusal, type Account, type Route, type Sending } from './route.ts';

declare module 'express-session' {
  interface SessionData {
    personId: string;
  }
}

/** Who is asking is looked up by the people feature, which the platform does not know. */
export interface Lookup<P> {
  readonly findSignedIn: (db: Db, personId: string) => Promise<P | null>;
  readonly findStudentMembership: (db: Db, courseId: string, enrolmentId: string) => Promise<Membership | null>;
  readonly listEmbedHosts: (db: Db) => Promise<readonly string[]>;
  /** Whether an event may name whose row of the gradebook a change of this item is: not while names are hidden, nor where work is of a group. */
  readonly namesRows: (db: Db, itemId: string) => Promise<boolean>;
}

export interface Parts {
  readonly config: Config;
  readonly pool: Pool;
  /** Connections for sessions alone, so that nobody waits for their session behind those who are at work. */
  readonly sessionPool?: Pool;
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

const UUID = /^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/i;

const HOSTS_MS = 10_000;

/** The sites that pages may show inside them, read anew every few seconds and only when a page itself is asked for. */
function frameHosts(parts: Parts): RequestHandler {
  let known = { at: -Infinity, hosts: '' };
  return async (request, response, next) => {
    if (!request.path.startsWith('/api') && request.method === 'GET') {
      if (Date.now() - known.at > HOSTS_MS) {
        const hosts = await withDb(parts.pool, false, parts.lookup.listEmbedHosts).catch(() => []);
        known = { at: Date.now(), hosts: hosts.flatMap((host) => [`https://${host}`, `https://*.${host}`]).join(' ') };
      }
      response.locals.frameHosts = known.hosts;
    }
    next();
  };
}

function security(parts: Parts): RequestHandler[] {
  return [
    frameHosts(parts),
    helmet({
      contentSecurityPolicy: {
        useDefaults: false,
        directives: {
          defaultSrc: ["'self'"],
          scriptSrc: ["'self'"],
          styleSrc: ["'self'", "'unsafe-inline'"],
          imgSrc: ["'self'", 'data:', 'blob:'],
          fontSrc: ["'self'"],
          connectSrc: ["'self'"],
          // Video and sound may come from where a teacher says; pages of other sites only from those on the school's list.
          mediaSrc: ["'self'", 'blob:', 'https:'],
          frameSrc: ["'self'", (_, response) => ((response as Response).locals.frameHosts as string | undefined) ?? ''],
          workerSrc: ["'self'", 'blob:'],
          objectSrc: ["'none'"],
          baseUri: ["'none'"],
          frameAncestors: ["'none'"],
          formAction: ["'self'"],
        },
      },
      hsts: false,
      crossOriginOpenerPolicy: false,
    }),
    // A write must come from our own pages: browsers name the origin on every one.
    (request, _response, next) => {
      const { origin } = request.headers;
      const isWrite = !['GET', 'HEAD', 'OPTIONS'].includes(request.method);
      const from = origin !== undefined && URL.canParse(origin) ? new URL(origin).host : origin;
      if (isWrite && origin !== undefined && from !== request.headers.host)
        throw new AppError('wrong-origin', 'This request came from another site and was not carried out.');
      next();
    },
  ];
}

const TOUCH_MS = 60_000;
const MOST_TOUCHES = 20_000;

/** That somebody is still there is written down once a minute, not with every answer they save: it costs a commit each time. */
function makeStore(): ReturnType<typeof connectPgSimple> {
  return class extends connectPgSimple(session) {
    private readonly touched = new Map<string, number>();

    override touch(id: string, data: session.SessionData, done?: () => void): void {
      const now = Date.now();
      if (now - (this.touched.get(id) ?? 0) < TOUCH_MS) {
        done?.();
        return;
      }
      if (this.touched.size >= MOST_TOUCHES) this.touched.clear();
      this.touched.set(id, now);
      super.touch(id, data, done);
    }
  };
}

/** An open event stream is no sign of life: it must not keep a session from ending. */
function sessions(parts: Parts, isQuiet: boolean): RequestHandler {
  const Store = makeStore();
  return session({
    name: 'rosemary',
    secret: parts.config.sessionSecret,
    resave: false,
    saveUninitialized: false,
    rolling: !isQuiet,
    store: new Store({
      pool: parts.sessionPool ?? parts.pool,
      tableName: 'session',
      disableTouch: isQuiet,
      pruneSessionInterval: 900,
      errorLog: () => undefined,
    }),
    cookie: { httpOnly: true, sameSite: 'lax', secure: 'auto' as never, maxAge: parts.config.idleMinutes * 60_000 },
  });
}

interface Who {
  readonly person: Parameters<typeof decide>[0] & { readonly personId: string; readonly givenName?: string; readonly familyName?: string };
  readonly courseId: string | null;
  readonly member: Membership | null;
  readonly isSeenAs: boolean;
  readonly now: number;
}

async function memberContext(parts: Parts, db: Db, { needs }: Endpoint, request: Request): Promise<Partial<Who>> {
  if (needs === 'public') return {};
  const { personId } = request.session;
  const person = personId === undefined ? null : await parts.lookup.findSignedIn(db, personId);
  if (person === null) throw new AppError('not-signed-in', 'Your session has ended. Sign in again; what you typed is kept.');
  if (needs === 'person') return { person };
  const courseId = (request.params.courseId as string | undefined) ?? null;
  const decision = decide(person, needs, courseId);
  const seenAs = request.get('x-see-as');
  if (seenAs !== undefined && courseId !== null && decide(person, 'course.seeAs', courseId).isAllowed) {
    const student = UUID.test(seenAs) ? await parts.lookup.findStudentMembership(db, courseId, seenAs) : null;
    if (student === null) throw notFound();
    if (request.method !== 'GET')
      throw new AppError(
        'read-only',
        'You are looking at the course as a student sees it, so nothing can be changed. Leave this view first.',
      );
    const asStudent = decide({ ...person, memberships: [student] }, needs, courseId);
    if (!asStudent.isAllowed) throw new AppError('refused', 'A student cannot open this.');
    const on = Date.parse(request.get('x-see-on') ?? '');
    return { person, courseId, member: student, isSeenAs: true, ...(Number.isNaN(on) ? {} : { now: on }) };
  }
  if (!decision.isAllowed) {
    throw decision.reason === 'unknown'
      ? notFound()
      : new AppError('refused', 'Your part in this course does not reach this. Ask its instructor.');
  }
  return { person, courseId, member: decision.membership, isSeenAs: false };
}

const TAB = /^[\w-]{1,40}$/;

const MOST_ROWS = 50;

/** The rows of the gradebook that a write has changed; null where it may be any of them, or where nobody may be told which. */
async function rowsOf(
  parts: Parts,
  db: Db,
  at: Writing,
  topic: Topic,
  itemId: string | null,
  own: string | null,
): Promise<readonly string[] | null> {
  const rows = new Set(takeChangedRows(db));
  if (at.movesGrades === true || !['marks', 'grades', 'work'].includes(topic)) return null;
  if (topic === 'work' && own !== null) rows.add(own);
  if (rows.size > MOST_ROWS || (itemId !== null && !(await parts.lookup.namesRows(db, itemId)))) return null;
  return [...rows];
}

/** Tells those who look at the same course, through the transaction of the write itself. */
async function announceWrite(parts: Parts, db: Db, at: Endpoint, request: Request, who: Partial<Who>): Promise<void> {
  if (at.method === 'get' || at.isSilent === true || at.needs === 'public' || at.needs === 'person') return;
  const topic = TOPIC_OF[at.needs];
  if (topic === undefined || typeof who.courseId !== 'string') return;
  const body = (request.body ?? {}) as { itemId?: unknown; enrolmentId?: unknown };
  const id = (name: 'itemId' | 'enrolmentId'): string | null => {
    const value = request.params[name] ?? body[name];
    return typeof value === 'string' && UUID.test(value) ? value : null;
  };
  const tab = request.get('x-tab') ?? '';
  const { givenName = '', familyName = '' } = who.person ?? {};
  const itemId = id('itemId');
  await announce(db, {
    topic,
    courseId: who.courseId,
    itemId,
    rows: await rowsOf(parts, db, at, topic, itemId, who.member?.enrolmentId ?? null),
    enrolmentId: id('enrolmentId'),
    tab: TAB.test(tab) ? tab : null,
    // Who works on something of their own is nobody's business: names may be hidden from those who mark it.
    by: topic === 'work' ? '' : `${givenName} ${familyName}`.trim(),
    studentIds: [],
  });
}

/** What an act is about where its handler does not say: the item, else the last thing its address names, else what it made. */
function subjectOf(params: Readonly<Record<string, unknown>>, answer: unknown): string | undefined {
  const { courseId: _, ...named } = params;
  const made = typeof answer === 'object' && answer !== null && 'id' in answer ? answer.id : undefined;
  const subject = named.itemId ?? Object.values(named).at(-1) ?? made;
  return typeof subject === 'string' ? subject : undefined;
}

/** Every act that its endpoint gives a name leaves a line in the audit, in the transaction of the act itself. */
async function keepAccounts(
  db: Db,
  at: Endpoint,
  { request, body, person, courseId, now }: Partial<Who> & { readonly request: Request; readonly body: unknown; readonly now: number },
  said: readonly Account[],
  answer: unknown,
): Promise<void> {
  if (at.method === 'get' || typeof at.audit !== 'string' || person === undefined) return;
  const { courseId: _, itemId: __, ...more } = request.params;
  const rest = body ?? (Object.keys(more).length > 0 ? more : undefined);
  for (const account of said.length === 0 ? [{}] : said)
    await writeAudit(db, {
      at: now,
      actorId: person.personId,
      courseId: courseId ?? null,
      action: at.audit,
      subject: subjectOf(request.params, answer),
      after: rest,
      ...account,
    });
}

/** Leaves the transaction as an error does, so that everything in it is taken back, and carries the ripple out. */
class Rehearsed {
  readonly ripple: RippleAnswer;
  /** 202 where the act would have been carried out had it moved nobody: it waits for whoever asked. */
  readonly status: 200 | 202;

  constructor(ripple: RippleAnswer, status: 200 | 202) {
    this.ripple = ripple;
    this.status = status;
  }
}

/** What may change the terms that a quiz is taken under. */
const CHANGES_TERMS: readonly Endpoint['needs'][] = ['plan.edit', 'roster.edit', 'course.teach'];

const movesGrades = (at: Endpoint): boolean => at.method !== 'get' && at.movesGrades === true;

/** Where totals are watched: a write that says nothing of grades and moves one all the same fails by name. */
async function guarded(
  parts: Parts,
  at: Endpoint,
  db: Db,
  context: { readonly courseId: string | null; readonly now: number },
  handle: () => Promise<unknown>,
): Promise<unknown> {
  const { courseId, now } = context;
  const isWatched = at.method !== 'get' && at.movesGrades !== true && at.gives !== true && at.isOneStatement !== true;
  if (parts.totalsOf === undefined || !isWatched || courseId === null) return handle();
  const before = await parts.totalsOf(db, courseId, now);
  const answer = await handle();
  const after = await parts.totalsOf(db, courseId, now);
  // Whoever came or went has nothing to be held against.
  const moved = [...before].filter(([id, total]) => after.has(id) && after.get(id) !== total);
  if (moved.length > 0)
    throw new Error(`${at.method.toUpperCase()} ${at.path} moved totals, and neither movesGrades nor gives is said of it.`);
  return answer;
}

/**
 * Carries an act out. Asked for its ripple (`x-ripple: show`) it is taken back whatever it does; asked to mind it (`x-ripple: mind`)
 * only where somebody's total moves, so that what moves nobody is done in one request.
 */
async function carryOut(
  parts: Parts,
  at: Endpoint,
  request: Request,
  db: Db,
  context: { readonly courseId: string | null; readonly now: number },
  handle: () => Promise<unknown>,
): Promise<unknown> {
  const asked = request.get('x-ripple');
  if (asked === undefined) return guarded(parts, at, db, context, handle);
  if (!movesGrades(at)) throw new AppError('invalid', 'This moves no grade, so it has no ripple.');
  let answer: unknown;
  const ripple = await parts.rehearse(db, context.courseId ?? '', context.now, async () => {
    answer = await handle();
  });
  // Thrown, not returned: a transaction that throws is rolled back.
  if (asked !== 'mind') throw new Rehearsed(ripple, 200);
  if (!isStill(ripple.rows)) throw new Rehearsed(ripple, 202);
  return answer;
}

const HEAVY_AT_ONCE = 4;

function handlerOf(parts: Parts, route: Route, gate: ReturnType<typeof makeGate>): RequestHandler {
  const answer = answerOf(parts, route);
  return route.endpoint.isHeavy === true ? (request, response) => gate(() => answer(request, response)) : answer;
}

function answerOf(parts: Parts, route: Route): (request: Request, response: Response) => Promise<void> {
  const { endpoint: at } = route;
  const isTransaction = at.method !== 'get' && at.isOneStatement !== true;
  return async (request, response) => {
    for (const value of Object.values(request.params)) if (typeof value === 'string' && !UUID.test(value)) throw notFound();
    const kicked: JobName[] = [];
    const result = await withDb(parts.pool, isTransaction, async (db) => {
      const who = await memberContext(parts, db, at, request);
      const said: Account[] = [];
      const context = {
        db,
        now: parts.clock.now(),
        body: parseBody(at.method !== 'get' && at.takesFile === true ? null : route.schema, request.body),
        params: request.params,
        query: request.query,
        request,
        response,
        events: parts.events,
        kick: (job: JobName) => kicked.push(job),
        account: (more: Account) => said.push(more),
        courseId: null,
        ...who,
      };
      const handle = (): Promise<unknown> => route.handle(context as never);
      const { courseId } = context;
      const isMinded = courseId !== null && isTransaction && CHANGES_TERMS.includes(at.needs) && request.get('x-ripple') !== 'show';
      const answer = await carryOut(parts, at, request, db, context, () =>
        isMinded ? parts.mindRunning(db, courseId, request.get('x-running'), handle) : handle(),
      );
      await keepAccounts(db, at, context, said, answer);
      await announceWrite(parts, db, at, request, context);
      return answer;
    }).catch((error: unknown) => {
      if (error instanceof Rehearsed) return error;
      throw error;
    });
    for (const job of kicked) parts.kick?.(job);
    if (result instanceof Refusal) throw result.error;
    if (!(result instanceof Rehearsed)) parts.requireAnswer?.(at, result);
    if (result instanceof Rehearsed) response.status(result.status).json(result.ripple);
    else if (at.isStream !== true) response.json(result ?? {});
    else if (typeof result === 'function') await (result as Sending)((work) => withDb(parts.pool, false, work));
  };
}

function answerError(log: Logger) {
  return (error: unknown, request: Request, response: Response, next: NextFunction): void => {
    if (response.headersSent) {
      next(error);
      return;
    }
    let known = error instanceof AppError ? error : null;
    if (known === null && isDatabaseAway(error))
      known = new AppError(
        'database-away',
        'The database does not answer at the moment, so nothing was changed. What you typed is still there; try again in a moment.',
      );
    if (known === null && (error as { type?: string }).type === 'entity.too.large')
      known = new AppError('too-large', 'This is more text than one save takes (400 kB).');
    if (known === null && (error as { type?: string }).type === 'entity.parse.failed')
      known = new AppError('invalid', 'The request could not be read.');
    const id = randomUUID();
    if (known === null) {
      log.error({ id, err: error, path: request.path }, 'unexpected error');
      known = new AppError('broken', `Something went wrong on our side. It is noted as ${id.slice(0, 8)}; try again.`);
    }
    response
      .status(known.status)
      .type('application/problem+json')
      .json({
        type: `urn:rosemary:${known.code}`,
        title: known.title,
        status: known.status,
        detail: known.message,
        ...(known.pointers.length > 0 ? { pointers: known.pointers } : {}),
        ...(known.current === undefined ? {} : { current: known.current }),
        ...(known.code === 'broken' ? { id } : {}),
      });
  };
}

const partsOf = (path: string): number => path.split('/').filter((part) => part !== '').length;

/** Every route, in a shelf by its method and the number of its parts: an address is held against some twenty patterns, not against all. */
function routed(parts: Parts, gate: ReturnType<typeof makeGate>): RequestHandler {
  const shelves = new Map<string, express.Router>();
  for (const route of parts.routes) {
    const { method, path } = route.endpoint;
    const key = `${method} ${partsOf(path)}`;
    const shelf = shelves.get(key) ?? express.Router();
    shelves.set(key, shelf);
    shelf[method](path, handlerOf(parts, route, gate));
  }
  return (request, response, next) => {
    const method = request.method === 'HEAD' ? 'get' : request.method.toLowerCase();
    const shelf = shelves.get(`${method} ${partsOf(request.path)}`);
    if (shelf === undefined) next();
    else shelf(request, response, next);
  };
}

const PLACE_FACTOR = 40;
const accountOf = (request: Request): string => {
  const { email } = (request.body ?? {}) as { email?: unknown };
  return `${ipKeyGenerator(request.ip ?? '')} ${typeof email === 'string' ? email.trim().toLowerCase() : ''}`;
};

function signInLimit(limit: number, keyGenerator?: (request: Request) => string): RequestHandler {
  return rateLimit({
    windowMs: 60_000,
    limit,
    standardHeaders: true,
    legacyHeaders: false,
    ...(keyGenerator === undefined ? {} : { keyGenerator }),
    handler: () => {
      throw new AppError('too-many', 'Too many sign-ins from here. Wait a minute and try again.');
    },
  });
}

/** The whole HTTP application: security, sessions, the route table, the built pages, one error answer. */
export function makeApp(parts: Parts): Express {
  const app = express();
  app.disable('x-powered-by');
  app.set('trust proxy', 'loopback');
  app.use(...security(parts));
  app.get('/api/health', async (_request, response) => {
    try {
      await withDb(parts.pool, false, (db) => db.query('select 1'));
      response.json({ state: 'ok', database: 'ok' });
    } catch {
      response.status(503).json({ state: 'waiting', database: 'away' });
    }
  });
  const [ordinary, quiet] = [sessions(parts, false), sessions(parts, true)];
  app.use(
    '/api',
    compression({ threshold: 1024 }),
    express.json({ limit: '400kb' }),
    express.raw({ limit: PART_BYTES, type: 'application/octet-stream' }),
    (request, response, next) => {
      (request.path.endsWith('/events') ? quiet : ordinary)(request, response, next);
    },
  );
  // A whole class signs in from one address within a minute: many are let in from a place, and few tries at one account.
  app.use('/api/sign-in', signInLimit(parts.config.signInsPerMinute * PLACE_FACTOR), signInLimit(parts.config.signInsPerMinute, accountOf));
  const gate = makeGate(HEAVY_AT_ONCE);
  app.use('/api', routed(parts, gate));
  app.use('/api', () => {
    throw notFound();
  });
  if (parts.config.webFolder !== null) {
    const folder = parts.config.webFolder;
    app.use(
      expressStaticGzip(folder, {
        enableBrotli: true,
        orderPreference: ['br'],
        index: false,
        serveStatic: { index: false, maxAge: '1y', immutable: true },
      }),
    );
    app.get('/{*path}', (_request, response) => {
      response.set('cache-control', 'no-cache').sendFile('index.html', { root: folder });
    });
  }
  app.use(answerError(parts.log));
  return app;
}
