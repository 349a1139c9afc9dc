import type { HeldGrade, ListedStudent, RegistrarRules, RegistrarWindow, Reply } from '@rosemary/core';

/** Where the registrar is, and by what he knows us; null where the school has set none. */
export interface Registrar {
  readonly url: string;
  readonly token: string;
}
export function findRegistrar(env: NodeJS.ProcessEnv = process.env): Registrar | null {
  const url = (env.ROSEMARY_REGISTRAR_URL ?? '').replace(/\/$/, '');
  return url === '' ? null : { url, token: env.ROSEMARY_REGISTRAR_TOKEN ?? '' };
}

const WAIT_MS = 10_000;
const MOST_BYTES = 4_194_304;
/** A connection that was never there: nothing can have been stored. */
const NOT_CONNECTED = new Set(['ECONNREFUSED', 'ENOTFOUND', 'EAI_AGAIN', 'EHOSTUNREACH', 'ENETUNREACH', 'UND_ERR_CONNECT_TIMEOUT']);

type Said = { readonly status: number; readonly body: Readonly<Record<string, unknown>> } | 'no connection' | 'no answer';

async function ask(registrar: Registrar, method: 'GET' | 'PUT', path: string, body?: object, key?: string): Promise<Said> {
  try {
    const answer = await fetch(`${registrar.url}${path}`, {
      method,
      redirect: 'error',
      signal: AbortSignal.timeout(WAIT_MS),
      headers: {
        authorization: `Bearer ${registrar.token}`,
        ...(body === undefined ? {} : { 'content-type': 'application/json' }),
        ...(key === undefined ? {} : { 'idempotency-key': key }),
      },
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
    });
    const text = await answer.text();
    if (text.length > MOST_BYTES || answer.status >= 500) return 'no answer';
    const said = JSON.parse(text) as unknown;
    return typeof said === 'object' && said !== null ? { status: answer.status, body: said as Record<string, unknown> } : 'no answer';
  } catch (error) {
    const { code } = ((error as { cause?: unknown }).cause ?? {}) as { code?: string };
    return code !== undefined && NOT_CONNECTED.has(code) ? 'no connection' : 'no answer';
  }
}

const words = (value: unknown): string => (typeof value === 'string' ? value.slice(0, 500) : '');
const orNull = (value: unknown): string | null => (typeof value === 'string' && value !== '' ? value.slice(0, 40) : null);
const list = (value: unknown): readonly Readonly<Record<string, unknown>>[] =>
  Array.isArray(value) ? value.filter((v): v is Record<string, unknown> => typeof v === 'object' && v !== null) : [];

/** What a submission was answered with, by its status. */
function replyOf(status: unknown, body: Readonly<Record<string, unknown>>): Reply {
  const receipt = orNull(body.receipt);
  if (status === 200 && receipt !== null) return { kind: 'accepted', receipt };
  if (typeof status === 'number' && status >= 400 && status < 500)
    return { kind: 'refused', code: words(body.code) || `status-${status}`, text: words(body.text) };
  return { kind: 'no answer' };
}

/** A grade as it is sent. */
export interface SentBody {
  readonly by: string;
  readonly letter: string;
  readonly number: string | null;
  readonly lastDay: string | null;
  readonly expiresOn: string | null;
  readonly lapsesTo: string | null;
  readonly corrects: string | null;
  readonly reason: string;
}
export async function sendGrade(
  registrar: Registrar,
  at: { readonly section: string; readonly student: string; readonly key: string },
  body: SentBody,
): Promise<Reply> {
  const path = `/sections/${encodeURIComponent(at.section)}/grades/${encodeURIComponent(at.student)}`;
  const said = await ask(registrar, 'PUT', path, body, at.key);
  return typeof said === 'string' ? { kind: said } : replyOf(said.status, said.body);
}

/** Whether he has a submission, and what he answered to it. */
export async function askAfter(registrar: Registrar, key: string): Promise<Reply> {
  const said = await ask(registrar, 'GET', `/submissions/${encodeURIComponent(key)}`);
  if (typeof said === 'string') return { kind: said };
  if (said.status === 404) return { kind: 'not seen' };
  const { status, answer } = said.body;
  return said.status === 200 && typeof answer === 'object' && answer !== null
    ? replyOf(status, answer as Record<string, unknown>)
    : { kind: 'no answer' };
}

type Told<T> = { readonly ok: true; readonly value: T } | { readonly ok: false; readonly reason: string };
async function told<T>(registrar: Registrar, path: string, read: (body: Readonly<Record<string, unknown>>) => T | null): Promise<Told<T>> {
  const said = await ask(registrar, 'GET', path);
  if (said === 'no connection') return { ok: false, reason: 'There is no connection to the registrar.' };
  if (said === 'no answer') return { ok: false, reason: 'The registrar does not answer.' };
  if (said.status !== 200)
    return { ok: false, reason: `The registrar answers: ${words(said.body.text) || words(said.body.code) || `status ${said.status}`}` };
  const value = read(said.body);
  return value === null ? { ok: false, reason: 'The registrar answers in a way that cannot be read.' } : { ok: true, value };
}

export const askRules = (registrar: Registrar): Promise<Told<RegistrarRules>> =>
  told(registrar, '/rules', (body) => {
    const letters = list(body.letters).flatMap((l) => {
      const letter = orNull(l.letter);
      return letter === null ? [] : [{ letter, needsLastDay: l.needsLastDay === true, isIncomplete: l.isIncomplete === true }];
    });
    const takes = (body.takes ?? {}) as Readonly<Record<string, unknown>>;
    if (letters.length === 0 || typeof takes !== 'object') return null;
    return {
      letters,
      takesNumber: takes.number === true,
      takesLastDay: takes.lastDay === true,
      takesExpiry: takes.expiry === true,
      takesLapse: takes.lapse === true,
    };
  });

export const askWindow = (registrar: Registrar): Promise<Told<RegistrarWindow>> =>
  told(registrar, '/window', (body) => {
    const [opensAt, closesAt] = [Date.parse(words(body.opensAt)), Date.parse(words(body.closesAt))];
    return Number.isNaN(opensAt) || Number.isNaN(closesAt) ? null : { opensAt, closesAt };
  });

/** A grade as he holds it. */
export interface HeldThere extends HeldGrade {
  readonly receipt: string | null;
}
export const askHeld = (registrar: Registrar, section: string): Promise<Told<readonly HeldThere[]>> =>
  told(registrar, `/sections/${encodeURIComponent(section)}/grades`, (body) =>
    Array.isArray(body.grades)
      ? list(body.grades).map((g) => ({
          studentKey: words(g.student),
          letter: words(g.letter),
          percent: orNull(g.number),
          lastDay: orNull(g.lastDay),
          expiresOn: orNull(g.expiresOn),
          lapsesTo: orNull(g.lapsesTo),
          receipt: orNull(g.receipt),
        }))
      : null,
  );

/** The students of a section as he lists them. */
export const askList = (registrar: Registrar, section: string): Promise<Told<readonly ListedStudent[]>> =>
  told(registrar, `/sections/${encodeURIComponent(section)}`, (body) =>
    Array.isArray(body.students) ? list(body.students).map((s) => ({ key: words(s.key), name: words(s.name) })) : null,
  );
