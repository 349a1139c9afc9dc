<script setup lang="ts">
import type { BlockAttrs, BlockName, CheckQuestion, Embed, FileShown, Formula, Media, ResponseHere } from '@rosemary/api';
import { type Component, defineAsyncComponent } from 'vue';
import FileInPlace from './FileInPlace.vue';
import MediaShown from './MediaShown.vue';
import QuestionShown from './QuestionShown.vue';
import ResponseShown from './ResponseShown.vue';

// Formulas bring their own fonts: read only where there is one.
const FormulaShown = defineAsyncComponent(() => import('./FormulaShown.vue'));
/** One block of one piece, for readers and inside the editor alike. */
withDefaults(defineProps<{ name: BlockName; attrs: BlockAttrs[BlockName]; answer?: Component | null }>(), { answer: null });
</script>

<template>
  <FormulaShown v-if="name === 'formula' || name === 'formulaInline'" :tex="(attrs as Formula).tex" :is-inline="name === 'formulaInline'" />
  <MediaShown v-else-if="name === 'media'" :media="attrs as Media" />
  <figure v-else-if="name === 'embed'">
    <iframe
      :src="(attrs as Embed).src"
      :title="(attrs as Embed).title"
      sandbox="allow-scripts allow-popups allow-forms"
      loading="lazy"
      referrerpolicy="no-referrer"
    />
    <figcaption>
      <a :href="(attrs as Embed).src" target="_blank" rel="noreferrer noopener">{{ (attrs as Embed).title }}</a>
    </figcaption>
  </figure>
  <FileInPlace v-else-if="name === 'fileShown'" :file="attrs as FileShown" />
  <ResponseShown v-else-if="name === 'response'" :response="attrs as ResponseHere" :answer="answer" />
  <QuestionShown v-else :question="attrs as CheckQuestion" />
</template>

<style scoped>
iframe {
  width: 100%;
  height: 380px;
  border: 1px solid var(--frost);
  background: var(--paper);
}
</style>
