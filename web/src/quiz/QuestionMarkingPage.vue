<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { QuestionAnswers } from '@rosemary/api';
import { countOf, formatPoints, pointsInWords, parsePoints, splitByMark } from '@rosemary/core';
import { computed, nextTick, onMounted, ref, shallowRef } from 'vue';
import { useRoute } from 'vue-router';
import { useAlikeGroups } from '../marking/useAlikeGroups.ts';
import DocumentView from '../parts/DocumentView.vue';
import { call } from '../platform/call.ts';
import { HttpProblem } from '../platform/http.ts';
import { useNotices } from '../stores/noticeStore.ts';
import QuestionOnPaper from '../questions/QuestionOnPaper.vue';
import { useQuiz } from '../stores/quizStore.ts';
import ActButton from '../parts/ActButton.vue';
import FoldOut from '../parts/FoldOut.vue';
import TickBox from '../parts/fields/TickBox.vue';
import LineField from '../parts/fields/LineField.vue';

/** All answers to one question, marked one after another; those that say the same are marked together. */
const route = useRoute();
const quiz = useQuiz();
const notices = useNotices();
const answers = shallowRef<QuestionAnswers | null>(null);
const { groups, group } = useAlikeGroups();
const fault = ref('');
const only = ref<'waits' | 'all'>('waits');
const showsNames = ref(false);
const typed = ref<Record<string, string>>({});
const comments = ref<Record<string, string>>({});
const faults = ref<Record<string, string>>({});
async function load(): Promise<void> {
  try {
    answers.value = await call(api.getQuestionAnswers, { ...quiz.base, questionId: String(route.params.questionId) });
    group(answers.value.answers.filter((a) => a.text !== '' && a.file === null).map((a) => ({ id: a.attemptId, text: a.text })));
    for (const a of answers.value.answers) comments.value[a.attemptId] ??= a.reason;
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
}
onMounted(load);
type Answer = QuestionAnswers['answers'][number];
/** Those whose tick was turned: taken out of a group that waits, or chosen of one that is finished. */
const turned = ref<ReadonlySet<string>>(new Set());
interface Together {
  readonly key: string;
  readonly list: readonly Answer[];
  /** All of them have been given the same already; none is changed but those that are chosen. */
  readonly isFinished: boolean;
  /** Those that say it in other words, a little. */
  readonly near: ReadonlySet<string>;
}
/** Answers that say the same, or nearly, are marked together; a file and an answer with nothing in it stand alone. */
const shown = computed((): Together[] => {
  const listed = new Map(
    (answers.value?.answers ?? []).filter((a) => only.value === 'all' || a.share === null).map((a) => [a.attemptId, a]),
  );
  const part = (list: readonly Answer[], near: ReadonlySet<string>): Together[] =>
    splitByMark(list.map((a) => ({ ...a, id: a.attemptId }))).map((p) => ({
      key: p.list[0]?.attemptId ?? '',
      list: p.list,
      isFinished: p.isFinished,
      near,
    }));
  const inGroups = (groups.value ?? []).flatMap((g) =>
    part(
      [...g.same, ...g.near].flatMap((id) => listed.get(id) ?? []),
      new Set(g.near),
    ),
  );
  const grouped = new Set(inGroups.flatMap((g) => g.list.map((a) => a.attemptId)));
  const alone = [...listed.values()].filter((a) => !grouped.has(a.attemptId));
  return [...inGroups, ...alone.flatMap((a) => part([a], new Set<string>()))].filter((g) => g.list.length > 0);
});
/** Of several that are finished none is meant until it is chosen; of what waits, and of one alone, all are. */
const isPicked = (g: Together, a: Answer): boolean => (g.isFinished && g.list.length > 1) === turned.value.has(a.attemptId);
const together = (g: Together): Answer[] => g.list.filter((a) => isPicked(g, a));
function turn(id: string): void {
  const next = new Set(turned.value);
  if (!next.delete(id)) next.add(id);
  turned.value = next;
}
const left = computed(() => answers.value?.answers.filter((a) => a.share === null).length ?? 0);
async function give(g: Together): Promise<void> {
  const read = parsePoints(typed.value[g.key] ?? '');
  faults.value[g.key] = read.ok ? '' : read.reason;
  if (!read.ok) return;
  try {
    const reason = comments.value[g.key] ?? '';
    const scores = together(g).map(({ attemptId, version }) => ({ attemptId, points: read.value, reason, version }));
    if (scores.length === 0) {
      faults.value[g.key] = 'None of them is chosen. Tick those whose points change.';
      return;
    }
    const before = await call(api.giveScores, { ...quiz.base, questionId: String(route.params.questionId) }, { scores });
    notices.say(`${countOf(scores.length, 'answer')} marked: ${formatPoints(read.value)} each.`, async () => {
      await call(api.giveScores, { ...quiz.base, questionId: String(route.params.questionId) }, before);
      typed.value = {};
      comments.value = {};
      await load();
    });
    turned.value = new Set();
    typed.value = {};
    await load();
    await nextTick();
    document.querySelector<HTMLInputElement>('.points input')?.focus();
  } catch (error) {
    faults.value[g.key] = error instanceof HttpProblem ? error.message : 'Not saved.';
    await load();
  }
}
</script>

<template>
  <section class="paper-bed">
    <p v-if="fault" class="fault">{{ fault }}</p>
    <div v-if="answers" class="sheet-paper paper">
      <p class="label">
        <router-link :to="{ name: 'quiz-results', params: { courseId: route.params.courseId, itemId: route.params.itemId } }"
          >Results</router-link
        >
        · {{ pointsInWords(answers.points) }}
      </p>
      <QuestionOnPaper :question="answers.question" />
      <p class="bar">
        <b>{{ left === 0 ? 'Nothing waits.' : left === 1 ? 'One answer waits.' : `${left} answers wait.` }}</b>
        <ActButton look="act" @click="only = only === 'waits' ? 'all' : 'waits'">
          {{ only === 'waits' ? 'show all' : 'only those that wait' }}
        </ActButton>
        <ActButton look="act" @click="showsNames = !showsNames">{{ showsNames ? 'hide names' : 'show names' }}</ActButton>
      </p>
      <article v-for="g in shown" :key="g.key" class="answer">
        <p v-if="showsNames || g.list.length > 1" class="label">
          {{ g.list.length > 1 ? `${g.list.length} alike` : ''
          }}{{ g.isFinished && g.list.length > 1 ? `, each given ${formatPoints(g.list[0]!.given ?? 0)}` : '' }}
          {{ showsNames ? g.list.map((a) => a.name).join('; ') : '' }}
        </p>
        <DocumentView v-if="g.list[0]?.answer?.kind === 'work' && g.list[0].answer.document" :document="g.list[0].answer.document" />
        <p v-else-if="g.list[0]?.text">{{ g.list[0].text }}</p>
        <p v-else-if="!g.list[0]?.file" class="soft">Not answered.</p>
        <p v-if="g.list[0]?.file">
          <a :href="g.list[0].file.url" target="_blank" rel="noopener">{{ g.list[0].file.name }}</a>
        </p>
        <p v-if="g.isFinished && g.list.length > 1" class="soft">These are finished. Tick those whose points you mean to change.</p>
        <FoldOut v-if="g.list.length > 1" :open="g.isFinished || g.list.some((a) => g.near.has(a.attemptId))" class="near">
          <template #summary>{{ together(g).length }} of {{ g.list.length }} chosen</template>
          <ul>
            <li v-for="(a, n) in g.list" :key="a.attemptId">
              <label
                ><TickBox :model-value="isPicked(g, a)" @change="turn(a.attemptId)" /> {{ showsNames ? a.name : `answer ${n + 1}`
                }}{{ g.near.has(a.attemptId) ? `: ${a.text}` : ', in these words' }}</label
              >
            </li>
          </ul>
        </FoldOut>
        <form class="give" @submit.prevent="give(g)">
          <LineField
            class="points"
            inputmode="decimal"
            :aria-label="`Points for ${showsNames ? g.list[0]?.name : 'this answer'}`"
            :model-value="
              typed[g.key] ?? (g.list[0]?.given === null || g.list[0]?.given === undefined ? '' : formatPoints(g.list[0].given))
            "
            @input="typed[g.key] = ($event.target as HTMLInputElement).value"
          />
          of {{ formatPoints(answers.points) }}
          <LineField
            v-model="comments[g.list[0]!.attemptId]"
            class="words"
            maxlength="4000"
            aria-label="Comment"
            placeholder="Comment for the student"
          />
          <ActButton type="submit" look="quiet">{{ together(g).length > 1 ? `Save ${together(g).length} together` : 'Save' }}</ActButton>
        </form>
        <p v-if="faults[g.key]" class="fault" role="alert">{{ faults[g.key] }}</p>
      </article>
    </div>
    <div v-else-if="!fault" class="sheet-paper paper">
      <div v-for="n in 8" :key="n" class="skeleton" style="height: 20px; margin-top: 12px" />
    </div>
  </section>
</template>

<style scoped>
.paper {
  max-width: 720px;
  margin: 0 auto;
  box-sizing: border-box;
}
.bar {
  display: flex;
  gap: 20px;
  align-items: baseline;
  border-top: 1px solid var(--frost);
  margin-top: 16px;
  padding-top: 10px;
}
.answer {
  border-top: 1px solid var(--frost2);
  padding: 14px 0;
}
.near {
  margin: 4px 0;
}
.near ul {
  list-style: none;
  padding: 0;
  margin: 4px 0;
}
.give {
  display: flex;
  gap: 10px;
  align-items: baseline;
  margin-top: 6px;
}
.points {
  width: 60px;
  text-align: right;
}
.words {
  flex: 1;
}
</style>
