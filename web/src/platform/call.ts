import type { RippleAnswer } from '@rosemary/api';
import { addressOf, type AnswerOf, type BodyOf, type Endpoint, type GradeMoving, type ParamsOf } from '@rosemary/api/endpoints';
import { ask, askForFile, askWithBytes, askWithFile, hooks } from './http.ts';

type WithBody = { readonly body: object };
/** What is sent is only read, whatever the schema's own type says. */
type Sent<T> = T extends readonly (infer U)[] ? readonly Sent<U>[] : T extends object ? { readonly [K in keyof T]: Sent<T[K]> } : T;
export type Uploading = Endpoint & { readonly takesFile: string };
/** What a call is given beside its parameters: the body where there is one, and a title over the ripple where grades move. */
type Given<E extends Endpoint> = E extends GradeMoving
  ? readonly [body: Sent<BodyOf<E>>, title: string]
  : E extends WithBody
    ? readonly [body: Sent<BodyOf<E>>]
    : readonly [];
export type Answered<E extends Endpoint> = E extends GradeMoving ? AnswerOf<E> | null : AnswerOf<E>;

const HELD = 202;

const showRipple = (at: Endpoint, title: string | undefined, ripple: unknown): Promise<boolean> => {
  const isFinal = at.method !== 'get' && at.movesGrades === true && at.undo !== 'itself' && 'none' in at.undo;
  return hooks.showRipple(title ?? '', ripple as RippleAnswer, !isFinal);
};

/**
 * Calls an endpoint. What moves somebody's total is held by the server until its ripple has been seen: null where the
 * person leaves it, and nothing is changed then.
 */
export async function call<E extends Endpoint>(at: E, params: ParamsOf<E>, ...[body, title]: Given<E>): Promise<Answered<E>> {
  const path = addressOf(at, params);
  if (at.method === 'get' || at.movesGrades !== true) return (await ask(at.method, path, body)).answer as Answered<E>;
  const { status, answer, forRunning } = await ask(at.method, path, body, { 'x-ripple': 'mind' });
  if (status !== HELD) return answer as Answered<E>;
  if (!(await showRipple(at, title, answer))) return null as Answered<E>;
  return (await ask(at.method, path, body, forRunning)).answer as Answered<E>;
}

/** Carries out a change whose ripple stands on the page already, so that nobody is asked twice. */
export async function callSeen<E extends GradeMoving>(at: E, params: ParamsOf<E>, body: Sent<BodyOf<E>>): Promise<AnswerOf<E>> {
  return (await ask(at.method, addressOf(at, params), body)).answer as AnswerOf<E>;
}

/** What a change would do to everybody's totals; the server carries it out and takes it back. */
export async function rippleOf<E extends GradeMoving>(at: E, params: ParamsOf<E>, body: Sent<BodyOf<E>>): Promise<RippleAnswer> {
  return (await ask(at.method, addressOf(at, params), body, { 'x-ripple': 'show' })).answer as RippleAnswer;
}

type UndoOf<E extends GradeMoving> = E['undo'] extends 'itself' ? E : E['undo'] extends Endpoint ? E['undo'] : never;
type UndoBody<E extends GradeMoving> = UndoOf<E> extends WithBody ? readonly [body: Sent<BodyOf<UndoOf<E>>>] : readonly [];

/** Takes a change of grades back, the way its endpoint says, without asking once more: what is put back was there before. */
export async function takeBack<E extends GradeMoving>(
  at: E,
  params: ParamsOf<UndoOf<E>>,
  ...[body]: UndoBody<E>
): Promise<AnswerOf<UndoOf<E>>> {
  const { undo } = at;
  if (undo !== 'itself' && 'none' in undo) throw new Error(`${at.path} is not taken back: ${undo.none}`);
  const by: Endpoint = undo === 'itself' ? at : undo;
  return (await ask(by.method, addressOf(by, params as ParamsOf<typeof by>), body)).answer as AnswerOf<UndoOf<E>>;
}

export interface Sending {
  /** Hears how much has arrived, from 0 to 1. */
  readonly onProgress?: (share: number) => void;
  /** Cancels it. */
  readonly signal?: AbortSignal;
  /** Stands over the ripple, where what comes in moves grades. */
  readonly title?: string;
}
export type SendingOf<E extends Endpoint> = E extends GradeMoving
  ? readonly [sending: Sending & { readonly title: string }]
  : readonly [sending?: Sending];

/** Sends a file; where what it brings moves somebody's total, its ripple is seen first, and the file goes out once more. */
export async function callWithFile<E extends Uploading>(
  at: E,
  params: ParamsOf<E>,
  file: File,
  ...[sending = {}]: SendingOf<E>
): Promise<Answered<E>> {
  const path = addressOf(at, params);
  const moves = at.method !== 'get' && at.movesGrades === true;
  const { status, answer } = await askWithFile(path, file, sending, moves ? { 'x-ripple': 'mind' } : {});
  if (status !== HELD) return answer as Answered<E>;
  if (!(await showRipple(at, sending.title, answer))) return null as Answered<E>;
  return (await askWithFile(path, file, sending)).answer as Answered<E>;
}

/** Sends a form with a file in it. */
export async function callWithForm<E extends Uploading>(at: E, params: ParamsOf<E>, form: FormData): Promise<AnswerOf<E>> {
  return (await ask('post', addressOf(at, params), form)).answer as AnswerOf<E>;
}

/** Sends a form with a file in it, for another file. */
export const callForFile = <E extends Uploading & { readonly isStream: true }>(at: E, params: ParamsOf<E>, form: FormData): Promise<Blob> =>
  askForFile(addressOf(at, params), form);

/** A part of a file, as bytes. */
export async function callWithBytes<E extends Endpoint>(
  at: E,
  params: ParamsOf<E>,
  bytes: Blob,
  signal: AbortSignal,
): Promise<AnswerOf<E>> {
  return (await askWithBytes(addressOf(at, params), bytes, signal)) as AnswerOf<E>;
}
