<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { ProgressDetail, ProgressView } from '@rosemary/api';
import { dayAndTime, minutesInWords, spanInWords } from '@rosemary/core';
import { interpolateRgb } from 'd3';
import { computed, onMounted, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import DateField from '../parts/DateField.vue';
import ItemGlyph from '../parts/ItemGlyph.vue';
import { call } from '../platform/call.ts';
import { useCourse } from '../stores/courseStore.ts';
import { useSession } from '../stores/sessionStore.ts';
import PlainTable from '../parts/PlainTable.vue';
import ActButton from '../parts/ActButton.vue';
import ChoiceField from '../parts/fields/ChoiceField.vue';

const route = useRoute();
const router = useRouter();
const course = useCourse();
const session = useSession();
const courseId = computed(() => String(route.params.courseId));
const view = ref<ProgressView | null>(null);
const detail = ref<ProgressDetail | null>(null);
const fault = ref('');
const sortBy = ref<'name' | 'all' | 'visit'>('name');
const onlyUnit = ref<string | null>(null);
const seeOn = ref('');
onMounted(async () => {
  try {
    view.value = await call(api.getProgress, { courseId: courseId.value });
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
});
const person = computed(() => (typeof route.query.person === 'string' ? route.query.person : null));
watch(
  person,
  async (id) => {
    detail.value = null;
    if (id !== null)
      try {
        detail.value = await call(api.getProgressOf, { courseId: courseId.value, enrolmentId: id });
      } catch (error) {
        fault.value = error instanceof Error ? error.message : '';
      }
  },
  { immediate: true },
);
/** Two names as they are; of more, the first and how many others. */
const inShort = (names: readonly string[]): string => (names.length <= 2 ? names.join('; ') : `${names[0]} and ${names.length - 1} others`);
/** What is said follows the section that is chosen. */
const said = computed(() => view.value?.said.find((s) => s.sectionId === course.sectionId) ?? null);
const people = computed(() =>
  (view.value?.people ?? [])
    .filter((p) => course.sectionId === null || p.sectionId === course.sectionId)
    .slice()
    .sort((a, b) =>
      sortBy.value === 'name'
        ? a.name.localeCompare(b.name)
        : sortBy.value === 'all'
          ? (b.all ?? -1) - (a.all ?? -1)
          : (b.lastVisit ?? '').localeCompare(a.lastVisit ?? ''),
    ),
);
const shade = (share: number): string =>
  session.theme === 'dark' ? interpolateRgb('#4d6657', '#A9C9B6')(share / 100) : interpolateRgb('#9DB5A4', '#4A6B58')(share / 100);
function choose(id: string, unit: string | null): void {
  onlyUnit.value = unit;
  void router.replace({ query: { person: id } });
}
const units = computed(() => {
  const list: { id: string; title: string; items: ProgressDetail['items'][number][] }[] = [];
  for (const i of detail.value?.items ?? []) {
    if (onlyUnit.value !== null && i.unitId !== onlyUnit.value) continue;
    const last = list.find((u) => u.id === i.unitId);
    if (last) last.items.push(i);
    else list.push({ id: i.unitId, title: i.unit, items: [i] });
  }
  return list;
});
const visit = (at: string | null): string =>
  at === null ? 'never' : Date.parse(at) > course.now ? 'just now' : `${spanInWords(course.now - Date.parse(at))} ago`;
async function seeAs(): Promise<void> {
  if (person.value === null) return;
  session.startSeeAs({
    courseId: courseId.value,
    enrolmentId: person.value,
    on: seeOn.value === '' ? null : new Date(`${seeOn.value}T12:00:00`).toISOString(),
  });
  await course.load(courseId.value);
  await router.push({ name: 'own-week', params: { courseId: courseId.value } });
}
const short = (title: string): string => {
  const word = title.replace(/^(The|A) /, '').split(' ')[0] ?? title;
  return word.charAt(0).toUpperCase() + word.slice(1);
};
</script>

<template>
  <div class="two progress">
    <section class="matrix" aria-label="The class">
      <p v-if="fault" class="fault">{{ fault }}</p>
      <div v-if="view" class="top soft">
        <span v-if="said && said.classShare !== null"
          >{{ course.sectionId === null ? 'The class' : 'This section' }} has done {{ said.classShare }} % of what is open{{
            view.by === 'minutes' ? ', by minutes' : ''
          }}.</span
        ><span v-if="said?.furthest">Furthest, at {{ said.furthest.share }} %: {{ inShort(said.furthest.names) }}.</span
        ><label class="end"
          >order
          <ChoiceField v-model="sortBy" style="width: auto">
            <option value="name">by name</option>
            <option value="all">by share</option>
            <option value="visit">by last visit</option>
          </ChoiceField></label
        >
      </div>
      <p v-if="view && view.people.length === 0" class="soft">Students will stand here, with how far each is in every unit.</p>
      <div v-if="!view && !fault"><div v-for="n in 14" :key="n" class="skeleton" style="height: 18px; margin-top: 8px" /></div>
      <PlainTable look="bare" v-if="view && view.people.length > 0">
        <thead>
          <tr>
            <th />
            <th v-for="u in view.units" :key="u.id" :title="u.title">{{ short(u.title) }}</th>
            <th class="num">done</th>
            <th class="num">so far</th>
            <th class="num">last visit</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="p in people" :key="p.enrolmentId" :class="{ on: p.enrolmentId === person }">
            <th scope="row">
              <ActButton look="act" class="ink" @click="choose(p.enrolmentId, null)">{{ p.name }}</ActButton>
            </th>
            <td v-for="(share, n) in p.units" :key="n">
              <ActButton
                class="bar"
                :aria-label="`${p.name}, ${view.units[n]?.title}: ${share === null ? 'nothing open yet' : `${share} %`}`"
                :title="`${view.units[n]?.title}: ${share === null ? 'nothing open yet' : `${share} %`}`"
                @click="choose(p.enrolmentId, view.units[n]?.id ?? null)"
              >
                <span v-if="share !== null" :style="{ width: `${share}%`, background: shade(share) }" />
              </ActButton>
            </td>
            <td class="num">
              <ActButton look="act" class="ink" @click="choose(p.enrolmentId, null)">{{ p.all === null ? '·' : `${p.all} %` }}</ActButton>
            </td>
            <td class="num soft">{{ p.soFar ?? '·' }}</td>
            <td class="num soft">{{ visit(p.lastVisit) }}</td>
          </tr>
        </tbody>
      </PlainTable>
      <p v-if="view && (said?.highest || said?.lowest)" class="label" style="padding-top: 12px">
        Highest total {{ said?.highest }} · lowest {{ said?.lowest }}
      </p>
    </section>
    <aside class="inspector side" aria-label="One student">
      <template v-if="person && detail">
        <h3>{{ detail.name }}</h3>
        <p class="soft">{{ detail.share }}</p>
        <p v-if="course.head?.role === 'instructor'" class="as">
          <ActButton look="act" @click="seeAs">See as this student</ActButton>
        </p>
        <DateField
          v-if="course.head?.role === 'instructor'"
          :model-value="seeOn === '' ? null : seeOn"
          label="on a day; empty is today"
          :zone="course.zone"
          :now="course.now"
          is-day
          @change="seeOn = $event ?? ''"
        />
        <p v-if="onlyUnit"><ActButton look="act" @click="onlyUnit = null">all units</ActButton></p>
        <section v-for="u in units" :key="u.id">
          <h4>{{ u.title }}</h4>
          <ul>
            <li v-for="i in u.items" :key="i.id" :class="{ soft: !i.isOpen }">
              <span class="tick" :aria-label="i.isDone ? 'done' : 'not done'">{{ i.isDone ? '✓' : '–' }}</span><span
                ><ItemGlyph :kind="i.kind" /> {{ i.title }}<br /><span class="label"
                  >{{ i.isOpen ? i.how : 'not open yet' }} · {{ i.rule }} · {{ minutesInWords(i.minutes) }}</span
                ></span
              >
            </li>
          </ul>
        </section>
      </template>
      <p v-else-if="person" class="soft">Reading…</p>
      <p v-else class="soft">
        Choose a student, or one bar, to see the items behind it.
        {{ view ? `Shares count required items that are open or past, as of ${dayAndTime(course.now, course.zone, course.now)}.` : '' }}
      </p>
    </aside>
  </div>
</template>

<style scoped>
.progress {
  flex: 1;
}
.matrix {
  flex: 1;
  background: var(--paper);
  padding: 14px 22px 30px;
  min-width: 0;
  overflow-x: auto;
}
.top {
  display: flex;
  gap: 14px;
  padding-bottom: 8px;
  align-items: baseline;
}
:deep(table) {
  width: 100%;
}
th {
  font-weight: 400;
  text-align: left;
  padding: 0 8px 0 0;
  white-space: nowrap;
}
thead th {
  color: var(--soft);
  font-size: 12.5px;
  padding-bottom: 4px;
}
td {
  padding: 6px 10px 6px 0;
  white-space: nowrap;
}
.bar {
  display: block;
  width: 100%;
  min-width: 44px;
  height: 14px;
  background: var(--frost2);
  border: 0;
  padding: 0;
  cursor: pointer;
}
.bar span {
  display: block;
  height: 14px;
}
.ink {
  color: var(--ink);
}
.side {
  width: 380px;
  background: var(--mist);
}
h4 {
  font: 500 15px/22px var(--serif);
  margin: 14px 0 2px;
}
ul {
  list-style: none;
  padding: 0;
  margin: 0;
}
li {
  display: grid;
  grid-template-columns: 18px 1fr;
  padding: 4px 0;
  border-top: 1px solid var(--frost);
}
.as {
  padding: 6px 0;
}
</style>
