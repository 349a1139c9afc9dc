<script setup lang="ts">
import type { PaperReview, ReviewedQuestion } from '@rosemary/api';
import { formatPoints, pointsInWords } from '@rosemary/core';
import { computed, ref } from 'vue';
import DocumentView from '../parts/DocumentView.vue';
import AnswerField from '../questions/AnswerField.vue';
import ActButton from '../parts/ActButton.vue';
import PlainTable from '../parts/PlainTable.vue';

/** A paper after it was handed in: what was answered, what it earned and by which rule, as far as it may be seen. */
const props = defineProps<{ review: PaperReview }>();
const showsWorking = ref(false);
const numbers = computed(() => new Map(props.review.sections.flatMap((s) => s.questions).map((q, n) => [q.id, n + 1])));
const rightWords = (q: ReviewedQuestion): string => q.key?.words.join('; ') ?? '';
const standing = (q: ReviewedQuestion): string =>
  q.isWaiting ? 'waits to be marked' : q.scoreText === null ? pointsInWords(q.points) : `${q.scoreText} of ${formatPoints(q.points)}`;
</script>

<template>
  <div>
    <p v-if="review.attempt.scoreText" class="score">
      <ActButton look="act" class="serif" :aria-expanded="showsWorking" @click="showsWorking = !showsWorking">
        {{ review.attempt.scoreText }} of {{ formatPoints(review.possible) }}
      </ActButton>
      <span class="soft">{{ review.attainment }} {{ showsWorking ? '' : '· open the number for its working' }}</span>
    </p>
    <p v-else-if="review.attempt.isWaiting" class="soft">Some of it waits to be marked.</p>
    <PlainTable v-if="showsWorking" class="working">
      <caption class="hidden">
        Working of the score
      </caption>
      <tbody>
        <tr v-for="line in review.working" :key="line.words">
          <td>{{ line.words }}</td>
          <td class="num">{{ line.points }}</td>
        </tr>
      </tbody>
    </PlainTable>
    <p v-if="review.later.length > 0" class="label">To be seen later: {{ review.later.join('; ') }}.</p>
    <section v-for="s in review.sections" :key="s.id">
      <h2 v-if="s.title">{{ s.title }}</h2>
      <article v-for="q in s.questions" :key="q.id" class="question">
        <p class="head">
          <b>{{ numbers.get(q.id) }}</b> <span class="soft">{{ standing(q) }}</span>
        </p>
        <div v-if="q.stimulus" class="stimulus"><DocumentView :document="q.stimulus" /></div>
        <AnswerField
          :asked="q.asked"
          :answer="q.answer"
          :label="`Question ${numbers.get(q.id)}`"
          is-fixed
          :right-ids="q.key?.choiceIds ?? []"
          :file-name="q.file?.name ?? ''"
        />
        <p v-if="q.file">
          <a :href="q.file.url" target="_blank" rel="noopener">{{ q.file.name }}</a>
        </p>
        <p v-if="review.sees.answers && q.answer === null" class="soft">Not answered.</p>
        <p v-if="rightWords(q)" class="right"><span class="label">Right</span> {{ rightWords(q) }}</p>
        <p v-if="q.rule && !q.isWaiting" class="label">{{ q.rule }}</p>
        <div v-for="(f, n) in q.feedback" :key="n" class="feedback"><DocumentView :document="f" /></div>
        <p v-if="q.comment" class="feedback">{{ q.comment }}</p>
        <slot name="beside" :question="q" />
      </article>
    </section>
  </div>
</template>

<style scoped>
.score .act {
  font-size: 24px;
  line-height: 32px;
  color: var(--ink);
  text-decoration-style: dotted;
  margin-right: 12px;
}
.working {
  margin: 8px 0 14px;
  max-width: 560px;
}
.question {
  border-top: 1px solid var(--frost);
  padding: 16px 0 18px;
}
.head {
  margin-bottom: 4px;
  display: flex;
  gap: 12px;
}
.right {
  color: var(--needle);
  margin-top: 8px;
}
.feedback {
  border-left: 3px solid var(--bloom);
  padding-left: 12px;
  margin-top: 8px;
}
.feedback :deep(p) {
  margin: 0;
}
</style>
