import type { RunningAsked } from '@rosemary/api';
import { defineStore } from 'pinia';
import { shallowRef } from 'vue';
import type { ForRunning } from '../platform/http.ts';

/** A change that would reach those who are taking a quiz: it waits until it is said whom it is for. */
export const useRunning = defineStore('running', () => {
  const asked = shallowRef<RunningAsked | null>(null);
  let decide: ((choice: ForRunning | null) => void) | null = null;

  function show(whom: RunningAsked): Promise<ForRunning | null> {
    decide?.(null);
    asked.value = whom;
    return new Promise((done) => {
      decide = done;
    });
  }
  function close(choice: ForRunning | null): void {
    asked.value = null;
    decide?.(choice);
    decide = null;
  }
  return { asked, show, close };
});
