import { defineStore } from 'pinia';
import { ref } from 'vue';
import { HttpProblem } from '../platform/http.ts';

export interface Notice {
  /** Another for each, so that a new sentence has its whole time, however lately the one before came. */
  readonly id: number;
  readonly text: string;
  readonly isFault: boolean;
  readonly undo: (() => Promise<void>) | null;
}

/** One sentence at the foot of the page, with its undo. */
export const useNotices = defineStore('notices', () => {
  const notice = ref<Notice | null>(null);
  let last = 0;
  const say = (text: string, undo: (() => Promise<void>) | null = null): void => {
    last += 1;
    notice.value = { id: last, text, isFault: false, undo };
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
  return { notice, say, sayFault, clear };
});
