import { computed, onBeforeUnmount, ref } from 'vue';

const MINUTE = 60_000;
/** In numbers only when asked, and at these minutes. */
const TOLD = [10, 5, 1] as const;
const TOLD_FOR_MS = 20_000;

/** Time left by the server's clock: the one of this machine may be wrong, and only what passes on it is believed. */
export function useTimeLeft(onOver: () => void) {
  const endsAt = ref<number | null>(null);
  const begunAt = ref(0);
  const now = ref(0);
  let anchor = { server: 0, local: 0 };
  let isOver = false;
  const tick = (): void => {
    now.value = anchor.server + (performance.now() - anchor.local);
    if (endsAt.value !== null && now.value >= endsAt.value && !isOver && anchor.server > 0) {
      isOver = true;
      onOver();
    }
  };
  const timer = setInterval(tick, 250);
  onBeforeUnmount(() => {
    clearInterval(timer);
  });
  function set(server: string, begun: string, ends: string | null): void {
    anchor = { server: Date.parse(server), local: performance.now() };
    begunAt.value = Date.parse(begun);
    endsAt.value = ends === null ? null : Date.parse(ends);
    if (endsAt.value === null || anchor.server < endsAt.value) isOver = false;
    tick();
  }
  const left = computed(() => (endsAt.value === null ? null : Math.max(0, endsAt.value - now.value)));
  const share = computed(() =>
    endsAt.value === null || left.value === null ? 0 : Math.min(1, left.value / Math.max(1, endsAt.value - begunAt.value)),
  );
  const words = computed(() => {
    if (left.value === null) return '';
    const total = Math.ceil(left.value / 1000);
    const [hours, minutes, seconds] = [Math.floor(total / 3600), Math.floor((total % 3600) / 60), total % 60];
    const two = (n: number): string => String(n).padStart(2, '0');
    return hours > 0 ? `${hours}:${two(minutes)}:${two(seconds)}` : `${minutes}:${two(seconds)}`;
  });
  const told = computed(() => {
    const value = left.value;
    if (value === null) return '';
    const minute = TOLD.find((m) => value <= m * MINUTE && value > m * MINUTE - TOLD_FOR_MS);
    return minute === undefined ? '' : minute === 1 ? 'One minute left' : `${minute} minutes left`;
  });
  return { endsAt, left, share, words, told, set };
}
