<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import { STARTER_RUBRICS, type PlainRubric } from '@rosemary/core';
import KeptShelf from '../parts/KeptShelf.vue';
import { call } from '../platform/call.ts';

/** Rubrics to begin from: those that ship, one's own, and those shared here; and the one at hand, to be kept. */
const props = defineProps<{ criteria: PlainRubric['criteria']; title: string }>();
const emit = defineEmits<{ take: [rubric: PlainRubric] }>();
const acts = {
  list: () => call(api.listKeptRubrics, {}),
  keep: (id: string, title: string) => call(api.keepRubric, {}, { id, title, criteria: props.criteria }),
  share: (rubricId: string, isShared: boolean) => call(api.changeKeptRubric, { rubricId }, { isShared }),
  remove: (rubricId: string) => call(api.removeKeptRubric, { rubricId }),
  restore: (rubricId: string) => call(api.restoreKeptRubric, { rubricId }),
};
</script>

<template>
  <KeptShelf
    word="rubric"
    :starters="STARTER_RUBRICS"
    :title="criteria.length > 0 ? title : null"
    :acts="acts"
    @begin="emit('take', STARTER_RUBRICS[$event]!)"
    @take="emit('take', $event)"
    ><p class="label">What is taken is fitted to the points of the item: the best levels of its criteria are their weights.</p></KeptShelf
  >
</template>
