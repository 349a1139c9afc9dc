import type { Box } from '@rosemary/api';
import { ref } from 'vue';

const LEAST = 0.01;
const share = (value: number): number => Math.min(1, Math.max(0, Math.round(value * 10_000) / 10_000));

/** An area drawn with the pointer over a picture or a page, as shares of it; too small a one is a slip of the hand and none. */
export function useArea(done: (box: Box, holder: HTMLElement) => void) {
  const going = ref<(Box & { readonly of: HTMLElement }) | null>(null);
  let start = { x: 0, y: 0 };
  const at = (event: PointerEvent, holder: HTMLElement): { x: number; y: number } => {
    const r = holder.getBoundingClientRect();
    return { x: share((event.clientX - r.left) / r.width), y: share((event.clientY - r.top) / r.height) };
  };
  function down(event: PointerEvent, holder: HTMLElement): void {
    if (event.button !== 0) return;
    event.preventDefault();
    holder.setPointerCapture(event.pointerId);
    start = at(event, holder);
    going.value = { ...start, w: 0, h: 0, of: holder };
  }
  function move(event: PointerEvent): void {
    if (going.value === null) return;
    const holder = going.value.of;
    const now = at(event, holder);
    going.value = {
      x: Math.min(start.x, now.x),
      y: Math.min(start.y, now.y),
      w: share(Math.abs(now.x - start.x)),
      h: share(Math.abs(now.y - start.y)),
      of: holder,
    };
  }
  function up(): void {
    const area = going.value;
    going.value = null;
    if (area !== null && area.w >= LEAST && area.h >= LEAST) done({ x: area.x, y: area.y, w: area.w, h: area.h }, area.of);
  }
  return { going, down, move, up };
}

/** A box in shares, as a style. */
export const boxStyle = (b: Box): Record<string, string> => ({
  left: `${b.x * 100}%`,
  top: `${b.y * 100}%`,
  width: `${b.w * 100}%`,
  height: `${b.h * 100}%`,
});
