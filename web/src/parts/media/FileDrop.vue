<script setup lang="ts">
import { ref } from 'vue';

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
const picker = ref<HTMLInputElement | null>(null);
function take(list: FileList | null | undefined): void {
  isOver.value = false;
  const one = list?.[0];
  if (one === undefined || props.share !== null) return;
  if (props.isMany) emit('many', [...(list ?? [])]);
  else emit('choose', one);
}
function onPick(event: Event): void {
  const input = event.target as HTMLInputElement;
  take(input.files);
  input.value = '';
}
</script>

<template>
  <div
    v-if="!isHidden && share === null"
    :class="['drop', { over: isOver }]"
    @dragover.prevent="isOver = true"
    @dragleave="isOver = false"
    @drop.prevent="take($event.dataTransfer?.files)"
  >
    <button class="quiet" @click="picker?.click()">{{ words }}</button>
    <span class="soft">{{ hint }}</span>
  </div>
  <input ref="picker" type="file" :accept="accept" :multiple="isMany" class="away" :aria-label="words" tabindex="-1" @change="onPick" />
  <p v-if="share !== null" role="status">
    <progress :value="share" max="1" aria-label="Arrived" />
    {{ share < 1 ? `${Math.round(share * 100)} %` : doing }}
    <button class="act" @click="emit('cancel')">cancel</button>
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
.away {
  position: absolute;
  width: 1px;
  height: 1px;
  opacity: 0;
  pointer-events: none;
}
</style>
