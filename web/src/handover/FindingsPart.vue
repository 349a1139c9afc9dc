<script setup lang="ts">
import type { FinalFinding } from '@rosemary/api';
import { countOf } from '@rosemary/core';
import { computed } from 'vue';
import type { RouteLocationRaw } from 'vue-router';
import FoldOut from '../parts/FoldOut.vue';

/** What to look at before grades are sent; each leads to its place. */
const props = defineProps<{ courseId: string; findings: readonly FinalFinding[] }>();
const SHOWN = 3;
const first = computed(() => props.findings.slice(0, SHOWN));
const rest = computed(() => props.findings.slice(SHOWN));
function placeOf(finding: FinalFinding): RouteLocationRaw | null {
  const params = { courseId: props.courseId };
  switch (finding.leadsTo) {
    case 'marking':
      return finding.itemId === null ? { name: 'marking', params } : { path: `/courses/${props.courseId}/marking/${finding.itemId}` };
    case 'quiz':
      return finding.itemId === null ? { name: 'plan', params } : { name: 'quiz-results', params: { ...params, itemId: finding.itemId } };
    case 'gradebook':
    case 'policy':
    case 'roster':
      return { name: finding.leadsTo, params };
    case 'finals':
    case 'school':
      return null;
  }
}
/** Some of the names, so that a list of hundreds stays a line. */
const namesOf = (students: readonly string[]): string =>
  students.length <= 4 ? students.join('; ') : `${students.slice(0, 3).join('; ')} and ${students.length - 3} more`;
</script>

<template>
  <section v-if="findings.length > 0" class="side-note" aria-label="Before sending">
    <h3>Before sending</h3>
    <ul class="bare-list">
      <li v-for="(f, n) in first" :key="n">
        <component :is="placeOf(f) ? 'router-link' : 'span'" :to="placeOf(f) ?? undefined">{{ f.text }}</component>
        <span v-if="f.students.length > 0" class="soft"> {{ namesOf(f.students) }}</span>
      </li>
    </ul>
    <FoldOut v-if="rest.length > 0"
      ><template #summary>{{ countOf(rest.length, 'more thing', 'more things') }} to look at</template>
      <ul class="bare-list">
        <li v-for="(f, n) in rest" :key="n">
          <component :is="placeOf(f) ? 'router-link' : 'span'" :to="placeOf(f) ?? undefined">{{ f.text }}</component>
          <span v-if="f.students.length > 0" class="soft"> {{ namesOf(f.students) }}</span>
        </li>
      </ul></FoldOut
    >
  </section>
</template>

<style scoped>
li {
  padding: 2px 0;
}
</style>
