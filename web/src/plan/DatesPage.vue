<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { AnnouncementView, DatesChange, Plan } from '@rosemary/api';
import { countOf, dayAndTime, type DateMove, placeDate, prepareMove } from '@rosemary/core';
import { DateTime } from 'luxon';
import { computed, onMounted, ref, watch } from 'vue';
import { useRoute } from 'vue-router';
import ActButton from '../parts/ActButton.vue';
import ChoiceField from '../parts/fields/ChoiceField.vue';
import DateField from '../parts/DateField.vue';
import ItemGlyph from '../parts/ItemGlyph.vue';
import LineField from '../parts/fields/LineField.vue';
import PlainTable from '../parts/PlainTable.vue';
import TickBox from '../parts/fields/TickBox.vue';
import { call, takeBack } from '../platform/call.ts';
import { useFresh } from '../platform/useEvents.ts';
import { useCourse } from '../stores/courseStore.ts';
import { useNotices } from '../stores/noticeStore.ts';
import { type DateRow, dateRows, FIELD_WORDS, toChange } from './dateRows.ts';

/** Every date of a course on one sheet: moved together by weeks, days and weekdays, or cleared; each old and new before anything is changed. */
const route = useRoute();
const course = useCourse();
const notices = useNotices();
const courseId = computed(() => String(route.params.courseId));
const base = computed(() => ({ courseId: courseId.value }));
const plan = ref<Plan | null>(null);
const announcements = ref<readonly AnnouncementView[]>([]);
const fault = ref('');
async function load(): Promise<void> {
  try {
    [plan.value, { announcements: announcements.value }] = await Promise.all([
      call(api.getPlan, base.value),
      call(api.getAnnouncements, base.value),
    ]);
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
}
useFresh(courseId, ['plan', 'talk'], load);

const how = ref<DateMove['how'] | 'clear'>('weeks');
const byText = ref('0');
const weekdays = ref<Record<number, number>>({});
const isOffHolidays = ref(true);
const from = ref<string | null>(null);
const to = ref<string | null>(null);
const kinds = ref<readonly string[]>(['item', 'unit', 'announcement']);
const fields = ref<readonly DateRow['field'][]>(['announcedAt', 'opensAt', 'dueAt', 'closesAt', 'publishAt']);
/** Rows that were taken out by hand. */
const left = ref<ReadonlySet<string>>(new Set());
onMounted(async () => {
  await load();
  // What is over in a running course stays where it was, unless one says otherwise.
  const today = DateTime.fromMillis(course.now, { zone: course.zone }).toISODate() ?? '';
  const term = plan.value?.term;
  if (course.head?.isOpen === true && term !== undefined && term.startsOn < today && today <= term.endsOn) from.value = today;
});
const DAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];
const KINDS = [
  ['item', 'items'],
  ['unit', 'units'],
  ['announcement', 'announcements'],
] as const;
const all = computed(() => (plan.value === null ? [] : dateRows(plan.value, announcements.value)));
const dayOf = (at: number): string => DateTime.fromMillis(at, { zone: course.zone }).toISODate() ?? '';
const shown = computed(() =>
  all.value.filter(
    (row) =>
      kinds.value.includes(row.of) &&
      fields.value.includes(row.field) &&
      (from.value === null || dayOf(row.at) >= from.value) &&
      (to.value === null || dayOf(row.at) <= to.value) &&
      (how.value !== 'clear' || row.of !== 'announcement'),
  ),
);
const chosen = computed(() => shown.value.filter((row) => !left.value.has(row.key)));
/** The weekdays on which any of them lies: no other can be mapped. */
const used = computed(() =>
  [...new Set(shown.value.map((row) => DateTime.fromMillis(row.at, { zone: course.zone }).weekday))].sort((a, b) => a - b),
);
const by = computed(() => {
  const text = byText.value.trim().replace('−', '-').replace(/^\+/, '');
  return /^-?\d{1,3}$/.test(text) ? Number(text) : null;
});
const byFault = computed(() =>
  how.value === 'clear' || by.value !== null
    ? how.value === 'from week' && (by.value ?? 0) < 1
      ? 'The first teaching week is 1.'
      : ''
    : `“${byText.value}” is no whole number, such as 1 or -2.`,
);
const mover = computed(() => {
  if (plan.value === null || how.value === 'clear' || by.value === null) return null;
  const move: DateMove = { how: how.value, by: by.value, weekdays: weekdays.value, isOffHolidays: isOffHolidays.value };
  return prepareMove(
    plan.value.term,
    course.zone,
    move,
    chosen.value.map((row) => row.at),
  );
});
interface Next {
  readonly at: number | null;
  readonly note: string;
  readonly isBad: boolean;
}
const next = computed(() => {
  const found = new Map<string, Next>();
  for (const row of chosen.value) {
    if (how.value === 'clear') found.set(row.key, { at: null, note: '', isBad: false });
    else if (mover.value !== null) {
      const placed = placeDate(mover.value, row.at);
      if (placed.at !== row.at || placed.note !== '')
        found.set(row.key, { at: placed.at, note: placed.note, isBad: placed.isOutside || placed.isOnHoliday });
    }
  }
  return found;
});
/** What is sent: new dates by the keys of their rows. */
const changed = computed(
  () =>
    new Map(
      chosen.value.flatMap((row): [string, number | null][] => {
        const to = next.value.get(row.key);
        return to === undefined || to.at === row.at ? [] : [[row.key, to.at]];
      }),
    ),
);
const summary = computed(() => {
  const list = [...next.value.values()];
  const off = list.filter((n) => n.note.startsWith('moved')).length;
  const bad = list.filter((n) => n.isBad).length;
  return [
    how.value === 'clear'
      ? `${countOf(changed.value.size, 'date is', 'dates are')} cleared`
      : `${countOf(changed.value.size, 'date moves', 'dates move')}`,
    off === 0 ? '' : `${off} off a holiday`,
    bad === 0 ? '' : `${bad} on a holiday or outside the term`,
  ]
    .filter(Boolean)
    .join(' · ');
});
watch(how, (now) => {
  byText.value = now === 'from week' ? '1' : '0';
});
const isBusy = ref(false);
async function write(change: DatesChange, words: string): Promise<void> {
  const done = await call(api.changeDates, base.value, change, 'Dates');
  if (done === null) return;
  await Promise.all([load(), course.load(courseId.value)]);
  notices.say(words, async () => {
    await takeBack(api.changeDates, base.value, done.undo);
    await Promise.all([load(), course.load(courseId.value)]);
  });
}
async function apply(): Promise<void> {
  if (plan.value === null) return;
  isBusy.value = true;
  const words =
    how.value === 'clear'
      ? `${countOf(changed.value.size, 'date is', 'dates are')} cleared.`
      : `${countOf(changed.value.size, 'date is', 'dates are')} moved.`;
  try {
    await write(toChange(plan.value, announcements.value, all.value, changed.value), words);
    byText.value = how.value === 'from week' ? '1' : '0';
    weekdays.value = {};
  } catch (error) {
    notices.sayFault(error);
    await load();
  } finally {
    isBusy.value = false;
  }
}
const turn = <T,>(list: readonly T[], one: T): readonly T[] => (list.includes(one) ? list.filter((x) => x !== one) : [...list, one]);
function turnRow(key: string): void {
  const now = new Set(left.value);
  if (!now.delete(key)) now.add(key);
  left.value = now;
}
const when = (at: number): string => dayAndTime(at, course.zone, course.now);
const FIELDS = Object.entries(FIELD_WORDS) as [DateRow['field'], string][];
</script>

<template>
  <div class="pad">
    <p class="label"><router-link :to="{ name: 'plan', params: { courseId } }">Plan</router-link></p>
    <h2>Dates</h2>
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <p v-else-if="course.head?.isSelfPaced" class="soft">
      In this course dates are counted from each student’s start. They are changed item by item in the Plan.
    </p>
    <template v-else-if="plan === null"><div v-for="n in 8" :key="n" class="skeleton" style="height: 24px; margin-top: 10px" /></template>
    <p v-else-if="all.length === 0" class="soft">Nothing in this course has a date yet. Dates that are set in the Plan stand here.</p>
    <template v-else>
      <div class="wish">
        <label class="field how"
          ><span class="label">What is done</span
          ><ChoiceField v-model="how">
            <option value="weeks">move by teaching weeks</option>
            <option value="days">move by days</option>
            <option value="from week">begin in a teaching week, as from another term</option>
            <option value="clear">clear the dates</option>
          </ChoiceField></label
        >
        <label v-if="how !== 'clear'" class="field by"
          ><span class="label">{{
            how === 'weeks'
              ? 'Teaching weeks, - is earlier'
              : how === 'days'
                ? 'Days, - is earlier'
                : 'The earliest falls into teaching week'
          }}</span
          ><LineField v-model="byText" inputmode="numeric"
        /></label>
        <DateField :model-value="from" label="Only dates from" :zone="course.zone" :now="course.now" is-day @change="from = $event" />
        <DateField :model-value="to" label="Only dates to" :zone="course.zone" :now="course.now" is-day @change="to = $event" />
      </div>
      <p v-if="byFault" class="fault" role="alert">{{ byFault }}</p>
      <div v-if="how !== 'clear'" class="weekdays wrapping" role="group" aria-label="To other weekdays">
        <label v-for="d in used" :key="d" class="field"
          ><span class="label">{{ DAYS[d - 1] }} becomes</span
          ><ChoiceField :model-value="weekdays[d] ?? d" @change="weekdays = { ...weekdays, [d]: Number($event) }">
            <option v-for="(name, n) in DAYS" :key="name" :value="n + 1">{{ name }}</option>
          </ChoiceField></label
        >
        <label><TickBox v-model="isOffHolidays" /> move off holidays to the next meeting day</label>
      </div>
      <p class="wrapping">
        <label v-for="[kind, words] in KINDS" :key="kind"
          ><TickBox :model-value="kinds.includes(kind)" @change="kinds = turn(kinds, kind)" /> {{ words }}</label
        >
        <label v-for="[field, words] in FIELDS" :key="field"
          ><TickBox :model-value="fields.includes(field)" @change="fields = turn(fields, field)" /> {{ words }}</label
        >
      </p>
      <p v-if="how === 'clear'" class="soft">An announcement cannot be without a date; delete it in Announcements.</p>
      <p class="act-bar">
        <ActButton look="go" :disabled="changed.size === 0 || byFault !== '' || isBusy" @click="apply">{{
          how === 'clear' ? `Clear ${countOf(changed.size, 'date')}` : `Move ${countOf(changed.size, 'date')}`
        }}</ActButton>
        <span class="soft" role="status">{{ changed.size === 0 ? 'Say above what is to be done; nothing moves yet.' : summary }}</span>
      </p>
      <PlainTable>
        <caption class="hidden">
          Every date, as it is and as it would be
        </caption>
        <thead>
          <tr>
            <th>Date of</th>
            <th></th>
            <th>is</th>
            <th>becomes</th>
            <th></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in shown" :key="row.key" :class="{ off: left.has(row.key) }">
            <td class="title">
              <label
                ><TickBox :model-value="!left.has(row.key)" @change="turnRow(row.key)" />
                <ItemGlyph v-if="row.kind" :kind="row.kind" />
                <span :class="{ serif: row.of === 'unit' }">{{ row.title }}</span>
                <span v-if="row.of === 'announcement'" class="soft">announcement</span></label
              >
            </td>
            <td class="soft">{{ FIELD_WORDS[row.field] }}{{ row.whose ? ` for ${row.whose}` : '' }}</td>
            <td>{{ when(row.at) }}</td>
            <td>
              <template v-if="next.has(row.key)">{{
                next.get(row.key)!.at === null ? 'no date' : when(next.get(row.key)!.at!)
              }}</template><span v-else class="soft">as it is</span>
            </td>
            <td :class="next.get(row.key)?.isBad ? 'clay' : 'soft'">{{ next.get(row.key)?.note }}</td>
          </tr>
        </tbody>
      </PlainTable>
      <p v-if="shown.length === 0" class="soft">No date is of these kinds and within these days.</p>
    </template>
  </div>
</template>

<style scoped>
.wish {
  display: grid;
  grid-template-columns: minmax(220px, 2fr) minmax(150px, 1fr) minmax(150px, 1fr) minmax(150px, 1fr);
  gap: 8px 22px;
  align-items: end;
  padding-top: 10px;
}
.weekdays .field {
  width: 96px;
}
td,
th {
  text-align: left;
  padding: 4px 12px 4px 0;
  vertical-align: top;
}
.title {
  width: 36%;
}
tr.off td {
  color: var(--soft);
}
</style>
