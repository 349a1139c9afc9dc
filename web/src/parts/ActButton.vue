<script setup lang="ts">
/**
 * Whatever is pressed. `act` reads as a link in a line of words, `quiet` is an action of its own,
 * `go` the one that a page is for; `bare` has no look and takes that of the place where it stands.
 */
withDefaults(defineProps<{ look?: 'act' | 'quiet' | 'go' | 'bare' }>(), { look: 'bare' });
</script>

<template>
  <v-btn variant="text" :class="['button', look]"><slot /></v-btn>
</template>

<style>
/* No weight of its own: the look and the place where a button stands decide. Vuetify's rules lie in a layer below. */
:where(.button.v-btn) {
  display: inline-block;
  position: relative;
  min-width: auto;
  max-width: none;
  height: auto;
  padding: 0;
  overflow: visible;
  border: 0;
  border-radius: 2px;
  background: none;
  color: inherit;
  font: inherit;
  letter-spacing: inherit;
  text-align: center;
  text-indent: 0;
  white-space: inherit;
  vertical-align: baseline;
  flex-shrink: 1;
  transition: none;
  user-select: auto;
  cursor: pointer;
}
:where(.button.v-btn--disabled) {
  opacity: 1;
  pointer-events: auto;
  cursor: default;
}
:where(.button > .v-btn__content) {
  display: contents;
  white-space: inherit;
}
:where(.button > .v-btn__overlay, .button > .v-btn__underlay) {
  display: none;
}
</style>
