import { del, get as read, set } from 'idb-keyval';
import { computed, onBeforeUnmount, ref, type ComputedRef, type Ref } from 'vue';
import { HttpProblem } from './http.ts';
import { forgetKept, keep, placeOf, readKept } from './kept.ts';
import { noteSaved, noteUnsaved, whyOf } from './unsaved.ts';
import { clockTime } from '@rosemary/core';

export type SavingState = 'idle' | 'waiting' | 'saving' | 'saved' | 'away' | 'refused' | 'conflict';
export interface Saving<T> {
  readonly state: Ref<SavingState>;
  /** What stands beside the text: `Saved 14:02:11`, or why it is not. */
  readonly words: ComputedRef<string>;
  readonly fault: Ref<HttpProblem | null>;
  readonly push: (value: T) => void;
  readonly flush: () => Promise<void>;
  readonly findKept: () => Promise<T | null>;
  readonly forget: () => Promise<void>;
}

/** Kept twice: at once in the small store, which a reload in the next instant cannot outrun, and in the large one. */
function keepNear<T>(key: string, value: T): void {
  keep(key, value);
  // A plain copy: reactive objects do not go into the browser's store.
  void set(placeOf(key), JSON.parse(JSON.stringify(value)));
}
async function forgetNear(key: string): Promise<void> {
  forgetKept(key);
  await del(placeOf(key));
}
const readNear = async <T>(key: string): Promise<T | null> => readKept<T>(key) ?? (await read<T>(placeOf(key))) ?? null;

const WAIT = 700;
const RETRY = 3000;

/**
 * Saves as you go. What is typed goes to the browser's own store at once and stays there until the server has
 * committed it, so a reload, a crash or a lost connection loses nothing. One save is on its way at a time.
 */
export function useSaving<T>(key: () => string, save: (value: T) => Promise<string | null>): Saving<T> {
  const state = ref<SavingState>('idle');
  const savedAt = ref<string | null>(null);
  const fault = ref<HttpProblem | null>(null);
  let pending: { value: T; key: string } | null = null;
  let timer: ReturnType<typeof setTimeout> | undefined;
  let running: Promise<void> | null = null;

  const plan = (wait: number): void => {
    clearTimeout(timer);
    timer = setTimeout(() => {
      void flush();
    }, wait);
  };

  async function attempt(): Promise<void> {
    while (pending !== null) {
      const current: { value: T; key: string } = pending;
      state.value = 'saving';
      try {
        const at = await save(current.value);
        savedAt.value = clockTime(new Date(at ?? Date.now()));
        fault.value = null;
        if (pending === current) {
          pending = null;
          state.value = 'saved';
          noteSaved(current.key);
          await forgetNear(current.key);
        }
      } catch (error) {
        fault.value =
          error instanceof HttpProblem
            ? error
            : new HttpProblem({ type: 'urn:rosemary:broken', title: '', status: 500, detail: String(error) });
        state.value = fault.value.isPassing ? 'away' : fault.value.code === 'conflict' ? 'conflict' : 'refused';
        noteUnsaved(current.key, whyOf(fault.value));
        if (fault.value.isPassing) plan(RETRY);
        return;
      }
    }
  }

  async function flush(): Promise<void> {
    clearTimeout(timer);
    if (running !== null) await running;
    if (pending === null) return;
    running = attempt().finally(() => {
      running = null;
    });
    await running;
  }

  function push(value: T): void {
    pending = { value, key: key() };
    keepNear(pending.key, value);
    noteUnsaved(pending.key, '');
    if (state.value !== 'saving') state.value = 'waiting';
    plan(WAIT);
  }

  const words = computed(() => {
    switch (state.value) {
      case 'idle':
        return '';
      case 'waiting':
      case 'saving':
        return 'Saving…';
      case 'saved':
        return `Saved ${savedAt.value ?? ''}`;
      case 'away':
        return 'Not saved yet: no connection. It is kept here, and saved when the connection is back.';
      default:
        return fault.value?.message ?? 'Not saved.';
    }
  });

  onBeforeUnmount(() => {
    void flush();
  });
  return {
    state,
    words,
    fault,
    push,
    flush,
    findKept: () => readNear<T>(key()),
    forget: async () => {
      clearTimeout(timer);
      pending = null;
      state.value = 'idle';
      noteSaved(key());
      await forgetNear(key());
    },
  };
}
