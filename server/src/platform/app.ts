import { PART_BYTES } from '@rosemary/api';
import compression from 'compression';
import connectPgSimple from 'connect-pg-simple';
import express, { type Express, type NextFunction, type Request, type RequestHandler, type Response } from 'express';
import { ipKeyGenerator, rateLimit } from 'express-rate-limit';
import session from 'express-session';
import expressStaticGzip from 'express-static-gzip';
import helmet from 'helmet';
import { randomUUID } from 'node:crypto';
import type { Logger } from 'pino';
import { answerOf, makeShared, type Shared } from './answer.ts';
import { Gone } from './arrival.ts';
import { withDb } from './database.ts';
import { AppError, knownFault, notFound } from './errors.ts';
import { makeLimit } from './limit.ts';
import type { Parts } from './parts.ts';
import { SharedCount } from './sharedCount.ts';
import { requireSoundQuery, soundBody } from './soundRequest.ts';

declare module 'express-session' {
  interface SessionData {
    personId: string;
    /** When, with which browser and from where it was begun: for its owner, who may end it. */
    begunAt: string;
    browser: string;
    network: string;
  }
}

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

/** However often a session is used, its password is asked for again after a day. */
const LONGEST_SESSION_MS = 86_400_000;

const endOldSession: RequestHandler = (request, _response, next) => {
  const { personId, begunAt } = request.session;
  if (personId === undefined || Date.parse(begunAt ?? '') > Date.now() - LONGEST_SESSION_MS) next();
  else request.session.regenerate(next);
};

function answerError(log: Logger) {
  return (error: unknown, request: Request, response: Response, next: NextFunction): void => {
    if (error instanceof Gone) {
      response.destroy();
      return;
    }
    if (response.headersSent) {
      next(error);
      return;
    }
    let known = knownFault(error);
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
function routed(parts: Parts, shared: Shared): RequestHandler {
  const shelves = new Map<string, express.Router>();
  for (const route of parts.routes) {
    const { method, path } = route.endpoint;
    const key = `${method} ${partsOf(path)}`;
    const shelf = shelves.get(key) ?? express.Router();
    shelves.set(key, shelf);
    shelf[method](path, answerOf(parts, route, shared));
  }
  return (request, response, next) => {
    const method = request.method === 'HEAD' ? 'get' : request.method.toLowerCase();
    const shelf = shelves.get(`${method} ${partsOf(request.path)}`);
    if (shelf === undefined) next();
    else shelf(request, response, next);
  };
}

const [readBody, readBriefly] = [express.json({ limit: '400kb', verify: soundBody }), express.json({ limit: '20kb', verify: soundBody })];

const readPart = express.raw({ limit: PART_BYTES, type: 'application/octet-stream' });

const isEvents = (request: Request): boolean => request.path.endsWith('/events');

const [OPEN_EACH, OPEN_UNKNOWN, EVENTS_EACH] = [60, 300, 30];

/** How much one person, or one place that nobody signed in from, may have under way at once: what is beyond it waits for nobody else's place. */
function withinLimits(): RequestHandler {
  const said = 'So much of yours is under way at once that more is not taken. Close some of the windows, or wait a moment.';
  const [person, place, events] = [makeLimit(OPEN_EACH, said), makeLimit(OPEN_UNKNOWN, said), makeLimit(EVENTS_EACH, said)];
  return (request, response, next) => {
    const { personId } = request.session;
    const leave = personId === undefined ? place(ipKeyGenerator(request.ip ?? '')) : (isEvents(request) ? events : person)(personId);
    response.once('close', leave);
    next();
  };
}

const PLACE_FACTOR = 40;
const accountOf = (request: Request): string => {
  const { email } = (request.body ?? {}) as { email?: unknown };
  return `${ipKeyGenerator(request.ip ?? '')} ${typeof email === 'string' ? email.trim().toLowerCase() : ''}`;
};

/** Counted in the database: two servers together let in as many as one. */
function signInLimit(
  pool: Parts['pool'],
  of: 'place' | 'account',
  limit: number,
  keyGenerator?: (request: Request) => string,
): RequestHandler {
  return rateLimit({
    windowMs: 60_000,
    limit,
    standardHeaders: true,
    legacyHeaders: false,
    store: new SharedCount(pool, of),
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
      await withDb(parts.healthPool ?? parts.pool, false, (db) => db.query('select 1'));
      response.json({ state: 'ok', database: 'ok' });
    } catch {
      response.status(503).json({ state: 'waiting', database: 'away' });
    }
  });
  const [ordinary, quiet] = [sessions(parts, false), sessions(parts, true)];
  app.use(
    '/api',
    compression({ threshold: 1024 }),
    (request, response, next) => {
      (isEvents(request) ? quiet : ordinary)(request, response, next);
    },
    endOldSession,
    requireSoundQuery,
    withinLimits(),
    // What is answered to one person stays in no store on the way; files say for themselves how they may be kept.
    (_request, response, next) => {
      response.set('cache-control', 'no-store');
      next();
    },
    // Whoever is not signed in has little to say: what they send is not held in memory for long.
    (request, response, next) => {
      (request.session.personId === undefined ? readBriefly : readBody)(request, response, next);
    },
    (request, response, next) => {
      if (request.session.personId === undefined) next();
      else readPart(request, response, next);
    },
  );
  // A whole class signs in from one address within a minute: many are let in from a place, and few tries at one account.
  const { signInsPerMinute } = parts.config;
  app.use(
    '/api/sign-in',
    signInLimit(parts.pool, 'place', signInsPerMinute * PLACE_FACTOR),
    signInLimit(parts.pool, 'account', signInsPerMinute, accountOf),
  );
  app.use('/api', routed(parts, makeShared()));
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
    // A script or a picture that is not there is not a page.
    app.use('/assets', () => {
      throw notFound();
    });
    app.get('/{*path}', (_request, response) => {
      response.set('cache-control', 'no-cache').sendFile('index.html', { root: folder });
    });
  }
  app.use(answerError(parts.log));
  return app;
}
