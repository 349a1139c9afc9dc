<script setup lang="ts">
import type { LevelChange } from '@rosemary/api';
import { READY_SCHEMES } from '@rosemary/core';
import { ref } from 'vue';
import ActButton from '../parts/ActButton.vue';
import CutPoints from '../parts/CutPoints.vue';
import SchemeShelf from '../parts/SchemeShelf.vue';

/** The names by which the results of one item are read, where they are not the letters of the course. */
const props = defineProps<{ title: string; levels: readonly LevelChange[] | null }>();
const emit = defineEmits<{ close: []; use: [levels: LevelChange[] | null] }>();
const beginning = READY_SCHEMES.find((s) => s.title === 'Bands in words')?.levels ?? [];
const levels = ref<LevelChange[]>((props.levels ?? beginning).map((l) => ({ ...l })));
function use(chosen: LevelChange[] | null): void {
  emit('use', chosen);
  emit('close');
}
</script>

<template>
  <v-dialog :model-value="true" max-width="760" @update:model-value="emit('close')">
    <form class="sheet form" role="dialog" aria-label="Names of its own" @submit.prevent="levels.length > 0 && use(levels)">
      <h2>How “{{ title }}” is read</h2>
      <p class="soft">
        These names stand instead of the letters of the course, for this item alone. What a name stands for counts where it is typed instead
        of a number.
      </p>
      <CutPoints :levels="levels" :totals="[]" :is-fixed="false" @change="levels = $event" />
      <SchemeShelf :scheme="{ levels, passPercent: null }" :title="title" @take="levels = $event.levels" />
      <p class="form-acts">
        <ActButton v-if="levels.length > 0" look="go" type="submit">Use these names</ActButton>
        <span v-else class="soft">Add a name to use them.</span>
        <ActButton v-if="props.levels !== null" look="quiet" @click="use(null)">Use the letters of the course</ActButton>
        <ActButton look="quiet" @click="emit('close')">Leave it</ActButton>
      </p>
    </form>
  </v-dialog>
</template>
