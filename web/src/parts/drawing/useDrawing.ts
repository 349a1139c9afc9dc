import { DRAWING_LIMITS, isSolid, lineEnds, moveShape, resizeShape, solidAt, withoutShape } from '@rosemary/core';
import type { Drawing, Line, Spot, Shape, ShapeKind } from '@rosemary/core';
import { computed, ref, shallowRef } from 'vue';

export const STEP = 10;
const snapped = (value: number): number => Math.round(value / STEP) * STEP;

/** A drawing being made: what is chosen, what is drawn just now, and every step back and forth. */
export function useDrawing(first: Drawing) {
  const drawing = shallowRef<Drawing>(first);
  const chosenId = ref<string | null>(null);
  const past = shallowRef<readonly Drawing[]>([]);
  const future = shallowRef<readonly Drawing[]>([]);
  const chosen = computed(() => drawing.value.shapes.find((s) => s.id === chosenId.value) ?? null);
  const isFull = computed(() => drawing.value.shapes.length >= DRAWING_LIMITS.shapes);
  let typing = '';

  /** A new state; steps of one kind on one shape in a row (typing a word) are one step back. */
  function set(next: Drawing, of = ''): void {
    if (of === '' || of !== typing) past.value = [...past.value, drawing.value];
    typing = of;
    future.value = [];
    drawing.value = next;
  }
  function step(from: typeof past, to: typeof past): void {
    const last = from.value.at(-1);
    if (last === undefined) return;
    from.value = from.value.slice(0, -1);
    to.value = [...to.value, drawing.value];
    drawing.value = last;
    typing = '';
  }
  const put = (shape: Shape, of = ''): void =>
    set({ ...drawing.value, shapes: drawing.value.shapes.map((s) => (s.id === shape.id ? shape : s)) }, of);

  /** A shape of this kind between two places, or of the usual size in the middle where it is asked for by key. */
  function add(kind: ShapeKind, from: Spot | null, to: Spot | null, places: readonly Spot[] = []): void {
    if (isFull.value) return;
    const d = drawing.value;
    const id = crypto.randomUUID();
    const n = (d.shapes.length % 8) * 2 * STEP;
    const start = from ?? { x: d.width / 2 - 80 + n, y: d.height / 2 - 40 + n };
    const isDrawn = to !== null && from !== null && Math.hypot(to.x - from.x, to.y - from.y) >= STEP;
    const end = isDrawn ? to : { x: start.x + 160, y: start.y + (kind === 'line' || kind === 'arrow' ? 0 : 80) };
    let shape: Shape;
    if (kind === 'pen') shape = { id, kind, tone: 0, places: places.slice(0, DRAWING_LIMITS.places) };
    else if (kind === 'line' || kind === 'arrow') {
      const [startsAt, endsAt] = isDrawn ? [solidAt(d, start)?.id ?? null, solidAt(d, end)?.id ?? null] : [null, null];
      shape = { id, kind, tone: 0, words: '', start, end, startsAt, endsAt: startsAt === endsAt ? null : endsAt };
    } else {
      const [x, y] = [snapped(Math.min(start.x, end.x)), snapped(Math.min(start.y, end.y))];
      const size = { width: Math.max(20, snapped(Math.abs(end.x - start.x))), height: Math.max(20, snapped(Math.abs(end.y - start.y))) };
      shape = { id, kind, tone: 0, words: '', x, y, ...size };
    }
    // What a hand drew past the edge is taken back onto the sheet.
    set({ ...d, shapes: [...d.shapes, moveShape({ ...d, shapes: [] }, shape, 0, 0)] });
    if (shape.kind === 'line' || shape.kind === 'arrow') put(shape, 'new');
    chosenId.value = id;
    typing = '';
  }
  const move = (shape: Shape, dx: number, dy: number, of = ''): void => put(moveShape(drawing.value, shape, dx, dy), of);
  const resize = (shape: Shape, dx: number, dy: number, of = ''): void => put(resizeShape(drawing.value, shape, dx, dy), of);
  function take(shape: Shape): void {
    set(withoutShape(drawing.value, shape.id));
    chosenId.value = null;
  }
  /** What an end of a line holds: a solid, or nothing, and then it stays where it is. */
  const hold = (line: Line, end: 'startsAt' | 'endsAt', id: string | null): void => {
    put({ ...line, ...(id === null ? lineEnds(drawing.value, line) : {}), [end]: id });
  };
  const front = (shape: Shape): void =>
    set({ ...drawing.value, shapes: [...drawing.value.shapes.filter((s) => s.id !== shape.id), shape] });
  const solids = computed(() => drawing.value.shapes.filter(isSolid));
  return {
    ...{ drawing, chosenId, chosen, isFull, solids, canUndo: computed(() => past.value.length > 0) },
    canRedo: computed(() => future.value.length > 0),
    ...{ add, put, move, resize, take, hold, front },
    undo: () => step(past, future),
    redo: () => step(future, past),
  };
}
