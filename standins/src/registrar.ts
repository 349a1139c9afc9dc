import { randomInt, randomUUID } from 'node:crypto';
import { existsSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import { listen, type Served } from './listen.ts';
import { registrarPage } from './registrarPage.ts';

/** A simulated registrar: it keeps its own lists and grades, takes only what it likes, and fails in the ways that are set. */

export interface Letter {
  readonly letter: string;
  readonly needsLastDay: boolean;
  readonly isIncomplete: boolean;
}
export interface Section {
  readonly title: string;
  /** The address of the instructor of record. */
  readonly teacher: string;
  readonly students: { readonly key: string; readonly name: string }[];
}
interface Grade {
  readonly student: string;
  readonly letter: string;
  readonly number: string | null;
  readonly lastDay: string | null;
  readonly expiresOn: string | null;
  readonly lapsesTo: string | null;
  readonly receipt: string;
  readonly at: string;
  readonly corrects: string | null;
}
export type Outage = 'none' | 'refuses' | 'silent' | 'stores then fails';
export interface Mood {
  readonly outage: Outage;
  /** In how many of a hundred requests the outage happens. */
  readonly percent: number;
  /** How long it thinks before each answer, in milliseconds. */
  readonly delay: number;
}
type Answer = { readonly status: number; readonly body: object };
interface Held {
  window: { opensAt: string; closesAt: string };
  mood: Mood;
  /** By key. */
  sections: Record<string, Section>;
  /** By section and student. */
  grades: Record<string, Grade>;
  /** What was answered to each key of a submission. */
  submissions: Record<string, Answer>;
}
export const LETTERS: readonly Letter[] = [
  ...['A', 'A-', 'B+', 'B', 'B-', 'C+', 'C', 'C-', 'D'].map((letter) => ({ letter, needsLastDay: false, isIncomplete: false })),
  { letter: 'F', needsLastDay: true, isIncomplete: false },
  { letter: 'I', needsLastDay: false, isIncomplete: true },
  { letter: 'W', needsLastDay: true, isIncomplete: false },
  { letter: 'AU', needsLastDay: false, isIncomplete: false },
];
export const OUTAGES: readonly Outage[] = ['none', 'refuses', 'silent', 'stores then fails'];
const DAY = /^\d{4}-\d{2}-\d{2}$/;
const MOST_BYTES = 262_144;

export interface RegistrarWish {
  readonly token: string;
  /** Where it keeps what it holds; null keeps it in memory alone. */
  readonly file: string | null;
  readonly sections?: Readonly<Record<string, Section>>;
  readonly window?: { readonly opensAt: string; readonly closesAt: string };
  /** What it holds already, by section and student. */
  readonly grades?: Readonly<Record<string, Grade>>;
  readonly now?: () => number;
}

const text = (value: unknown): string | null => (typeof value === 'string' && value !== '' ? value : null);

export class Registrar {
  readonly held: Held;
  readonly token: string;
  private readonly file: string | null;
  private readonly now: () => number;

  constructor({ token, file, sections, window, grades, now = Date.now }: RegistrarWish) {
    this.token = token;
    this.file = file;
    this.now = now;
    const kept = file !== null && existsSync(file) ? (JSON.parse(readFileSync(file, 'utf8')) as Held) : null;
    this.held = kept ?? {
      window: window ?? { opensAt: '2000-01-01T00:00:00Z', closesAt: '2100-01-01T00:00:00Z' },
      mood: { outage: 'none', percent: 100, delay: 0 },
      sections: { ...sections },
      grades: { ...grades },
      submissions: {},
    };
    // Its lists are those of today, whatever it kept.
    if (kept !== null && sections !== undefined) this.held.sections = { ...sections };
  }

  /** Written to a file beside it, then renamed, so that a crash halfway leaves the old content whole. */
  keep(): void {
    if (this.file === null) return;
    writeFileSync(`${this.file}.new`, JSON.stringify(this.held));
    renameSync(`${this.file}.new`, this.file);
  }

  set(change: Partial<Pick<Held, 'window' | 'mood' | 'sections'>>): void {
    Object.assign(this.held, change);
    this.keep();
  }

  isOpen(): boolean {
    const { opensAt, closesAt } = this.held.window;
    return Date.parse(opensAt) <= this.now() && this.now() < Date.parse(closesAt);
  }

  /** Takes a grade or says why not. What was answered to a key is answered to it again, and nothing is stored twice. */
  take(sectionKey: string, student: string, key: string, body: Record<string, unknown>): Answer {
    const before = this.held.submissions[key];
    if (before !== undefined) return before;
    const answer = this.judge(sectionKey, student, body);
    this.held.submissions[key] = answer;
    this.keep();
    return answer;
  }

  private judge(sectionKey: string, student: string, body: Record<string, unknown>): Answer {
    const refuse = (code: string, words: string, status = 422): Answer => ({ status, body: { code, text: words } });
    const section = this.held.sections[sectionKey];
    const [letter, lastDay, expiresOn, corrects] = [text(body.letter), text(body.lastDay), text(body.expiresOn), text(body.corrects)];
    if (section === undefined) return refuse('unknown-section', `There is no section ${sectionKey}.`, 404);
    if (text(body.by) !== section.teacher) return refuse('not-of-record', `${section.title} is graded by ${section.teacher}.`, 403);
    if (!this.isOpen()) return refuse('window-closed', 'Grades are not taken now.', 409);
    const everyone = Object.values(this.held.sections).flatMap((s) => s.students);
    if (!everyone.some((s) => s.key === student)) return refuse('unknown-student', `There is no student ${student}.`);
    if (!section.students.some((s) => s.key === student)) return refuse('not-in-section', `${student} is not in ${section.title}.`);
    const known = LETTERS.find((l) => l.letter === letter);
    if (known === undefined) return refuse('unknown-letter', `${letter ?? 'Nothing'} is not one of the letters.`);
    if (known.needsLastDay && (lastDay === null || !DAY.test(lastDay)))
      return refuse('date-missing', `${known.letter} needs a last date of attendance.`);
    if (known.isIncomplete && (expiresOn === null || !DAY.test(expiresOn)))
      return refuse('expiry-missing', `${known.letter} needs a date until which it stands.`);
    const at = `${sectionKey} ${student}`;
    const there = this.held.grades[at];
    if (there !== undefined && corrects !== there.receipt)
      return refuse('already-final', `${there.letter} is final (${there.receipt}).`, 409);
    const grade: Grade = {
      student,
      letter: known.letter,
      number: text(body.number),
      lastDay,
      expiresOn: known.isIncomplete ? expiresOn : null,
      lapsesTo: known.isIncomplete ? text(body.lapsesTo) : null,
      receipt: `R-${randomUUID().slice(0, 8)}`,
      at: new Date(this.now()).toISOString(),
      corrects,
    };
    this.held.grades[at] = grade;
    return { status: 200, body: { receipt: grade.receipt, at: grade.at } };
  }

  listGrades(sectionKey: string): Grade[] {
    return Object.entries(this.held.grades).flatMap(([at, grade]) => (at.startsWith(`${sectionKey} `) ? [grade] : []));
  }
}

async function readBody(request: IncomingMessage): Promise<string | null> {
  const parts: Buffer[] = [];
  let size = 0;
  for await (const part of request as AsyncIterable<Buffer>) {
    size += part.length;
    if (size > MOST_BYTES) return null;
    parts.push(part);
  }
  return Buffer.concat(parts).toString('utf8');
}
function readObject(said: string | null): Record<string, unknown> | null {
  try {
    const value = JSON.parse(said ?? '') as unknown;
    return typeof value === 'object' && value !== null && !Array.isArray(value) ? (value as Record<string, unknown>) : null;
  } catch {
    return null;
  }
}

/** What it answers to one request of the protocol. */
function answerTo(registrar: Registrar, request: IncomingMessage, path: readonly string[], body: Record<string, unknown> | null): Answer {
  const { held } = registrar;
  const [kind, key = '', part, student = ''] = path;
  const get = request.method === 'GET';
  const not = { status: 404, body: { code: 'not-here', text: 'There is nothing at this address.' } };
  if (get && kind === 'rules' && path.length === 1)
    return { status: 200, body: { letters: LETTERS, takes: { number: false, lastDay: true, expiry: true, lapse: true } } };
  if (get && kind === 'window' && path.length === 1) return { status: 200, body: { ...held.window, isOpen: registrar.isOpen() } };
  if (get && kind === 'submissions' && path.length === 2) {
    const known = held.submissions[key];
    return known === undefined ? not : { status: 200, body: { status: known.status, answer: known.body } };
  }
  if (kind !== 'sections') return not;
  const section = held.sections[key];
  if (section === undefined) return { status: 404, body: { code: 'unknown-section', text: `There is no section ${key}.` } };
  if (get && path.length === 2) return { status: 200, body: { key, ...section } };
  if (get && part === 'grades' && path.length === 3) return { status: 200, body: { grades: registrar.listGrades(key) } };
  const submission = text(request.headers['idempotency-key']);
  if (request.method === 'PUT' && part === 'grades' && path.length === 4)
    return body === null || submission === null
      ? { status: 400, body: { code: 'not-understood', text: 'A grade comes as JSON, with a key of its own.' } }
      : registrar.take(key, student, submission, body);
  return not;
}

async function serveRequest(registrar: Registrar, request: IncomingMessage, response: ServerResponse): Promise<void> {
  const { mood } = registrar.held;
  const strikes = mood.outage !== 'none' && randomInt(100) < mood.percent;
  if (strikes && mood.outage === 'refuses') {
    request.socket.destroy();
    return;
  }
  const body = readObject(await readBody(request));
  if (strikes && mood.outage === 'silent') return;
  if (mood.delay > 0) await new Promise((done) => setTimeout(done, mood.delay));
  const send = ({ status, body: said }: Answer): void => {
    response.writeHead(status, { 'content-type': 'application/json' }).end(JSON.stringify(said));
  };
  if (request.headers.authorization !== `Bearer ${registrar.token}`) {
    send({ status: 401, body: { code: 'wrong-token', text: 'The token is not known here.' } });
    return;
  }
  const path = new URL(request.url ?? '/', 'http://registrar').pathname
    .split('/')
    .filter((p) => p !== '')
    .map(decodeURIComponent);
  const answer = answerTo(registrar, request, path, body);
  send(strikes ? { status: 500, body: { code: 'failed', text: 'Something went wrong.' } } : answer);
}

/** Serves the protocol on loopback. */
export const serveRegistrar = (registrar: Registrar, port: number): Promise<Served> =>
  listen(
    createServer((request, response) => {
      void serveRequest(registrar, request, response).catch(() => {
        request.socket.destroy();
      });
    }),
    port,
  );

/** Serves the page on which its window and mood are set and what it holds is seen. */
export const servePage = (registrar: Registrar, port: number): Promise<Served> =>
  listen(
    createServer((request, response) => {
      void (async () => {
        const form = request.method === 'POST' ? new URLSearchParams((await readBody(request)) ?? '') : null;
        if (form !== null) {
          const outage = OUTAGES.find((o) => o === form.get('outage')) ?? registrar.held.mood.outage;
          const number = (name: string, most: number, was: number): number => {
            const given = Number(form.get(name) ?? was);
            return Number.isFinite(given) ? Math.min(most, Math.max(0, Math.round(given))) : was;
          };
          const instant = (name: 'opensAt' | 'closesAt'): string => {
            const given = form.get(name) ?? '';
            return Number.isNaN(Date.parse(given)) ? registrar.held.window[name] : new Date(Date.parse(given)).toISOString();
          };
          registrar.set({
            window: { opensAt: instant('opensAt'), closesAt: instant('closesAt') },
            mood: {
              outage,
              percent: number('percent', 100, registrar.held.mood.percent),
              delay: number('delay', 60_000, registrar.held.mood.delay),
            },
          });
          response.writeHead(303, { location: '/' }).end();
          return;
        }
        response.writeHead(200, { 'content-type': 'text/html; charset=utf-8' }).end(registrarPage(registrar.held, OUTAGES));
      })();
    }),
    port,
  );
