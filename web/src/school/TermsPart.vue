<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { PublicHolidays, School } from '@rosemary/api';
import { countOf, writeDate } from '@rosemary/core';
import { DateTime } from 'luxon';
import { ref, watch } from 'vue';
import ActButton from '../parts/ActButton.vue';
import DateField from '../parts/DateField.vue';
import LineField from '../parts/fields/LineField.vue';
import TickBox from '../parts/fields/TickBox.vue';
import { call } from '../platform/call.ts';
import { HttpProblem } from '../platform/http.ts';
import { useDraft } from '../platform/kept.ts';
import { useNotices } from '../stores/noticeStore.ts';
import HolidayOffer from './HolidayOffer.vue';

/** The terms of the school, and one form in which one is added or changed, with its holidays. */
const props = defineProps<{ terms: School['terms'] }>();
const emit = defineEmits<{ changed: [school: School] }>();
const notices = useNotices();
const fault = ref('');
const EMPTY = {
  title: '',
  startsOn: '',
  endsOn: '',
  meetingDays: [1, 2, 3, 4, 5],
  holidays: [] as { title: string; startsOn: string; endsOn: string }[],
};
/** What is typed is still there after a reload. */
const kept = useDraft<typeof EMPTY>(() => 'new term');
const term = ref({ ...structuredClone(EMPTY), ...kept.find() });
/** The term that is being changed; null while one is being added. */
const changing = ref<{ id: string; version: number } | null>(null);
watch(
  term,
  (now) => {
    if (changing.value === null) kept.keep(now);
  },
  { deep: true },
);
const DAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];
const day = (iso: string): string => writeDate(Date.parse(iso), 'UTC', true);
const span = (s: { readonly startsOn: string; readonly endsOn: string }): string =>
  s.startsOn === s.endsOn ? day(s.startsOn) : `${day(s.startsOn)} to ${day(s.endsOn)}`;

function clear(): void {
  changing.value = null;
  term.value = structuredClone(EMPTY);
  kept.forget();
}
function begin(t: School['terms'][number]): void {
  changing.value = { id: t.id, version: t.version };
  term.value = {
    ...{ title: t.title, startsOn: t.startsOn, endsOn: t.endsOn },
    meetingDays: [...t.meetingDays],
    holidays: t.holidays.map((h) => ({ ...h })),
  };
}
async function save(): Promise<void> {
  fault.value = '';
  const change = changing.value;
  try {
    const { school } =
      change === null
        ? await call(api.addTerm, {}, term.value)
        : await call(api.changeTerm, { termId: change.id }, { ...term.value, version: change.version });
    emit('changed', school);
    notices.say(change === null ? 'The term is added.' : `The term “${term.value.title}” is changed, for every course in it.`);
    clear();
  } catch (error) {
    const isConflict = error instanceof HttpProblem && error.code === 'conflict';
    if (isConflict) emit('changed', await call(api.getSchool, {}));
    fault.value = isConflict
      ? 'Someone else changed this term meanwhile. Choose it again above.'
      : error instanceof HttpProblem
        ? error.message
        : 'Not saved.';
  }
}
function turnDay(one: number): void {
  const days = term.value.meetingDays;
  term.value.meetingDays = days.includes(one) ? days.filter((d) => d !== one) : [...days, one].sort();
}
/** A holiday that begins on another day is as long as it was. */
function moveStart(holiday: { startsOn: string; endsOn: string }, to: string): void {
  const [from, until, now] = [holiday.startsOn, holiday.endsOn, to].map((text) => DateTime.fromISO(text, { zone: 'utc' }));
  holiday.startsOn = to;
  if (!now?.isValid) return;
  const days = from?.isValid && until?.isValid ? Math.max(0, until.diff(from, 'days').days) : 0;
  holiday.endsOn = now.plus({ days }).toISODate();
}
function addAll(holidays: PublicHolidays['holidays']): void {
  term.value.holidays = [...term.value.holidays, ...holidays.map((h) => ({ ...h }))].sort((a, b) => a.startsOn.localeCompare(b.startsOn));
}
</script>

<template>
  <h2>Terms</h2>
  <ul class="bare-list spaced-list">
    <li v-for="t in props.terms" :key="t.id">
      <b>{{ t.title }}</b> <ActButton look="act" :aria-label="`Change the term ${t.title}`" @click="begin(t)">change</ActButton>
      <span class="soft"
        >{{ span(t) }}, {{ countOf(t.weeks, 'week')
        }}{{ t.holidays.length > 0 ? `; ${t.holidays.map((h) => `${h.title}, ${span(h)}`).join('; ')}` : '' }}</span
      >
    </li>
  </ul>
  <form id="add-term" @submit.prevent="save">
    <h3>{{ changing ? 'Change a term' : 'Add a term' }}</h3>
    <label class="field"><span class="label">Title</span><LineField v-model="term.title" maxlength="80" required /></label>
    <div class="two-columns">
      <DateField :model-value="term.startsOn" label="First day" zone="UTC" is-day is-required @change="term.startsOn = $event ?? ''" />
      <DateField :model-value="term.endsOn" label="Last day" zone="UTC" is-day is-required @change="term.endsOn = $event ?? ''" />
    </div>
    <p class="label">Meeting days</p>
    <p class="wrapping" style="gap: 4px 10px">
      <label v-for="(d, n) in DAYS" :key="d"
        ><TickBox :model-value="term.meetingDays.includes(n + 1)" @change="turnDay(n + 1)" /> {{ d }}</label
      >
    </p>
    <HolidayOffer :from="term.startsOn" :to="term.endsOn" :meeting-days="term.meetingDays" :there="term.holidays" @add="addAll" />
    <div v-for="(h, n) in term.holidays" :key="n" class="two-columns">
      <label class="field"
        ><span class="label">Holiday</span><LineField v-model="h.title" aria-label="Name of the holiday" required
      /></label>
      <DateField :model-value="h.startsOn" label="From" zone="UTC" is-day is-required @change="moveStart(h, $event ?? '')" />
      <DateField :model-value="h.endsOn" label="To" zone="UTC" is-day is-required @change="h.endsOn = $event ?? ''" />
      <ActButton look="act" :aria-label="`Without the holiday ${h.title}`" @click="term.holidays.splice(n, 1)">Remove</ActButton>
    </div>
    <ActButton look="act" @click="term.holidays.push({ title: '', startsOn: term.startsOn, endsOn: term.startsOn })">
      Add holiday
    </ActButton>
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <p>
      <ActButton type="submit" look="go">{{ changing ? 'Change the term' : 'Add the term' }}</ActButton>
      <ActButton v-if="changing" look="quiet" @click="clear">Leave it</ActButton>
    </p>
  </form>
</template>

<style scoped src="./school.css"></style>
