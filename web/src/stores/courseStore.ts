import * as api from '@rosemary/api/endpoints';
import type { CourseHead } from '@rosemary/api';
import { defineStore } from 'pinia';
import { computed, ref } from 'vue';
import { call } from '../platform/call.ts';

/** The course that is open, and the one filter of its views: a section and some weeks. */
export const useCourse = defineStore('course', () => {
  const head = ref<CourseHead | null>(null);
  const sectionId = ref<string | null>(null);
  const weeks = ref<readonly [number, number] | null>(null);

  /** The instant of the past that is looked at; null is now. */
  const asOf = ref<string | null>(null);
  /** Whether a press on the term line chooses a day of the past. */
  const picksDay = ref(false);

  async function load(courseId: string): Promise<void> {
    if (head.value?.id !== courseId) {
      sectionId.value = null;
      weeks.value = null;
    }
    head.value = await call(api.getCourseHead, { courseId });
  }
  const now = computed(() => Date.parse(head.value?.now ?? new Date().toISOString()));
  const zone = computed(() => head.value?.timeZone ?? 'UTC');
  return { head, sectionId, weeks, asOf, picksDay, now, zone, load };
});
