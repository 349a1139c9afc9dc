<script setup lang="ts">
import { tab } from '../platform/kept.ts';
import { useEventListener } from '@vueuse/core';
import * as api from '@rosemary/api/endpoints';
import { pointsInWords, countOf } from '@rosemary/core';
import type { GivenAnswer, Taking } from '@rosemary/api';
import { computed, defineAsyncComponent, nextTick, onBeforeUnmount, onMounted, ref, shallowRef } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { call, callWithFile } from '../platform/call.ts';
import { HttpProblem } from '../platform/http.ts';
import DocumentView from '../parts/DocumentView.vue';
import AnswerField from '../questions/AnswerField.vue';
import { ANSWER_FIELDS } from '../questions/answerFields.ts';
import BeadString from './BeadString.vue';
import { useAnswers } from './useAnswers.ts';
import { useTimeLeft } from './useTimeLeft.ts';
import ActButton from '../parts/ActButton.vue';
import { usePageTitle } from '../platform/usePageTitle.ts';
import { useNotices } from '../stores/noticeStore.ts';

const CalculatorPanel = defineAsyncComponent(() => import('./CalculatorPanel.vue'));
/** One calm column: a question, its answer, the way on. What is given is kept at once, and its place says so. */
const route = useRoute();
const router = useRouter();
const notices = useNotices();
const courseId = computed(() => String(route.params.courseId));
const itemId = computed(() => String(route.params.itemId));
const attemptId = computed(() => String(route.params.attemptId));
const base = computed(() => ({ courseId: courseId.value, itemId: itemId.value, attemptId: attemptId.value }));
const taking = shallowRef<Taking | null>(null);
usePageTitle(() => taking.value?.title);
const fault = ref('');
const at = ref(0);
const showsTime = ref(false);
const calculates = ref(false);
const isEnding = ref<'' | 'asking' | 'sending' | 'over'>('');
const own = useAnswers(
  () => base.value,
  () => attemptId.value,
);
const sendFile = (file: File, onProgress: (share: number) => void) => callWithFile(api.addAnswerFile, base.value, file, { onProgress });
const time = useTimeLeft(() => void end());
const questions = computed(() => taking.value?.sections.flatMap((s) => s.questions.map((q) => ({ ...q, section: s }))) ?? []);
const isPage = computed(() => taking.value?.setting.layout === 'page');
const shown = computed(() => (isPage.value ? questions.value : questions.value.slice(at.value, at.value + 1)));
const beads = computed(() =>
  questions.value.map((q) => ({
    id: q.id,
    isAnswered: (own.answers[q.id]?.answer ?? null) !== null,
    isFlagged: own.answers[q.id]?.isFlagged === true,
  })),
);
const unanswered = computed(() => beads.value.filter((b) => !b.isAnswered).length);
const least = computed(() => (taking.value?.setting.mayGoBack === false && !isPage.value ? at.value : 0));

function leave(): void {
  void router.replace({ name: 'study-item', params: { courseId: courseId.value, itemId: itemId.value } });
}
async function load(): Promise<void> {
  try {
    const found = (await call(api.getTaking, base.value)).taking;
    // All that the paper asks is drawn without a connection from here on.
    const kinds = new Set(found.sections.flatMap((section) => section.questions.map((q) => q.asked.kind)));
    await Promise.all([own.begin(found), ...[...kinds].map((kind) => ANSWER_FIELDS[kind].load())]);
    taking.value = found;
    time.set(found.now, found.begunAt, found.endsAt);
    const kept = Number(tab.read(`rosemary at ${attemptId.value}`) ?? '0');
    go(Math.min(found.setting.mayGoBack ? kept : furthest(), questions.value.length - 1));
  } catch (error) {
    if (error instanceof HttpProblem && error.code === 'not-now') leave();
    else fault.value = error instanceof Error ? error.message : '';
  }
}
/** Where one may not go back, one goes on behind the last that was answered. */
function furthest(): number {
  const last = beads.value.map((b) => b.isAnswered).lastIndexOf(true);
  return Math.min(questions.value.length - 1, last + 1);
}
function go(to: number): void {
  if (to < least.value || to < 0 || to >= questions.value.length) return;
  at.value = to;
  tab.keep(`rosemary at ${attemptId.value}`, String(to));
  const id = questions.value[to]?.id ?? '';
  own.view(id);
  void own.flush();
  if (isPage.value) document.getElementById(`question-${id}`)?.scrollIntoView({ block: 'start' });
  else void nextTick(() => document.getElementById(`question-${id}`)?.focus());
}

/** The time is asked again now and then: it may have been extended, or the attempt handed in by somebody else. */
async function askTime(): Promise<void> {
  const held = taking.value;
  if (held === null || isEnding.value === 'over') return;
  const found = await call(api.getTakingTime, base.value).catch(() => null);
  if (found === null) return;
  if (found.isOpen) time.set(found.now, held.begunAt, found.endsAt);
  else leave();
}
const asking = setInterval(() => void askTime(), 20_000);

async function handIn(): Promise<void> {
  isEnding.value = 'sending';
  for (;;) {
    await own.flush();
    if (own.waiting.size === 0) {
      try {
        await call(api.handInAttempt, base.value);
        notices.say(`“${taking.value?.title ?? 'The quiz'}” is handed in: all your answers are with your instructor.`);
        leave();
        return;
      } catch (error) {
        if (!(error instanceof HttpProblem) || !error.isPassing) {
          fault.value = error instanceof Error ? error.message : '';
          isEnding.value = '';
          return;
        }
      }
    }
    // Nothing is lost by waiting: the answers are here, and it is tried until they are there.
    await new Promise((done) => setTimeout(done, 2000));
  }
}
async function end(): Promise<void> {
  if (taking.value?.setting.atEnd === 'flag') return;
  isEnding.value = 'over';
  await own.flush();
  await call(api.handInAttempt, base.value).catch(() => undefined);
}

const leaves = (isBack: boolean): void => {
  if (taking.value?.setting.recordsLeaving === true) void call(api.noteLeave, base.value, { isBack }).catch(() => undefined);
};
const onSight = (): void => leaves(document.visibilityState === 'visible');
const onCopy = (event: Event): void => {
  if (taking.value?.setting.discouragesCopying === true) event.preventDefault();
};
function onKey(event: KeyboardEvent): void {
  const target = event.target as HTMLElement;
  const isTyping =
    target.isContentEditable ||
    ['TEXTAREA', 'SELECT'].includes(target.tagName) ||
    (target instanceof HTMLInputElement && !['radio', 'checkbox'].includes(target.type));
  if (isTyping || event.ctrlKey || event.metaKey || event.altKey || isPage.value || isEnding.value !== '') return;
  if (event.key === 'ArrowRight') go(at.value + 1);
  else if (event.key === 'ArrowLeft') go(at.value - 1);
  else if (/^[1-9]$/.test(event.key)) {
    const input = document.querySelector<HTMLInputElement>(`.taking .choice[data-key="${event.key}"] input`);
    input?.click();
    input?.focus();
  } else return;
  event.preventDefault();
}
onMounted(() => {
  void load();
});
useEventListener(document, 'visibilitychange', onSight);
useEventListener(window, 'keydown', onKey);
onBeforeUnmount(() => {
  clearInterval(asking);
});
const fileName = (answer: GivenAnswer | null | undefined): string => (answer?.kind === 'work' && answer.fileId ? 'A file' : '');
</script>

<template>
  <div class="taking" :class="{ uncopied: taking?.setting.discouragesCopying }" @copy="onCopy" @cut="onCopy" @contextmenu="onCopy">
    <div v-if="fault && !taking" class="pad">
      <h1>This cannot be opened</h1>
      <p class="soft">{{ fault }}</p>
    </div>
    <template v-else-if="taking">
      <header class="top">
        <div class="row">
          <h1>{{ taking.title }}</h1>
          <span class="soft">{{ countOf(questions.length, 'question') }}</span>
          <span class="state" :class="{ clay: own.isAway.value }" role="status">{{ own.words.value }}</span>
          <ActButton v-if="taking.setting.allowsCalculator" look="act" @click="calculates = !calculates">calculator</ActButton>
          <template v-if="time.left.value !== null">
            <b v-if="showsTime || time.told.value" class="left" :class="{ clay: time.told.value }">{{ time.words.value }}</b>
            <ActButton look="act" @click="showsTime = !showsTime">{{ showsTime ? 'hide the time' : 'show the time' }}</ActButton>
          </template>
        </div>
        <div
          v-if="time.left.value !== null"
          class="thread"
          role="progressbar"
          aria-label="Time left"
          :aria-valuenow="Math.round(time.share.value * 100)"
          :aria-valuetext="time.words.value"
        >
          <i :style="{ width: `${time.share.value * 100}%` }" />
        </div>
        <p class="hidden" role="alert">{{ time.told.value }}</p>
        <p v-if="time.left.value === 0 && taking.setting.atEnd === 'flag'" class="clay" role="alert">
          Your time is over. You may go on; your instructor sees that you did.
        </p>
        <BeadString :beads="beads" :current="at" :least="least" @go="go" />
      </header>
      <div v-if="isEnding === 'over'" class="column over" role="alert">
        <h2>Time is over</h2>
        <p>
          Your answers were handed in as they stood.
          <template v-if="own.waiting.size > 0">
            {{ own.waiting.size === 1 ? 'One did' : `${own.waiting.size} did` }} not reach the server in time; it is kept and shown to your
            instructor when the connection returns. Leave this page open.
          </template>
        </p>
        <p v-if="own.late.size > 0" class="clay">
          {{ own.late.size === 1 ? 'One answer' : `${own.late.size} answers` }} came after time. Your instructor sees them and decides.
        </p>
        <p><ActButton look="go" @click="leave">Go on</ActButton></p>
      </div>
      <div v-else class="column">
        <section v-for="q in shown" :id="`question-${q.id}`" :key="q.id" class="question" tabindex="-1" @focusin="own.view(q.id)">
          <template v-if="q.section.questions[0]?.id === q.id && (q.section.title || q.section.instructions)">
            <h2>{{ q.section.title }}</h2>
            <p class="soft section">{{ q.section.instructions }}</p>
          </template>
          <p class="soft about">
            Question {{ questions.findIndex((x) => x.id === q.id) + 1 }} of {{ questions.length }} · {{ pointsInWords(q.points) }}
          </p>
          <div v-if="q.stimulus" class="stimulus"><DocumentView :document="q.stimulus" /></div>
          <div v-if="own.conflicts.get(q.id)" class="conflict" role="alert">
            <b>This question was answered in another window meanwhile.</b>
            <p>
              <ActButton look="act" @click="own.settle(q.id, false)">Take what stands there</ActButton> ·
              <ActButton look="act" @click="own.settle(q.id, true)">Keep what is here</ActButton>
            </p>
            <AnswerField :asked="q.asked" :answer="own.conflicts.get(q.id)?.answer ?? null" label="The answer there" is-fixed />
          </div>
          <p v-if="own.refused.get(q.id)" class="fault" role="alert">{{ own.refused.get(q.id) }}</p>
          <AnswerField
            :asked="q.asked"
            :answer="own.answers[q.id]?.answer ?? null"
            :label="`Question ${questions.findIndex((x) => x.id === q.id) + 1}`"
            :send-file="sendFile"
            :file-name="fileName(own.answers[q.id]?.answer)"
            @answer="own.choose(q.id, $event)"
            @typing="own.type(q.id, $event)"
          />
          <p v-if="isPage" class="acts">
            <ActButton look="act" @click="own.flag(q.id, !own.answers[q.id]?.isFlagged)">
              {{ own.answers[q.id]?.isFlagged ? 'no need to come back' : 'come back to this' }}
            </ActButton>
          </p>
        </section>
        <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
        <div v-if="isEnding === 'asking' || isEnding === 'sending'" class="ask" role="alertdialog" aria-label="Hand in">
          <p>
            {{
              unanswered === 0
                ? 'Every question is answered.'
                : unanswered === 1
                  ? 'One question is not answered.'
                  : `${unanswered} questions are not answered.`
            }}
            After handing in nothing can be changed.
          </p>
          <p v-if="isEnding === 'sending'" class="soft" role="status">
            {{ own.isAway.value ? 'No connection. It is handed in when it returns; leave this page open.' : 'Handing in…' }}
          </p>
          <p>
            <ActButton look="go" :disabled="isEnding === 'sending'" @click="handIn">Hand in</ActButton>
            <ActButton look="quiet" :disabled="isEnding === 'sending'" @click="isEnding = ''">Not yet</ActButton>
          </p>
        </div>
        <div v-else class="way">
          <template v-if="!isPage">
            <ActButton v-if="at > least" look="act" @click="go(at - 1)">← {{ at }}</ActButton>
            <ActButton look="act" @click="own.flag(questions[at]!.id, !own.answers[questions[at]!.id]?.isFlagged)">
              {{ own.answers[questions[at]!.id]?.isFlagged ? 'no need to come back' : 'come back to this' }}
            </ActButton>
          </template>
          <span class="grow" />
          <ActButton v-if="!isPage && at < questions.length - 1" look="go" @click="go(at + 1)">Next →</ActButton>
          <ActButton v-else look="go" @click="isEnding = 'asking'">Hand in</ActButton>
          <ActButton v-if="!isPage && at < questions.length - 1 && unanswered === 0" look="quiet" @click="isEnding = 'asking'">
            Hand in
          </ActButton>
        </div>
        <p class="soft foot">
          Your answers are kept as you give them. If the connection drops, go on: they are sent when it returns, and your time is the
          server’s.{{ isPage ? '' : ' Keys 1 to 9 choose, ← and → go from question to question.' }}
          <template v-if="taking.setting.recordsLeaving"> Leaving this page is recorded.</template>
        </p>
      </div>
      <CalculatorPanel v-if="calculates" @close="calculates = false" />
    </template>
    <div v-else class="column">
      <div v-for="n in 5" :key="n" class="skeleton" style="height: 26px; margin-top: 16px" />
    </div>
  </div>
</template>

<style scoped>
.taking {
  background: var(--paper);
  min-height: 100vh;
}
.top {
  padding: 14px 60px 0;
}
.row {
  display: flex;
  align-items: baseline;
  gap: 14px 22px;
  flex-wrap: wrap;
}
.row h1 {
  font-size: 18px;
}
.state {
  margin-left: auto;
  color: var(--soft);
}
.left {
  font-feature-settings: 'tnum';
}
.thread {
  height: 3px;
  background: var(--frost2);
  margin-top: 10px;
}
.thread i {
  display: block;
  height: 3px;
  background: var(--leaf);
}
.column {
  width: min(640px, calc(100% - 32px));
  margin: 18px auto 60px;
}
.question {
  outline: none;
  scroll-margin-top: 20px;
}
.question + .question {
  border-top: 1px solid var(--frost);
  margin-top: 26px;
  padding-top: 22px;
}
.question :deep(.document) {
  font-size: 18px;
  line-height: 29px;
}
.question :deep(.choice .document) {
  font: 17px/26px var(--sans);
}
.about {
  margin-bottom: 6px;
}
.section {
  margin-bottom: 14px;
  white-space: pre-line;
}
.stimulus {
  border-left: 3px solid var(--leaf);
  padding-left: 16px;
  margin-bottom: 16px;
}
.conflict {
  border-left: 3px solid var(--clay);
  padding: 4px 0 4px 14px;
  margin-bottom: 16px;
}
.way {
  display: flex;
  gap: 24px;
  align-items: center;
  margin-top: 28px;
  font-size: 15px;
}
.grow {
  flex: 1;
}
.way .go {
  font-size: 15px;
  padding: 8px 20px;
}
.ask {
  margin-top: 28px;
  border-top: 1px solid var(--frost);
  padding-top: 14px;
}
.ask p {
  margin-bottom: 10px;
}
.over {
  padding-top: 30px;
}
.over p {
  margin: 10px 0;
}
.acts {
  margin-top: 10px;
}
.foot {
  margin-top: 50px;
  border-top: 1px solid var(--frost);
  padding-top: 10px;
  font-size: 13.5px;
}
.uncopied {
  user-select: none;
}
@media print {
  .uncopied {
    display: none;
  }
}
@media (max-width: 600px) {
  .top {
    padding: 10px 16px 0;
  }
}
</style>
