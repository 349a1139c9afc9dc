<script setup lang="ts">
import type { BookColumn } from '@rosemary/api';
import { ref } from 'vue';
import ActButton from '../parts/ActButton.vue';
import DragList from '../parts/DragList.vue';

/** The columns in an order of one's own: dragged by their handle, or moved by Alt and the arrows. */
const props = defineProps<{ columns: readonly BookColumn[] }>();
const emit = defineEmits<{ close: []; order: [ids: readonly string[]] }>();
const list = ref([...props.columns]);
function keep(): void {
  emit(
    'order',
    list.value.map((c) => c.id),
  );
  emit('close');
}
</script>

<template>
  <v-dialog :model-value="true" width="480" @update:model-value="emit('close')">
    <div class="sheet form" role="dialog" aria-label="Order of the columns">
      <h2>Order of the columns</h2>
      <p class="soft">Drag a line, or move it by Alt and the arrows.</p>
      <DragList v-model="list" handle=".handle">
        <div v-for="c in list" :key="c.id" class="line">
          <ActButton class="handle" :aria-label="`Move ${c.title}`">⠿</ActButton> {{ c.title }}
        </div>
      </DragList>
      <p class="acts">
        <ActButton look="go" @click="keep">Keep this order</ActButton> <ActButton look="quiet" @click="emit('close')">Cancel</ActButton>
      </p>
    </div>
  </v-dialog>
</template>

<style scoped>
.line {
  display: flex;
  gap: 10px;
  align-items: center;
  min-height: 30px;
}
.handle {
  cursor: grab;
  min-width: 26px;
}
</style>
