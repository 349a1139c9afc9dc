import type { CourseEvent, Topic } from '@rosemary/api';
import { onBeforeUnmount, watch, type Ref } from 'vue';
import { isSeenAs, TAB } from './http.ts';

const AGAIN: CourseEvent = { topic: 'again', itemId: null, enrolmentId: null, tab: null, by: '' };

/**
 * Hears what others change in a course while its page is in front. A hidden page lets go of its connection (a browser
 * has few for one server) and is told `again` when it comes back, as after any gap. Own changes are not told.
 */
export function useEvents(courseId: Ref<string>, on: (event: CourseEvent) => void): void {
  let source: EventSource | null = null;
  let hadGap = false;

  function close(): void {
    source?.close();
    source = null;
  }
  function open(): void {
    close();
    // Looking at the course as a student is a still picture: it hears nothing.
    if (document.hidden || courseId.value === '' || isSeenAs()) return;
    source = new EventSource(`/api/courses/${courseId.value}/events`);
    source.onopen = () => {
      if (hadGap) on(AGAIN);
      hadGap = false;
    };
    source.onerror = () => {
      hadGap = true;
    };
    source.onmessage = (message: MessageEvent<string>) => {
      const event = JSON.parse(message.data) as CourseEvent;
      if (event.tab !== TAB) on(event);
    };
  }
  function turn(): void {
    if (document.hidden) {
      hadGap = source !== null || hadGap;
      close();
    } else open();
  }
  document.addEventListener('visibilitychange', turn);
  watch(courseId, open, { immediate: true });
  onBeforeUnmount(() => {
    document.removeEventListener('visibilitychange', turn);
    close();
  });
}

/** Reads a page's matter afresh after such changes: never twice at the same time, and once more if another came meanwhile. */
export function useFresh(courseId: Ref<string>, topics: readonly Topic[], read: () => Promise<unknown>): void {
  let isReading = false;
  let isStale = false;
  async function refresh(): Promise<void> {
    isStale = true;
    if (isReading) return;
    isReading = true;
    try {
      while (isStale) {
        isStale = false;
        await read();
      }
    } catch {
      // The page keeps what it shows; the next change, or the person, tries again.
    } finally {
      isReading = false;
    }
  }
  useEvents(courseId, (event) => {
    if (event.topic === 'again' || topics.includes(event.topic)) void refresh();
  });
}
