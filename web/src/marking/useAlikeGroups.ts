import type { AlikeGroup, ShortAnswer } from '@rosemary/core';
import { onBeforeUnmount, shallowRef } from 'vue';

/** Answers that say the same, found beside the page by a worker; null until it has answered. */
export function useAlikeGroups() {
  const groups = shallowRef<readonly AlikeGroup[] | null>(null);
  let worker: Worker | null = null;
  function group(answers: readonly ShortAnswer[]): void {
    worker ??= new Worker(new URL('./alikeWorker.ts', import.meta.url), { type: 'module' });
    worker.onmessage = (event: MessageEvent<readonly AlikeGroup[]>) => {
      groups.value = event.data;
    };
    worker.postMessage(answers);
  }
  onBeforeUnmount(() => worker?.terminate());
  return { groups, group };
}
