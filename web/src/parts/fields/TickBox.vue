<script setup lang="ts" generic="T extends boolean | readonly string[]">
/** A tick. With a list as its model and a `value`, it says whether that value stands in the list. */
const model = defineModel<T>();
</script>

<template>
  <v-checkbox-btn v-model="model" class="tick-box" />
</template>

<style>
.tick-box.v-selection-control,
.pick-mark.v-selection-control {
  --v-selection-control-size: 18px;
  display: inline-flex;
  flex: none;
  width: 18px;
  contain: none;
  vertical-align: text-bottom;
}
.tick-box .v-icon,
.pick-mark .v-icon {
  font-size: 18px;
  opacity: 1;
}
.tick-box .v-selection-control__input::before,
.pick-mark .v-selection-control__input::before {
  display: none;
}
/* The whole of what a finger needs can be pressed, beyond the mark that is drawn. */
.tick-box .v-selection-control__input > input,
.pick-mark .v-selection-control__input > input {
  left: -3px;
  top: -3px;
  width: 24px;
  height: 24px;
  margin: 0;
}
.tick-box:has(input:focus-visible),
.pick-mark:has(input:focus-visible) {
  outline: 2px solid var(--bloom);
  outline-offset: 2px;
  border-radius: 2px;
}
</style>
