<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import { urlOf } from '@rosemary/api/endpoints';
import type { CalendarEntry, CalendarView } from '@rosemary/api';
import { DateTime } from 'luxon';
import { computed, onMounted, ref } from 'vue';
import { useRoute } from 'vue-router';
import { call } from '../platform/call.ts';
import { isSeenAs } from '../platform/http.ts';
import { useFresh } from '../platform/useEvents.ts';
import { useCourse } from '../stores/courseStore.ts';
import { useNotices } from '../stores/noticeStore.ts';
import ActButton from '../parts/ActButton.vue';
import PlainTable from '../parts/PlainTable.vue';
import { LOCALE } from '@rosemary/core';

const route = useRoute();
const notices = useNotices();
const course = useCourse();
const view = ref<CalendarView | null>(null);
const fault = ref('');
const month = ref<DateTime | null>(null);
const secret = ref<string | null>(null);
const courseId = computed(() => (typeof route.params.courseId === 'string' ? route.params.courseId : ''));
async function load(): Promise<void> {
  try {
    view.value = await (courseId.value === '' ? call(api.getCalendar, {}) : call(api.getCourseCalendar, { courseId: courseId.value }));
    month.value ??= DateTime.fromISO(view.value.now, { zone: view.value.timeZone }).startOf('month');
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
}
onMounted(load);
useFresh(courseId, ['plan', 'talk'], load);
const zone = computed(() => view.value?.timeZone ?? 'UTC');
const today = computed(() => DateTime.fromISO(view.value?.now ?? '', { zone: zone.value }).toISODate());

interface Day {
  readonly iso: string;
  readonly number: number;
  readonly isIn: boolean;
  readonly entries: readonly CalendarEntry[];
  readonly holiday: string;
}
/** In a course the section that is chosen at its head; of all courses together everything. */
const shown = computed(() =>
  (view.value?.entries ?? []).filter(
    (entry) =>
      courseId.value === '' || course.sectionId === null || entry.sectionIds === null || entry.sectionIds.includes(course.sectionId),
  ),
);
const byDay = computed(() => {
  const days = new Map<string, CalendarEntry[]>();
  for (const entry of shown.value) {
    if (entry.kind === 'holiday') continue;
    const day = DateTime.fromISO(entry.at, { zone: zone.value }).toISODate() ?? '';
    days.set(day, [...(days.get(day) ?? []), entry]);
  }
  return days;
});
function holidayOn(day: string): string {
  const found = view.value?.entries.find(
    (e) =>
      e.kind === 'holiday' &&
      (DateTime.fromISO(e.at, { zone: zone.value }).toISODate() ?? '') <= day &&
      day <= (DateTime.fromISO(e.until ?? e.at, { zone: zone.value }).toISODate() ?? ''),
  );
  return found?.title ?? '';
}
const weeks = computed((): Day[][] => {
  const first = month.value;
  if (first === null) return [];
  const start = first.startOf('week');
  const many = Math.ceil((first.endOf('month').diff(start, 'days').days + 0.001) / 7);
  return Array.from({ length: many }, (_, w) =>
    Array.from({ length: 7 }, (__, d): Day => {
      const at = start.plus({ days: w * 7 + d });
      const iso = at.toISODate() ?? '';
      return { iso, number: at.day, isIn: at.month === first.month, entries: byDay.value.get(iso) ?? [], holiday: holidayOn(iso) };
    }),
  );
});
const time = (at: string): string => DateTime.fromISO(at, { zone: zone.value }).toFormat('HH:mm');
const WORD: Readonly<Record<CalendarEntry['kind'], string>> = {
  due: 'due',
  opens: 'opens',
  closes: 'closes',
  holiday: '',
  announcement: 'told',
};
/** The same as a list, for narrow pages and for those who listen. */
const upcoming = computed(() => {
  const days = weeks.value.flat();
  // A holiday is told on its first day alone.
  return days.filter((d, n) => d.isIn && (d.entries.length > 0 || (d.holiday !== '' && days[n - 1]?.holiday !== d.holiday)));
});
const dayWords = (iso: string): string => DateTime.fromISO(iso, { zone: zone.value }).setLocale(LOCALE).toFormat('cccc d LLLL');
const address = computed(() =>
  secret.value === null ? '' : `${window.location.origin}${urlOf(api.getCalendarFile, { secret: secret.value })}`,
);
async function showFeed(renews: boolean): Promise<void> {
  try {
    secret.value = (renews ? await call(api.renewCalendarFeed, {}) : await call(api.getCalendarFeed, {})).secret;
    if (renews) notices.say('The address is new. The one before shows nothing any more.');
  } catch (error) {
    notices.sayFault(error);
  }
}
async function copy(): Promise<void> {
  await navigator.clipboard.writeText(address.value).then(
    () => {
      notices.say('The address is copied.');
    },
    () => undefined,
  );
}
</script>

<template>
  <div class="pad calendar">
    <p v-if="fault" class="fault">{{ fault }}</p>
    <div v-if="!view && !fault" class="skeleton" style="height: 320px" />
    <template v-if="view && month">
      <div class="top">
        <h2>{{ month.setLocale(LOCALE).toFormat('LLLL yyyy') }}</h2>
        <ActButton look="act" aria-label="The month before" @click="month = month.minus({ months: 1 })">← before</ActButton>
        <ActButton look="act" @click="month = DateTime.fromISO(view.now, { zone }).startOf('month')">this month</ActButton>
        <ActButton look="act" aria-label="The month after" @click="month = month.plus({ months: 1 })">after →</ActButton>
        <ActButton v-if="!isSeenAs()" look="act" style="margin-left: auto" @click="showFeed(false)"
          >In your own calendar program…</ActButton
        >
      </div>
      <div v-if="secret" class="feed">
        <p>Subscribe to this address there; it follows every change. Whoever has it can read your dates, so keep it to yourself.</p>
        <p>
          <code tabindex="0">{{ address }}</code> <ActButton look="act" @click="copy">copy</ActButton> ·
          <ActButton look="act" @click="showFeed(true)">make a new one</ActButton>
        </p>
      </div>
      <PlainTable look="bare" class="grid" :aria-label="month.setLocale(LOCALE).toFormat('LLLL yyyy')">
        <thead>
          <tr>
            <th v-for="d in ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday']" :key="d">{{ d }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="week in weeks" :key="week[0]!.iso">
            <td v-for="d in week" :key="d.iso" :class="{ out: !d.isIn, today: d.iso === today, holiday: d.holiday !== '' }">
              <span class="number">{{ d.number }}</span> <span v-if="d.holiday" class="label">{{ d.holiday }}</span>
              <ul class="bare-list">
                <li v-for="e in d.entries" :key="e.id" :class="e.kind">
                  <router-link :to="e.path" :title="`${e.title}, ${WORD[e.kind]} ${time(e.at)}${e.reason === '' ? '' : `, ${e.reason}`}`"
                    >{{ time(e.at) }} {{ e.title }}</router-link
                  >
                  <span class="label">{{
                    [WORD[e.kind], courseId === '' ? e.course : '', e.reason].filter((w) => w !== '').join(' · ')
                  }}</span>
                </li>
              </ul>
            </td>
          </tr>
        </tbody>
      </PlainTable>
      <div class="list">
        <section v-for="d in upcoming" :key="d.iso">
          <h3>
            {{ dayWords(d.iso) }} <span v-if="d.holiday" class="label">{{ d.holiday }}</span>
          </h3>
          <p v-for="e in d.entries" :key="e.id">
            <router-link :to="e.path">{{ e.title }}</router-link>
            <span class="label"> {{ WORD[e.kind] }} {{ time(e.at) }}{{ e.reason === '' ? '' : ` · ${e.reason}` }}</span>
          </p>
        </section>
        <p v-if="upcoming.length === 0" class="soft">Nothing has a date this month.</p>
      </div>
    </template>
  </div>
</template>

<style scoped>
.top {
  display: flex;
  gap: 18px;
  align-items: baseline;
  flex-wrap: wrap;
  margin-bottom: 10px;
}
.feed {
  border-left: 3px solid var(--bloom);
  padding-left: 12px;
  margin-bottom: 12px;
}
code {
  overflow-wrap: anywhere;
}
.grid {
  background: var(--paper);
}
.grid :deep(table) {
  width: 100%;
  table-layout: fixed;
}
.grid th {
  text-align: left;
  font-weight: 400;
  color: var(--soft);
  padding: 4px 8px;
  font-size: 13px;
}
.grid td {
  border: 1px solid var(--frost);
  height: 84px;
  vertical-align: top;
  padding: 4px 8px;
}
.grid td.out {
  background: var(--sub);
}
.grid td.out .number {
  color: var(--soft);
}
.grid td.holiday {
  background: var(--frost2);
}
.grid td.today .number {
  color: var(--clay);
  font-weight: 700;
}
.grid li a {
  text-decoration: underline;
  text-decoration-thickness: 1px;
  text-underline-offset: 2px;
}
li {
  font-size: 13px;
  line-height: 17px;
  padding: 1px 0;
}
li a {
  overflow-wrap: anywhere;
}
li.opens a,
li.closes a,
li.announcement a {
  color: var(--soft);
}
.list {
  display: none;
}
.list section {
  border-top: 1px solid var(--frost);
  padding: 8px 0;
}
@media (max-width: 700px) {
  .grid {
    display: none;
  }
  .list {
    display: block;
  }
}
</style>
