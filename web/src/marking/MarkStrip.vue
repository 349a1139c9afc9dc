<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { Adjustments, MarkView, Work } from '@rosemary/api';
import { criterionPoints, formatPoints, parsePoints, plainText, rubricScore, type DocumentNode } from '@rosemary/core';
import { computed, defineAsyncComponent, nextTick, onMounted, ref } from 'vue';
import WorkingLines from '../parts/WorkingLines.vue';
import { call } from '../platform/call.ts';
import { HttpProblem } from '../platform/http.ts';
import { useSaving } from '../platform/useSaving.ts';
import { markLines } from './markLines.ts';
import CriterionStep from './CriterionStep.vue';
import GroupShare from './GroupShare.vue';
import ActButton from '../parts/ActButton.vue';
import FloatMenu from '../parts/FloatMenu.vue';
import LineField from '../parts/fields/LineField.vue';
import type { Typing } from '../parts/fields/typing.ts';

interface Draft {
  choices: Record<string, string>;
  score: number | null;
  scoreReason: string;
  feedback: DocumentNode | null;
  given: Record<string, number>;
  comments: Record<string, string>;
  adjustments: Adjustments;
}
const props = defineProps<{
  work: Work;
  base: { readonly courseId: string; readonly itemId: string; readonly enrolmentId: string };
  canRelease: boolean;
}>();
const emit = defineEmits<{ finished: [work: Work]; saved: [enrolmentId: string, mark: MarkView]; next: []; release: []; withhold: [] }>();
const own = (m: MarkView): Draft => ({
  choices: { ...m.choices },
  score: m.score,
  scoreReason: m.scoreReason,
  feedback: m.feedback,
  given: { ...m.given },
  comments: { ...m.comments },
  adjustments: m.adjustments,
});
const draft = ref<Draft>(own(props.work.mark));
const scoreText = ref(props.work.mark.score === null ? '' : formatPoints(props.work.mark.score));
const scoreField = ref<Typing | null>(null);
const at = ref(0);
const fault = ref('');
const asks = ref('');
const isFeedbackOpen = ref(false);
const showsWorking = ref(false);
const isTouched = ref(false);
/** What a student reads is not changed by a stray key: it is unlocked first, and stays with them until it is finished anew. */
const isUnlocked = ref(false);
const isLocked = computed(() => props.work.mark.state === 'released' && !isTouched.value && !isUnlocked.value);
let version = props.work.mark.version;
const enrolmentId = props.work.entry.enrolmentId;

// When they are needed: what compares two marks, and feedback with its editor.
const TwoVersions = defineAsyncComponent(() => import('../parts/TwoVersions.vue'));
const FeedbackPanel = defineAsyncComponent(() => import('./FeedbackPanel.vue'));
const saving = useSaving<Draft>(
  () => `mark ${props.base.itemId} ${props.base.enrolmentId}`,
  async (value) => {
    const mark = await call(api.saveMark, props.base, { ...value, version });
    ({ version } = mark);
    emit('saved', enrolmentId, mark);
    return null;
  },
);
onMounted(async () => {
  const kept = await saving.findKept();
  if (kept !== null) {
    draft.value = kept;
    isTouched.value = true;
    saving.push(kept);
  }
});
const criteria = computed(() => props.work.rubric?.criteria ?? []);
/** Criteria that give points: where there are none, the score is typed. */
const scored = computed(() => criteria.value.filter((c) => c.form !== 'comment'));
const judged = computed(() => rubricScore(criteria.value, draft.value.choices, draft.value.given));
const isBegun = computed(() => Object.keys(draft.value.choices).length + Object.keys(draft.value.given).length > 0);
const total = computed(() => draft.value.score ?? (scored.value.length > 0 && isBegun.value ? judged.value.score : null));
/** What the notes in the margin give or take by their stock remarks. */
const byNotes = computed(() => props.work.notes.reduce((sum, n) => sum + (n.points ?? 0), 0));
const differs = computed(() => scored.value.length > 0 && draft.value.score !== null && draft.value.score !== judged.value.score);
const state = computed(() => (isTouched.value ? 'draft' : props.work.mark.state));
const stateWords = computed(() =>
  props.work.part.kind === 'marks' && props.work.part.isOneOfTwo && state.value === 'finished'
    ? 'finished; waits for the other marker'
    : state.value === 'draft'
      ? !canFinish.value && !isTouched.value && props.work.mark.version === 0
        ? 'not begun'
        : 'draft, not finished'
      : state.value === 'finished'
        ? 'finished, not released'
        : 'released',
);
const studentWords = computed(() =>
  isLocked.value
    ? 'The student reads this mark. Unlock it to change it; they keep it until you finish the new one.'
    : props.work.mark.studentReads === 'an earlier version' || (props.work.mark.state === 'released' && state.value === 'draft')
      ? 'Until you finish this, the student reads the mark that was released before.'
      : '',
);

function touch(): void {
  isTouched.value = true;
  fault.value = '';
  // What was asked was about the entry before.
  asks.value = '';
  saving.push({ ...draft.value });
}
/** Done earns all the points, not done none. */
function setDone(isDone: boolean): void {
  const score = isDone ? props.work.possible : 0;
  draft.value = { ...draft.value, score: draft.value.score === score ? null : score };
  scoreText.value = draft.value.score === null ? '' : formatPoints(draft.value.score);
  touch();
}
const canFinish = computed(() => (props.work.judged === 'words' ? plainText(draft.value.feedback).trim() !== '' : total.value !== null));
function choose(digit: number): void {
  if (isLocked.value) return;
  if (props.work.judged === 'done' && digit <= 2) {
    setDone(digit === 1);
    return;
  }
  const criterion = criteria.value[at.value];
  if (criterion?.form === 'count') {
    give(criterion.id, digit);
    return;
  }
  const level = criterion?.levels[digit - 1];
  if (criterion === undefined || level === undefined) return;
  const choices = { ...draft.value.choices };
  if (choices[criterion.id] === level.id) delete choices[criterion.id];
  else choices[criterion.id] = level.id;
  // Points within a range belong to the level they were typed for.
  const given = { ...draft.value.given };
  if (criterion.form === 'range') delete given[criterion.id];
  draft.value = { ...draft.value, choices, given };
  touch();
}
function give(criterionId: string, value: number | null): void {
  const given = { ...draft.value.given };
  if (value === null) delete given[criterionId];
  else given[criterionId] = value;
  draft.value = { ...draft.value, given };
  touch();
}
function say(criterionId: string, words: string): void {
  draft.value = { ...draft.value, comments: { ...draft.value.comments, [criterionId]: words } };
  touch();
}
function setAdjustments(adjustments: Adjustments): void {
  draft.value = { ...draft.value, adjustments };
  touch();
}
/** Takes what one of two gave as the mark that counts, to be changed further or finished. */
function take(mark: MarkView): void {
  draft.value = { ...own(mark), adjustments: draft.value.adjustments };
  scoreText.value = mark.score === null ? '' : formatPoints(mark.score);
  touch();
}
function setTotal(score: number, reason: string): void {
  draft.value = { ...draft.value, score, scoreReason: draft.value.scoreReason === '' ? reason : draft.value.scoreReason };
  scoreText.value = formatPoints(score);
  touch();
}
function chooseAt(n: number, digit: number): void {
  at.value = n;
  choose(digit);
}
function nextCriterion(by: number): void {
  const many = criteria.value.length;
  at.value = (at.value + by + many) % many;
}
function setScore(): void {
  if (scoreText.value.trim() === '') {
    draft.value = { ...draft.value, score: null };
    touch();
    return;
  }
  const parsed = parsePoints(scoreText.value);
  asks.value = '';
  if (!parsed.ok) {
    fault.value = parsed.reason;
    return;
  }
  draft.value = { ...draft.value, score: parsed.value };
  touch();
}
async function finish(isAboveConfirmed = false): Promise<boolean> {
  fault.value = '';
  asks.value = '';
  setScoreIfTyped();
  await saving.flush();
  if (saving.state.value === 'away' || saving.state.value === 'conflict' || saving.state.value === 'refused') {
    fault.value = saving.words.value;
    return false;
  }
  try {
    const work = await call(api.finishMark, props.base, { version, isAboveConfirmed });
    ({ version } = work.mark);
    isTouched.value = false;
    emit('finished', work);
    return true;
  } catch (error) {
    if (error instanceof HttpProblem && error.code === 'confirm') asks.value = error.message;
    else fault.value = error instanceof HttpProblem ? error.message : 'Not finished.';
    return false;
  }
}
function setScoreIfTyped(): void {
  const shown = draft.value.score === null ? '' : formatPoints(draft.value.score);
  if (scoreText.value.trim() !== shown) setScore();
}
/** While a mark is being finished, what is typed is for the next work: it must not fall into this one's field. */
const isFinishing = ref(false);
async function finishAndNext(): Promise<void> {
  if (isFinishing.value) return;
  isFinishing.value = true;
  scoreField.value?.blur();
  try {
    if (state.value !== 'draft' || (await finish())) emit('next');
  } finally {
    isFinishing.value = false;
  }
}
const theirs = computed(() => (saving.state.value === 'conflict' ? (saving.fault.value?.problem.current as MarkView) : null));
async function takeTheirs(): Promise<void> {
  const next = theirs.value;
  if (!next) return;
  ({ version } = next);
  draft.value = own(next);
  scoreText.value = next.score === null ? '' : formatPoints(next.score);
  isTouched.value = false;
  await saving.forget();
  emit('saved', enrolmentId, next);
}
function keepMine(): void {
  const next = theirs.value;
  if (!next) return;
  ({ version } = next);
  touch();
}
defineExpose({
  take,
  setTotal,
  choose,
  nextCriterion,
  finishAndNext,
  flush: saving.flush,
  isUnsaved: () => !['idle', 'saved'].includes(saving.state.value),
  openFeedback: () => {
    isFeedbackOpen.value = !isLocked.value;
  },
  unlock: () => {
    isUnlocked.value = true;
  },
  isFinishing: () => isFinishing.value,
  hasRubric: () => criteria.value.length > 0,
  takesScore: () => scored.value.length === 0 && props.work.judged === 'points' && props.work.part.kind !== 'looks',
  /** Where there is no rubric a digit begins the score, so that the hand need not leave the keys. */
  typeScore: async (digit: string) => {
    if (isLocked.value) return;
    scoreText.value = digit;
    await nextTick();
    scoreField.value?.focus();
  },
  criterion: () => criteria.value[at.value]?.title ?? '',
});
const feedbackWords = computed(() => {
  const text = plainText(draft.value.feedback);
  return text === '' ? 'Overall feedback' : text.length > 46 ? `${text.slice(0, 46)}…` : text;
});
</script>

<template>
  <section class="strip" aria-label="Mark">
    <TwoVersions
      v-if="theirs"
      class="versions"
      :says="`${theirs.marker ?? 'Somebody else'} saved another mark meanwhile.`"
      :lines="markLines(criteria, theirs, { ...draft, total })"
      @theirs="takeTheirs"
      @mine="keepMine"
    />
    <FeedbackPanel
      v-if="isFeedbackOpen"
      :work="work"
      :base="base"
      :feedback="draft.feedback"
      :state="saving.words.value"
      @close="isFeedbackOpen = false"
      @change="
        draft = { ...draft, feedback: plainText($event).trim() === '' ? null : $event };
        touch();
      "
    />
    <fieldset class="criteria" :disabled="isLocked">
      <legend class="hidden">Mark</legend>
      <CriterionStep
        v-for="(c, n) in criteria"
        :key="c.id"
        :criterion="c"
        :choice="draft.choices[c.id]"
        :given="draft.given[c.id]"
        :comment="draft.comments[c.id] ?? ''"
        :is-now="n === at"
        :notes="work.notes.length"
        @now="at = n"
        @choose="chooseAt(n, $event)"
        @give="give(c.id, $event)"
        @comment="say(c.id, $event)"
      />
      <div v-if="work.judged === 'done'" class="cr score-only" role="radiogroup" aria-label="Done or not">
        <b>Judged</b>
        <div class="lv">
          <ActButton role="radio" :aria-checked="total === work.possible" :class="{ on: total === work.possible }" @click="setDone(true)">
            Done
          </ActButton>
          <ActButton role="radio" :aria-checked="total === 0" :class="{ on: total === 0 }" @click="setDone(false)">Not yet</ActButton>
        </div>
      </div>
      <div v-else-if="work.judged === 'words'" class="cr score-only"><b>Judged in words</b></div>
      <div v-else-if="scored.length === 0" class="cr score-only">
        <label
          ><b>Score</b> <span class="label">of {{ formatPoints(work.possible) }}</span
          ><LineField
            ref="scoreField"
            v-model="scoreText"
            class="big"
            inputmode="decimal"
            aria-label="Score"
            @change="setScore"
            @keydown.enter.prevent="finishAndNext"
        /></label>
        <ActButton v-if="byNotes !== 0" look="act" @click="setTotal(Math.max(0, byNotes > 0 ? byNotes : work.possible + byNotes), '')">
          by the notes: {{ formatPoints(Math.max(0, byNotes > 0 ? byNotes : work.possible + byNotes)) }}
        </ActButton>
      </div>
      <div v-if="criteria.length === 0" class="cr">
        <ActButton look="act" class="fb" @click="isFeedbackOpen = true">{{ feedbackWords }} <kbd>F</kbd></ActButton>
      </div>
    </fieldset>
    <div class="sum">
      <div class="row">
        <span v-if="work.judged === 'words'" class="serif figure soft">“ ”</span
        ><span v-else-if="work.judged === 'done' && total !== null" class="serif figure" :class="{ unreleased: state !== 'released' }">{{
          total === 0 ? 'Not yet' : 'Done'
        }}</span
        ><span v-else-if="total !== null" class="serif figure" :class="{ unreleased: state !== 'released' }">{{ formatPoints(total) }}</span
        ><span v-else class="serif figure soft">–</span
        ><span v-if="work.judged !== 'words'" class="soft"
          >of {{ formatPoints(work.possible) }} ·
          <ActButton look="act" :aria-expanded="showsWorking" @click="showsWorking = !showsWorking">working</ActButton></span
        >
      </div>
      <div class="label" role="status">{{ [saving.words.value, stateWords].filter(Boolean).join(' · ') }}</div>
      <p v-if="studentWords" class="label">
        {{ studentWords }}
        <ActButton v-if="isLocked && work.part.kind !== 'looks'" look="act" @click="isUnlocked = true">Unlock <kbd>U</kbd></ActButton>
      </p>
      <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
      <p v-if="asks" class="fault" role="alert">{{ asks }} <ActButton look="act" @click="finish(true)">Yes, finish</ActButton></p>
      <div class="acts">
        <ActButton v-if="work.part.kind === 'looks'" look="go" @click="emit('next')">Next →</ActButton
        ><ActButton v-else-if="state === 'draft'" look="go" :disabled="!canFinish" @click="finishAndNext">Finish, next →</ActButton
        ><ActButton v-else look="go" @click="emit('next')">Next →</ActButton>
        <ActButton v-if="canRelease && state === 'finished'" look="quiet" @click="emit('release')">Release</ActButton
        ><ActButton v-if="canRelease && state === 'released'" look="quiet" @click="emit('withhold')">Take back</ActButton>
        <FloatMenu v-if="scored.length > 0" stays
          ><template #activator="{ props: p }"
            ><ActButton v-bind="p" look="quiet">{{ draft.score === null ? 'Other score' : 'Score set' }}</ActButton></template
          >
          <div class="sheet pad" style="width: 260px">
            <label class="field"
              ><span class="label">Score instead of the rubric’s {{ formatPoints(judged.score) }}; empty takes the rubric’s</span
              ><LineField v-model="scoreText" inputmode="decimal" @change="setScore" /></label
            ><label class="field"
              ><span class="label">Reason, which the student sees</span
              ><LineField v-model="draft.scoreReason" maxlength="600" @input="touch"
            /></label></div
        ></FloatMenu>
        <GroupShare v-if="work.group" :group="work.group" :adjustments="draft.adjustments" :total="total" @change="setAdjustments" />
        <ActButton v-if="criteria.length > 0" look="quiet" :title="feedbackWords" @click="isFeedbackOpen = !isFeedbackOpen">
          {{ draft.feedback ? 'Feedback ✓' : 'Feedback' }}
        </ActButton>
      </div>
      <p v-if="differs" class="label straw">
        differs from the rubric’s {{ formatPoints(judged.score) }}{{ draft.scoreReason ? `: ${draft.scoreReason}` : '' }}
      </p>
    </div>
    <div v-if="showsWorking" class="working">
      <WorkingLines
        :lines="[
          ...scored.map((c) => ({
            rule: c.title,
            value: `${formatPoints(criterionPoints(c, draft) ?? 0)} / ${formatPoints(Math.max(...c.levels.map((l) => l.points)))}`,
            look: 'plain' as const,
            itemId: null,
            lines: [],
          })),
          work.working,
          ...work.working.lines,
        ]"
      /><ActButton look="act" @click="showsWorking = false">close</ActButton>
    </div>
  </section>
</template>

<style scoped>
/* Over the work, like the feedback. */
.versions {
  position: absolute;
  left: 0;
  right: 0;
  bottom: 100%;
  z-index: 5;
  max-height: 46vh;
  overflow: auto;
  margin: 0;
  padding: 12px 20px;
  background: var(--paper);
}
.strip {
  position: relative;
  background: var(--paper);
  border-top: 1.5px solid var(--needle);
  display: flex;
  padding: 10px 20px;
  gap: 22px;
  min-height: 108px;
  flex: none;
}
.criteria {
  margin: 0;
  padding: 0;
  border: 0;
  flex: 1;
  display: flex;
  gap: 22px;
  min-width: 0;
}
.cr {
  flex: 1;
  min-width: 0;
}
.lv {
  display: flex;
  gap: 3px;
  margin-top: 6px;
  padding-bottom: 4px;
  border-bottom: 2px solid transparent;
}
.lv button {
  flex: 1;
  text-align: center;
  padding: 3px 0;
  border-radius: 3px;
  background: var(--frost2);
  color: var(--soft);
  border: 0;
  font: inherit;
  cursor: pointer;
}
.lv button:hover {
  background: var(--frost);
}
.lv button.on {
  background: var(--needle);
  color: var(--on-needle);
  font-weight: 600;
}
.score-only {
  max-width: 180px;
}
.big {
  font-size: 22px;
  line-height: 30px;
}
.fb {
  padding-top: 4px;
}
.sum {
  width: 372px;
  box-sizing: border-box;
  border-left: 1px solid var(--frost);
  padding-left: 20px;
  flex: none;
}
.row {
  display: flex;
  align-items: baseline;
  gap: 8px;
}
.figure {
  font-size: 30px;
  line-height: 34px;
}
.acts {
  padding-top: 6px;
  display: flex;
  gap: 2px;
  align-items: center;
  flex-wrap: wrap;
}
.working {
  position: absolute;
  bottom: 100%;
  background: var(--paper);
  border: 1px solid var(--frost);
  border-bottom: 0;
  padding: 12px 18px;
  box-shadow: 0 -6px 22px rgb(20 32 26 / 0.12);
  z-index: 5;
}
.working {
  right: 0;
  width: 360px;
}
@media (max-width: 1180px) {
  .sum {
    width: 250px;
  }
  .criteria {
    gap: 12px;
  }
}
</style>
