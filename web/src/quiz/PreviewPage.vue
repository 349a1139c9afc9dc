<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import { call } from '../platform/call.ts';
import { pointsInWords } from '@rosemary/core';
import type { GivenAnswer, PaperShown } from '@rosemary/api';
import { computed, onMounted, reactive, ref, shallowRef } from 'vue';
import { useRoute } from 'vue-router';
import DocumentView from '../parts/DocumentView.vue';
import AnswerField from '../questions/AnswerField.vue';
import ActButton from '../parts/ActButton.vue';
import LineField from '../parts/fields/LineField.vue';

/** The paper as a student gets it, with any seed. Answers given here are kept nowhere. */
const route = useRoute();
const seed = ref('preview');
const paper = shallowRef<PaperShown | null>(null);
const fault = ref('');
const answers = reactive<Record<string, GivenAnswer | null>>({});
async function load(): Promise<void> {
  const { courseId, itemId } = route.params;
  try {
    paper.value = await call(api.getQuizPreview, { courseId: String(courseId), itemId: String(itemId), seed: seed.value });
    for (const id of Object.keys(answers)) answers[id] = null;
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
}
onMounted(load);
function another(): void {
  seed.value = `paper ${Math.floor(Math.random() * 100_000)}`;
  void load();
}
const numbers = computed(() => new Map(paper.value?.sections.flatMap((s) => s.questions).map((q, n) => [q.id, n + 1]) ?? []));
</script>

<template>
  <section class="paper-bed">
    <p class="bar no-print">
      <span class="soft">As a student gets it. Nothing here is kept.</span>
      <label>paper <LineField v-model="seed" aria-label="Seed of the paper" @change="load" /></label>
      <ActButton look="act" @click="another">another paper</ActButton>
    </p>
    <p v-if="fault" class="fault">{{ fault }}</p>
    <p v-for="f in paper?.faults ?? []" :key="f" class="clay">{{ f }}</p>
    <div class="sheet-paper paper">
      <p v-if="paper && numbers.size === 0" class="soft">There is no question yet.</p>
      <template v-for="s in paper?.sections ?? []" :key="s.id">
        <h2 v-if="s.title">{{ s.title }}</h2>
        <p v-if="s.instructions" class="soft">{{ s.instructions }}</p>
        <article v-for="q in s.questions" :key="`${seed} ${q.id}`">
          <p class="soft about">Question {{ numbers.get(q.id) }} · {{ pointsInWords(q.points) }}</p>
          <div v-if="q.stimulus" class="stimulus"><DocumentView :document="q.stimulus" /></div>
          <AnswerField
            :asked="q.asked"
            :answer="answers[q.id] ?? null"
            :label="`Question ${numbers.get(q.id)}`"
            @answer="answers[q.id] = $event"
            @typing="answers[q.id] = $event"
          />
        </article>
      </template>
    </div>
  </section>
</template>

<style scoped>
.bar {
  max-width: 640px;
  margin: 0 auto 10px;
  display: flex;
  gap: 18px;
  align-items: baseline;
}
.bar .line-field {
  width: 120px;
}
.paper {
  max-width: 640px;
  margin: 0 auto;
  box-sizing: border-box;
}
article {
  padding: 14px 0 20px;
  border-top: 1px solid var(--frost2);
}
</style>
