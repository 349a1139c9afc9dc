<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { MyGrades } from '@rosemary/api';
import { dayAndTime, formatPoints, kindOfItem, type WorkingLine } from '@rosemary/core';
import { computed, defineAsyncComponent, onMounted, ref } from 'vue';
import { useRoute } from 'vue-router';
import ItemGlyph from '../parts/ItemGlyph.vue';
import WorkingLines from '../parts/WorkingLines.vue';
import { call } from '../platform/call.ts';
import { useFresh } from '../platform/useEvents.ts';
import ActButton from '../parts/ActButton.vue';
import FoldOut from '../parts/FoldOut.vue';
import { useCourse } from '../stores/courseStore.ts';

// With the calculation itself, once it is asked for.
const FinalPart = defineAsyncComponent(() => import('./FinalPart.vue'));
const SupposePart = defineAsyncComponent(() => import('./SupposePart.vue'));

const route = useRoute();
const course = useCourse();
const isSupposing = ref(false);
const grades = ref<MyGrades | null>(null);
const fault = ref('');
const shown = ref<{ title: string; lines: readonly WorkingLine[] } | null>(null);
const courseId = computed(() => String(route.params.courseId));
async function load(): Promise<void> {
  try {
    grades.value = await call(api.getOwnGrades, { courseId: courseId.value });
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
}
onMounted(load);
useFresh(courseId, ['returned'], load);
</script>

<template>
  <div class="pad reading-column">
    <p v-if="fault" class="fault">{{ fault }}</p>
    <template v-if="!grades && !fault"><div v-for="n in 8" :key="n" class="skeleton" style="height: 26px; margin-top: 12px" /></template>
    <template v-if="grades">
      <FinalPart v-if="grades.final" :course-id="courseId" :final="grades.final" />
      <div class="total">
        <ActButton
          look="act"
          class="big"
          :disabled="!grades.totals.soFar"
          @click="shown = { title: 'Total so far', lines: grades.working }"
        >
          <span class="serif">{{ grades.totals.soFar ? `${grades.totals.soFar} %` : 'No mark yet' }}</span>
          <span v-if="grades.totals.letter" class="serif letter">{{ grades.totals.letter }}</span>
        </ActButton>
        <p class="soft">
          so far<template v-if="grades.totals.floor !== null">
            · if nothing more came
            <ActButton look="act" @click="shown = { title: 'If nothing more came', lines: grades.floorWorking }">
              {{ grades.totals.floor }}
            </ActButton>
            · if all the rest were perfect
            <ActButton look="act" @click="shown = { title: 'If all the rest were perfect', lines: grades.reachWorking }">
              {{ grades.totals.reach }}
            </ActButton></template
          >. {{ grades.says }}
        </p>
        <p v-if="grades.levels.length > 0" class="soft">
          {{ grades.levels.map((l) => `${l.label} from ${formatPoints(l.cutPoint)}`).join(' · ')
          }}<template v-if="grades.passPercent !== null">. The course is passed from {{ formatPoints(grades.passPercent) }} %.</template>
        </p>
        <p v-for="p in grades.periods" :key="p.id">
          {{ p.title }}, weight {{ formatPoints(p.weightPercent) }}:
          <ActButton look="act" :disabled="!p.percent" @click="shown = { title: `${p.title} so far`, lines: p.working }">{{
            p.percent ? `${p.percent} %` : 'nothing yet'
          }}</ActButton>
        </p>
        <FoldOut v-model:open="isSupposing"
          ><template #summary>Suppose: what would it be if…</template>
          <SupposePart
            v-if="isSupposing"
            :course-id="courseId"
            :facts="grades.suppose"
            :levels="grades.levels"
            :shows-range="grades.totals.floor !== null"
        /></FoldOut>
      </div>
      <section v-for="c in grades.categories" :key="c.id">
        <div class="head">
          <h2>{{ c.title }}</h2>
          <span class="soft">{{ c.weightPercent === null ? '' : `weight ${formatPoints(c.weightPercent)} · ` }}{{ c.rule }}</span
          ><ActButton
            look="act"
            class="end at-end"
            :disabled="!c.percent"
            @click="shown = { title: `${c.title} so far`, lines: c.working }"
          >
            {{ c.percent ? `${c.percent} %` : 'nothing yet' }}
          </ActButton>
        </div>
        <ul>
          <li v-for="i in c.columns" :key="i.id">
            <ItemGlyph v-if="i.kind !== null" :kind="i.kind" /><router-link
              v-if="i.itemId !== null && i.kind !== null && !kindOfItem(i.kind).isInClass"
              :to="`/courses/${route.params.courseId}/study/${i.itemId}`"
              class="title"
              >{{ i.title }}</router-link
            ><span v-else class="title">{{ i.title }}</span
            ><span v-if="i.dueAt" class="soft due">due {{ dayAndTime(Date.parse(i.dueAt), course.zone, course.now) }}</span
            ><span v-if="i.isExtraCredit" class="soft">extra credit</span
            ><ActButton
              look="act"
              class="end at-end"
              :class="{ soft: i.state !== 'marked' }"
              @click="shown = { title: i.title, lines: [i.working] }"
            >
              {{ i.text }}
            </ActButton>
            <p v-if="i.comment || i.statistics" class="more">
              <span v-if="i.comment">{{ i.comment }}</span>
              <span v-if="i.statistics" class="soft"
                >Of {{ i.statistics.number }} results the mean is {{ i.statistics.mean }}, the median {{ i.statistics.median }}.</span
              >
            </p>
          </li>
        </ul>
      </section>
    </template>
    <v-dialog :model-value="shown !== null" @update:model-value="shown = null"
      ><div v-if="shown" class="sheet pad">
        <p class="label">Working</p>
        <h3 style="margin-bottom: 8px">{{ shown.title }}</h3>
        <WorkingLines :lines="shown.lines" /><ActButton look="go" style="margin-top: 14px" @click="shown = null">Close</ActButton>
      </div></v-dialog
    >
  </div>
</template>

<style scoped>
.big {
  font-size: 34px;
  line-height: 42px;
  color: var(--ink);
}
.letter {
  color: var(--needle);
  padding-left: 8px;
}
.total {
  padding-bottom: 6px;
}
section {
  margin-top: 20px;
}
.head {
  display: flex;
  gap: 12px;
  align-items: baseline;
  flex-wrap: wrap;
}
ul {
  list-style: none;
  margin: 4px 0 0;
  padding: 0;
}
li {
  display: flex;
  flex-wrap: wrap;
  gap: 0 10px;
  padding: 7px 0;
  border-top: 1px solid var(--frost);
  align-items: baseline;
}
.more {
  flex-basis: 100%;
  margin: 2px 0 0 26px;
}
.more > span {
  display: block;
  white-space: pre-line;
}
.due {
  font-size: 13px;
}
.title {
  color: var(--ink);
}
</style>
