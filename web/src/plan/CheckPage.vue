<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { CourseCheck } from '@rosemary/api';
import type { Finding } from '@rosemary/core';
import { computed, onMounted, ref } from 'vue';
import { useRoute, type RouteLocationRaw } from 'vue-router';
import { call, takeBack } from '../platform/call.ts';
import { useBusy } from '../platform/useBusy.ts';
import { useFresh } from '../platform/useEvents.ts';
import { useCourse } from '../stores/courseStore.ts';
import { useNotices } from '../stores/noticeStore.ts';
import ActButton from '../parts/ActButton.vue';
import { countOf } from '@rosemary/core';

const route = useRoute();
const course = useCourse();
const notices = useNotices();
const courseId = computed(() => String(route.params.courseId));
const check = ref<CourseCheck | null>(null);
const fault = ref('');
async function load(): Promise<void> {
  try {
    check.value = await call(api.getCheck, { courseId: courseId.value });
    fault.value = '';
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
}
onMounted(load);
useFresh(courseId, ['plan', 'grades', 'people'], load);
const of = (weight: Finding['weight']): readonly Finding[] => check.value?.findings.filter((f) => f.weight === weight) ?? [];
const groups = computed(() => [
  { title: 'To mend', hint: 'Students would meet something broken, or a total would be wrong.', findings: of('mend') },
  { title: 'To look at', hint: 'It may be meant so.', findings: of('look') },
]);
/** The field itself, not only the page it is on. */
function placeOf({ place }: Finding): RouteLocationRaw {
  const params = { courseId: courseId.value };
  switch (place.kind) {
    case 'field':
      return { name: 'plan', params, query: { item: place.itemId, field: place.field } };
    case 'unit':
      return { name: 'plan', params, query: { unit: place.unitId } };
    case 'policy':
      return { name: 'policy', params };
    case 'time':
      return { name: 'time', params };
    case 'roster':
      return { name: 'roster', params };
    default:
      return { name: 'item', params: { ...params, itemId: place.itemId }, hash: place.kind === 'rubric' ? '#rubric' : '' };
  }
}
const drafts = computed(() => check.value?.drafts ?? []);
/** What students would see, before they do. */
const seen = computed(() => {
  const { shown = 0, items = 0 } = check.value ?? {};
  if (items === 0) return 'There is nothing in it yet, so its students will see nothing.';
  if (shown === 0) return 'Everything in it is a draft, so its students will see nothing.';
  const rest = drafts.value.length === 0 ? '' : ` ${countOf(drafts.value.length, 'draft stays', 'drafts stay')} hidden.`;
  return `Its students will see ${countOf(shown, 'item')}, each by its dates.${rest}`;
});
const { isBusy, fault: notOpened, run } = useBusy('Not opened. Try again.');
/** Opens the course, and its drafts with it where that is wanted; one Undo takes back both. */
async function openCourse(withDrafts: boolean): Promise<void> {
  const base = { courseId: courseId.value };
  const changes = withDrafts ? drafts.value.map((d) => ({ ...d, isDraft: false })) : [];
  const done = changes.length === 0 ? null : await call(api.changeItems, base, { changes }, 'Open drafts');
  if (changes.length > 0 && done === null) return;
  await call(api.openCourse, base);
  await Promise.all([course.load(base.courseId), load()]);
  const also = changes.length === 0 ? '' : `, with ${countOf(changes.length, 'item that was a draft', 'items that were drafts')}`;
  notices.say(`The course is open: its students see it now${also}.`, async () => {
    await call(api.closeCourse, base);
    if (done !== null) await takeBack(api.changeItems, base, done.undo);
    await Promise.all([course.load(base.courseId), load()]);
  });
}
</script>

<template>
  <div class="pad column">
    <p class="label"><router-link :to="{ name: 'plan', params: { courseId } }">Plan</router-link></p>
    <h2>Check before opening</h2>
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <template v-if="!check && !fault"><div v-for="n in 8" :key="n" class="skeleton" style="height: 24px; margin-top: 12px" /></template>
    <template v-if="check">
      <p class="soft" role="status">
        {{
          check.findings.length === 0
            ? `Nothing to mend in ${countOf(check.items, 'item')}.`
            : `${of('mend').length === 0 ? 'Nothing' : of('mend').length} to mend, ${of('look').length === 0 ? 'nothing' : of('look').length} to look at, in ${check.items} items. Addresses outside are looked at for their form only.`
        }}
      </p>
      <p v-if="course.head && !course.head.isOpen && course.head.role === 'instructor'" class="open">
        <ActButton look="go" :disabled="isBusy" @click="run(() => openCourse(false))">Open the course</ActButton>
        <ActButton v-if="drafts.length > 0" look="quiet" :disabled="isBusy" @click="run(() => openCourse(true))">{{
          drafts.length === 1 ? 'Open the course and this draft' : `Open the course and these ${drafts.length} drafts`
        }}</ActButton>
        <span class="soft">{{ seen }}{{ of('mend').length > 0 ? ' What is left to mend can be mended afterwards as well.' : '' }}</span>
      </p>
      <p v-else-if="course.head?.isOpen" class="soft">The course is open.</p>
      <p v-if="notOpened" class="fault" role="alert">{{ notOpened }}</p>
      <section v-for="g in groups.filter((x) => x.findings.length > 0)" :key="g.title">
        <h3>
          {{ g.title }} <span class="soft small">{{ g.findings.length }} · {{ g.hint }}</span>
        </h3>
        <ul class="bare-list spaced-list">
          <li v-for="(f, n) in g.findings" :key="n">
            <span>{{ f.text }}</span>
            <router-link :to="placeOf(f)" :aria-label="`Mend: ${f.text}`">{{ g.title === 'To mend' ? 'Mend' : 'Look' }} →</router-link>
          </li>
        </ul>
      </section>
    </template>
  </div>
</template>

<style scoped>
.column {
  max-width: 860px;
}
.open {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 16px;
  align-items: center;
  padding: 12px 0 4px;
}
section {
  padding-top: 20px;
}
.small {
  font: 400 13.5px var(--sans);
}
li {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 20px;
  padding: 7px 0;
  border-top: 1px solid var(--frost);
}
</style>
