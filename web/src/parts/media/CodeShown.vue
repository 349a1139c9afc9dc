<script setup lang="ts">
import hljs from 'highlight.js/lib/common';
import { computed, onMounted, ref } from 'vue';

/** Plain text and code with its lines numbered and its language, told by the name, set off. */
const props = defineProps<{ url: string; name: string }>();
const MOST = 2_000_000;
const text = ref<string | null>(null);
const isCut = ref(false);
const fault = ref('');
onMounted(async () => {
  try {
    const response = await fetch(props.url);
    if (!response.ok) throw new Error(String(response.status));
    const whole = await response.text();
    isCut.value = whole.length > MOST;
    text.value = whole.slice(0, MOST).replace(/\r\n?/g, '\n');
  } catch {
    fault.value = 'This file could not be read. Download it, or try again.';
  }
});
const lines = computed(() => text.value?.replace(/\n$/, '').split('\n') ?? []);
const html = computed(() => {
  const ending = props.name.split('.').at(-1)?.toLowerCase() ?? '';
  // The library escapes what it is given; what it does not know stays plain text.
  return text.value !== null && ending !== 'txt' && hljs.getLanguage(ending) !== undefined && text.value.length < 300_000
    ? hljs.highlight(text.value, { language: ending }).value
    : null;
});
</script>

<template>
  <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
  <div v-else-if="text === null"><div v-for="n in 6" :key="n" class="skeleton" style="height: 14px; margin: 6px 0" /></div>
  <div v-else class="code" tabindex="0" role="region" :aria-label="name">
    <pre class="numbers" aria-hidden="true">{{ lines.map((_, n) => n + 1).join('\n') }}</pre>
    <!-- eslint-disable-next-line vue/no-v-html -->
    <pre v-if="html !== null" v-html="html" />
    <pre v-else>{{ text }}</pre>
  </div>
  <p v-if="isCut" class="soft">Only the first two million letters are shown. Download the file for the rest.</p>
</template>

<style scoped>
.code {
  display: flex;
  gap: 14px;
  overflow: auto;
  max-height: 76vh;
  background: var(--sub);
  padding: 10px 12px;
}
pre {
  margin: 0;
  font:
    13px/19px ui-monospace,
    monospace;
  tab-size: 2;
}
.numbers {
  color: var(--soft);
  text-align: right;
  user-select: none;
}
:deep(.hljs-comment),
:deep(.hljs-quote) {
  color: var(--soft);
  font-style: italic;
}
:deep(.hljs-keyword),
:deep(.hljs-selector-tag),
:deep(.hljs-tag) {
  color: var(--bloom);
  font-weight: 600;
}
:deep(.hljs-string),
:deep(.hljs-attr),
:deep(.hljs-regexp) {
  color: var(--needle);
}
:deep(.hljs-number),
:deep(.hljs-literal),
:deep(.hljs-built_in) {
  color: var(--clay);
}
:deep(.hljs-title),
:deep(.hljs-type) {
  color: var(--straw);
}
</style>
