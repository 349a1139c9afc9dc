<script setup lang="ts">
import type { Touched } from '@rosemary/api';
import { computed, ref, watch } from 'vue';
import { useTouched } from '../stores/touchedStore.ts';
import PickMark from '../parts/fields/PickMark.vue';
import TickBox from '../parts/fields/TickBox.vue';
import ActButton from '../parts/ActButton.vue';

const store = useTouched();
const choice = ref<'not begun' | 'everyone' | 'sections'>('not begun');
const chosen = ref<string[]>([]);
watch(
  () => store.touched,
  (touched) => {
    choice.value = touched !== null && touched.begun === touched.students ? 'everyone' : 'not begun';
    chosen.value = [];
  },
  { immediate: true },
);
const fresh = (t: Touched): number => t.students - t.begun;
const canApply = computed(() => choice.value !== 'sections' || chosen.value.length > 0);
function apply(): void {
  store.close(choice.value === 'sections' ? chosen.value : choice.value);
}
const students = (n: number): string => (n === 1 ? '1 student' : `${n} students`);
</script>

<template>
  <v-dialog :model-value="store.touched !== null" width="480" @update:model-value="store.close(null)" @keydown.esc="store.close(null)">
    <form v-if="store.touched" class="sheet pad" role="alertdialog" aria-label="Whom the change is for" @submit.prevent="apply">
      <h2>{{ store.title }}</h2>
      <p>
        This touches {{ students(store.touched.students) }}, and {{ store.touched.begun }} of them
        {{ store.touched.begun === 1 ? 'has' : 'have' }} begun. Whom are the new dates for?
      </p>
      <label v-if="fresh(store.touched) > 0" class="choice-line"
        ><PickMark v-model="choice" name="whom" value="not begun" /> those who have not begun ({{ fresh(store.touched) }}); the others keep
        theirs</label
      >
      <label class="choice-line"><PickMark v-model="choice" name="whom" value="everyone" /> everyone ({{ store.touched.students }})</label>
      <template v-if="store.touched.sections.length > 1">
        <label class="choice-line"
          ><PickMark v-model="choice" name="whom" value="sections" /> chosen sections; the others keep theirs</label
        >
        <p v-if="choice === 'sections'" class="sections">
          <label v-for="s in store.touched.sections" :key="s.id" class="choice-line"
            ><TickBox v-model="chosen" :value="s.id" /> {{ s.title }}, {{ students(s.students) }}, {{ s.begun }} begun</label
          >
        </p>
      </template>
      <p class="form-acts">
        <ActButton type="submit" look="go" :disabled="!canApply">Go on</ActButton>
        <ActButton look="quiet" @click="store.close(null)">Leave it</ActButton>
      </p>
    </form>
  </v-dialog>
</template>

<style scoped>
.sections {
  padding-left: 22px;
}
p {
  margin: 8px 0;
}
</style>
