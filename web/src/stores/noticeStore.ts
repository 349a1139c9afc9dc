import { defineStore } from 'pinia';
import { ref, shallowRef } from 'vue';
import { HttpProblem } from '../platform/http.ts';

export interface Notice {
  /** Another for each, so that a new sentence has its whole time, however lately the one before came. */
  readonly id: number;
  readonly text: string;
  readonly isFault: boolean;
  readonly undo: (() => Promise<void>) | null;
}
/** Something done on this view that can still be taken back. */
export interface Undoable {
  readonly id: number;
  readonly text: string;
  readonly run: () => Promise<void>;
}
const MOST_KEPT = 30;

/** One sentence at the foot of the page, with its undo; and all that was done on this view and can be taken back, after its sentence is gone too. */
export const useNotices = defineStore('notices', () => {
  const notice = ref<Notice | null>(null);
  const past = shallowRef<readonly Undoable[]>([]);
  /** What was taken back on this view and can be done once more, until something else is done. */
  const future = shallowRef<readonly Undoable[]>([]);
  let last = 0;
  let isRedoing = false;
  /** Each is taken back once, wherever it is asked for. */
  function keep(id: number, text: string, undo: () => Promise<void>, redo: (() => Promise<unknown>) | null): () => Promise<void> {
    const run = async (): Promise<void> => {
      if (!past.value.some((one) => one.id === id)) return;
      past.value = past.value.filter((one) => one.id !== id);
      await undo();
      if (redo === null) return;
      const again = async (): Promise<void> => {
        await redo();
      };
      future.value = [...future.value.slice(1 - MOST_KEPT), { id, text, run: again }];
    };
    if (!isRedoing) future.value = [];
    past.value = [...past.value.slice(1 - MOST_KEPT), { id, text, run }];
    return run;
  }
  /** `undo` takes back what is told of, `redo` does it once more after that, and tells of it again. */
  const say = (text: string, undo: (() => Promise<void>) | null = null, redo: (() => Promise<unknown>) | null = null): void => {
    last += 1;
    notice.value = { id: last, text, isFault: false, undo: undo === null ? null : keep(last, text, undo, redo) };
  };
  const sayFault = (error: unknown): void => {
    last += 1;
    notice.value = {
      id: last,
      text: error instanceof HttpProblem ? error.message : 'Something went wrong in this page. Reload it; nothing saved is lost.',
      isFault: true,
      undo: null,
    };
    if (!(error instanceof HttpProblem)) console.error(error);
  };
  const clear = (): void => {
    notice.value = null;
  };
  /** Takes back one of what was done here, the latest where none is named; what cannot be says why. */
  async function takeBack(one: Undoable | undefined = past.value.at(-1)): Promise<void> {
    if (one === undefined) return;
    const shown = notice.value?.id;
    try {
      await one.run();
      // Where taking it back says nothing itself, it is said that it was.
      if (notice.value?.id === shown || notice.value === null) say(`Undone: ${one.text}`);
    } catch (error) {
      sayFault(error);
    }
  }
  /** Does once more what was taken back last. */
  async function doAgain(): Promise<void> {
    const one = future.value.at(-1);
    if (one === undefined) return;
    future.value = future.value.slice(0, -1);
    isRedoing = true;
    try {
      await one.run();
    } catch (error) {
      sayFault(error);
    } finally {
      isRedoing = false;
    }
  }
  /** Another view is opened: what was done on the one before is taken back there, if at all. The sentence on screen keeps its undo. */
  const forget = (): void => {
    past.value = past.value.filter((one) => one.id === notice.value?.id);
    future.value = [];
  };
  return { notice, past, future, say, sayFault, clear, takeBack, doAgain, forget };
});
