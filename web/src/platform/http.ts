import type { Problem, RippleAnswer, RunningAsked } from '@rosemary/api';

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

/** Whether those who are taking a quiz keep what they began under, or are given what is new. */
export type ForRunning = 'keep' | 'give';

export interface Hooks {
  readonly signInAgain: () => Promise<void>;
  readonly seeAs: () => { readonly enrolmentId: string; readonly courseId: string; readonly on: string | null } | null;
  /** Shows what a change would do to everybody's totals; true where the person applies it. */
  readonly showRipple: (title: string, ripple: RippleAnswer, canUndo: boolean) => Promise<boolean>;
  /** Shows who is taking a quiz that a change would reach; null where the person leaves it. */
  readonly askRunning: (asked: RunningAsked) => Promise<ForRunning | null>;
}
export let hooks: Hooks = {
  signInAgain: () => Promise.reject(new Error('no session')),
  seeAs: () => null,
  showRipple: () => Promise.reject(new Error('nobody shows a ripple')),
  askRunning: () => Promise.resolve(null),
};

/** The shell says how to sign in again, as whom a course is looked at, and how a ripple is shown. */
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
  detail: 'The server does not answer. Nothing was changed, and what you typed is still here. Try again in a moment.',
};

async function once(method: string, path: string, body: unknown, more: Record<string, string>): Promise<Response> {
  const isForm = body instanceof FormData;
  try {
    return await fetch(path, {
      method: method.toUpperCase(),
      headers: { ...headers(path, body !== undefined && !isForm), ...more },
      ...(body === undefined ? {} : { body: isForm ? body : JSON.stringify(body) }),
    });
  } catch {
    throw new HttpProblem(away);
  }
}

export interface Reply {
  readonly status: number;
  readonly answer: unknown;
  /** What was chosen for those who are taking a quiz, to be sent along where the same request goes out once more. */
  readonly forRunning: Readonly<Record<string, string>>;
}

/**
 * One request. An ended session asks for the password over the page, and a change that would reach those who are taking a quiz asks whom
 * it is for; then the same request goes out again.
 */
export async function ask(method: string, path: string, body?: unknown, more: Record<string, string> = {}): Promise<Reply> {
  let forRunning: Record<string, string> = {};
  for (;;) {
    const response = await once(method, `/api${path}`, body, { ...more, ...forRunning });
    if (response.ok) return { status: response.status, answer: await response.json(), forRunning };
    const problem = (await response
      .json()
      .catch((): Problem => ({ ...away, status: response.status, detail: 'The server gave no readable answer. Try again.' }))) as Problem;
    if (problem.type === 'urn:rosemary:running') {
      const choice = await hooks.askRunning(problem.current as RunningAsked);
      if (choice === null) throw new HttpProblem({ ...problem, detail: 'Nothing was changed.' });
      forRunning = { 'x-running': choice };
    } else if (problem.type === 'urn:rosemary:not-signed-in') await hooks.signInAgain();
    else throw new HttpProblem(problem);
  }
}

/** Sends a form and takes a file back: its bytes. */
export async function askForFile(path: string, form: FormData): Promise<Blob> {
  const response = await once('post', `/api${path}`, form, {});
  if (response.ok) return response.blob();
  throw new HttpProblem((await response.json().catch((): Problem => ({ ...away, status: response.status }))) as Problem);
}

/** A part of a file, as bytes. */
export async function askWithBytes(path: string, bytes: Blob, signal: AbortSignal): Promise<unknown> {
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
  if (response.ok) return response.json();
  throw new HttpProblem((await response.json().catch((): Problem => ({ ...away, status: response.status }))) as Problem);
}

/** Sends a file with its progress from 0 to 1; the signal cancels it. */
export function askWithFile(
  path: string,
  file: File,
  { onProgress, signal }: { readonly onProgress?: (share: number) => void; readonly signal?: AbortSignal },
  more: Record<string, string> = {},
): Promise<Reply> {
  return new Promise((done, fail) => {
    const request = new XMLHttpRequest();
    request.open('POST', `/api${path}`);
    request.setRequestHeader('x-tab', TAB);
    for (const [name, value] of Object.entries(more)) request.setRequestHeader(name, value);
    request.upload.onprogress = (event) => {
      if (event.lengthComputable) onProgress?.(event.loaded / event.total);
    };
    request.onload = () => {
      const answer = JSON.parse(request.responseText) as unknown;
      if (request.status < 300) done({ status: request.status, answer, forRunning: {} });
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
