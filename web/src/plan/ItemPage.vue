<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { ItemDetail } from '@rosemary/api';
import { pointsInWords, minutesInWords, dayAndTime } from '@rosemary/core';
import { computed, onMounted, ref } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import ItemSheet from '../kinds/ItemSheet.vue';
import { SHOWN_KINDS } from '../kinds/kinds.ts';
import ItemGlyph from '../parts/ItemGlyph.vue';
import LeafState from '../parts/LeafState.vue';
import { call } from '../platform/call.ts';
import { useCourse } from '../stores/courseStore.ts';
import { usePageTitle } from '../platform/usePageTitle.ts';

const route = useRoute();
const router = useRouter();
const course = useCourse();
const base = computed(() => ({ courseId: String(route.params.courseId), itemId: String(route.params.itemId) }));
const detail = ref<ItemDetail | null>(null);
const fault = ref('');
usePageTitle(() => detail.value?.item.title);
const canEdit = computed(() => course.head?.role === 'instructor');
const editor = computed(() => {
  const shown = detail.value === null ? null : SHOWN_KINDS[detail.value.item.kind].editor;
  return shown === null || 'route' in shown ? null : shown;
});

onMounted(async () => {
  try {
    const found = await call(api.getItem, base.value);
    const shown = SHOWN_KINDS[found.item.kind].editor;
    if ('route' in shown) await router.replace({ name: shown.route as string, params: route.params });
    else detail.value = found;
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
});
const what = computed(() => {
  const item = detail.value?.item;
  if (!item) return '';
  return [
    item.dueAt === null ? null : `due ${dayAndTime(Date.parse(item.dueAt), course.zone, course.now)}`,
    minutesInWords(item.estimatedMinutes),
    item.possible > 0 ? pointsInWords(item.possible) : null,
  ]
    .filter(Boolean)
    .join(' · ');
});
</script>

<template>
  <div v-if="fault" class="pad">
    <h2>This item cannot be opened</h2>
    <p class="soft">{{ fault }}</p>
  </div>
  <div v-else-if="detail && editor" class="two" style="flex: 1">
    <component :is="editor" :base="base" :detail="detail" :can-edit="canEdit" @saved="detail = $event">
      <template #head>
        <p class="label">
          <router-link :to="{ name: 'plan', params: { courseId: base.courseId }, query: { item: base.itemId } }">Plan</router-link> ·
          <ItemGlyph :kind="detail.item.kind" /> {{ what }} · <LeafState :state="detail.item.state" /> {{ detail.item.state }}
        </p>
        <h1 class="title">{{ detail.item.title }}</h1>
      </template>
    </component>
  </div>
  <ItemSheet v-else>
    <div class="skeleton" style="height: 30px; width: 60%" />
    <div v-for="n in 6" :key="n" class="skeleton" style="height: 16px; margin-top: 12px" />
  </ItemSheet>
</template>

<style scoped>
.title {
  margin: 4px 0 16px;
}
</style>
