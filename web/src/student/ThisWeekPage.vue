<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import { call } from '../platform/call.ts';
import type { ThisWeek } from '@rosemary/api';
import { countOf, dayAndTime } from '@rosemary/core';
import { computed, onMounted, ref } from 'vue';
import { useRoute } from 'vue-router';
import { useFresh } from '../platform/useEvents.ts';
import EntryLine from './EntryLine.vue';

const route = useRoute();
const week = ref<ThisWeek | null>(null);
const fault = ref('');
const inCourse = computed(() => typeof route.params.courseId === 'string');
async function load(): Promise<void> {
  try {
    week.value = await (inCourse.value ? call(api.getOwnWeek, { courseId: String(route.params.courseId) }) : call(api.getMyWeek, {}));
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
}
onMounted(load);
useFresh(
  computed(() => (inCourse.value ? String(route.params.courseId) : '')),
  ['returned'],
  load,
);
const parts = computed(() =>
  week.value === null
    ? []
    : [
        { title: 'Missing, still open', entries: week.value.overdue, empty: '' },
        { title: 'Due this week', entries: week.value.due, empty: 'Nothing more is due this week.' },
        { title: 'Returned', entries: week.value.back, empty: 'Nothing was returned in the last two weeks.' },
        { title: 'Next', entries: week.value.next, empty: 'Nothing is due in the next three weeks.' },
      ].filter((p) => p.entries.length > 0 || p.empty !== ''),
);
</script>

<template>
  <div class="pad reading-column">
    <h1 v-if="!inCourse">{{ week?.heading ?? ' ' }}</h1>
    <p v-if="fault" class="fault">{{ fault }}</p>
    <template v-if="!week && !fault"><div v-for="n in 6" :key="n" class="skeleton" style="height: 40px; margin-top: 14px" /></template>
    <section v-if="week && week.reviews.length > 0" aria-label="Reviews to give">
      <h2>Reviews to give</h2>
      <ul class="bare-list spaced-list">
        <li v-for="r in week.reviews" :key="r.itemId" class="review">
          <div>
            <router-link :to="{ name: 'study-item', params: { courseId: r.courseId, itemId: r.itemId } }">{{ r.title }}</router-link>
            <div class="label">
              {{ inCourse ? '' : `${r.course} · ` }}{{ r.isPast ? 'were due' : 'due' }}
              {{ dayAndTime(Date.parse(r.dueAt), week.timeZone, Date.parse(week.now)) }}
            </div>
          </div>
          <span :class="r.isPast ? 'clay' : 'soft'">{{ r.given }} of {{ countOf(r.all, 'review') }} given</span>
        </li>
      </ul>
    </section>
    <section v-for="part in parts" :key="part.title">
      <h2>{{ part.title }}</h2>
      <ul class="bare-list spaced-list">
        <EntryLine
          v-for="e in part.entries"
          :key="e.id"
          :entry="e"
          :zone="week!.timeZone"
          :now="Date.parse(week!.now)"
          :shows-course="!inCourse"
        />
      </ul>
      <p v-if="part.entries.length === 0" class="soft none">{{ part.empty }}</p>
    </section>
  </div>
</template>

<style scoped>
section {
  margin-top: 20px;
}
.none {
  border-top: 1px solid var(--frost);
  padding: 9px 0;
  margin-top: 6px;
}
.review {
  display: flex;
  justify-content: space-between;
  gap: 14px;
  align-items: baseline;
  padding: 9px 0;
  border-top: 1px solid var(--frost);
}
.review a {
  font-size: 15px;
}
</style>
