<script setup lang="ts">
import ItemSheet from '../ItemSheet.vue';
import type { EditorEmits, EditorProps } from '../shownKind.ts';
import LinkEditor from './LinkEditor.vue';

defineProps<EditorProps>();
const emit = defineEmits<EditorEmits>();
</script>

<template>
  <ItemSheet>
    <slot name="head" />
    <LinkEditor
      v-if="detail.link"
      :base="base"
      :link="detail.link"
      :can-edit="canEdit"
      @saved="emit('saved', { ...detail, link: $event })"
    />
  </ItemSheet>
</template>
