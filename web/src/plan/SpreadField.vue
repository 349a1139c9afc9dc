<script setup lang="ts">
import type { BatchFields, PlanItem } from '@rosemary/api';
import { minutesInWords, spread, writeDate, type Term } from '@rosemary/core';
import { DateTime } from 'luxon';
import { computed, ref } from 'vue';
import DateField from '../parts/DateField.vue';
import ActButton from '../parts/ActButton.vue';
import LineField from '../parts/fields/LineField.vue';

const props = defineProps<{ items: readonly PlanItem[]; term: Term; zone: string; now: number }>();
const emit = defineEmits<{ apply: [fields: ReadonlyMap<string, BatchFields>]; leave: [] }>();
const dates = props.items
  .flatMap((i) => (i.dueAt === null ? [] : [DateTime.fromISO(i.dueAt, { zone: props.zone }).toISODate() ?? '']))
  .sort();
const today = DateTime.fromMillis(props.now, { zone: props.zone }).toISODate() ?? '';
const from = ref(dates[0] ?? (today > props.term.startsOn ? today : props.term.startsOn));
const to = ref(dates.at(-1) ?? props.term.endsOn);
const time = ref('23:59');
const isTime = computed(() => /^([01]?\d|2[0-3]):[0-5]\d$/.test(time.value.trim()));
const minutes = computed(() => props.items.reduce((sum, i) => sum + i.estimatedMinutes, 0));
const result = computed(() =>
  spread(
    props.items.map((i) => ({ id: i.id, minutes: i.estimatedMinutes })),
    { term: props.term, zone: props.zone, from: from.value, to: to.value, time: isTime.value ? time.value.trim() : '23:59' },
  ),
);
const rows = computed(() =>
  result.value.ok
    ? result.value.placements.map((p, n) => {
        const item = props.items[n]!;
        const was = item.dueAt === null ? 'no date' : writeDate(Date.parse(item.dueAt), props.zone);
        const will = writeDate(p.dueAt, props.zone);
        return { id: item.id, title: item.title, was, will, isSame: was === will };
      })
    : [],
);
function apply(): void {
  if (!result.value.ok) return;
  emit('apply', new Map(result.value.placements.map((p) => [p.id, { dueAt: new Date(p.dueAt).toISOString() }])));
}
</script>

<template>
  <div class="spread">
    <h4>Spread over the teaching days</h4>
    <p class="label">In this order, by their minutes ({{ minutesInWords(minutes) }} in all), leaving holidays out.</p>
    <DateField :model-value="from" label="From" :zone="zone" :now="now" is-day is-required @change="from = $event ?? from" />
    <DateField :model-value="to" label="To" :zone="zone" :now="now" is-day is-required @change="to = $event ?? to" />
    <label class="field"><span class="label">Due at</span><LineField v-model="time" maxlength="5" :aria-invalid="!isTime" /></label>
    <p v-if="!isTime" class="fault" role="alert">“{{ time }}” is no time of day. Type it like 18:00.</p>
    <p v-if="!result.ok" class="fault" role="alert">{{ result.reason }}</p>
    <template v-else>
      <p class="label">{{ result.days.length }} teaching days</p>
      <ul tabindex="0" aria-label="What the dates would be">
        <li v-for="r in rows" :key="r.id" :class="{ soft: r.isSame }">
          {{ r.title }}<br /><span class="label"
            ><s v-if="!r.isSame">{{ r.was }}</s> {{ r.will }}</span
          >
        </li>
      </ul>
    </template>
    <p class="foot">
      <ActButton look="go" :disabled="!result.ok || !isTime" @click="apply">Set {{ rows.length }} dates</ActButton>
      <ActButton look="quiet" @click="emit('leave')">Leave it</ActButton>
    </p>
  </div>
</template>

<style scoped>
h4 {
  margin: 4px 0 2px;
}
ul {
  list-style: none;
  margin: 4px 0 10px;
  padding: 0;
  max-height: 220px;
  overflow: auto;
}
li {
  padding: 3px 0;
  border-top: 1px solid var(--frost);
}
s {
  margin-right: 6px;
}
.foot {
  display: flex;
  gap: 10px;
}
</style>
