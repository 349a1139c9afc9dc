<script setup lang="ts">
/** How much of something long is done, from 0 to 1. */
defineProps<{ share: number; label: string }>();
</script>

<template>
  <v-progress-linear class="progress-bar" :model-value="share" :max="1" :aria-label="label" />
</template>

<style>
:where(.progress-bar.v-progress-linear) {
  display: inline-block;
  width: 160px;
  vertical-align: middle;
}
</style>
