<script setup lang="ts">
import type { QuestionKey } from '@rosemary/core';
import LineInput from '../../parts/LineInput.vue';
import ActButton from '../../parts/ActButton.vue';
import TickBox from '../../parts/fields/TickBox.vue';
import DragList from '../../parts/DragList.vue';

type Key = Extract<QuestionKey, { kind: 'ordering' }>;
/** The right order, as it stands; each student gets it mixed. */
const props = defineProps<{ value: Key }>();
const emit = defineEmits<{ change: [key: Key] }>();
const put = (order: readonly string[]): void => emit('change', { ...props.value, order });
</script>

<template>
  <div>
    <DragList :model-value="[...value.order]" tag="ol" class="order bare-list" handle=".no" @update:model-value="put($event)">
      <li v-for="(thing, n) in value.order" :key="n" class="row line-row">
        <span class="no" title="drag, or Alt with ↑ and ↓">{{ n + 1 }}</span>
        <LineInput :value="thing" :aria-label="`Thing ${n + 1}`" @commit="put(value.order.map((t, m) => (m === n ? $event.trim() : t)))" />
        <ActButton look="act" :aria-label="`Remove ${thing}`" @click="put(value.order.filter((_, m) => m !== n))">×</ActButton>
      </li>
    </DragList>
    <p class="row line-row">
      <ActButton look="act" @click="put([...value.order, ''])">Add thing</ActButton>
      <label
        ><TickBox :model-value="value.isAllOrNothing" @change="emit('change', { ...value, isAllOrNothing: !value.isAllOrNothing })" /> all
        or nothing</label
      >
      <span v-if="!value.isAllOrNothing" class="soft">else by pairs that stand in the right order</span>
    </p>
  </div>
</template>

<style scoped>
.no {
  width: 16px;
  color: var(--soft);
  cursor: grab;
}
</style>
