import type { Touched, Whom } from '@rosemary/api';
import { defineStore } from 'pinia';
import { ref } from 'vue';
import { makeAsking } from './asking.ts';

/** A change to something running: whom it touches, and for whom it shall be. */
export const useTouched = defineStore('touched', () => {
  const { asked: touched, ask: askWhom, close } = makeAsking<Touched, Whom | null>(null);
  const title = ref('');

  /** For whom a change shall be; null where it was left. Not asked where nobody has begun. */
  async function ask(what: string, found: Touched): Promise<Whom | null> {
    if (found.begun === 0) return 'everyone';
    title.value = what;
    return askWhom(found);
  }
  return { touched, title, ask, close };
});
