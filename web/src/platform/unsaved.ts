import { addressOf, type BodyOf, type Endpoint, type ParamsOf } from '@rosemary/api/endpoints';
import { computed, shallowRef } from 'vue';
import { HttpProblem, ask } from './http.ts';
import { keep, readKept, whenPersonIsKnown } from './kept.ts';
import { pageSubject } from './usePageTitle.ts';

/** A write that waits here until the server has committed it: it is sent again while this browser is open, whatever page is. */
interface Request {
  readonly method: string;
  readonly path: string;
  readonly body: unknown;
}
/** Something typed that the server has not committed yet. */
export interface Unsaved {
  readonly key: string;
  /** What it is, in the words of the page on which it was typed. */
  readonly title: string;
  /** Where it was typed, to go back to. */
  readonly path: string;
  /** Why it is not saved; empty while its first save is on its way. */
  readonly why: string;
  /** Null for a text, which its own page saves when it is opened. */
  readonly request: Request | null;
  readonly isRefused: boolean;
}
const NAME = 'unsaved';
let isStarted = false;
const all = shallowRef<readonly Unsaved[]>([]);
const put = (next: readonly Unsaved[]): void => {
  all.value = next;
  keep(NAME, next);
};
whenPersonIsKnown(() => {
  // What is found here when somebody comes back was left unsaved.
  all.value = (readKept<Unsaved[]>(NAME) ?? []).map((one) => (one.why === '' ? { ...one, why: 'It was left before it was saved.' } : one));
  // Whoever signs in again on an open page has what waits for them sent too.
  if (isStarted && hasWaiting()) sendSoon(0);
});

/** What waits and cannot be saved at once, for the bar to show. */
export const stuck = computed(() => all.value.filter((one) => one.why !== ''));
export const findUnsaved = (key: string): Unsaved | null => all.value.find((one) => one.key === key) ?? null;
export const unsavedOf = (beginning: string): readonly Unsaved[] => all.value.filter((one) => one.key.startsWith(beginning));

const AWAY = 'There is no connection.';
export const whyOf = (error: unknown): string =>
  error instanceof HttpProblem ? (error.isPassing ? AWAY : error.message) : 'Something went wrong in this page.';

/** Notes that something typed here is not saved yet, and why where that is known. */
export function noteUnsaved(
  key: string,
  why = '',
  title = pageSubject().value?.title ?? document.title,
  request: Request | null = null,
): void {
  const held = findUnsaved(key);
  if (held !== null && held.why === why && request === null) return;
  const path = held?.path ?? location.pathname + location.search;
  const next: Unsaved = { key, title: held?.title ?? title, path, why, request, isRefused: why !== '' && why !== AWAY };
  put([...all.value.filter((one) => one.key !== key), next]);
}
export function noteSaved(key: string): void {
  if (findUnsaved(key) !== null) put(all.value.filter((one) => one.key !== key));
}

type Heard = (key: string, outcome: { readonly answer: unknown } | { readonly refused: HttpProblem; readonly request: Request }) => void;
const listeners = new Set<Heard>();
/** Hears of writes that were sent later: their answers, and refusals. */
export function onSentLater(heard: Heard): () => void {
  listeners.add(heard);
  return () => listeners.delete(heard);
}

let timer: ReturnType<typeof setTimeout> | undefined;
let isSending = false;
const SOON = 3000;
const LONGEST = 30_000;
let pause = SOON;
function sendSoon(wait: number): void {
  clearTimeout(timer);
  timer = setTimeout(() => {
    void sendWaiting();
  }, wait);
}
/** Sends what waits, one after another in the order in which it was typed; a silent server ends the round and is tried again. */
export async function sendWaiting(): Promise<void> {
  if (isSending) return;
  isSending = true;
  try {
    for (let one = nextWaiting(); one !== undefined; one = nextWaiting()) {
      const { key, request } = one;
      try {
        const { answer } = await ask(request.method, request.path, request.body);
        pause = SOON;
        // Typed anew meanwhile: that one is sent next.
        if (findUnsaved(key)?.request !== request) continue;
        noteSaved(key);
        for (const heard of listeners) heard(key, { answer });
      } catch (error) {
        if (!(error instanceof HttpProblem) || error.isPassing) {
          pause = Math.min(LONGEST, pause * 2);
          sendSoon(pause);
          return;
        }
        if (findUnsaved(key)?.request !== request) continue;
        noteUnsaved(key, error.message, one.title, request);
        for (const heard of listeners) heard(key, { refused: error, request });
      }
    }
  } finally {
    isSending = false;
  }
}
const nextWaiting = (): (Unsaved & { readonly request: Request }) | undefined =>
  all.value.find((one): one is Unsaved & { readonly request: Request } => one.request !== null && !one.isRefused);
const hasWaiting = (): boolean => nextWaiting() !== undefined;

/** Tries one again that was refused or waits. */
export function retryUnsaved(key: string): void {
  const one = findUnsaved(key);
  if (one === null || one.request === null) return;
  noteUnsaved(key, AWAY, one.title, { ...one.request });
  void sendWaiting();
}

/** Keeps a write that did not get through, to be sent as soon as the server answers. */
export function sendLater<E extends Endpoint & { readonly body: object }>(
  key: string,
  title: string,
  at: E,
  params: ParamsOf<E>,
  body: BodyOf<E>,
): void {
  noteUnsaved(key, AWAY, title, { method: at.method, path: addressOf(at, params), body });
  sendSoon(SOON);
}
/** Once for the whole application: what was left waiting is sent when it opens, and when the connection is back. */
export function startSending(): void {
  if (isStarted) return;
  isStarted = true;
  const now = (): void => {
    pause = SOON;
    if (hasWaiting()) void sendWaiting();
  };
  window.addEventListener('online', now);
  now();
}
