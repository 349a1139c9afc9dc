import { ref, shallowRef, type Ref, type ShallowRef } from 'vue';
import { HttpProblem } from '../platform/http.ts';
import { type Saving, useSaving } from '../platform/useSaving.ts';

/** How something that is written bit by bit is read, saved, and told apart from what it is shown with. */
export interface Writing<T extends { readonly version: number }, C extends object> {
  readonly key: () => string;
  readonly read: () => Promise<T>;
  /** Saves it as the version that is held; gives the next version and when. */
  readonly save: (content: C, version: number) => Promise<{ readonly version: number; readonly savedAt: string | null }>;
  readonly contentOf: (held: T) => C;
  /** It can be written now: what this browser kept of it is brought back. */
  readonly isOpen: (held: T) => boolean;
  readonly nothing: C;
}

export interface Written<T, C> {
  readonly held: ShallowRef<T | null>;
  readonly content: Ref<C>;
  readonly fault: Ref<string>;
  /** What another window saved meanwhile, where it did. */
  readonly other: ShallowRef<T | null>;
  readonly saving: Saving<C>;
  readonly load: () => Promise<void>;
  readonly take: (next: T) => void;
  readonly change: (next: Partial<C>) => void;
  readonly flush: () => Promise<number>;
  readonly settle: (which: 'other' | 'mine') => Promise<void>;
}

/** Something written bit by bit: read, saved as it is typed, kept through a reload; of two windows it is asked which holds. */
export function useWritten<T extends { readonly version: number }, C extends object>(writing: Writing<T, C>): Written<T, C> {
  const held = shallowRef(null) as ShallowRef<T | null>;
  const content = ref(writing.nothing) as Ref<C>;
  const fault = ref('');
  const other = shallowRef(null) as ShallowRef<T | null>;
  let version = 0;
  const saving = useSaving<C>(writing.key, async (next) => {
    try {
      const saved = await writing.save(next, version);
      ({ version } = saved);
      return saved.savedAt;
    } catch (error) {
      if (error instanceof HttpProblem && error.code === 'conflict') other.value = await writing.read();
      throw error;
    }
  });
  function take(next: T): void {
    held.value = next;
    ({ version } = next);
    content.value = writing.contentOf(next);
  }
  async function load(): Promise<void> {
    fault.value = '';
    try {
      const found = await writing.read();
      take(found);
      const kept = writing.isOpen(found) ? await saving.findKept() : null;
      if (kept !== null) change(kept);
    } catch (error) {
      fault.value = error instanceof HttpProblem ? error.message : 'It could not be read.';
    }
  }
  function change(next: Partial<C>): void {
    content.value = { ...content.value, ...next };
    saving.push(content.value);
  }
  /** Everything typed goes to the server, also where nothing was; gives the version that is held then. */
  async function flush(): Promise<number> {
    if (saving.state.value === 'idle') saving.push(content.value);
    await saving.flush();
    if (saving.state.value !== 'saved') throw saving.fault.value ?? new Error(saving.words.value);
    return version;
  }
  /** Of two windows: what the other saved, or what stands here. */
  async function settle(which: 'other' | 'mine'): Promise<void> {
    const found = other.value;
    if (found === null) return;
    other.value = null;
    const mine = content.value;
    await saving.forget();
    take(found);
    if (which === 'mine') change(mine);
  }
  return { held, content, fault, other, saving, load, take, change, flush, settle };
}
