<script setup lang="ts">
import { ref } from 'vue';
import ActButton from '../ActButton.vue';
import ProgressBar from '../ProgressBar.vue';
import FileInput from './FileInput.vue';

/** Where a file is chosen or let fall, how much of it has arrived, and what is wrong with it. */
const props = defineProps<{
  words: string;
  hint: string;
  accept: string;
  /** 0 to 1 while it is on its way, else null. */
  share: number | null;
  /** What is done with it once it has arrived. */
  doing: string;
  fault: string;
  isHidden?: boolean;
  /** Several may be chosen at once; they come as one lot. */
  isMany?: boolean;
}>();
const emit = defineEmits<{ choose: [file: File]; many: [files: readonly File[]]; cancel: [] }>();
const isOver = ref(false);
const picker = ref<InstanceType<typeof FileInput> | null>(null);
function take(list: readonly File[]): void {
  isOver.value = false;
  const one = list[0];
  if (one === undefined || props.share !== null) return;
  if (props.isMany) emit('many', list);
  else emit('choose', one);
}
</script>

<template>
  <div
    v-if="!isHidden && share === null"
    :class="['drop', { over: isOver }]"
    @dragover.prevent="isOver = true"
    @dragleave="isOver = false"
    @drop.prevent="take([...($event.dataTransfer?.files ?? [])])"
  >
    <ActButton look="quiet" @click="picker?.open()">{{ words }}</ActButton>
    <span class="soft">{{ hint }}</span>
  </div>
  <FileInput ref="picker" :accept="accept" :is-many="isMany" :label="words" @choose="take" />
  <p v-if="share !== null" role="status">
    <ProgressBar :share="share" label="Arrived" />
    {{ share < 1 ? `${Math.round(share * 100)} %` : doing }}
    <ActButton look="act" @click="emit('cancel')">cancel</ActButton>
  </p>
  <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
</template>

<style scoped>
.drop {
  border: 1px dashed var(--leaf);
  border-radius: 4px;
  padding: 22px 20px;
  margin-top: 10px;
  display: flex;
  gap: 14px;
  align-items: center;
}
.drop .quiet {
  white-space: nowrap;
}
.drop.over {
  background: var(--mist);
  border-style: solid;
}
</style>
