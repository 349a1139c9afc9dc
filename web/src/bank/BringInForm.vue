<script setup lang="ts">
import type { BankFolder } from '@rosemary/api';
import { ref } from 'vue';
import PackageForm from '../exchange/PackageForm.vue';
import QuestionTableForm from './QuestionTableForm.vue';
import ActButton from '../parts/ActButton.vue';

/** Questions from elsewhere: a package of the open standard, or a table. */
defineProps<{ courseId: string; folders: readonly BankFolder[]; folderId: string | null; reload: () => Promise<void> }>();
const emit = defineEmits<{ leave: [] }>();
const way = ref<'package' | 'table'>('package');
</script>

<template>
  <div class="sheet form" role="dialog" aria-label="Import questions">
    <h2>Import questions</h2>
    <p class="tabs" role="group" aria-label="From what">
      <ActButton look="act" :class="{ on: way === 'package' }" :aria-pressed="way === 'package'" @click="way = 'package'">
        A package (QTI)
      </ActButton>
      <ActButton look="act" :class="{ on: way === 'table' }" :aria-pressed="way === 'table'" @click="way = 'table'"
        >A table (CSV)</ActButton
      >
    </p>
    <PackageForm
      v-if="way === 'package'"
      :course-id="courseId"
      :folders="folders"
      :folder-id="folderId"
      :reload="reload"
      @leave="emit('leave')"
    />
    <QuestionTableForm v-else :base="{ courseId }" :folders="folders" :folder-id="folderId" :reload="reload" @leave="emit('leave')" />
  </div>
</template>

<style scoped>
.tabs {
  display: flex;
  gap: 16px;
  margin: 8px 0 12px;
}
.tabs .on {
  color: var(--ink);
  box-shadow: inset 0 -2px var(--needle);
}
</style>
