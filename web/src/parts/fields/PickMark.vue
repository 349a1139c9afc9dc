<script setup lang="ts" generic="T">
/**
 * One of several that exclude each other, or with `isSeveral` one of those that may be chosen together.
 * Marks of one `name` are moved through by the arrow keys.
 */
const model = defineModel<T | null>();
const props = defineProps<{ value: T; name: string; isSeveral?: boolean }>();
const turn = (isOn: unknown): void => {
  model.value = isOn === true ? props.value : null;
};
</script>

<template>
  <v-checkbox-btn
    v-if="isSeveral"
    class="pick-mark"
    :model-value="model === value"
    :multiple="false"
    :name="name"
    @update:model-value="turn"
  />
  <v-radio
    v-else
    class="pick-mark"
    :model-value="model === value"
    :true-value="true"
    :false-value="false"
    :name="name"
    @update:model-value="turn"
  />
</template>

<style src="./marks.css"></style>
