<script setup lang="ts">
import katex from 'katex';
import 'katex/dist/katex.min.css';
import { computed } from 'vue';

const props = defineProps<{ tex: string; isInline: boolean }>();
/** KaTeX writes both what is seen and MathML for those who listen; what it cannot read stands as typed, in red. */
const html = computed(() =>
  katex.renderToString(props.tex, {
    displayMode: !props.isInline,
    throwOnError: false,
    trust: false,
    strict: 'ignore',
    maxExpand: 500,
    maxSize: 40,
  }),
);
</script>

<template>
  <!-- eslint-disable-next-line vue/no-v-html -->
  <span :class="isInline ? 'formula-in' : 'formula'" v-html="html" />
</template>

<style scoped>
.formula {
  display: block;
  overflow-x: auto;
  overflow-y: hidden;
  margin: 0 0 14px;
}
</style>
