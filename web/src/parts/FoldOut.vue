<script setup lang="ts">
/** What is not needed at once: a line of words that opens what lies under it. */
const isOpen = defineModel<boolean>('open', { default: false });
const emit = defineEmits<{ toggle: [isOpen: boolean] }>();
function onToggle(event: Event): void {
  isOpen.value = (event.target as HTMLDetailsElement).open;
  emit('toggle', isOpen.value);
}
</script>

<template>
  <details :open="isOpen" class="fold" @toggle="onToggle">
    <summary><slot name="summary" /></summary>
    <slot />
  </details>
</template>

<style>
/* What folds away does not take over how widths are counted from what is around it. */
.fold,
.fold * {
  box-sizing: border-box;
}
:where(.fold > summary) {
  cursor: pointer;
}
</style>
