import type { RippleAnswer } from '@rosemary/api';
import { defineStore } from 'pinia';
import { ref, shallowRef } from 'vue';

/** A change that moves somebody: it waits for Apply or Leave it. */
export const useRipple = defineStore('ripple', () => {
  const answer = shallowRef<RippleAnswer | null>(null);
  const title = ref('');
  let decide: ((isApplied: boolean) => void) | null = null;

  function show(what: string, ripple: RippleAnswer): Promise<boolean> {
    title.value = what;
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
  return { answer, title, show, close };
});
