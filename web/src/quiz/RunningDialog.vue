<script setup lang="ts">
import type { RunningAttempt } from '@rosemary/api';
import { countOf } from '@rosemary/core';
import { computed } from 'vue';

/** Whom a change of the time touches, by name, before it is made: those who have begun keep their time unless it is said otherwise. */
const props = defineProps<{ running: readonly RunningAttempt[] | null }>();
const emit = defineEmits<{ choose: [choice: 'only new' | 'running too' | null] }>();
const MOST_NAMES = 12;
const names = computed(() => (props.running ?? []).slice(0, MOST_NAMES).map((r) => r.name));
const more = computed(() => (props.running?.length ?? 0) - names.value.length);
</script>

<template>
  <v-dialog :model-value="running !== null" width="600" @update:model-value="emit('choose', null)" @keydown.esc="emit('choose', null)">
    <div v-if="running" class="sheet pad" role="alertdialog" aria-label="Whom the new time is for">
      <h2>{{ countOf(running.length, 'student') }} {{ running.length === 1 ? 'is' : 'are' }} taking this quiz now</h2>
      <p>{{ names.join(', ') }}{{ more > 0 ? ` and ${more} more` : '' }}.</p>
      <p>They keep the time they began under, unless you give them the new one. A shorter time can end an attempt within a minute.</p>
      <p class="acts">
        <button class="go" @click="emit('choose', 'only new')">Only attempts that begin from now on</button>
        <button class="quiet" @click="emit('choose', 'running too')">
          {{ running.length === 1 ? 'That attempt too' : `Those ${running.length} attempts too` }}
        </button>
        <button class="quiet" @click="emit('choose', null)">Leave it</button>
      </p>
    </div>
  </v-dialog>
</template>

<style scoped>
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  padding-top: 8px;
}
</style>
