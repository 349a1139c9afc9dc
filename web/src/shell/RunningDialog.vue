<script setup lang="ts">
import { countOf } from '@rosemary/core';
import { computed } from 'vue';
import { useRunning } from '../stores/runningStore.ts';
import ActButton from '../parts/ActButton.vue';

/** Whom a change touches who is taking a quiz, by name, before it is made: they keep what they began under unless it is said otherwise. */
const store = useRunning();
const MOST_NAMES = 12;
const many = computed(() => store.asked?.running.length ?? 0);
const names = computed(() => (store.asked?.running ?? []).slice(0, MOST_NAMES).map((r) => r.name));
const more = computed(() => many.value - names.value.length);
const list = (words: readonly string[]): string => new Intl.ListFormat('en').format(words);
const close = (): void => store.close(null);
</script>

<template>
  <v-dialog :model-value="store.asked !== null" width="600" @update:model-value="close" @keydown.esc="close">
    <div v-if="store.asked" class="sheet pad" role="alertdialog" aria-label="Whom the change is for">
      <h2>{{ countOf(many, 'student') }} {{ many === 1 ? 'is' : 'are' }} taking {{ list(store.asked.titles) }} now</h2>
      <p>{{ names.join(', ') }}{{ more > 0 ? ` and ${more} more` : '' }}.</p>
      <p v-if="store.asked.canKeep">
        This changes {{ list(store.asked.fields) }}. They keep what they began under, unless you give them the new one. A shorter time can
        end an attempt within a minute.
      </p>
      <p v-else>This takes the quiz from them while they are at it. What they have answered is kept.</p>
      <p class="acts">
        <ActButton v-if="store.asked.canKeep" look="go" @click="store.close('keep')">Only attempts that begin from now on</ActButton>
        <ActButton look="quiet" @click="store.close('give')">
          {{ many === 1 ? 'That attempt too' : `Those ${many} attempts too` }}
        </ActButton>
        <ActButton look="quiet" @click="close">Leave it</ActButton>
      </p>
    </div>
  </v-dialog>
</template>

<style scoped>
p {
  margin-top: 8px;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  padding-top: 8px;
}
</style>
