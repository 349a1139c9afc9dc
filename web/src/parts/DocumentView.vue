<script setup lang="ts">
import { documentSchema } from '@rosemary/api';
import type { DocumentNode } from '@rosemary/core';
import { DOMSerializer } from '@tiptap/pm/model';
import { onMounted, ref, watch } from 'vue';

const props = defineProps<{ document: DocumentNode | null }>();
const box = ref<HTMLElement | null>(null);
/** The schema renders: no text of anyone ever becomes HTML on its way. */
function draw(): void {
  if (box.value === null) return;
  box.value.replaceChildren();
  if (props.document !== null)
    box.value.append(DOMSerializer.fromSchema(documentSchema).serializeFragment(documentSchema.nodeFromJSON(props.document).content));
}
onMounted(draw);
watch(() => props.document, draw);
</script>

<template><div ref="box" class="document" /></template>
