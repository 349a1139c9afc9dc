<script setup lang="ts">
import DOMPurify from 'dompurify';
import { convertToHtml } from 'mammoth';
import { onMounted, ref } from 'vue';

/** A Word file as readable text: its structure, not its pages; cleaned before it is shown. */
const props = defineProps<{ url: string }>();
const html = ref<string | null>(null);
const fault = ref('');
onMounted(async () => {
  try {
    const response = await fetch(props.url);
    if (!response.ok) throw new Error(String(response.status));
    const { value } = await convertToHtml({ arrayBuffer: await response.arrayBuffer() });
    html.value = DOMPurify.sanitize(value, {
      USE_PROFILES: { html: true },
      FORBID_TAGS: ['style', 'form', 'input'],
      FORBID_ATTR: ['style'],
    });
  } catch {
    fault.value = 'This Word file is broken and cannot be shown here. Download it, or ask for another copy.';
  }
});
</script>

<template>
  <p v-if="fault" class="fault">{{ fault }}</p>
  <div v-else-if="html === null"><div v-for="n in 5" :key="n" class="skeleton" style="height: 14px; margin: 8px 0" /></div>
  <!-- eslint-disable-next-line vue/no-v-html -->
  <div v-else class="document word" v-html="html" />
</template>

<style scoped>
.word {
  background: var(--paper);
  padding: 20px 28px;
}
</style>
