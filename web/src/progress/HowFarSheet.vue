<script setup lang="ts">
import type { ProgressReport } from '@rosemary/api';
import { countOf, howFar, numberOfRounded, type Ratio, roundHalfUp, spanInWords, STEP_WORDS, stepAt, STEPS } from '@rosemary/core';
import { computed, ref, watch } from 'vue';
import ActButton from '../parts/ActButton.vue';
import ChoiceField from '../parts/fields/ChoiceField.vue';
import TickBox from '../parts/fields/TickBox.vue';
import PlainTable from '../parts/PlainTable.vue';
import TableDownload from '../parts/charts/TableDownload.vue';
import { useCourse } from '../stores/courseStore.ts';
import PersonItems from './PersonItems.vue';
import { type Looked, nameOf, namesInShort } from './useReport.ts';

/** How far everybody is: a row for each student, a column for each unit, which opens into its items. */
const props = defineProps<{ report: ProgressReport; looked: Looked }>();
/** The student whose row is open. */
const openRow = defineModel<string | null>('person', { required: true });
const course = useCourse();
const order = ref('family');
const isFull = ref(false);
const hasUserNames = ref(false);
const hasTitles = ref(false);
const isWhole = ref(true);
const openUnits = ref<readonly string[]>([]);
const explained = ref<'class' | 'furthest' | 'ends' | null>(null);
/** So many rows are drawn at first, and so many more at each press. */
const ROWS = 100;
const most = ref(ROWS);

const minutes = computed(() => props.report.items.map((i) => i.minutes));
const units = computed(() =>
  props.report.units
    .map((u) => ({ ...u, places: props.looked.items.filter((place) => props.report.items[place]?.unitId === u.id) }))
    .filter((u) => u.places.length > 0),
);
const shortTitle = (title: string): string => {
  const word = title.replace(/^(The|A) /, '').split(' ')[0] ?? title;
  return word.charAt(0).toUpperCase() + word.slice(1);
};
interface Column {
  readonly id: string;
  readonly title: string;
  readonly short: string;
  /** Of a unit its place among the shares; of an item its place in the signs. */
  readonly unit: number | null;
  readonly item: number | null;
}
const columns = computed((): Column[] =>
  isWhole.value
    ? units.value.flatMap((u, n): Column[] => [
        { id: u.id, title: u.title, short: shortTitle(u.title), unit: n, item: null },
        ...(openUnits.value.includes(u.id)
          ? u.places.map((place) => {
              const item = props.report.items[place];
              return { id: item?.id ?? '', title: item?.title ?? '', short: item?.title ?? '', unit: null, item: place };
            })
          : []),
      ])
    : [],
);
const far = computed(() =>
  howFar(
    props.looked.people.map((place) => ({ steps: props.report.people[place]?.steps ?? '' })),
    props.looked.items,
    units.value,
    minutes.value,
    props.report.by,
  ),
);
const percent = (share: Ratio | null | undefined): number | null =>
  share === null || share === undefined ? null : Number(roundHalfUp(share.mul(100), 0));
interface Row {
  readonly place: number;
  readonly id: string;
  readonly person: ProgressReport['people'][number];
  readonly all: number | null;
  readonly exact: Ratio | null;
  readonly parts: readonly (number | null)[];
}
const rows = computed((): Row[] =>
  props.looked.people.flatMap((place, n): Row[] => {
    const person = props.report.people[place];
    const one = far.value.people[n];
    if (person === undefined || one === undefined) return [];
    return [{ place, id: person.enrolmentId, person, all: percent(one.all), exact: one.all, parts: one.parts.map(percent) }];
  }),
);
const soFarOf = (row: Row): number => (row.person.soFar === null ? -Infinity : numberOfRounded(row.person.soFar));
const down = (a: number | null | undefined, b: number | null | undefined): number => (b ?? -Infinity) - (a ?? -Infinity) || 0;
const collator = new Intl.Collator();
function compare(a: Row, b: Row): number {
  if (order.value === 'given') return collator.compare(a.person.givenName, b.person.givenName);
  if (order.value === 'share') return down(a.all, b.all);
  if (order.value === 'total') return soFarOf(b) - soFarOf(a) || 0;
  if (order.value === 'visit') return (b.person.lastVisit ?? '').localeCompare(a.person.lastVisit ?? '');
  const unit = units.value.findIndex((u) => u.id === order.value);
  return unit >= 0 ? down(a.parts[unit], b.parts[unit]) : 0;
}
const ordered = computed(() =>
  rows.value.slice().sort((a, b) => compare(a, b) || collator.compare(nameOf(a.person, true), nameOf(b.person, true))),
);
// A student that somebody was led to is drawn, however long the list.
watch(
  openRow,
  (id) => {
    const at = ordered.value.findIndex((row) => row.id === id);
    if (at >= most.value) most.value = at + 1;
  },
  { immediate: true },
);
const visit = (at: string | null): string =>
  at === null ? 'never' : Date.parse(at) > course.now ? 'just now' : `${spanInWords(course.now - Date.parse(at))} ago`;
const name = (row: Row): string => nameOf(row.person, isFull.value);
const furthest = computed(() =>
  far.value.furthest.flatMap((n) => {
    const person = props.report.people[props.looked.people[n] ?? -1];
    return person === undefined ? [] : [person];
  }),
);
/** Those with the highest and the lowest total so far. */
const ends = computed(() => {
  const known = rows.value.filter((row) => row.person.soFar !== null).sort((a, b) => soFarOf(b) - soFarOf(a));
  return known.length < 2 ? [] : [known[0], known.at(-1)].flatMap((row) => row ?? []);
});
const whose = computed(() => (course.sectionId === null ? 'The class' : 'This section'));
const lines = computed(() => [
  [
    'Family name',
    'Given name',
    ...(hasUserNames.value ? ['User name'] : []),
    ...columns.value.map((c) => (c.unit === null ? c.title : `${c.title} (%)`)),
    'Done (%)',
    'So far (%)',
    'Last visit',
  ],
  ...ordered.value.map((row) => [
    row.person.familyName,
    row.person.givenName,
    ...(hasUserNames.value ? [row.person.userName] : []),
    ...columns.value.map((c) => (c.unit === null ? STEP_WORDS[stepAt(row.person.steps, c.item ?? -1)] : (row.parts[c.unit] ?? null))),
    row.all,
    row.person.soFar === null ? null : soFarOf(row),
    row.person.lastVisit?.slice(0, 16).replace('T', ' ') ?? null,
  ]),
]);
function turnUnit(id: string): void {
  openUnits.value = openUnits.value.includes(id) ? openUnits.value.filter((u) => u !== id) : [...openUnits.value, id];
}
const SIGNS: Readonly<Record<string, string>> = {
  [STEPS.done]: '✓',
  [STEPS.open]: '–',
  [STEPS.extraDone]: '✓',
  [STEPS.extra]: '·',
  [STEPS.notYet]: '',
  [STEPS.notFor]: '',
};
</script>

<template>
  <section aria-labelledby="how-far">
    <header class="sheet-head">
      <h2 id="how-far">How far</h2>
      <span class="acts no-print"><TableDownload title="How far" :lines="lines" /></span>
    </header>
    <p v-if="rows.length === 0" class="soft">
      {{
        report.people.length === 0
          ? 'Students will stand here, with how far each is in every unit.'
          : 'Nobody in this section and group. Choose another above.'
      }}
    </p>
    <p v-else-if="units.length === 0" class="soft">
      {{
        report.units.length === 0
          ? 'There are no units with anything open yet. What is added in the Plan stands here, unit by unit.'
          : 'Nothing lies in these weeks and this period. Choose others above.'
      }}
    </p>
    <template v-else>
      <p class="says">
        <ActButton
          v-if="far.class.all !== null"
          look="act"
          :aria-expanded="explained === 'class'"
          @click="explained = explained === 'class' ? null : 'class'"
          >{{ whose }} has done {{ percent(far.class.all) }} % of what is open{{
            report.by === 'minutes' ? ', by minutes' : ''
          }}.</ActButton
        ><span v-else>Nothing is open yet.</span>
        <ActButton
          v-if="furthest.length > 0"
          look="act"
          :aria-expanded="explained === 'furthest'"
          @click="explained = explained === 'furthest' ? null : 'furthest'"
          >Furthest, at {{ percent(far.people[far.furthest[0] ?? -1]?.all) }} %:
          {{ namesInShort(furthest.map((p) => nameOf(p, true))) }}.</ActButton
        >
        <ActButton
          v-if="ends.length === 2"
          look="act"
          :aria-expanded="explained === 'ends'"
          @click="explained = explained === 'ends' ? null : 'ends'"
          >Highest total {{ ends[0] ? `${nameOf(ends[0].person, true)}, ${ends[0].person.soFar} %` : '' }}; lowest
          {{ ends[1] ? `${nameOf(ends[1].person, true)}, ${ends[1].person.soFar} %` : '' }}.</ActButton
        >
      </p>
      <p v-if="explained === 'class'" class="made">
        The mean of the shares of {{ countOf(far.counted, 'student') }} who have something open. A share is what is done of the required
        items that are open or past for this student{{ report.by === 'minutes' ? ', each weighed by its minutes' : '' }}:
        {{
          ordered
            .filter((r) => r.all !== null)
            .map((r) => `${name(r)} ${r.all} %`)
            .slice(0, 60)
            .join('; ')
        }}{{ far.counted > 60 ? '; …' : '' }}.
      </p>
      <p v-else-if="explained === 'furthest'" class="made">
        {{ furthest.length === 1 ? 'This student has' : 'These students have' }} the greatest share:
        <ActButton v-for="p in furthest.slice(0, 40)" :key="p.enrolmentId" look="act" @click="openRow = p.enrolmentId">{{
          nameOf(p, true)
        }}</ActButton>
      </p>
      <p v-else-if="explained === 'ends'" class="made">
        Totals so far, as in the gradebook, with their working there:
        <router-link
          v-for="row in ends"
          :key="row.id"
          :to="{ name: 'gradebook', params: { courseId: course.head?.id }, query: { student: row.id } }"
          >{{ nameOf(row.person, true) }}</router-link
        >
      </p>
      <div class="choices no-print">
        <label
          >order by
          <ChoiceField v-model="order" is-word>
            <option value="family">family name</option>
            <option value="given">given name</option>
            <option value="share">share done</option>
            <option value="total">total so far</option>
            <option value="visit">last visit</option>
            <option v-for="u in units" :key="u.id" :value="u.id">{{ u.title }}</option>
          </ChoiceField></label
        >
        <label><TickBox v-model="isFull" /> full names</label>
        <label><TickBox v-model="hasUserNames" /> user names</label>
        <label v-if="openUnits.length > 0"><TickBox v-model="hasTitles" /> titles of items</label>
      </div>
      <div class="wide">
        <PlainTable look="bare" class="far"
          ><thead>
            <tr>
              <th scope="col">
                <ActButton look="act" class="no-print" :aria-expanded="isWhole" @click="isWhole = !isWhole">{{
                  isWhole ? 'Units ◂' : 'Units ▸'
                }}</ActButton>
              </th>
              <th v-if="hasUserNames" scope="col">user name</th>
              <th
                v-for="c in columns"
                :key="c.id"
                scope="col"
                :class="{ narrow: c.unit === null, tall: c.unit === null && hasTitles }"
                :title="c.title"
              >
                <span v-if="c.unit !== null" class="print-only">{{ c.short }}</span><ActButton
                  v-if="c.unit !== null"
                  class="no-print"
                  look="act"
                  :aria-expanded="openUnits.includes(c.id)"
                  :aria-label="`${c.title}: ${openUnits.includes(c.id) ? 'close' : 'show its items'}`"
                  @click="turnUnit(c.id)"
                  >{{ c.short }} {{ openUnits.includes(c.id) ? '◂' : '▸' }}</ActButton
                ><span v-else-if="hasTitles">{{ c.title }}</span
                ><span v-else class="hidden">{{ c.title }}</span>
              </th>
              <th scope="col" class="num">done</th>
              <th scope="col" class="num">so far</th>
              <th scope="col" class="num">last visit</th>
            </tr>
          </thead>
          <tbody>
            <template v-for="row in ordered.slice(0, most)" :key="row.id"
              ><tr :class="{ on: row.id === openRow }">
                <th scope="row">
                  <ActButton
                    look="act"
                    class="ink"
                    :aria-expanded="row.id === openRow"
                    @click="openRow = row.id === openRow ? null : row.id"
                    >{{ name(row) }}</ActButton
                  >
                </th>
                <td v-if="hasUserNames" class="soft">{{ row.person.userName }}</td>
                <td v-for="c in columns" :key="c.id" :class="{ narrow: c.unit === null }">
                  <span
                    v-if="c.unit !== null"
                    class="bar"
                    role="img"
                    :title="`${c.title}: ${row.parts[c.unit] === null ? 'nothing open yet' : `${row.parts[c.unit]} %`}`"
                    :aria-label="row.parts[c.unit] === null ? 'nothing open yet' : `${row.parts[c.unit]} %`"
                    ><span v-if="row.parts[c.unit] !== null" :style="{ width: `${row.parts[c.unit]}%` }" /></span
                  ><span
                    v-else
                    role="img"
                    :title="`${c.title}: ${STEP_WORDS[stepAt(row.person.steps, c.item ?? -1)]}`"
                    :aria-label="STEP_WORDS[stepAt(row.person.steps, c.item ?? -1)]"
                    >{{ SIGNS[stepAt(row.person.steps, c.item ?? -1)] }}</span
                  >
                </td>
                <td class="num">{{ row.all === null ? '·' : `${row.all} %` }}</td>
                <td class="num soft">
                  <router-link
                    v-if="row.person.soFar !== null"
                    :to="{ name: 'gradebook', params: { courseId: course.head?.id }, query: { student: row.id } }"
                    :aria-label="`${row.person.soFar} % so far: its working in the gradebook`"
                    >{{ row.person.soFar }}</router-link><template v-else>·</template>
                </td>
                <td class="num soft">{{ visit(row.person.lastVisit) }}</td>
              </tr>
              <tr v-if="row.id === openRow" class="opened">
                <td :colspan="columns.length + 4 + (hasUserNames ? 1 : 0)"><PersonItems :enrolment-id="row.id" /></td></tr
            ></template>
            <tr class="sum">
              <th scope="row">{{ whose }}</th>
              <td v-if="hasUserNames" />
              <td v-for="c in columns" :key="c.id">
                {{ c.unit === null ? '' : far.class.parts[c.unit] === null ? '·' : `${percent(far.class.parts[c.unit])} %` }}
              </td>
              <td class="num">{{ far.class.all === null ? '·' : `${percent(far.class.all)} %` }}</td>
              <td />
              <td />
            </tr></tbody
        ></PlainTable>
      </div>
      <p v-if="ordered.length > most" class="no-print">
        {{ most }} of {{ ordered.length }} students are shown.
        <ActButton look="act" @click="most += ROWS">Show {{ Math.min(ROWS, ordered.length - most) }} more</ActButton>
        <ActButton look="act" @click="most = ordered.length">Show all</ActButton>
      </p>
    </template>
  </section>
</template>
