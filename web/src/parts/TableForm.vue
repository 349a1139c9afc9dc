<script setup lang="ts">
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
const emit = defineEmits<{ ask: [isPreview: boolean]; pick: [event: Event]; changed: []; leave: [] }>();
</script>

<template>
  <div>
    <textarea v-model="csv" class="line-input" :rows="height" aria-label="Table" :placeholder="placeholder" @input="emit('changed')" />
    <p><input type="file" accept=".csv,text/csv,text/plain" aria-label="A file with the table" @change="emit('pick', $event)" /></p>
    <slot name="where" />
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <table v-if="isLooked" class="plain">
      <tbody>
        <slot name="lines" />
      </tbody>
    </table>
    <p class="acts">
      <button v-if="!isLooked" class="go" :disabled="csv.trim() === ''" @click="emit('ask', true)">Look at it</button>
      <button v-else class="go" :disabled="good === 0" @click="emit('ask', false)">{{ words }}</button>
      <button class="quiet" @click="emit('leave')">Leave it</button>
    </p>
  </div>
</template>

<style scoped>
textarea {
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
