<script setup lang="ts">
import { dayAndTime } from '@rosemary/core';
import { computed } from 'vue';
import LeafState from '../parts/LeafState.vue';
import { faultOf, type Wish } from './wishes.ts';

/** One place of the grid: how an item is given to a class. */
const props = defineProps<{ wish: Wish | undefined; zone: string; now: number }>();
const STATES = { draft: 'draft', now: 'open', later: 'scheduled' } as const;
const when = (at: string): string => dayAndTime(Date.parse(at), props.zone, props.now);
function opensText({ how, opensAt }: Wish): string {
  if (how === 'draft') return 'draft';
  if (how === 'now') return 'open at once';
  return opensAt === null ? 'no time to open' : `opens ${when(opensAt)}`;
}
const beside = computed(() => {
  const { wish } = props;
  if (wish === undefined) return '';
  return [wish.tells && wish.how !== 'draft' ? 'told' : '', wish.words === '' ? '' : `“${wish.words}”`].filter(Boolean).join(' · ');
});
</script>

<template>
  <span v-if="!wish" class="soft">not given</span>
  <template v-else>
    <div><LeafState :state="STATES[wish.how]" /> {{ opensText(wish) }}</div>
    <div :class="faultOf(wish, now) ? 'clay' : 'soft'">{{ wish.dueAt === null ? 'no due date' : `due ${when(wish.dueAt)}` }}</div>
    <div v-if="beside" class="soft">{{ beside }}</div>
  </template>
</template>
