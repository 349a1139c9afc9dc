<script setup lang="ts">
import type { Stack, StackEntry } from '@rosemary/api';
import { useVirtualizer } from '@tanstack/vue-virtual';
import { computed, nextTick, ref, watch } from 'vue';
import { useSession } from '../stores/sessionStore.ts';
import { FILTERS, isOf, markers, nameOf, ORDERS, type Order } from './useStack.ts';
import ActButton from '../parts/ActButton.vue';
import ChoiceField from '../parts/fields/ChoiceField.vue';
import LineField from '../parts/fields/LineField.vue';

const props = defineProps<{
  stack: Stack | null;
  shown: readonly StackEntry[];
  current: string | null;
  order: Order;
  filter: string;
  canRelease: boolean;
}>();
const emit = defineEmits<{ open: [id: string]; order: [order: Order]; filter: [text: string]; releaseAll: []; writeTo: [] }>();
const scroller = ref<HTMLElement | null>(null);
const filters = ref(false);
const rows = useVirtualizer(
  computed(() => ({ count: props.shown.length, getScrollElement: () => scroller.value, estimateSize: () => 28, overscan: 12 })),
);
// Also when the list gets another height: what stands round it comes a moment later, and the one that is open would be under its edge.
watch(
  () => [props.current, props.shown.length, rows.value.scrollRect?.height] as const,
  async ([id]) => {
    await nextTick();
    const at = props.shown.findIndex((e) => e.enrolmentId === id);
    if (at >= 0) rows.value.scrollToIndex(at, { align: 'auto' });
  },
  { immediate: true },
);
const about = (e: StackEntry): string =>
  [
    nameOf(e),
    ...(e.members.length > 0 ? [e.members.join(', ')] : []),
    e.section,
    markers(e) === '' ? '' : `marked by ${markers(e)}`,
    e.matchPercent === null ? '' : `${e.matchPercent} % elsewhere`,
  ]
    .filter((w) => w !== '')
    .join('; ');
const session = useSession();
const me = computed(() => session.myName);
const count = (filter: (typeof FILTERS)[number]): number => props.stack?.entries.filter((e) => isOf(e, filter, me.value)).length ?? 0;
const name = (e: StackEntry): string => {
  if (e.isVeiled || (e.members.length > 0 && e.group !== '')) return nameOf(e);
  const whole = `${e.familyName}, ${e.givenName}`;
  return whole.length > 17 ? `${e.familyName}, ${e.givenName.charAt(0)}.` : whole;
};
</script>

<template>
  <nav class="stack" aria-label="Stack">
    <div class="top soft">
      <div>
        {{
          stack
            ? `${stack.waits === 0 ? 'none' : stack.waits} wait${stack.waits === 1 ? 's' : ''}${stack.estimate ? `, ${stack.estimate}: ${stack.pace}` : ''}`
            : ' '
        }}
      </div>
      <ActButton look="act" :aria-expanded="filters" @click="filters = !filters">filter</ActButton>
    </div>
    <ChoiceField class="order" aria-label="Order of the stack" :model-value="order" @change="emit('order', $event as Order)">
      <option v-for="(word, key) in ORDERS" :key="key" :value="key">{{ word }}</option>
    </ChoiceField>
    <div v-if="filters" class="filters">
      <LineField
        placeholder="name, group, section, marker"
        aria-label="Name, group, section or marker"
        :model-value="FILTERS.includes(filter as never) ? '' : filter"
        @input="emit('filter', ($event.target as HTMLInputElement).value)"
      /><ActButton
        v-for="st in FILTERS.filter((x) => count(x) > 0)"
        :key="st"
        look="act"
        :aria-pressed="filter === st"
        :class="{ on: filter === st }"
        @click="emit('filter', filter === st ? '' : st)"
      >
        {{ st }} {{ count(st) }}</ActButton
      ><ActButton v-if="filter" look="act" @click="emit('filter', '')">all</ActButton>
    </div>
    <ActButton
      v-if="filter !== '' && shown.length > 0 && shown.every((e) => !e.isVeiled)"
      look="quiet"
      class="all"
      @click="emit('writeTo')"
    >
      Write to {{ shown.length === 1 ? 'this student' : `these ${shown.length}` }}…
    </ActButton>
    <ActButton v-if="canRelease && stack && stack.releasable > 0" look="quiet" class="all" @click="emit('releaseAll')">
      Release {{ stack.releasable }} {{ stack.releasable === 1 ? 'mark' : 'marks' }}…
    </ActButton>
    <div ref="scroller" class="scroll" tabindex="0" aria-label="Students of the stack">
      <div :style="{ height: `${rows.getTotalSize()}px`, position: 'relative' }">
        <template v-for="row in rows.getVirtualItems()" :key="shown[row.index]?.enrolmentId ?? row.index"
          ><ActButton
            v-if="shown[row.index]"
            :class="['entry', { on: shown[row.index]!.enrolmentId === current }]"
            :aria-current="shown[row.index]!.enrolmentId === current ? 'true' : undefined"
            :style="{ transform: `translateY(${row.start}px)` }"
            :title="about(shown[row.index]!)"
            @click="emit('open', shown[row.index]!.enrolmentId)"
          >
            <span class="who"
              >{{ name(shown[row.index]!)
              }}<b v-if="shown[row.index]!.hasNewWords" class="clay" title="new words in its conversation"> ·</b></span
            >
            <span class="m at-end soft"
              ><template v-if="shown[row.index]!.scoreText && shown[row.index]!.state !== 'in hand'"
                ><span :class="{ unreleased: shown[row.index]!.state === 'finished' }" :title="shown[row.index]!.state">{{
                  shown[row.index]!.scoreText!.split(' ')[0]
                }}</span></template
              ><template v-else>{{ shown[row.index]!.state }}</template
              ><svg
                v-if="shown[row.index]!.lateText"
                width="9"
                height="12"
                class="hand"
                role="img"
                :aria-label="shown[row.index]!.lateText!"
              >
                <title>{{ shown[row.index]!.lateText }}</title>
                <path d="M4.500 11V4M4.500 11l3.500-4" /></svg></span></ActButton
        ></template>
      </div>
      <p v-if="stack && shown.length === 0" class="soft" style="padding: 10px 14px">
        {{ stack.entries.length === 0 ? 'No works yet.' : 'Nobody here with this filter.' }}
      </p>
    </div>
  </nav>
</template>

<style scoped>
.stack {
  width: 214px;
  flex: none;
  background: var(--paper);
  border-right: 1px solid var(--frost);
  display: flex;
  flex-direction: column;
  padding-top: 10px;
  min-height: 0;
}
.top {
  display: flex;
  justify-content: space-between;
  padding: 0 14px;
}
.top .act {
  min-height: 24px;
  min-width: 36px;
}
.order {
  margin: 0 14px 6px;
  width: auto;
  border: 0;
  color: var(--soft);
}
.filters {
  padding: 0 14px 8px;
  display: flex;
  flex-wrap: wrap;
  gap: 2px 10px;
}
.filters .on {
  font-weight: 600;
  text-decoration: underline;
}
.all {
  margin: 0 6px 6px;
  text-align: left;
}
.scroll {
  flex: 1;
  overflow: auto;
}
.entry {
  position: absolute;
  left: 0;
  right: 0;
  width: 100%;
  height: 28px;
  display: flex;
  gap: 8px;
  padding: 4px 14px;
  align-items: baseline;
  border: 0;
  background: none;
  font: inherit;
  color: var(--ink);
  text-align: left;
  cursor: pointer;
}
.entry:hover {
  background: var(--frost2);
}
.entry.on {
  background: var(--bloom-wash);
}
.who {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
