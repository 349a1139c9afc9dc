<script setup lang="ts">
import type { CheckQuestion } from '@rosemary/api';
import { computed, ref, useId } from 'vue';
import ActButton from '../ActButton.vue';
import PickMark from '../fields/PickMark.vue';

/** A question one asks oneself: answered and judged in the page, and kept nowhere. */
const props = defineProps<{ question: CheckQuestion }>();
const name = useId();
const chosen = ref<number[]>([]);
const isJudged = ref(false);
const isMany = computed(() => props.question.answers.filter((a) => a.isRight).length > 1);
function choose(n: number): void {
  isJudged.value = false;
  if (!isMany.value) chosen.value = [n];
  else chosen.value = chosen.value.includes(n) ? chosen.value.filter((c) => c !== n) : [...chosen.value, n];
}
const isRight = computed(() => props.question.answers.every((a, n) => a.isRight === chosen.value.includes(n)));
</script>

<template>
  <fieldset class="question">
    <legend>{{ question.prompt }}</legend>
    <p class="label">Check yourself{{ isMany ? '; more than one answer is right' : '' }}. Nobody sees your answer.</p>
    <div v-for="(answer, n) in question.answers" :key="n">
      <label
        ><PickMark :is-several="isMany" :name="name" :value="n" :model-value="chosen.includes(n) ? n : null" @change="choose(n)" />
        {{ answer.text }}</label
      >
      <p v-if="isJudged && chosen.includes(n)" class="word">
        <b>{{ answer.isRight ? 'Right.' : 'Not this one.' }}</b> {{ answer.feedback }}
      </p>
    </div>
    <p class="acts">
      <ActButton look="quiet" :disabled="chosen.length === 0" @click="isJudged = true">Check</ActButton>
      <span v-if="isJudged" role="status">{{ isRight ? 'That is right.' : 'Not yet. Try again.' }}</span>
    </p>
  </fieldset>
</template>

<style scoped>
.question {
  border: 0;
  border-left: 3px solid var(--bloom);
  padding: 4px 0 4px 14px;
  margin: 0 0 14px;
}
legend {
  font-weight: 600;
  padding: 0;
  float: left;
  width: 100%;
}
.label {
  clear: both;
  margin: 0 0 6px;
}
.word {
  margin: 0 0 4px 22px;
  font-size: 14px;
  line-height: 20px;
}
.acts {
  margin: 8px 0 0;
  font: 14px/20px var(--sans);
}
</style>
