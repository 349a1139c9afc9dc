<script setup lang="ts">
import type { QuestionView } from '@rosemary/api';
import { KIND_WORDS, countOf } from '@rosemary/core';
import PlainTable from '../parts/PlainTable.vue';
import TickBox from '../parts/fields/TickBox.vue';
import ActButton from '../parts/ActButton.vue';

/** Questions of the bank as rows of a table. */
const props = defineProps<{
  questions: readonly QuestionView[];
  chosen: ReadonlySet<string>;
  opened?: string | null;
  present?: ReadonlySet<string>;
}>();
const emit = defineEmits<{ choose: [chosen: Set<string>]; open: [question: QuestionView] }>();
function turn(id: string): void {
  const next = new Set(props.chosen);
  if (!next.delete(id)) next.add(id);
  emit('choose', next);
}
const figure = (value: number | null): string => (value === null ? '' : value.toFixed(2).replace('0.', '.').replace('-', '−'));
</script>

<template>
  <PlainTable class="rows">
    <thead>
      <tr>
        <th />
        <th>Question</th>
        <th>Kind</th>
        <th>Level</th>
        <th>Objective</th>
        <th class="num" title="quizzes it stands in">Quizzes</th>
        <th class="num" title="share of its points that were earned">Share correct</th>
        <th class="num" title="correlation with the rest">Item–rest</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="q in questions" :key="q.id" :class="{ on: opened === q.id, gone: q.isRetired }">
        <td>
          <TickBox :model-value="chosen.has(q.id)" :disabled="present?.has(q.id)" :aria-label="`Choose ${q.title}`" @change="turn(q.id)" />
        </td>
        <td>
          <ActButton look="act" class="title" @click="emit('open', q)">{{ q.title }}</ActButton>
          <span v-if="present?.has(q.id)" class="label"> in the paper</span>
          <span v-if="q.isRetired" class="label"> retired</span>
          <span v-if="q.faults.length > 0" class="clay label"> lacks something</span>
        </td>
        <td class="soft">{{ KIND_WORDS[q.key.kind] }}</td>
        <td class="soft">{{ q.level ?? '' }}</td>
        <td class="soft">{{ q.objectives.join(', ') }}</td>
        <td class="num">{{ q.use.quizzes || '' }}</td>
        <td class="num" :title="countOf(q.use.attempts, 'answer')">{{ figure(q.use.shareRight) }}</td>
        <td class="num">{{ figure(q.use.itemRest) }}</td>
      </tr>
    </tbody>
  </PlainTable>
</template>

<style scoped>
td {
  vertical-align: top;
}
.rows td {
  padding: 5px 10px 5px 0;
}
.title {
  color: var(--ink);
}
.on td {
  background: var(--bloom-wash);
}
.gone .title {
  color: var(--soft);
}
</style>
