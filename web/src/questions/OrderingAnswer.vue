<script setup lang="ts">
import { computed, nextTick, ref } from 'vue';
import type { AnswerEmits, AnswerProps } from './answerProps.ts';
import ActButton from '../parts/ActButton.vue';
import DragList from '../parts/DragList.vue';

/** Things put in order, by dragging or by Alt and the arrows. */
const props = defineProps<AnswerProps>();
const emit = defineEmits<AnswerEmits>();
const order = computed(() => (props.answer?.kind === 'order' ? props.answer.order : props.asked.things));
const list = ref<HTMLElement | null>(null);
const said = ref('');
const put = (next: readonly string[]): void => emit('answer', { kind: 'order', order: [...next] });
function move(at: number, by: -1 | 1): void {
  const to = at + by;
  const thing = order.value[at];
  if (props.isFixed || thing === undefined || to < 0 || to >= order.value.length) return;
  const next = order.value.filter((_, n) => n !== at);
  next.splice(to, 0, thing);
  put(next);
  said.value = `${thing}: place ${to + 1} of ${next.length}`;
  void nextTick(() => {
    list.value?.querySelectorAll<HTMLElement>('.thing')[to]?.focus();
  });
}
function onKey(event: KeyboardEvent, at: number): void {
  if (!event.altKey || (event.key !== 'ArrowUp' && event.key !== 'ArrowDown')) return;
  event.preventDefault();
  event.stopPropagation();
  move(at, event.key === 'ArrowUp' ? -1 : 1);
}
</script>

<template>
  <div ref="list">
    <DragList
      :model-value="[...order]"
      tag="ol"
      class="things"
      :aria-label="`${label}: put in order`"
      :is-fixed="isFixed"
      @update:model-value="put($event)"
    >
      <li
        v-for="(thing, n) in order"
        :key="thing"
        class="thing"
        tabindex="0"
        :aria-label="`${n + 1}: ${thing}`"
        @keydown="onKey($event, n)"
      >
        <span class="no">{{ n + 1 }}</span>
        <span class="words">{{ thing }}</span>
        <template v-if="!isFixed">
          <ActButton look="act" :disabled="n === 0" :aria-label="`${thing} up`" @click="move(n, -1)">up</ActButton>
          <ActButton look="act" :disabled="n === order.length - 1" :aria-label="`${thing} down`" @click="move(n, 1)"> down </ActButton>
        </template>
      </li>
    </DragList>
    <p v-if="!isFixed && answer === null" class="label">
      Drag, or use Alt with ↑ and ↓. <ActButton look="act" @click="put(order)">They are right as they stand</ActButton>
    </p>
    <p class="hidden" role="status">{{ said }}</p>
  </div>
</template>

<style scoped>
.things {
  list-style: none;
  padding: 0;
  margin: 12px 0 6px;
}
.thing {
  display: flex;
  gap: 14px;
  align-items: baseline;
  padding: 8px 12px;
  border-top: 1px solid var(--frost2);
  cursor: grab;
  font-size: 16px;
  line-height: 24px;
}
.thing:last-child {
  border-bottom: 1px solid var(--frost2);
}
.no {
  color: var(--soft);
  width: 16px;
}
.words {
  flex: 1;
}
.act {
  font-size: 13.5px;
}
</style>
