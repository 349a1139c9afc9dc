<script setup lang="ts">
import type { ProgressReport, ProgressRhythm } from '@rosemary/api';
import {
  activityOf,
  classDays,
  countOf,
  DOING_WORDS,
  DOINGS,
  type DayOfActivity,
  minutesInWords,
  rhythmWords,
  weekHours,
} from '@rosemary/core';
import { computed, ref } from 'vue';
import ActButton from '../parts/ActButton.vue';
import ChartFrame from '../parts/charts/ChartFrame.vue';
import HeatGrid, { type HeatCell } from '../parts/charts/HeatGrid.vue';
import PlainTable from '../parts/PlainTable.vue';
import { useCourse } from '../stores/courseStore.ts';
import DayStrip from './DayStrip.vue';
import { termDays, WEEKDAYS } from './termDays.ts';
import { type Looked, nameOf } from './useReport.ts';

/** When the class works: by day of the term, by hour of the week, and each student by day. */
const props = defineProps<{ report: ProgressReport; looked: Looked; rhythm: ProgressRhythm }>();
const course = useCourse();
const toldDay = ref('');
const toldHour = ref('');
const openId = ref<string | null>(null);
const most = ref(20);
const term = computed(() => termDays(props.rhythm, course.now, course.zone));
const dateOf = (day: number): string => term.value.dateOf(day);
/** The days that are looked at: the term up to today, or the weeks that are chosen. */
const span = computed((): [number, number] => {
  const { first, last } = term.value;
  if (course.weeks === null) return [0, last];
  return [Math.max(0, (course.weeks[0] - 1) * 7 - first), Math.min(last, course.weeks[1] * 7 - 1 - first)];
});
interface Active {
  readonly id: string;
  readonly name: string;
  readonly days: readonly DayOfActivity[];
}
const people = computed((): Active[] => {
  const byId = new Map(props.rhythm.people.map((p) => [p.enrolmentId, p.active]));
  const [from, until] = span.value;
  return props.looked.people.flatMap((place) => {
    const person = props.report.people[place];
    if (person === undefined) return [];
    const days = (byId.get(person.enrolmentId) ?? []).filter(([day]) => day >= from && day <= until);
    return [{ id: person.enrolmentId, name: nameOf(person, true), days }];
  });
});
const hours = computed(() =>
  weekHours(
    people.value.map((p) => p.days),
    term.value.first,
  ),
);
const days = computed(() =>
  classDays(
    people.value.map((p) => p.days),
    ...span.value,
  ),
);
const weeks = computed(() => {
  const [from, until] = span.value;
  return Array.from({ length: Math.max(0, term.value.weekOf(until) - term.value.weekOf(from) + 1) }, (_, n) => term.value.weekOf(from) + n);
});
const dayCells = computed((): HeatCell[] =>
  days.value.map((d) => ({
    id: String(d.day),
    row: term.value.weekdayOf(d.day),
    column: term.value.weekOf(d.day) - (weeks.value[0] ?? 0),
    value: d.students,
    words: `${dateOf(d.day)}: ${d.students} of ${countOf(people.value.length, 'student')}, at most ${minutesInWords(d.minutes)} in all`,
  })),
);
const clock = (hour: number): string => `${String(hour).padStart(2, '0')}:00`;
const hourCells = computed((): HeatCell[] =>
  hours.value.flatMap((row, day) =>
    row.map((value, hour) => ({
      id: `${day} ${hour}`,
      row: day,
      column: hour,
      value,
      words: `${WEEKDAYS[day] ?? ''} ${clock(hour)} to ${clock(hour + 1)}: ${countOf(value, 'hour')} in which a student was at work`,
    })),
  ),
);
const sentence = computed(() => rhythmWords(hours.value) ?? '');
const empty = computed(() => (sentence.value === '' ? 'Nothing has been recorded in these weeks yet.' : ''));
const dayLines = computed(() => [
  ['Day', 'Date', 'Students', 'Minutes at most'],
  ...days.value.map((d) => [WEEKDAYS[term.value.weekdayOf(d.day)] ?? '', term.value.isoOf(d.day), d.students, d.minutes]),
]);
const hourLines = computed(() => [
  ['', ...Array.from({ length: 24 }, (_, hour) => clock(hour))],
  ...hours.value.map((row, day) => [WEEKDAYS[day] ?? '', ...row]),
]);
const each = computed(() =>
  people.value.map((p) => ({ ...p, sum: activityOf(p.days) })).sort((a, b) => b.sum.minutes - a.sum.minutes || b.sum.days - a.sum.days),
);
const eachLines = computed(() => [
  ['Student', 'Days', 'Minutes at most', 'Longest in one go (min)', 'Last day', ...DOINGS],
  ...each.value.map(({ name, sum }) => [
    name,
    sum.days,
    sum.minutes,
    sum.longest,
    sum.lastDay === null ? null : term.value.isoOf(sum.lastDay),
    ...DOINGS.map((doing) => (sum.doings.includes(doing) ? 'yes' : null)),
  ]),
]);
const toldOpen = ref('');
const what = DOINGS.map((doing) => `${doing}: ${DOING_WORDS[doing]}`).join('; ');
</script>

<template>
  <section aria-label="Rhythm">
    <div class="half">
      <ChartFrame
        title="Rhythm: the days of the term"
        name="Days of the term"
        :sentence="sentence"
        :empty="empty"
        :lines="dayLines"
        :told="toldDay"
        hint="The darker a day, the more students were at work."
      >
        <template #default="{ width }">
          <HeatGrid
            :rows="WEEKDAYS"
            :columns="weeks.map((w) => String(w + 1))"
            :cells="dayCells"
            :width="width"
            :most-width="56"
            label="Students at work by day; columns are the weeks of the term"
            @told="toldDay = $event"
          />
        </template>
      </ChartFrame>
      <ChartFrame
        title="The hours of the week"
        name="Hours of the week"
        sentence="All weeks together, by the clock of the course."
        :empty="empty"
        :lines="hourLines"
        :told="toldHour"
        hint="The darker an hour, the more often students were at work in it."
      >
        <template #default="{ width }">
          <HeatGrid
            :rows="WEEKDAYS"
            :columns="Array.from({ length: 24 }, (_, h) => (h % 3 === 0 ? String(h) : ''))"
            :cells="hourCells"
            :width="width"
            label="Students at work by hour of the week"
            @told="toldHour = $event"
          />
        </template>
      </ChartFrame>
    </div>
    <ChartFrame title="Each student by day" name="Activity of students" :lines="eachLines" :empty="empty">
      <PlainTable class="each"
        ><thead>
          <tr>
            <th scope="col">Student</th>
            <th scope="col" class="num">days</th>
            <th scope="col" class="num">at most</th>
            <th scope="col" class="num">longest in one go</th>
            <th scope="col">what</th>
            <th scope="col">last</th>
          </tr>
        </thead>
        <tbody>
          <template v-for="p in each.slice(0, most)" :key="p.id"
            ><tr>
              <td>
                <ActButton look="act" class="ink" :aria-expanded="openId === p.id" @click="openId = openId === p.id ? null : p.id">{{
                  p.name
                }}</ActButton>
              </td>
              <td class="num">{{ p.sum.days }}</td>
              <td class="num">{{ minutesInWords(p.sum.minutes) }}</td>
              <td class="num">{{ minutesInWords(p.sum.longest) }}</td>
              <td class="soft">{{ p.sum.doings.join(', ') || 'nothing recorded' }}</td>
              <td class="soft">{{ p.sum.lastDay === null ? '·' : dateOf(p.sum.lastDay) }}</td>
            </tr>
            <tr v-if="openId === p.id">
              <td colspan="6">
                <DayStrip :term="rhythm" :active="p.days" :span="span" :width="640" :label="`${p.name} by day`" @told="toldOpen = $event" />
                <p class="label" aria-live="polite">{{ toldOpen || 'Point at a day, or walk through them with the arrows.' }}</p>
              </td>
            </tr></template
          >
        </tbody></PlainTable
      >
      <template #after>
        <p v-if="each.length > most" class="no-print">
          {{ most }} of {{ each.length }} students are shown. <ActButton look="act" @click="most = each.length">Show all</ActButton>
        </p>
      </template>
    </ChartFrame>
    <p class="label">
      Recorded is only what happened here: {{ what }}. A page that lies open counts while it is in sight, so a time is the longest that it
      can have been; reading on paper, thinking and working elsewhere leave no trace. Work that is marked without names is left out. It is
      kept for {{ countOf(report.activityMonths, 'month') }}.
    </p>
  </section>
</template>
