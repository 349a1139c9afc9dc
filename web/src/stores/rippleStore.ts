import type { RippleAnswer } from '@rosemary/api';
import { defineStore } from 'pinia';
import { ref } from 'vue';
import { makeAsking } from './asking.ts';

/** A change that moves somebody: it waits for Apply or Leave it. */
export const useRipple = defineStore('ripple', () => {
  const { asked: answer, ask, close } = makeAsking<RippleAnswer, boolean>(false);
  const title = ref('');
  const canUndo = ref(true);

  function show(what: string, ripple: RippleAnswer, hasUndo: boolean): Promise<boolean> {
    title.value = what;
    canUndo.value = hasUndo;
    return ask(ripple);
  }
  return { answer, title, canUndo, show, close };
});
