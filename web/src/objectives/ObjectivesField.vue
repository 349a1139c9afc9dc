<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { ObjectiveView } from '@rosemary/api';
import { computed, onMounted, ref } from 'vue';
import { call } from '../platform/call.ts';
import { HttpProblem } from '../platform/http.ts';
import ActButton from '../parts/ActButton.vue';
import LineField from '../parts/fields/LineField.vue';

/** What an item or a criterion is aligned with: found by letters, and kept the moment it is chosen. */
const props = defineProps<{
  courseId: string;
  owner: { readonly itemId: string } | { readonly criterionId: string };
  label: string;
  canEdit: boolean;
}>();
const all = ref<readonly ObjectiveView[]>([]);
const ids = ref<readonly string[]>([]);
const letters = ref('');
const fault = ref('');
const marked = ref(0);
const at = { courseId: props.courseId };
const readOwn = () =>
  'itemId' in props.owner
    ? call(api.getItemObjectives, { ...at, ...props.owner })
    : call(api.getCriterionObjectives, { ...at, ...props.owner });
const saveOwn = (objectiveIds: readonly string[]) =>
  'itemId' in props.owner
    ? call(api.alignItem, { ...at, ...props.owner }, { objectiveIds })
    : call(api.alignCriterion, { ...at, ...props.owner }, { objectiveIds });
onMounted(async () => {
  const [objectives, own] = await Promise.all([
    call(api.listObjectives, { courseId: props.courseId }).catch(() => ({ objectives: [] })),
    readOwn().catch(() => ({ objectiveIds: [] })),
  ]);
  all.value = objectives.objectives;
  ids.value = own.objectiveIds;
});
const chosen = computed(() => ids.value.flatMap((id) => all.value.find((o) => o.id === id) ?? []));
const found = computed(() => {
  const find = letters.value.trim().toLowerCase();
  if (find === '') return [];
  return all.value.filter((o) => !ids.value.includes(o.id) && `${o.code} ${o.statement}`.toLowerCase().includes(find)).slice(0, 7);
});
async function set(next: readonly string[]): Promise<void> {
  fault.value = '';
  const before = ids.value;
  ids.value = next;
  try {
    ids.value = (await saveOwn(next)).objectiveIds;
  } catch (error) {
    ids.value = before;
    fault.value = error instanceof HttpProblem ? error.message : 'Not saved.';
  }
}
function choose(o: ObjectiveView | undefined): void {
  if (o === undefined) return;
  letters.value = '';
  marked.value = 0;
  void set([...ids.value, o.id]);
}
function onKey(event: KeyboardEvent): void {
  if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
    event.preventDefault();
    marked.value = Math.max(0, Math.min(found.value.length - 1, marked.value + (event.key === 'ArrowDown' ? 1 : -1)));
  } else if (event.key === 'Enter') {
    event.preventDefault();
    choose(found.value[marked.value]);
  } else if (event.key === 'Escape') letters.value = '';
}
</script>

<template>
  <div v-if="all.length > 0" class="field">
    <span class="label">{{ label }}</span>
    <ul v-if="chosen.length > 0" class="bare-list">
      <li v-for="o in chosen" :key="o.id" :title="o.statement">
        <span
          ><b>{{ o.code }}</b> {{ o.statement }}</span
        ><ActButton
          v-if="canEdit"
          look="act"
          :aria-label="`Not aligned with ${o.code || o.statement}`"
          @click="set(ids.filter((id) => id !== o.id))"
          >Remove</ActButton
        >
      </li>
    </ul>
    <LineField
      v-if="canEdit"
      v-model="letters"
      input-role="combobox"
      :aria-expanded="found.length > 0"
      :aria-label="`${label}: find by code or words`"
      aria-autocomplete="list"
      placeholder="Align with… (code or words)"
      @keydown="onKey"
    />
    <ul v-if="found.length > 0" role="listbox" :aria-label="label" class="bare-list found">
      <li
        v-for="(o, n) in found"
        :key="o.id"
        role="option"
        :aria-selected="n === marked"
        :class="{ on: n === marked }"
        @mousedown.prevent="choose(o)"
      >
        <b>{{ o.code }}</b> {{ o.statement }}
      </li>
    </ul>
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
  </div>
</template>

<style scoped>
li {
  display: flex;
  justify-content: space-between;
  gap: 10px;
  padding: 2px 0;
}
.found {
  background: var(--paper);
  border: 1px solid var(--frost);
}
.found li {
  display: block;
  padding: 4px 8px;
  cursor: pointer;
}
.found li.on,
.found li:hover {
  background: var(--bloom-wash);
}
</style>
