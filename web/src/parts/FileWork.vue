<script setup lang="ts">
import { sizeInWords } from '@rosemary/core';
import type { Box, CourseFile, NoteView } from '@rosemary/api';
import { computed, defineAsyncComponent, ref, watch } from 'vue';
import PictureWork from './media/PictureWork.vue';
import ChoiceField from './fields/ChoiceField.vue';

const WordShown = defineAsyncComponent(() => import('./blocks/WordShown.vue'));
const CodeShown = defineAsyncComponent(() => import('./media/CodeShown.vue'));
/** One file that was handed in and is not a PDF: a picture to be turned and looked at closely, sound and film with their pace, words, code. */
const props = defineProps<{
  file: CourseFile;
  notes?: readonly (NoteView & { readonly number: number })[];
  chosen?: string | null;
  canNote?: boolean;
}>();
const emit = defineEmits<{ choose: [id: string]; select: [box: Box]; placed: [tops: Record<string, number>] }>();
const kind = computed(() => {
  const { mediaType } = props.file;
  if (mediaType.endsWith('wordprocessingml.document')) return 'word';
  if (mediaType.startsWith('text/')) return 'text';
  return /^(image|audio|video)\//.exec(mediaType)?.[1] ?? 'other';
});
const player = ref<HTMLMediaElement | null>(null);
const SPEEDS = [0.75, 1, 1.25, 1.5, 2];
const speed = ref(1);
watch(speed, (now) => {
  if (player.value) player.value.playbackRate = now;
});
</script>

<template>
  <div class="file-work">
    <p class="label head">
      <span class="name">{{ file.name }}</span> {{ sizeInWords(file.size) }}
      <label v-if="kind === 'audio' || kind === 'video'" class="tools"
        >speed
        <ChoiceField v-model="speed">
          <option v-for="s in SPEEDS" :key="s" :value="s">{{ s }} ×</option>
        </ChoiceField></label
      >
      <a :href="`${file.url}?download=1`" :download="file.name">download</a>
    </p>
    <PictureWork
      v-if="kind === 'image'"
      :file="file"
      :notes="notes ?? []"
      :chosen="chosen ?? null"
      :can-note="canNote ?? false"
      @choose="emit('choose', $event)"
      @select="emit('select', $event)"
      @placed="emit('placed', $event)"
    />
    <video v-else-if="kind === 'video'" ref="player" controls preload="metadata" :src="file.url" :aria-label="file.name" />
    <audio v-else-if="kind === 'audio'" ref="player" controls preload="metadata" :src="file.url" :aria-label="file.name" />
    <WordShown v-else-if="kind === 'word'" :url="file.url" />
    <CodeShown v-else-if="kind === 'text'" :url="file.url" :name="file.name" />
    <p v-else class="soft">This kind of file is not shown here. Download it to look at it.</p>
  </div>
</template>

<style scoped>
.head {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
  align-items: baseline;
  margin-bottom: 8px;
}
.name {
  color: var(--ink);
  font-weight: 600;
  overflow-wrap: anywhere;
}
.tools {
  display: inline-flex;
  gap: 10px;
  align-items: baseline;
}
.tools .choice-field {
  width: auto;
}
.head a {
  margin-left: auto;
}
video {
  width: 100%;
  max-height: 70vh;
  background: #000;
  display: block;
}
audio {
  width: 100%;
  display: block;
}
</style>
