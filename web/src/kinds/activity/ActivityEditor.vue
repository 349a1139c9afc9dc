<script setup lang="ts">
import ItemSheet from '../ItemSheet.vue';
import type { EditorEmits, EditorProps } from '../shownKind.ts';

defineProps<EditorProps>();
defineEmits<EditorEmits>();
</script>

<template>
  <ItemSheet>
    <slot name="head" />
    <p class="soft">A class activity takes place in class: nothing is handed in. Its scores are typed in the gradebook.</p>
  </ItemSheet>
</template>
