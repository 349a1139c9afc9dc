<script setup lang="ts">
import SearchChoice from './SearchChoice.vue';

/** A time zone by its name, found by some letters of a city or region. */
const zone = defineModel<string>({ required: true });
defineProps<{ label: string }>();
const MOST = 60;
const zones = Intl.supportedValuesOf('timeZone').map((id) => ({ id }));
const plain = (text: string): string => text.toLowerCase().replace(/[\s_/]+/g, ' ');
const find = (letters: string): Promise<readonly { readonly id: string }[]> =>
  Promise.resolve(zones.filter(({ id }) => plain(id).includes(plain(letters))).slice(0, MOST));
</script>

<template>
  <SearchChoice
    v-model="zone"
    class="field"
    :label="label"
    placeholder="letters of a city, such as Lisbon"
    nothing="No time zone has these letters."
    :find="find"
    :words-of="({ id }) => id.replaceAll('_', ' ')"
  />
</template>
