import type { PlanItem } from '@rosemary/api';
import { computed, ref, type Ref } from 'vue';

/** Several lines of the Plan chosen at once: by Ctrl or the box for one more, by Shift for all between. */
export function useChoice(items: Ref<readonly PlanItem[]>) {
  const ids = ref<ReadonlySet<string>>(new Set());
  let anchor: string | null = null;
  /** In the order of the Plan, and only what still stands there. */
  const chosen = computed(() => items.value.filter((i) => ids.value.has(i.id)));

  function toggle(id: string): void {
    const next = new Set(ids.value);
    if (!next.delete(id)) next.add(id);
    ids.value = next;
    anchor = id;
  }
  /** Everything from the last one touched to this one. */
  function reach(id: string): void {
    const from = items.value.findIndex((i) => i.id === (anchor ?? id));
    const to = items.value.findIndex((i) => i.id === id);
    const between = items.value.slice(Math.min(from, to), Math.max(from, to) + 1).map((i) => i.id);
    ids.value = new Set([...ids.value, ...between]);
  }
  function all(): void {
    ids.value = new Set(items.value.map((i) => i.id));
  }
  function clear(): void {
    ids.value = new Set();
  }
  /** Remembers where a later Shift begins. */
  function touch(id: string): void {
    anchor = id;
  }
  return { ids, chosen, toggle, reach, all, clear, touch };
}
