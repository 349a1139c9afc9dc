<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { MarkingList } from '@rosemary/api';
import { dayAndTime, weekNumber } from '@rosemary/core';
import { computed, onMounted, ref } from 'vue';
import { useRoute } from 'vue-router';
import { call } from '../platform/call.ts';
import { useFresh } from '../platform/useEvents.ts';
import { useCourse } from '../stores/courseStore.ts';
import PlainTable from '../parts/PlainTable.vue';

const route = useRoute();
const course = useCourse();
const list = ref<MarkingList | null>(null);
const fault = ref('');
const courseId = computed(() => String(route.params.courseId));
async function load(): Promise<void> {
  try {
    list.value = await call(api.getMarkingList, { courseId: courseId.value });
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
}
onMounted(load);
useFresh(courseId, ['marks', 'work', 'grades', 'plan'], load);
const shown = computed(() =>
  (list.value?.items ?? []).filter((i) => {
    if (course.weeks === null) return true;
    const week =
      i.dueAt === null ? 0 : weekNumber({ startsOn: course.head?.line.weeks[0]?.startsOn ?? '' }, Date.parse(i.dueAt), course.zone);
    return week >= course.weeks[0] && week <= course.weeks[1];
  }),
);
const due = (at: string | null): string => (at === null ? '—' : dayAndTime(Date.parse(at), course.zone, course.now));
</script>

<template>
  <div class="pad">
    <p v-if="fault" class="fault">{{ fault }}</p>
    <p v-if="list && list.items.length === 0" class="soft">Assignments that are open will stand here with the work that waits.</p>
    <template v-if="!list && !fault"><div v-for="n in 7" :key="n" class="skeleton" style="height: 28px; margin-bottom: 10px" /></template>
    <PlainTable v-if="list && list.items.length > 0">
      <thead>
        <tr>
          <th>Assignment</th>
          <th>due</th>
          <th class="num">handed in</th>
          <th class="num">wait</th>
          <th>oldest</th>
          <th>estimate</th>
          <th class="num">finished, unreleased</th>
          <th class="num">released</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="i in shown" :key="i.id">
          <td>
            <router-link
              :to="
                i.isQuiz
                  ? { name: 'quiz-results', params: { courseId, itemId: i.id } }
                  : { name: 'work', params: { courseId, itemId: i.id } }
              "
              >{{ i.title }}</router-link
            >
            <span class="soft">{{ i.unit }}</span>
          </td>
          <td class="soft">{{ due(i.dueAt) }}</td>
          <td class="num">
            {{ i.handedIn }} <span class="soft">of {{ i.students }}</span>
          </td>
          <td class="num">
            <b v-if="i.waits > 0">{{ i.waits }}</b><span v-else class="soft">·</span>
          </td>
          <td class="soft">{{ i.oldest ? `waits ${i.oldest}` : '' }}</td>
          <td class="soft">{{ i.estimate === null ? '' : `${i.estimate}: ${i.pace}` }}</td>
          <td class="num">
            <span v-if="i.finished > 0" class="unreleased">{{ i.finished }}</span><span v-else class="soft">·</span>
          </td>
          <td class="num">{{ i.released > 0 ? i.released : '·' }}</td>
        </tr>
      </tbody>
    </PlainTable>
  </div>
</template>

<style scoped>
td a {
  text-decoration: underline;
  text-decoration-thickness: 1px;
  text-underline-offset: 2px;
}
</style>
