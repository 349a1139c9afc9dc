import { ref, type Ref } from 'vue';

export interface Mark {
  readonly id: string;
  /** What it says, in full: read aloud, and shown under the chart while it is pointed at. */
  readonly words: string;
}

const STEPS: Readonly<Record<string, number>> = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 };

/**
 * The marks of a chart are walked through with the arrows, like the cells of a table: one of them is reached by Tab. Whichever is pointed at or has the
 * focus is the one that is told of.
 */
export function useMarks(marks: () => readonly Mark[], root: Ref<SVGSVGElement | null>, choose?: (id: string) => void) {
  const pointed = ref<string | null>(null);
  const stop = ref<string | null>(null);
  const isStop = (id: string): boolean => (marks().some((m) => m.id === stop.value) ? stop.value === id : marks()[0]?.id === id);
  function walk(event: KeyboardEvent, id: string): void {
    const list = marks();
    const at = list.findIndex((m) => m.id === id);
    if (event.key === 'Enter' || event.key === ' ') {
      if (choose === undefined) return;
      event.preventDefault();
      choose(id);
      return;
    }
    const to = event.key === 'Home' ? 0 : event.key === 'End' ? list.length - 1 : at + (STEPS[event.key] ?? 0);
    const next = list[to];
    if (next === undefined || to === at) return;
    event.preventDefault();
    stop.value = next.id;
    root.value?.querySelector<SVGElement>(`[data-mark="${CSS.escape(next.id)}"]`)?.focus();
  }
  /** What every mark is given. */
  const markOf = (mark: Mark): Record<string, unknown> => ({
    'data-mark': mark.id,
    role: choose === undefined ? 'img' : 'button',
    tabindex: isStop(mark.id) ? 0 : -1,
    'aria-label': mark.words,
    onPointerenter: () => {
      pointed.value = mark.id;
    },
    onPointerleave: () => {
      if (pointed.value === mark.id) pointed.value = null;
    },
    onFocus: () => {
      stop.value = mark.id;
      pointed.value = mark.id;
    },
    onBlur: () => {
      if (pointed.value === mark.id) pointed.value = null;
    },
    onKeydown: (event: KeyboardEvent) => {
      walk(event, mark.id);
    },
    ...(choose === undefined
      ? {}
      : {
          onClick: () => {
            choose(mark.id);
          },
        }),
  });
  return { pointed, markOf };
}
