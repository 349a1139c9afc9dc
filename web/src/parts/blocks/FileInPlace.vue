<script setup lang="ts">
import type { FileShown } from '@rosemary/api';
import { computed, defineAsyncComponent, ref } from 'vue';
import ActButton from '../ActButton.vue';

const PdfWork = defineAsyncComponent(() => import('../media/PdfWork.vue'));
const WordShown = defineAsyncComponent(() => import('./WordShown.vue'));
/** A file of the course where it stands: PDF and Word as pages, pictures, sound and video as they are, the rest as a link. */
const props = withDefaults(defineProps<{ file: FileShown; isOpenAtFirst?: boolean }>(), { isOpenAtFirst: false });
const isOpen = ref(props.isOpenAtFirst);
const kind = computed(() => {
  const { mediaType } = props.file;
  if (mediaType === 'application/pdf') return 'pdf';
  if (mediaType.endsWith('wordprocessingml.document')) return 'word';
  return /^(image|audio|video)\//.exec(mediaType)?.[1] ?? 'other';
});
</script>

<template>
  <div class="file">
    <p class="head">
      <a :href="`${file.src}?download`" :download="file.name">{{ file.name }}</a>
      <ActButton v-if="kind === 'pdf' || kind === 'word'" look="act" :aria-expanded="isOpen" @click="isOpen = !isOpen">
        {{ isOpen ? 'fold it away' : 'show it here' }}
      </ActButton>
    </p>
    <img v-if="kind === 'image'" :src="file.src" :alt="file.name" />
    <video v-else-if="kind === 'video'" controls preload="metadata" :src="file.src" :aria-label="file.name" />
    <audio v-else-if="kind === 'audio'" controls preload="metadata" :src="file.src" :aria-label="file.name" />
    <div v-else-if="isOpen" class="pages" tabindex="0" role="region" :aria-label="file.name">
      <PdfWork v-if="kind === 'pdf'" :url="file.src" :notes="[]" :chosen="null" />
      <WordShown v-else-if="kind === 'word'" :url="file.src" />
    </div>
  </div>
</template>

<style scoped>
.file {
  border: 1px solid var(--frost);
  border-radius: 4px;
  padding: 8px 12px;
  margin: 0 0 14px;
  font: 14px/20px var(--sans);
}
.head {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  margin: 0;
}
.pages {
  max-height: 70vh;
  overflow: auto;
  background: var(--bed);
  margin-top: 8px;
  padding: 8px;
}
img,
video,
audio {
  max-width: 100%;
  margin-top: 8px;
  display: block;
}
</style>
