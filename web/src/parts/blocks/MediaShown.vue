<script setup lang="ts">
import type { Media } from '@rosemary/api';

defineProps<{ media: Media }>();
</script>

<template>
  <figure>
    <component :is="media.kind" controls preload="metadata" :src="media.src" :aria-label="media.title">
      <track v-if="media.captionsSrc" kind="captions" :src="media.captionsSrc" label="Captions" default />
    </component>
    <figcaption>
      {{ [media.title, media.source, media.licence].filter((w) => w !== '').join(' · ')
      }}<span v-if="media.kind === 'video' && !media.captionsSrc" class="soft"> · no captions</span>
    </figcaption>
  </figure>
</template>

<style scoped>
video {
  width: 100%;
  display: block;
  background: #000;
  max-height: 420px;
}
audio {
  width: 100%;
  display: block;
}
</style>
