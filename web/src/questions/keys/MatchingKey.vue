<script setup lang="ts">
import type { QuestionKey } from '@rosemary/core';
import LineInput from '../../parts/LineInput.vue';
import ActButton from '../../parts/ActButton.vue';

type Key = Extract<QuestionKey, { kind: 'matching' }>;
/** Pairs, right as they stand; a right side without a left one only distracts. */
const props = defineProps<{ value: Key }>();
const emit = defineEmits<{ change: [key: Key] }>();
const put = (pairs: Key['pairs']): void => emit('change', { kind: 'matching', pairs });
const change = (at: number, more: Partial<Key['pairs'][number]>): void =>
  put(props.value.pairs.map((p, n) => (n === at ? { ...p, ...more } : p)));
</script>

<template>
  <div>
    <p v-for="(p, n) in value.pairs" :key="n" class="row line-row">
      <LineInput
        :value="p.left"
        :aria-label="`Pair ${n + 1}, left`"
        placeholder="(only distracts)"
        @commit="change(n, { left: $event.trim() })"
      />
      <span class="soft">–</span>
      <LineInput class="right" :value="p.right" :aria-label="`Pair ${n + 1}, right`" @commit="change(n, { right: $event.trim() })" />
      <ActButton look="act" :aria-label="`Take pair ${n + 1} away`" @click="put(value.pairs.filter((_, m) => m !== n))"> × </ActButton>
    </p>
    <p><ActButton look="act" @click="put([...value.pairs, { left: '', right: '' }])">Add pair</ActButton></p>
  </div>
</template>

<style scoped>
.right {
  color: var(--needle);
}
</style>
