import type { Touched, Whom } from '@rosemary/api';
import { defineStore } from 'pinia';
import { ref, shallowRef } from 'vue';

/** A change to something running: whom it touches, and for whom it shall be. */
export const useTouched = defineStore('touched', () => {
  const touched = shallowRef<Touched | null>(null);
  const title = ref('');
  let decide: ((whom: Whom | null) => void) | null = null;

  /** For whom a change shall be; null where it was left. Not asked where nobody has begun. */
  async function ask(what: string, found: Touched): Promise<Whom | null> {
    if (found.begun === 0) return 'everyone';
    title.value = what;
    touched.value = found;
    return new Promise((done) => {
      decide = done;
    });
  }
  function close(whom: Whom | null): void {
    touched.value = null;
    decide?.(whom);
    decide = null;
  }
  return { touched, title, ask, close };
});
