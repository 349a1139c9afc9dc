<script setup lang="ts">
import type { CourseFile } from '@rosemary/api';
import { computed, defineAsyncComponent, ref } from 'vue';

const WordShown = defineAsyncComponent(() => import('./blocks/WordShown.vue'));
const CodeShown = defineAsyncComponent(() => import('./CodeShown.vue'));
/** One file that was handed in and is not a PDF: a picture to be turned and looked at closely, sound and film with their pace, words, code. */
const props = defineProps<{ file: CourseFile }>();
const kind = computed(() => {
  const { mediaType } = props.file;
  if (mediaType.endsWith('wordprocessingml.document')) return 'word';
  if (mediaType.startsWith('text/')) return 'text';
  return /^(image|audio|video)\//.exec(mediaType)?.[1] ?? 'other';
});
const zoom = ref(1);
const quarter = ref(0);
const player = ref<HTMLMediaElement | null>(null);
const SPEEDS = [0.75, 1, 1.25, 1.5, 2];
function setSpeed(event: Event): void {
  if (player.value) player.value.playbackRate = Number((event.target as HTMLSelectElement).value);
}
const natural = ref({ width: 0, height: 0 });
function measured(event: Event): void {
  const image = event.target as HTMLImageElement;
  natural.value = { width: image.naturalWidth, height: image.naturalHeight };
}
/** A picture on its side is as wide as it is high, and fits the same column. */
const place = computed(() => {
  const isOnSide = quarter.value % 2 === 1;
  const width = 100 * zoom.value;
  const ratio = natural.value.width === 0 ? 1 : natural.value.height / natural.value.width;
  return {
    frame: { width: `${width}%`, aspectRatio: isOnSide ? `${ratio} / 1` : `1 / ${ratio}` },
    image: {
      width: isOnSide ? `${100 / ratio}%` : '100%',
      transform: `translate(-50%, -50%) rotate(${quarter.value * 90}deg)`,
    },
  };
});
const size = (bytes: number): string =>
  bytes < 1_048_576 ? `${Math.max(1, Math.round(bytes / 1024))} kB` : `${Math.round((bytes / 1_048_576) * 10) / 10} MB`;
</script>

<template>
  <div class="file-work">
    <p class="label head">
      <span class="name">{{ file.name }}</span> {{ size(file.size) }}
      <span v-if="kind === 'image'" class="tools">
        <button type="button" class="act" :disabled="zoom <= 0.5" aria-label="Smaller" @click="zoom -= 0.5">−</button>
        <button type="button" class="act" @click="zoom = 1">{{ Math.round(zoom * 100) }} %</button>
        <button type="button" class="act" :disabled="zoom >= 4" aria-label="Larger" @click="zoom += 0.5">+</button>
        <button type="button" class="act" @click="quarter = (quarter + 1) % 4">turn</button>
      </span>
      <label v-if="kind === 'audio' || kind === 'video'" class="tools"
        >speed
        <select class="line-input" @change="setSpeed">
          <option v-for="s in SPEEDS" :key="s" :value="s" :selected="s === 1">{{ s }} ×</option>
        </select></label
      >
      <a :href="`${file.url}?download=1`" :download="file.name">download</a>
    </p>
    <div v-if="kind === 'image'" class="picture" tabindex="0" role="region" :aria-label="file.name">
      <div class="frame" :style="place.frame"><img :src="file.url" :alt="file.name" :style="place.image" @load="measured" /></div>
    </div>
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
.tools select {
  width: auto;
}
.tools .act {
  min-width: 24px;
  min-height: 24px;
}
.head a {
  margin-left: auto;
}
.picture {
  overflow: auto;
  max-height: 76vh;
}
.frame {
  position: relative;
}
.frame img {
  position: absolute;
  left: 50%;
  top: 50%;
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
