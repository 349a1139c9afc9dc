import type { Problem, RippleAnswer } from '@rosemary/api';

/** An answer that is not a success, as the server put it, or the network's silence. */
export class HttpProblem extends Error {
  readonly problem: Problem;

  constructor(problem: Problem) {
    super(problem.detail);
    this.problem = problem;
  }

  get code(): string {
    return this.problem.type.replace('urn:rosemary:', '');
  }
  /** Worth another try by itself: the network or the database was away for a moment. */
  get isPassing(): boolean {
    return this.problem.status === 0 || this.problem.status === 503;
  }

  field(name: string): string | null {
    return this.problem.pointers?.find((p) => p.field === name)?.text ?? null;
  }
}

/** Names this tab to the server, so that what it changed is not told to it again. */
export const TAB = `${Date.now().toString(36)}-${Math.floor(Math.random() * 1e9).toString(36)}`;

interface Hooks {
  readonly signInAgain: () => Promise<void>;
  readonly seeAs: () => { readonly enrolmentId: string; readonly courseId: string; readonly on: string | null } | null;
}
let hooks: Hooks = { signInAgain: () => Promise.reject(new Error('no session')), seeAs: () => null };

/** The shell says how to sign in again and as whom a course is looked at. */
export function setHooks(next: Hooks): void {
  hooks = next;
}

/** Whether a course is being looked at as one of its students sees it. */
export const isSeenAs = (): boolean => hooks.seeAs() !== null;

function headers(path: string, isJson: boolean): Record<string, string> {
  const seen = hooks.seeAs();
  const isSeen = seen !== null && path.startsWith(`/api/courses/${seen.courseId}`);
  return {
    'x-tab': TAB,
    ...(isJson ? { 'content-type': 'application/json' } : {}),
    ...(isSeen ? { 'x-see-as': seen.enrolmentId, ...(seen.on === null ? {} : { 'x-see-on': seen.on }) } : {}),
  };
}

const away: Problem = {
  type: 'urn:rosemary:away',
  title: 'No connection',
  status: 0,
  detail: 'The server does not answer. Nothing you typed is lost; it is sent again by itself.',
};

async function once(method: string, path: string, body: unknown, more: Record<string, string>): Promise<Response> {
  const isForm = body instanceof FormData;
  try {
    return await fetch(path, {
      method,
      headers: { ...headers(path, body !== undefined && !isForm), ...more },
      ...(body === undefined ? {} : { body: isForm ? body : JSON.stringify(body) }),
    });
  } catch {
    throw new HttpProblem(away);
  }
}

/** One request. An ended session asks for the password over the page, then the same request goes out again. */
export async function send<T>(method: string, path: string, body?: unknown, more: Record<string, string> = {}): Promise<T> {
  for (;;) {
    const response = await once(method, `/api${path}`, body, more);
    if (response.ok) return (await response.json()) as T;
    const problem = (await response
      .json()
      .catch((): Problem => ({ ...away, status: response.status, detail: 'The server gave no readable answer. Try again.' }))) as Problem;
    if (problem.type !== 'urn:rosemary:not-signed-in') throw new HttpProblem(problem);
    await hooks.signInAgain();
  }
}

export const get = <T>(path: string): Promise<T> => send<T>('GET', path);

/** A part of a file, as bytes. */
export async function sendBytes<T>(path: string, bytes: Blob, signal: AbortSignal): Promise<T> {
  let response: Response;
  try {
    response = await fetch(`/api${path}`, {
      method: 'PUT',
      headers: { 'x-tab': TAB, 'content-type': 'application/octet-stream' },
      body: bytes,
      signal,
    });
  } catch {
    throw new HttpProblem(away);
  }
  if (response.ok) return (await response.json()) as T;
  throw new HttpProblem((await response.json().catch((): Problem => ({ ...away, status: response.status }))) as Problem);
}

/** A form with a file in it. */
export const sendForm = <T>(path: string, form: FormData): Promise<T> => send<T>('POST', path, form);

/** What a write would do to everyone's totals; the server carries it out and takes it back. */
export const rehearse = (method: string, path: string, body?: unknown): Promise<RippleAnswer> =>
  send<RippleAnswer>(method, path, body, { 'x-rehearse': '1' });

/** Sends a file with its progress from 0 to 1; the signal cancels it. */
export function upload<T>(path: string, file: File, onProgress: (share: number) => void, signal?: AbortSignal): Promise<T> {
  return new Promise((done, fail) => {
    const request = new XMLHttpRequest();
    request.open('POST', `/api${path}`);
    request.setRequestHeader('x-tab', TAB);
    request.upload.onprogress = (event) => {
      if (event.lengthComputable) onProgress(event.loaded / event.total);
    };
    request.onload = () => {
      const answer = JSON.parse(request.responseText) as unknown;
      if (request.status < 300) done(answer as T);
      else fail(new HttpProblem(answer as Problem));
    };
    request.onerror = () => {
      fail(new HttpProblem(away));
    };
    request.onabort = () => {
      fail(new HttpProblem({ ...away, type: 'urn:rosemary:cancelled', detail: 'Cancelled.' }));
    };
    signal?.addEventListener('abort', () => {
      request.abort();
    });
    const form = new FormData();
    form.append('file', file);
    request.send(form);
  });
}
