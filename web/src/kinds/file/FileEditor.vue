<script setup lang="ts">
import ItemSheet from '../ItemSheet.vue';
import type { EditorEmits, EditorProps } from '../shownKind.ts';
import ShownFileEditor from './ShownFileEditor.vue';

defineProps<EditorProps>();
const emit = defineEmits<EditorEmits>();
</script>

<template>
  <ItemSheet>
    <slot name="head" />
    <ShownFileEditor
      v-if="detail.file"
      :base="base"
      :course-id="base.courseId"
      :shown="detail.file"
      :can-edit="canEdit"
      @saved="emit('saved', { ...detail, file: $event })"
    />
  </ItemSheet>
</template>
