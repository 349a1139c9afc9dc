<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { CourseTime } from '@rosemary/api';
import { minutesInWords, countOf } from '@rosemary/core';
import { computed, onMounted, ref } from 'vue';
import { useRoute } from 'vue-router';
import ItemGlyph from '../parts/ItemGlyph.vue';
import { call, takeBack } from '../platform/call.ts';
import { useFresh } from '../platform/useEvents.ts';
import { useCourse } from '../stores/courseStore.ts';
import { useNotices } from '../stores/noticeStore.ts';
import PlainTable from '../parts/PlainTable.vue';
import TickBox from '../parts/fields/TickBox.vue';
import ActButton from '../parts/ActButton.vue';

type Item = CourseTime['items'][number];
const route = useRoute();
const course = useCourse();
const notices = useNotices();
const courseId = computed(() => String(route.params.courseId));
const time = ref<CourseTime | null>(null);
const fault = ref('');
const onlyFar = ref(false);
const canEdit = computed(() => course.head?.role === 'instructor');
async function load(): Promise<void> {
  try {
    time.value = await call(api.getCourseTime, { courseId: courseId.value });
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
}
onMounted(load);
useFresh(courseId, ['plan'], load);
const most = computed(() => Math.max(1, ...(time.value?.weeks.map((w) => w.studentMinutes) ?? [])));
const isFar = (i: Item): boolean => i.taken.suggested !== null;
const shown = computed(() => (time.value?.items ?? []).filter((i) => !onlyFar.value || isFar(i)));
const far = computed(() => (time.value?.items ?? []).filter(isFar));
const whole = (minutes: number | null): string => (minutes === null ? '' : String(Math.round(minutes)));
const WORDS: Readonly<Record<Item['taken']['verdict'], string>> = {
  'too few': '',
  'as asked': 'as asked',
  more: 'they take longer',
  less: 'they take less',
  elsewhere: 'done off the screen',
};

/** Takes over what fits, for one or for all, with one Undo. */
async function take(items: readonly Item[]): Promise<void> {
  try {
    const changes = items.map((i) => ({ id: i.id, version: i.version, estimatedMinutes: i.taken.suggested ?? i.asked }));
    const at = { courseId: courseId.value };
    const done = await call(api.changeItems, at, { changes }, 'Minutes asked for');
    if (done === null) return;
    await Promise.all([load(), course.load(courseId.value)]);
    notices.say(
      items.length === 1
        ? `“${items[0]?.title}” now asks ${countOf(items[0]?.taken.suggested ?? 0, 'minute')}.`
        : `${items.length} items ask other minutes now.`,
      async () => {
        await takeBack(api.changeItems, at, done.undo);
        await Promise.all([load(), course.load(courseId.value)]);
      },
    );
  } catch (error) {
    notices.sayFault(error);
    await load();
  }
}
</script>

<template>
  <div class="pad time">
    <p v-if="fault" class="fault">{{ fault }}</p>
    <template v-if="!time && !fault"><div v-for="n in 8" :key="n" class="skeleton" style="height: 20px; margin: 9px 0" /></template>
    <template v-if="time">
      <section>
        <h2>What the weeks ask of a student</h2>
        <p v-if="time.median !== null" class="clay">
          {{ time.weeks.filter((w) => w.isOverfull).length === 1 ? 'One week is' : 'Some weeks are' }} far above the rest, which ask about
          {{ minutesInWords(Math.round(time.median)) }}. Move or spread what is due then.
        </p>
        <PlainTable look="bare" class="weeks">
          <tbody>
            <tr v-for="w in time.weeks" :key="w.week" :class="{ full: w.isOverfull }">
              <th scope="row">week {{ w.week }}</th>
              <td class="bar" aria-hidden="true"><span :style="{ width: `${(w.studentMinutes / most) * 100}%` }" /></td>
              <td class="num">{{ w.studentMinutes === 0 ? '—' : minutesInWords(w.studentMinutes) }}</td>
              <td>{{ w.isOverfull ? 'far above the rest' : '' }}</td>
            </tr>
          </tbody>
        </PlainTable>
      </section>
      <section>
        <h2>What its items take</h2>
        <p class="soft">
          Minutes each student had an item open here, against the minutes asked. Open is not the same as at work, so read it as a hint.
          Fewer than five students say nothing, nor do minutes open of work that is done off the screen.
        </p>
        <p class="acts">
          <label><TickBox v-model="onlyFar" /> only those far from it ({{ far.length }})</label>
          <ActButton v-if="canEdit && far.length > 1" look="act" @click="take(far)">Take over all {{ far.length }}</ActButton>
        </p>
        <p v-if="shown.length === 0" class="soft">
          {{ onlyFar ? 'Every item takes about what it asks.' : 'Items that are open will stand here.' }}
        </p>
        <PlainTable v-else>
          <thead>
            <tr>
              <th>Item</th>
              <th class="num">asked</th>
              <th class="num">median taken</th>
              <th class="num">the middle half</th>
              <th class="num">students</th>
              <th />
            </tr>
          </thead>
          <tbody>
            <tr v-for="i in shown" :key="i.id">
              <td>
                <ItemGlyph :kind="i.kind" />
                <router-link :to="{ name: 'plan', params: { courseId }, query: { item: i.id } }">{{ i.title }}</router-link>
              </td>
              <td class="num">{{ i.asked }}</td>
              <td class="num">{{ whole(i.taken.median) || '—' }}</td>
              <td class="num">{{ i.taken.low === null ? '—' : `${whole(i.taken.low)} to ${whole(i.taken.high)}` }}</td>
              <td class="num">{{ i.taken.students }}</td>
              <td>
                <span :class="{ clay: isFar(i) }">{{ WORDS[i.taken.verdict] }}</span>
                <span v-if="i.taken.hasty > 0" class="label"> {{ i.taken.hasty }} in under a fifth of it</span>
                <ActButton v-if="canEdit && i.taken.suggested !== null" look="act" @click="take([i])"
                  >ask {{ i.taken.suggested }}</ActButton
                >
              </td>
            </tr>
          </tbody>
        </PlainTable>
      </section>
    </template>
  </div>
</template>

<style scoped>
.time {
  max-width: 980px;
}
section {
  margin-bottom: 26px;
}
.weeks {
  margin-top: 8px;
}
.weeks th {
  font-weight: 400;
  text-align: left;
  color: var(--soft);
  padding-right: 12px;
}
.weeks td {
  padding: 1px 12px 1px 0;
}
.bar {
  width: 360px;
}
.bar span {
  display: block;
  height: 10px;
  background: var(--leaf);
}
.full .bar span {
  background: var(--clay);
}
.full td:last-child {
  color: var(--clay);
}
.acts {
  display: flex;
  gap: 20px;
  margin: 8px 0;
}
td .act {
  margin-left: 10px;
}
</style>
