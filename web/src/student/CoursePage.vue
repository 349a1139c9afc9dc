<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { StudentCourse } from '@rosemary/api';
import { onMounted, ref } from 'vue';
import { useRoute } from 'vue-router';
import { call } from '../platform/call.ts';
import { useCourse } from '../stores/courseStore.ts';
import DocumentView from '../parts/DocumentView.vue';
import EntryLine from './EntryLine.vue';

const route = useRoute();
const course = useCourse();
const view = ref<StudentCourse | null>(null);
const fault = ref('');
const classShare = ref<string | null>(null);
onMounted(async () => {
  const at = { courseId: String(route.params.courseId) };
  try {
    view.value = await call(api.getOwnOutline, at);
    if (view.value.showsClassProgress) classShare.value = (await call(api.getClassProgress, at)).share;
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
});
</script>

<template>
  <div class="pad reading-column">
    <p v-if="fault" class="fault">{{ fault }}</p>
    <img v-if="view?.picture" class="picture" :src="view.picture.src" :alt="view.picture.alt" />
    <section v-if="view?.first" class="first">
      <h2>{{ view.first.title }}</h2>
      <DocumentView :document="view.first.document" />
    </section>
    <ul v-if="view && view.standing.length > 0" aria-label="Standing pages" class="bare-list spaced-list standing">
      <li v-for="e in view.standing" :key="e.id">
        <router-link v-if="e.visibility !== 'announced'" :to="`/courses/${e.courseId}/study/${e.id}`">{{ e.title }}</router-link><span
          v-else
          class="soft"
          >{{ e.title }}, {{ e.waitsFor }}</span
        >
      </li>
    </ul>
    <p v-if="view" class="soft">
      <template v-if="view.progress"
        >You have done {{ view.progress }} of what is open so far{{ classShare ? `; the class ${classShare}` : '' }}.
      </template>
      <router-link :to="{ name: 'own-progress', params: { courseId: route.params.courseId } }">Your progress</router-link> ·
      <router-link :to="{ name: 'programme', params: { courseId: route.params.courseId } }">The course programme</router-link>
    </p>
    <p v-if="view && view.units.length === 0" class="soft">Nothing is open here yet. Units and their items will stand here.</p>
    <template v-if="!view && !fault"><div v-for="n in 8" :key="n" class="skeleton" style="height: 36px; margin-top: 12px" /></template>
    <section v-for="unit in view?.units" :key="unit.id">
      <h2>{{ unit.title }}</h2>
      <ul class="bare-list spaced-list">
        <EntryLine v-for="e in unit.entries" :key="e.id" :entry="e" :zone="course.zone" :now="course.now" />
      </ul>
    </section>
  </div>
</template>

<style scoped>
.picture {
  display: block;
  width: 100%;
  max-height: 220px;
  object-fit: cover;
  border-radius: 4px;
  margin-bottom: 16px;
}
.first {
  margin: 0 0 16px;
}
.standing {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 24px;
  padding: 8px 0;
  margin-bottom: 12px;
  border-top: 1px solid var(--frost);
  border-bottom: 1px solid var(--frost);
}
section {
  margin-top: 20px;
}
</style>
