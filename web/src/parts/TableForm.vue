<script setup lang="ts">
import { ref } from 'vue';
import PlainTable from './PlainTable.vue';
import ActButton from './ActButton.vue';
import FileInput from './media/FileInput.vue';
import TextField from './fields/TextField.vue';

/** Where a table is pasted or chosen as a file, what would become of each of its lines, and the step from looking to taking. */
defineProps<{
  placeholder: string;
  /** How many lines of it are seen at once. */
  height: number;
  /** Whether it was looked at as it stands now. */
  isLooked: boolean;
  /** How many lines can be taken, and the words of the button that takes them. */
  good: number;
  words: string;
  fault: string;
}>();
const csv = defineModel<string>({ required: true });
const picker = ref<InstanceType<typeof FileInput> | null>(null);
const emit = defineEmits<{ ask: [isPreview: boolean]; pick: [files: readonly File[]]; changed: []; leave: [] }>();
</script>

<template>
  <div>
    <TextField v-model="csv" :rows="height" aria-label="Table" :placeholder="placeholder" @input="emit('changed')" />
    <p>
      <ActButton look="act" @click="picker?.open()">or choose a file…</ActButton
      ><FileInput ref="picker" accept=".csv,text/csv,text/plain" label="A file with the table" @choose="emit('pick', $event)" />
    </p>
    <slot name="where" />
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <PlainTable v-if="isLooked">
      <tbody>
        <slot name="lines" />
      </tbody>
    </PlainTable>
    <p class="acts">
      <ActButton v-if="!isLooked" look="go" :disabled="csv.trim() === ''" @click="emit('ask', true)">Look at it</ActButton>
      <ActButton v-else look="go" :disabled="good === 0" @click="emit('ask', false)">{{ words }}</ActButton>
      <ActButton look="quiet" @click="emit('leave')">Leave it</ActButton>
    </p>
  </div>
</template>

<style scoped>
.text-field {
  width: 100%;
  margin: 8px 0;
}
.plain :deep(td) {
  padding: 3px 12px 3px 0;
  vertical-align: top;
}
.acts {
  margin-top: 12px;
  display: flex;
  gap: 10px;
}
</style>
