<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { KeyOnly, QuizDetail } from '@rosemary/api';
import { formatPoints, parsePoints, readKeyString, countOf, pointsInWords } from '@rosemary/core';
import { computed, ref } from 'vue';
import LineInput from '../parts/LineInput.vue';
import { call } from '../platform/call.ts';
import { HttpProblem } from '../platform/http.ts';
import ActButton from '../parts/ActButton.vue';
import TextField from '../parts/fields/TextField.vue';
import LineField from '../parts/fields/LineField.vue';
import ChoiceField from '../parts/fields/ChoiceField.vue';

/** A test whose questions are on paper already: how many answers there are to choose from, and the key as one types it. */
const props = defineProps<{
  base: { readonly courseId: string; readonly itemId: string };
  sectionId: string;
  objectives: QuizDetail['objectives'];
}>();
const emit = defineEmits<{ leave: []; made: [many: number] }>();
const options = ref(5);
const points = ref(1000);
const key = ref('');
const parts = ref<{ from: string; to: string; code: string }[]>([]);
const fault = ref('');
const read = computed(() => (key.value.trim() === '' ? null : readKeyString(key.value, null)));
const many = computed(() => (read.value?.ok === true ? read.value.picked.length : 0));
function setPoints(text: string): void {
  const found = parsePoints(text);
  fault.value = found.ok ? '' : found.reason;
  if (found.ok) points.value = found.value;
}
async function make(): Promise<void> {
  fault.value = '';
  const body: KeyOnly = {
    sectionId: props.sectionId,
    options: options.value,
    points: points.value,
    key: key.value,
    objectives: parts.value
      .filter((p) => p.code !== '')
      .map((p) => ({ from: Number(p.from) || 0, to: Number(p.to === '' ? p.from : p.to) || 0, code: p.code })),
  };
  try {
    await call(api.makeKeyOnlyTest, props.base, body);
    emit('made', many.value);
  } catch (error) {
    fault.value = error instanceof HttpProblem ? error.message : 'Not made.';
  }
}
</script>

<template>
  <form class="sheet form" role="dialog" aria-label="Only a key" @submit.prevent="make">
    <h2>Only a key</h2>
    <p class="soft">For a test whose questions are on paper already. Type the right answers in a row; several right ones in brackets.</p>
    <TextField v-model="key" class="key" rows="3" aria-label="Key" placeholder="BDACC EABDA B(AC)D" spellcheck="false" takes-focus />
    <p role="status" :class="read?.ok === false ? 'clay' : 'soft'">
      {{ read === null ? ' ' : read.ok ? `${countOf(many, 'question')}, ${pointsInWords(many * points)}` : read.reason }}
    </p>
    <div class="pair">
      <label class="field"
        ><span class="label">Answers to choose from</span><LineField v-model.number="options" type="number" min="2" max="10"
      /></label>
      <label class="field"
        ><span class="label">Points each</span><LineInput :value="formatPoints(points)" inputmode="decimal" @commit="setPoints($event)"
      /></label>
    </div>
    <div v-for="(p, n) in parts" :key="n" class="part">
      <LineField v-model="p.from" class="no" inputmode="numeric" :aria-label="`First question of part ${n + 1}`" placeholder="from" />
      <LineField v-model="p.to" class="no" inputmode="numeric" :aria-label="`Last question of part ${n + 1}`" placeholder="to" />
      <ChoiceField v-model="p.code" :aria-label="`Objective of part ${n + 1}`">
        <option value="">an objective</option>
        <option v-for="o in objectives" :key="o.code" :value="o.code">{{ o.code }} {{ o.statement }}</option>
      </ChoiceField>
      <ActButton look="act" @click="parts.splice(n, 1)">remove</ActButton>
    </div>
    <p v-if="objectives.length > 0">
      <ActButton look="act" @click="parts.push({ from: '', to: '', code: '' })">objectives of some questions</ActButton>
    </p>
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <p class="form-acts row-acts">
      <ActButton type="submit" look="go" :disabled="many === 0">{{
        many === 0 ? 'Make the questions' : `Make ${countOf(many, 'question')}`
      }}</ActButton>
      <ActButton look="quiet" @click="emit('leave')">Leave it</ActButton>
    </p>
  </form>
</template>

<style scoped>
.key {
  width: 100%;
  font-size: 18px;
  letter-spacing: 0.12em;
  margin: 10px 0 2px;
}
.pair {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 0 20px;
  margin: 10px 0;
}
.part {
  display: flex;
  gap: 10px;
  align-items: baseline;
  margin-bottom: 6px;
}
.no {
  width: 56px;
}
.part .choice-field {
  flex: 1;
  min-width: 0;
}
</style>
