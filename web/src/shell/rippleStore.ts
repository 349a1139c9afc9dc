import type { RippleAnswer } from '@rosemary/api';
import { defineStore } from 'pinia';
import { ref, shallowRef } from 'vue';
import { rehearse } from '../platform/http.ts';

/** A change that has been rehearsed and moves somebody: it waits for Apply or Leave it. */
export const useRipple = defineStore('ripple', () => {
  const answer = shallowRef<RippleAnswer | null>(null);
  const title = ref('');
  let decide: ((isApplied: boolean) => void) | null = null;

  /** Whether a write may go out: at once when nobody's total moves, else when the person applies it. */
  async function confirm(what: string, method: string, path: string, body?: unknown): Promise<boolean> {
    const ripple = await rehearse(method, path, body);
    if (ripple.rows.every((r) => r.move === 'stays' && !r.crosses && r.floor === null && r.reach === null)) return true;
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
  return { answer, title, confirm, close };
});
