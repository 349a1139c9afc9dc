<script setup lang="ts" generic="T extends boolean | readonly string[]">
/** A tick. With a list as its model and a `value`, it says whether that value stands in the list. */
const model = defineModel<T>();
</script>

<template>
  <v-checkbox-btn v-model="model" class="tick-box" />
</template>

<style src="./marks.css"></style>
