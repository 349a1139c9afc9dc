<script setup lang="ts">
import TickBox from '../parts/fields/TickBox.vue';

/** Whether the author took a point of a review up in the work: ticked by the author, read by everybody else. */
defineProps<{ isTakenUp: boolean; canSay: boolean }>();
const emit = defineEmits<{ say: [isTakenUp: boolean] }>();
</script>

<template>
  <label v-if="canSay" class="label"
    ><TickBox :model-value="isTakenUp" @update:model-value="emit('say', $event === true)" /> taken up</label
  >
  <span v-else class="label">{{ isTakenUp ? 'taken up' : 'not taken up' }}</span>
</template>
