<script setup lang="ts">
import { differences } from '@rosemary/core';
import { computed } from 'vue';
import ActButton from './ActButton.vue';

/** What two people wrote at the same time, side by side and in full, with what differs marked; either stands, or both are merged by hand. */
const props = withDefaults(
  defineProps<{
    says: string;
    lines: readonly { readonly what: string; readonly theirs: string; readonly mine: string }[];
    theirWord?: string;
    myWord?: string;
  }>(),
  { theirWord: 'Theirs', myWord: 'Yours' },
);
const emit = defineEmits<{ theirs: []; mine: [] }>();
const different = computed(() =>
  props.lines
    .filter((line) => line.theirs !== line.mine)
    .map((line) => {
      const paragraphs = differences(line.theirs, line.mine);
      const side = (other: 'added' | 'removed') =>
        paragraphs.map((p) => p.parts.filter((part) => part.kind !== other && part.text !== '')).filter((parts) => parts.length > 0);
      return { what: line.what, sides: [side('added'), side('removed')] };
    }),
);
</script>

<template>
  <div class="two-versions" role="alert">
    <p>
      <b>{{ says }}</b>
    </p>
    <div class="pair label">
      <span>{{ theirWord }}</span><span>{{ myWord }}</span>
    </div>
    <p v-if="different.length === 0" class="soft">Both read the same.</p>
    <section v-for="line in different" :key="line.what">
      <p v-if="lines.length > 1" class="label">{{ line.what }}</p>
      <div class="pair">
        <div v-for="(paragraphs, n) in line.sides" :key="n">
          <p v-if="paragraphs.length === 0" class="soft">nothing</p>
          <p v-for="(parts, m) in paragraphs" :key="m">
            <template v-for="(part, k) in parts" :key="k"
              ><mark v-if="part.kind !== 'same'">{{ part.text }}</mark
              ><template v-else>{{ part.text }}</template></template
            >
          </p>
        </div>
      </div>
    </section>
    <div class="pair">
      <ActButton look="quiet" @click="emit('theirs')">Take {{ theirWord.toLowerCase() }}</ActButton>
      <ActButton look="quiet" @click="emit('mine')">Keep {{ myWord.toLowerCase() }}</ActButton>
    </div>
    <p class="soft"><slot /></p>
  </div>
</template>

<style scoped>
.two-versions {
  border-left: 3px solid var(--clay);
  padding: 4px 0 6px 12px;
  margin: 8px 0 14px;
}
.pair {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 4px 20px;
  align-items: start;
}
.pair > div {
  max-height: 240px;
  overflow: auto;
}
/* Each under its version. */
.pair > .button {
  justify-self: start;
}
mark {
  background: var(--bloom-wash);
  color: inherit;
  text-decoration: underline;
  text-decoration-thickness: 2px;
  text-decoration-color: var(--bloom);
}
</style>
