<script setup lang="ts">
import { computed } from 'vue';
import ActButton from '../parts/ActButton.vue';

/** The questions as beads on a string: what is answered is filled, what is to be come back to has a corner. */
const props = defineProps<{
  beads: readonly { readonly id: string; readonly isAnswered: boolean; readonly isFlagged: boolean }[];
  current: number;
  least: number;
}>();
const emit = defineEmits<{ go: [at: number] }>();
const gap = computed(() => Math.min(97, Math.max(30, 1080 / Math.max(1, props.beads.length - 1))));
const words = (b: (typeof props.beads)[number], n: number): string =>
  `Question ${n + 1}${b.isAnswered ? ', answered' : ', not answered'}${b.isFlagged ? ', to come back to' : ''}`;
</script>

<template>
  <nav class="beads" aria-label="Questions">
    <ol>
      <li v-for="(b, n) in beads" :key="b.id" :style="{ width: `${gap}px` }">
        <ActButton
          :class="['bead', { done: b.isAnswered, now: n === current }]"
          :disabled="n < least"
          :aria-label="words(b, n)"
          :aria-current="n === current ? 'step' : undefined"
          @click="emit('go', n)"
        >
          {{ n + 1 }}<i v-if="b.isFlagged" aria-hidden="true" />
        </ActButton>
      </li>
    </ol>
  </nav>
</template>

<style scoped>
.beads ol {
  list-style: none;
  margin: 0;
  padding: 8px 0;
  display: flex;
  flex-wrap: wrap;
  justify-content: center;
}
.beads li {
  position: relative;
  height: 38px;
  display: flex;
  justify-content: center;
  align-items: center;
}
.beads li::before {
  content: '';
  position: absolute;
  left: 0;
  right: 0;
  top: 50%;
  border-top: 1px solid #b9c6bb;
}
.beads li:first-child::before {
  left: 50%;
}
.beads li:last-child::before {
  right: 50%;
}
.bead {
  position: relative;
  width: 24px;
  height: 24px;
  padding: 0;
  border-radius: 50%;
  border: 1.5px solid var(--leaf);
  background: var(--paper);
  color: var(--soft);
  font: 12.5px/20px var(--sans);
  font-feature-settings: 'tnum';
  cursor: pointer;
}
.bead.done {
  background: var(--needle);
  border-color: var(--needle);
  color: var(--on-needle);
}
.bead.now {
  width: 28px;
  height: 28px;
  background: var(--bloom);
  border-color: var(--bloom);
  color: var(--paper);
}
.bead:disabled {
  cursor: default;
  opacity: 0.6;
}
.bead i {
  position: absolute;
  right: -7px;
  top: -7px;
  width: 0;
  height: 0;
  border-left: 8px solid transparent;
  border-top: 8px solid var(--straw);
}
</style>
