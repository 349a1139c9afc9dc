import type { Visit } from '@rosemary/api';
import { useEventListener } from '@vueuse/core';
import { onBeforeUnmount } from 'vue';

/** Shorter than this is no reading, and is not told. */
const LEAST_SECONDS = 10;
const LONGEST_SECONDS = 3600;

/**
 * How long a page is open and in sight, told when it goes out of sight or is left. A page that lies open behind others counts nothing:
 * what is recorded is the longest that somebody can have looked at it.
 */
export function useVisit(tell: (visit: Visit) => void, clock: () => number = Date.now): { begin: () => void } {
  let since: number | null = null;
  let hasTyped = false;
  let hasBegun = false;
  const flush = (): void => {
    if (since === null) return;
    const seconds = Math.min(LONGEST_SECONDS, Math.round((clock() - since) / 1000));
    since = null;
    if (seconds < LEAST_SECONDS) return;
    tell({ seconds, hasTyped });
    hasTyped = false;
  };
  useEventListener(document, 'visibilitychange', () => {
    if (document.hidden) flush();
    else if (hasBegun) since = clock();
  });
  useEventListener(document, 'input', () => {
    hasTyped = true;
  });
  onBeforeUnmount(flush);
  return {
    begin: () => {
      hasBegun = true;
      tell({ seconds: 0 });
      if (!document.hidden) since = clock();
    },
  };
}
