<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { Stack } from '@rosemary/api';
import { computed, onMounted, ref } from 'vue';
import { useRoute } from 'vue-router';
import { call } from '../platform/call.ts';
import { useCourse } from '../stores/courseStore.ts';
import AlikePanel from './AlikePanel.vue';
import AwayPanel from './AwayPanel.vue';
import FairnessPanel from './FairnessPanel.vue';
import MatchSettings from './MatchSettings.vue';
import SharePanel from './SharePanel.vue';
import StackTable from './StackTable.vue';
import { usePageTitle } from '../platform/usePageTitle.ts';

/** What is done about the works of one item as a whole, part after part on one sheet. */
const route = useRoute();
const course = useCourse();
const courseId = computed(() => String(route.params.courseId));
const itemId = computed(() => String(route.params.itemId));
const base = computed(() => ({ courseId: courseId.value, itemId: itemId.value }));
const stack = ref<Stack | null>(null);
usePageTitle(() => stack.value?.item.title);
const fault = ref('');
const isInstructor = computed(() => course.head?.role === 'instructor');
async function load(): Promise<void> {
  try {
    stack.value = await call(api.getStack, base.value);
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
}
onMounted(load);
const count = computed(() => {
  const all = stack.value?.entries ?? [];
  const handed = all.filter((e) => e.attempt > 0).length;
  return `${handed} of ${all.length} handed in, ${stack.value?.waits ?? 0} wait${stack.value?.estimate ? `, ${stack.value.estimate}` : ''}`;
});
</script>

<template>
  <div class="pad sheet-of">
    <p v-if="fault" class="fault">{{ fault }}</p>
    <template v-if="stack">
      <header>
        <h2>{{ stack.item.title }}</h2>
        <span class="soft">{{ count }}</span>
        <router-link :to="`/courses/${courseId}/marking/${itemId}`">mark</router-link>
        <router-link :to="{ name: 'item', params: { courseId, itemId } }">how it is set</router-link>
      </header>
      <StackTable :base="base" :course-id="courseId" :item-id="itemId" :stack="stack" :can-release="isInstructor" @done="load" />
      <SharePanel v-if="isInstructor" :base="base" :markers="stack.item.markers" :is-veiled="stack.item.isVeiled" @saved="load" />
      <AlikePanel :base="base" :item-id="itemId" :possible="stack.item.possible" @done="load" />
      <MatchSettings :course-id="courseId" :item-id="itemId" :stack="stack" :can-edit="isInstructor" @done="load" />
      <FairnessPanel v-if="isInstructor" :base="base" />
      <AwayPanel :base="base" @done="load" />
    </template>
    <template v-else-if="!fault"><div v-for="n in 5" :key="n" class="skeleton" style="height: 40px; margin-top: 14px" /></template>
  </div>
</template>

<style scoped>
.sheet-of {
  width: 100%;
  box-sizing: border-box;
}
header {
  display: flex;
  gap: 18px;
  align-items: baseline;
}
.sheet-of :deep(section.part) {
  max-width: 1040px;
  margin-top: 26px;
  padding-top: 12px;
  border-top: 1px solid var(--frost);
}
.sheet-of :deep(.act) {
  min-height: 24px;
  min-width: 24px;
}
.sheet-of :deep(.whole) {
  margin-top: 14px;
}
.sheet-of :deep(section.part > h3) {
  font-size: 18px;
  line-height: 24px;
}
</style>
