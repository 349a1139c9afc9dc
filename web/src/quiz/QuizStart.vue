<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { OwnQuiz } from '@rosemary/api';
import { dayAndTime, minutesInWords, plainText } from '@rosemary/core';
import { computed, ref } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import DocumentView from '../parts/DocumentView.vue';
import { call } from '../platform/call.ts';
import { HttpProblem } from '../platform/http.ts';
import { useCourse } from '../stores/courseStore.ts';
import ActButton from '../parts/ActButton.vue';
import PlainTable from '../parts/PlainTable.vue';
import LineField from '../parts/fields/LineField.vue';

/** A quiz before it is begun, and between its attempts. */
const props = defineProps<{ quiz: OwnQuiz; isLooking: boolean }>();
const route = useRoute();
const router = useRouter();
const course = useCourse();
const code = ref('');
const fault = ref('');
const isBusy = ref(false);
// One key for one beginning: a retry after a lost answer begins nothing twice.
const key = crypto.randomUUID();
const when = (at: string | null): string => (at === null ? '' : dayAndTime(Date.parse(at), course.zone, course.now));
const COUNTS = { latest: 'the latest counts', best: 'the best counts', first: 'the first counts', mean: 'the mean counts' } as const;
const facts = computed(() => {
  const q = props.quiz;
  return [
    `${q.questions} ${q.questions === 1 ? 'question' : 'questions'}`,
    q.limitMinutes === null ? 'no time limit' : `${minutesInWords(q.limitMinutes)}${q.limitReason === '' ? '' : ` (${q.limitReason})`}`,
    q.attemptsAllowed === null
      ? `as often as you like; ${COUNTS[q.counted]}`
      : q.attemptsAllowed === 1
        ? 'one attempt'
        : `${q.attemptsAllowed} attempts; ${COUNTS[q.counted]}`,
    q.mayGoBack ? null : 'no going back to a question once you have gone on',
    q.atEnd === 'flag' && q.limitMinutes !== null ? 'you may go on after the time, and that is noted' : null,
    q.recordsLeaving ? 'leaving the page is recorded' : null,
  ].filter((f) => f !== null);
});
async function begin(): Promise<void> {
  isBusy.value = true;
  fault.value = '';
  const { courseId, itemId } = route.params;
  try {
    const { attemptId } = await call(
      api.beginAttempt,
      { courseId: String(courseId), itemId: String(itemId) },
      {
        key,
        code: code.value,
      },
    );
    await router.push({ name: 'taking', params: { courseId, itemId, attemptId } });
  } catch (error) {
    fault.value = error instanceof HttpProblem ? error.message : 'It could not be begun. Try again.';
  } finally {
    isBusy.value = false;
  }
}
const HOW = {
  student: 'handed in',
  time: 'handed in at the end of its time',
  instructor: 'handed in by your instructor',
  paper: 'on paper',
} as const;
</script>

<template>
  <article class="start">
    <DocumentView v-if="plainText(quiz.instructions) !== ''" :document="quiz.instructions" />
    <ul class="facts">
      <li v-for="f in facts" :key="f">{{ f }}</li>
    </ul>
    <p v-if="quiz.whyNot" class="soft">{{ quiz.whyNot }}</p>
    <form v-else class="begin" @submit.prevent="begin">
      <label v-if="quiz.needsCode && !quiz.open" class="field code"
        ><span class="label">Code, shown in the room</span><LineField v-model="code" autocomplete="off" maxlength="40"
      /></label>
      <p v-if="quiz.open" class="soft">
        Begun {{ when(quiz.open.begunAt) }}{{ quiz.open.endsAt ? `; its time ends ${when(quiz.open.endsAt)}` : '' }}. What you answered is
        kept.
      </p>
      <ActButton type="submit" look="go" :disabled="isLooking || isBusy">
        {{ quiz.open ? 'Go on' : quiz.attempts.length > 0 ? 'Take it again' : 'Begin' }}
      </ActButton>
      <span v-if="!quiz.open && quiz.limitMinutes" class="soft">Time runs from here, also when you leave the page.</span>
      <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    </form>
    <PlainTable v-if="quiz.attempts.length > 0">
      <thead>
        <tr>
          <th>Attempt</th>
          <th>Handed in</th>
          <th class="num">Score</th>
          <th />
        </tr>
      </thead>
      <tbody>
        <tr v-for="a in quiz.attempts" :key="a.id">
          <td>{{ a.number }}</td>
          <td>
            {{ when(a.handedInAt) }} <span v-if="a.how && a.how !== 'student'" class="soft">{{ HOW[a.how] }}</span>
          </td>
          <td class="num">
            {{ a.state === 'set aside' ? 'set aside' : a.isWaiting ? 'waits to be marked' : (a.scoreText ?? 'not shown yet') }}
            <span v-if="a.counts && quiz.attempts.length > 1" class="soft">counts</span>
          </td>
          <td>
            <router-link
              v-if="a.state !== 'set aside' && !quiz.open"
              :to="{ name: 'paper', params: { courseId: route.params.courseId, itemId: route.params.itemId, attemptId: a.id } }"
              >your paper</router-link
            >
          </td>
        </tr>
      </tbody>
    </PlainTable>
    <p v-if="quiz.attempts.length > 0 && quiz.review.length > 0" class="label">To be seen later: {{ quiz.review.join('; ') }}.</p>
  </article>
</template>

<style scoped>
.start {
  background: var(--paper);
  border: 1px solid var(--frost);
  padding: 24px 34px;
  margin-top: 14px;
}
.facts {
  margin: 0 0 16px;
  padding-left: 20px;
}
.begin {
  margin-bottom: 16px;
}
.begin .soft {
  margin-left: 14px;
}
.begin p.soft {
  margin: 0 0 10px;
}
.code {
  max-width: 260px;
}
@media (max-width: 600px) {
  .start {
    padding: 16px;
    margin-left: -16px;
    margin-right: -16px;
    border-left: 0;
    border-right: 0;
  }
}
</style>
