import * as api from '@rosemary/api/endpoints';
import { urlOf } from '@rosemary/api/endpoints';
import type { CourseEvent, Topic } from '@rosemary/api';
import { onBeforeUnmount, watch, type Ref } from 'vue';
import { isSeenAs, TAB } from './http.ts';

const AGAIN: CourseEvent = { topic: 'again', itemId: null, enrolmentId: null, rows: null, tab: null, by: '' };
type Listener = (event: CourseEvent) => void;

/** One connection for a course, however many parts of the page listen to it. */
class Line {
  readonly #courseId: string;
  readonly listeners = new Set<Listener>();
  #source: EventSource | null = null;
  #hadGap = false;

  constructor(courseId: string) {
    this.#courseId = courseId;
  }

  readonly turn = (): void => {
    if (!document.hidden) {
      this.open();
      return;
    }
    this.#hadGap = this.#source !== null || this.#hadGap;
    this.close();
  };

  #tell(event: CourseEvent): void {
    for (const listener of this.listeners) listener(event);
  }

  open(): void {
    this.close();
    // Looking at the course as a student is a still picture: it hears nothing.
    if (document.hidden || isSeenAs()) return;
    const source = new EventSource(urlOf(api.listenToCourse, { courseId: this.#courseId }));
    source.onopen = () => {
      if (this.#hadGap) this.#tell(AGAIN);
      this.#hadGap = false;
    };
    source.onerror = () => {
      this.#hadGap = true;
    };
    source.onmessage = (message: MessageEvent<string>) => {
      const event = JSON.parse(message.data) as CourseEvent;
      if (event.tab !== TAB) this.#tell(event);
    };
    this.#source = source;
  }

  close(): void {
    this.#source?.close();
    this.#source = null;
  }
}

const lines = new Map<string, Line>();

function listen(courseId: string, on: Listener): () => void {
  let line = lines.get(courseId);
  if (line === undefined) {
    line = new Line(courseId);
    lines.set(courseId, line);
    document.addEventListener('visibilitychange', line.turn);
    line.open();
  }
  const own = line;
  own.listeners.add(on);
  return () => {
    own.listeners.delete(on);
    if (own.listeners.size > 0) return;
    own.close();
    document.removeEventListener('visibilitychange', own.turn);
    lines.delete(courseId);
  };
}

/**
 * Hears what others change in a course while its page is in front. A hidden page lets go of its connection (a browser
 * has few for one server) and is told `again` when it comes back, as after any gap. Own changes are not told.
 */
export function useEvents(courseId: Ref<string>, on: Listener): void {
  let leave: (() => void) | null = null;
  watch(
    courseId,
    (id) => {
      leave?.();
      leave = id === '' ? null : listen(id, on);
    },
    { immediate: true },
  );
  onBeforeUnmount(() => {
    leave?.();
  });
}

const MOST_ROWS = 12;

/** Reads as long as something waits to be read, and never twice at the same time. */
function makeReader(waits: () => boolean, read: () => Promise<unknown>): () => Promise<void> {
  let isReading = false;
  return async () => {
    if (isReading) return;
    isReading = true;
    try {
      while (waits()) await read();
    } catch {
      // The page keeps what it shows; the next change, or the person, tries again.
    } finally {
      isReading = false;
    }
  };
}

/** Reads a table's rows afresh after such changes: those that the events name, or all (null) where one does not say which, or names many. */
export function useFreshRows(
  courseId: Ref<string>,
  topics: readonly Topic[],
  read: (rows: readonly string[] | null) => Promise<unknown>,
): void {
  let isAll = false;
  const waiting = new Set<string>();
  const refresh = makeReader(
    () => isAll || waiting.size > 0,
    () => {
      const rows = isAll || waiting.size > MOST_ROWS ? null : [...waiting];
      isAll = false;
      waiting.clear();
      return read(rows);
    },
  );
  useEvents(courseId, (event) => {
    if (event.topic !== 'again' && !topics.includes(event.topic)) return;
    if (event.rows === null) isAll = true;
    else for (const id of event.rows) waiting.add(id);
    void refresh();
  });
}

/** Reads a page's matter afresh after such changes. */
export function useFresh(courseId: Ref<string>, topics: readonly Topic[], read: () => Promise<unknown>): void {
  let isStale = false;
  const refresh = makeReader(
    () => isStale,
    () => {
      isStale = false;
      return read();
    },
  );
  useEvents(courseId, (event) => {
    if (event.topic !== 'again' && !topics.includes(event.topic)) return;
    isStale = true;
    void refresh();
  });
}
