import type { RippleAnswer, Topic } from '@rosemary/api';
import { changesCourse, type Endpoint, onlyLooks, type Writing } from '@rosemary/api/endpoints';
import { decide, isStill, type Membership } from '@rosemary/core';
import type { Request, Response } from 'express';
import { type Arrived, Gone, withArrival } from './arrival.ts';
import { askedQuery } from './askedQuery.ts';
import { writeAudit } from './audit.ts';
import { takeChangedRows } from './changedRows.ts';
import { type Db, withDb } from './database.ts';
import { AppError, notFound } from './errors.ts';
import { announce, TOPIC_OF } from './events.ts';
import { type Gate, makeGate } from './gate.ts';
import type { JobName } from './jobs.ts';
import { digestOf, findAnswer, keepAnswer } from './keptAnswers.ts';
import { type Limit, makeLimit } from './limit.ts';
import type { Parts } from './parts.ts';
import { type Account, parseBody, Refusal, type Route, type Sending } from './route.ts';

const UUID = /^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/i;

interface Who {
  readonly person: Parameters<typeof decide>[0] & { readonly personId: string; readonly givenName?: string; readonly familyName?: string };
  readonly courseId: string | null;
  readonly member: Membership | null;
  readonly isSeenAs: boolean;
  readonly now: number;
}

/** While names are hidden at an item, nobody looks at it through the eyes of a student: that would join a name and a work. */
async function requireNamed(parts: Parts, db: Db, request: Request, enrolmentId: string): Promise<void> {
  const { itemId } = request.params;
  if (typeof itemId === 'string' && (await parts.lookup.workId(db, { itemId, enrolmentId }, parts.clock.now())) !== enrolmentId)
    throw notFound();
}

async function memberContext(parts: Parts, db: Db, at: Endpoint, request: Request): Promise<Partial<Who>> {
  const { needs } = at;
  if (needs === 'public') return {};
  const { personId } = request.session;
  const person = personId === undefined ? null : await parts.lookup.findSignedIn(db, personId, parts.clock.now());
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
    await requireNamed(parts, db, request, student.enrolmentId);
    const on = Date.parse(request.get('x-see-on') ?? '');
    return { person, courseId, member: student, isSeenAs: true, ...(Number.isNaN(on) ? {} : { now: on }) };
  }
  if (!decision.isAllowed) {
    throw decision.reason === 'unknown'
      ? notFound()
      : new AppError('refused', 'Your part in this course does not reach this. Ask its instructor.');
  }
  if (decision.membership?.isLook === true && !onlyLooks(at))
    throw new AppError(
      'read-only',
      'You are looking into this course as an administrator, so nothing in it can be changed. Its instructor can; or add yourself to it under “School”.',
    );
  if (decision.membership?.isArchived === true && changesCourse(at))
    throw new AppError(
      'not-now',
      'This course is archived: it can be read, and nothing in it is changed. Its instructor can bring it back from the archive in its settings.',
    );
  if (decision.membership?.isClosed === true && decision.membership.role !== 'student' && changesGrades(at))
    throw new AppError(
      'not-now',
      'The grades of this course are closed, since they were handed over. Its instructor of record can open them again under “Final grades”, with a reason.',
    );
  return { person, courseId, member: decision.membership, isSeenAs: false };
}

/** Whether staff change grades by it: not while the grades of the course are closed. */
const changesGrades = (at: Endpoint): boolean => at.method !== 'get' && (at.movesGrades === true || at.gives === true);

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
    hearers: 'staff',
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
const HEAVY_EACH = 2;
const ARRIVING_EACH = 6;

/** What all requests of this server share: places for heavy work, and how many files somebody may have on their way. */
export interface Shared {
  readonly gate: Gate;
  readonly arriving: Limit;
}

export const makeShared = (): Shared => ({
  gate: makeGate(HEAVY_AT_ONCE, HEAVY_EACH),
  arriving: makeLimit(ARRIVING_EACH, `${ARRIVING_EACH} files of yours are on their way already. Let one of them arrive first.`),
});

const senderOf = (request: Request): string => request.session.personId ?? request.ip ?? '';

const takesFile = (at: Endpoint): 'file' | 'package' | undefined => (at.method === 'get' ? undefined : at.takesFile);

/** Whoever went away is answered nothing more; what they had begun to write with a whole request is still done. */
const isGone = (at: Endpoint, response: Response): boolean =>
  response.destroyed && (at.method === 'get' || at.isHeavy === true || takesFile(at) !== undefined);

/**
 * What the server does at one endpoint. A file is received first, by whoever may bring one, and to a place outside the database: a
 * connection is taken only when everything is there, and none for somebody who went away meanwhile.
 */
export function answerOf(parts: Parts, route: Route, { gate, arriving }: Shared): (request: Request, response: Response) => Promise<void> {
  const { endpoint: at } = route;
  const carry = answerWith(parts, route);
  const placed = (request: Request, response: Response, file: Arrived | null): Promise<void> =>
    at.isHeavy === true ? gate(senderOf(request), response, () => carry(request, response, file)) : carry(request, response, file);
  const brings = takesFile(at);
  return async (request, response) => {
    for (const value of Object.values(request.params)) if (typeof value === 'string' && !UUID.test(value)) throw notFound();
    if (brings === undefined) {
      await placed(request, response, null);
      return;
    }
    // Before a byte of it is taken: may they bring one at all?
    await withDb(parts.pool, false, (db) => memberContext(parts, db, at, request));
    const leave = arriving(senderOf(request));
    try {
      await withArrival(request, response, brings, (file) => placed(request, response, file));
    } finally {
      leave();
    }
  };
}

function answerWith(parts: Parts, route: Route): (request: Request, response: Response, file: Arrived | null) => Promise<void> {
  const { endpoint: at } = route;
  const isTransaction = at.method !== 'get' && at.isOneStatement !== true;
  return async (request, response, file) => {
    const kicked: JobName[] = [];
    const digest = isTransaction && request.get('x-ripple') !== 'show' ? digestOf(request) : null;
    const result = await withDb(
      parts.pool,
      isTransaction,
      async (db) => {
        if (isGone(at, response)) throw new Gone();
        const who = await memberContext(parts, db, at, request);
        const said: Account[] = [];
        const context = {
          db,
          now: parts.clock.now(),
          body: parseBody(takesFile(at) === undefined ? route.schema : null, request.body),
          file,
          params: request.params,
          query: askedQuery(at, request.query),
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
        if (digest !== null && who.person !== undefined && !(answer instanceof Refusal))
          await keepAnswer(db, who.person.personId, digest, answer, context.now);
        return answer;
      },
      parts.clock.now(),
    ).catch(async (error: unknown) => {
      if (error instanceof Rehearsed) return error;
      // What somebody finds changed may be what they themselves sent, and were never answered.
      const { personId } = request.session;
      if (digest === null || personId === undefined || !(error instanceof AppError) || error.code !== 'conflict') throw error;
      const before = await withDb(parts.pool, false, (db) => findAnswer(db, personId, digest, request.body, error.current));
      if (before === null) throw error;
      return before.answer;
    });
    for (const job of kicked) parts.kick?.(job);
    if (result instanceof Refusal) throw result.error;
    if (!(result instanceof Rehearsed)) parts.requireAnswer?.(at, result);
    if (result instanceof Rehearsed) response.status(result.status).json(result.ripple);
    else if (at.isStream !== true) response.json(result ?? {});
    else if (typeof result === 'function') await (result as Sending)((work) => withDb(parts.pool, false, work));
  };
}
