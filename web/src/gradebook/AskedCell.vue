<script setup lang="ts">
import ActButton from '../parts/ActButton.vue';
import type { Asked } from './useCellWrites.ts';

/** A write that needs a word first: a score above the points, or a cell that somebody else changed meanwhile. */
defineProps<{ asked: Asked }>();
const emit = defineEmits<{ answer: [go: (() => Promise<void>) | null] }>();
</script>

<template>
  <div class="side-note ask" role="alert">
    <b>{{ asked.who }} · {{ asked.title }}</b>
    <p>{{ asked.text }}</p>
    <template v-if="asked.theirs !== null">
      <dl>
        <dt>theirs</dt>
        <dd>{{ asked.theirs }}</dd>
        <dt>yours</dt>
        <dd>{{ asked.mine }}</dd>
      </dl>
      <ActButton look="go" @click="emit('answer', asked.go)">Write {{ asked.mine }}</ActButton>
      <ActButton look="quiet" @click="emit('answer', null)">Keep {{ asked.theirs }}</ActButton>
    </template>
    <template v-else>
      <ActButton look="go" @click="emit('answer', asked.go)">Yes, write {{ asked.mine }}</ActButton>
      <ActButton look="quiet" @click="emit('answer', null)">No, leave it</ActButton>
    </template>
  </div>
</template>

<style scoped>
.ask .button {
  margin-top: 8px;
}
dl {
  display: grid;
  grid-template-columns: 60px 1fr;
}
</style>
