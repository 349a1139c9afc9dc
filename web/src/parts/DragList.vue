<script setup lang="ts" generic="T">
import type { UseDraggableOptions, UseDraggableReturn } from 'vue-draggable-plus';
import { computed, nextTick, onBeforeUnmount, onMounted, ref } from 'vue';

/**
 * A list whose lines are dragged by their handle, within it or to another of the same group; the lines of a list by itself are moved by
 * Alt and the arrows as well. The list is drawn at once, its dragging loaded after.
 */
const items = defineModel<T[]>({ required: true });
const props = withDefaults(
  defineProps<{
    handle?: string;
    tag?: string;
    group?: UseDraggableOptions<T>['group'];
    isFixed?: boolean;
    /** The line follows the hand as a copy of its own, as the browser's own dragging cannot in a list that scrolls. */
    isFollowed?: boolean;
  }>(),
  { tag: 'div', handle: undefined, group: undefined },
);
type Moved = Parameters<NonNullable<UseDraggableOptions<T>['onEnd']>>[0];
const emit = defineEmits<{ start: []; end: [event: Moved] }>();
const list = ref<HTMLElement | null>(null);
const options = computed<UseDraggableOptions<T>>(() => ({
  ...(props.handle === undefined ? {} : { handle: props.handle }),
  animation: 120,
  disabled: props.isFixed,
  ...(props.group === undefined ? {} : { group: props.group }),
  ...(props.isFollowed ? { forceFallback: true, fallbackOnBody: true, fallbackTolerance: 3 } : {}),
  onStart: () => {
    emit('start');
  },
  onEnd: (event) => {
    emit('end', event);
  },
}));
const FOCUSABLE = 'button, input, textarea, select, [tabindex], [contenteditable="true"]';
/** Alt with an arrow moves the line the hand is in, and the hand stays where it was in it. Lists of a group have an order of their own to keep. */
async function onKey(event: KeyboardEvent): Promise<void> {
  const by = { ArrowUp: -1, ArrowDown: 1 }[event.key];
  if (by === undefined || !event.altKey || event.defaultPrevented || props.isFixed || props.group !== undefined) return;
  const lines = [...(list.value?.children ?? [])];
  const from = lines.findIndex((line) => line.contains(event.target as Node));
  const to = from + by;
  if (from < 0) return;
  event.preventDefault();
  if (to < 0 || to >= items.value.length) return;
  const place = [...lines[from]!.querySelectorAll(FOCUSABLE)].indexOf(event.target as HTMLElement);
  const next = [...items.value];
  next.splice(to, 0, ...next.splice(from, 1));
  items.value = next;
  await nextTick();
  const line = list.value?.children[to];
  const wanted = place < 0 ? line : line?.querySelectorAll(FOCUSABLE)[place];
  (wanted as HTMLElement | undefined)?.focus();
}
let dragging: UseDraggableReturn | null = null;
let isGone = false;
onMounted(async () => {
  const { useDraggable } = await import('vue-draggable-plus');
  if (!isGone && list.value) dragging = useDraggable<T>(list.value, items, options);
});
onBeforeUnmount(() => {
  isGone = true;
  dragging?.destroy();
});
</script>

<template>
  <component :is="tag" ref="list" @keydown="onKey"><slot /></component>
</template>
