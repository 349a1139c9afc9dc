import type { RippleAnswer } from '@rosemary/api';
import { defineStore } from 'pinia';
import { ref, shallowRef } from 'vue';

/** A change that moves somebody: it waits for Apply or Leave it. */
export const useRipple = defineStore('ripple', () => {
  const answer = shallowRef<RippleAnswer | null>(null);
  const title = ref('');
  const canUndo = ref(true);
  let decide: ((isApplied: boolean) => void) | null = null;

  function show(what: string, ripple: RippleAnswer, hasUndo: boolean): Promise<boolean> {
    title.value = what;
    canUndo.value = hasUndo;
    answer.value = ripple;
    return new Promise((done) => {
      decide = done;
    });
  }
  function close(isApplied: boolean): void {
    answer.value = null;
    decide?.(isApplied);
    decide = null;
  }
  return { answer, title, canUndo, show, close };
});
