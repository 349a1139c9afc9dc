<script setup lang="ts">
/** What is typed into a cell of a grid. A plain input, since a grid of thousands lends it its own place, size and keys. */
const text = defineModel<string>({ required: true });
</script>

<template>
  <input v-model="text" class="cell-field" autocomplete="off" />
</template>

<style scoped>
.cell-field {
  width: 62px;
  padding: 0;
  border: 0;
  outline: 0;
  background: transparent;
  color: inherit;
  font: inherit;
  text-align: right;
}
</style>
