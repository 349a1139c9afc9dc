<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { TaskType } from '@rosemary/api';
import { computed, onMounted, shallowRef } from 'vue';
import ChoiceField from '../parts/fields/ChoiceField.vue';
import { call } from '../platform/call.ts';

/** The type of a task, out of the school’s list; nothing stands here where the school has none. */
const props = defineProps<{ modelValue: string | null; fault?: string; canEdit: boolean }>();
const emit = defineEmits<{ change: [taskTypeId: string | null] }>();
const types = shallowRef<readonly TaskType[]>([]);
onMounted(async () => {
  types.value = (await call(api.listTaskTypes, {}).catch(() => ({ taskTypes: [] }))).taskTypes;
});
/** It was taken off the list and stays with this item. */
const isOff = computed(() => props.modelValue !== null && !types.value.some((t) => t.id === props.modelValue));
</script>

<template>
  <label v-if="types.length > 0" class="field" data-field="taskTypeId"
    ><span class="label">Type of task</span
    ><ChoiceField :model-value="modelValue ?? ''" :disabled="!canEdit" @change="emit('change', $event === '' ? null : $event)">
      <option value="">none</option>
      <option v-for="t in types" :key="t.id" :value="t.id">{{ t.title }}</option>
      <option v-if="isOff" :value="modelValue">no longer in the school’s list</option>
    </ChoiceField></label
  >
  <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
</template>
