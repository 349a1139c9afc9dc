<script setup lang="ts">
/** A table that is read: rows between thin rules (`plain`), or one whose look the page gives (`bare`). */
withDefaults(defineProps<{ look?: 'plain' | 'bare' }>(), { look: 'plain' });
</script>

<template>
  <v-table density="compact" :gridlines="false" :class="look === 'plain' ? ['plain', 'plain-table'] : 'bare-table'"><slot /></v-table>
</template>

<style>
:where(.plain-table.v-table, .bare-table.v-table) {
  display: block;
  background: none;
  color: inherit;
  font: inherit;
  border-radius: 0;
}
:where(.plain-table > .v-table__wrapper, .bare-table > .v-table__wrapper) {
  overflow: visible;
  border-radius: 0;
}
:where(.plain-table > .v-table__wrapper > table, .bare-table > .v-table__wrapper > table) {
  border-spacing: 0;
  border-collapse: collapse;
  width: auto;
  font: inherit;
}
:where(.plain-table > .v-table__wrapper > table) {
  width: 100%;
}
:where(.bare-table > .v-table__wrapper > table > * > tr > *) {
  height: auto;
  padding: 1px;
  font: inherit;
  text-align: inherit;
  background: none;
}
:where(.plain-table > .v-table__wrapper > table > * > tr > *) {
  height: auto;
  padding: 7px 10px 7px 0;
  border-top: 1px solid var(--frost);
  text-align: left;
  font-weight: 400;
  vertical-align: baseline;
}
:where(.plain-table > .v-table__wrapper > table > * > tr > th) {
  color: var(--soft);
  border: 0;
  font-size: 12.5px;
  line-height: 16px;
  vertical-align: bottom;
}
</style>
