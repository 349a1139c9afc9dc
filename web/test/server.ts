import type { Hooks } from '../src/platform/http.ts';
import { useRipple } from '../src/stores/rippleStore.ts';
import { useRunning } from '../src/stores/runningStore.ts';

/** A stand-in for the network in tests of the pages' own logic: answers are given by method and path, and what was sent is kept. */
export interface Sent {
  readonly method: string;
  readonly path: string;
  readonly body: unknown;
  readonly headers: Record<string, string>;
}
type Answer = (sent: Sent) => unknown;

export class Refusal {
  readonly status: number;
  readonly code: string;
  readonly more: object;

  constructor(status: number, code: string, more: object = {}) {
    this.status = status;
    this.code = code;
    this.more = more;
  }
}
/** The network is silent. */
export class Silence {}
/** The server holds a change until its ripple has been seen. */
export class Held {
  readonly ripple: unknown;

  constructor(ripple: unknown) {
    this.ripple = ripple;
  }
}

/** One connection for what others do, on which nothing is said. */
export function quietEvents(): void {
  globalThis.EventSource = class {
    close = (): void => undefined;
  } as never;
}

/** Nobody is asked to sign in, no course is looked at as a student, and a ripple is shown in the page's own store. */
export const quietHooks: Hooks = {
  signInAgain: () => Promise.reject(new Error('not asked')),
  seeAs: () => null,
  askRunning: (asked) => useRunning().ask(asked),
  showRipple: (title, ripple, canUndo) => useRipple().show(title, ripple, canUndo),
};

export function fakeServer() {
  const answers = new Map<string, Answer>();
  const sent: Sent[] = [];
  globalThis.fetch = ((url: string, init: RequestInit = {}) => {
    const method = init.method ?? 'GET';
    const path = url.replace(/^\/api/, '');
    const one: Sent = {
      method,
      path,
      body: typeof init.body === 'string' ? (JSON.parse(init.body) as unknown) : null,
      headers: (init.headers ?? {}) as Record<string, string>,
    };
    sent.push(one);
    const answer = answers.get(`${method} ${path}`);
    if (answer === undefined) return Promise.reject(new Error(`nothing answers ${method} ${path}`));
    return Promise.resolve(answer(one)).then((given) => {
      if (given instanceof Silence) throw new TypeError('network');
      if (given instanceof Held) return new Response(JSON.stringify(given.ripple), { status: 202 });
      if (!(given instanceof Refusal)) return new Response(JSON.stringify(given ?? {}), { status: 200 });
      const problem = {
        type: `urn:rosemary:${given.code}`,
        title: given.code,
        status: given.status,
        detail: `refused: ${given.code}`,
        ...given.more,
      };
      return new Response(JSON.stringify(problem), { status: given.status });
    });
  }) as typeof fetch;
  return {
    sent,
    on: (what: string, answer: Answer): void => {
      answers.set(what, answer);
    },
    bodies: (what: string): unknown[] => sent.filter((s) => `${s.method} ${s.path}` === what).map((s) => s.body),
  };
}

/** The browser's small store. */
export function fakeStorage(): Storage {
  const kept = new Map<string, string>();
  return {
    get length() {
      return kept.size;
    },
    clear: () => {
      kept.clear();
    },
    getItem: (key) => kept.get(key) ?? null,
    key: (n) => [...kept.keys()][n] ?? null,
    removeItem: (key) => {
      kept.delete(key);
    },
    setItem: (key, value) => {
      kept.set(key, value);
    },
  };
}

/** Waits until something is true, letting everything that is due run meanwhile; what has not come after ten seconds never does. */
export async function until(isTrue: () => boolean, what = 'it'): Promise<void> {
  const end = performance.now() + 10_000;
  while (performance.now() < end) {
    if (isTrue()) return;
    await new Promise((done) => {
      setImmediate(done);
    });
  }
  throw new Error(`${what} did not come true`);
}
