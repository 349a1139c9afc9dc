<script setup lang="ts" generic="T">
import type { UseDraggableOptions, UseDraggableReturn } from 'vue-draggable-plus';
import { computed, onBeforeUnmount, onMounted, ref } from 'vue';

/** A list whose lines are dragged by their handle, within it or to another of the same group. The list is drawn at once, its dragging loaded after. */
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
  <component :is="tag" ref="list"><slot /></component>
</template>
