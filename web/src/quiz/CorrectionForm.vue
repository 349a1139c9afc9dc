<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { NewCorrection, QuestionView } from '@rosemary/api';
import { isMarkedByPerson, parsePoints, type QuestionKey } from '@rosemary/core';
import { computed, onMounted, ref, shallowRef } from 'vue';
import LineInput from '../parts/LineInput.vue';
import { call, takeBack } from '../platform/call.ts';
import { HttpProblem } from '../platform/http.ts';
import { useNotices } from '../stores/noticeStore.ts';
import KeyEditor from '../questions/KeyEditor.vue';
import QuestionOnPaper from '../questions/QuestionOnPaper.vue';
import PickMark from '../parts/fields/PickMark.vue';
import ActButton from '../parts/ActButton.vue';
import TickBox from '../parts/fields/TickBox.vue';
import LineField from '../parts/fields/LineField.vue';

/** How a question is scored is changed after it was taken: whom it moves is shown first. */
const props = defineProps<{
  courseId: string;
  base: { readonly courseId: string; readonly itemId: string };
  questionId: string;
  title: string;
  points: number;
  reload: () => Promise<void>;
}>();
const emit = defineEmits<{ leave: [] }>();
const notices = useNotices();
const question = shallowRef<QuestionView | null>(null);
/** The newest version in the bank, where it is another. */
const newer = shallowRef<QuestionView | null>(null);
const key = shallowRef<QuestionKey | null>(null);
const taken = ref(0);
function takeOver(): void {
  if (newer.value === null) return;
  key.value = newer.value.key;
  kind.value = 'key';
  // The editor begins anew with it.
  taken.value += 1;
}
const kind = ref<NewCorrection['kind']>('key');
const reason = ref('');
const points = ref(props.points);
const fault = ref('');
const isBusy = ref(false);
const hasKey = computed(() => key.value !== null && !isMarkedByPerson(key.value.kind));
onMounted(async () => {
  try {
    const found = await call(api.getCorrectable, { ...props.base, questionId: props.questionId });
    question.value = found.question;
    newer.value = found.newer;
    key.value = found.question.key;
    if (!hasKey.value) kind.value = 'credit';
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
});
function setPoints(text: string): void {
  const read = parsePoints(text);
  fault.value = read.ok ? '' : read.reason;
  if (read.ok) points.value = read.value;
}
/** The question of the bank is corrected too, as a new version, so that the next quiz is not scored by the wrong key. */
const alsoInBank = ref(true);
const bank = shallowRef<QuestionView | null>(null);
const uses = ref<readonly { itemId: string; title: string; course: string }[]>([]);
onMounted(async () => {
  try {
    const found = await call(api.getQuestion, { courseId: props.courseId, questionId: props.questionId });
    bank.value = found.question;
    uses.value = found.uses.filter((u) => u.itemId !== props.base.itemId);
  } catch {
    // Whoever does not reach the bank of this question is not offered to change it.
    bank.value = null;
  }
});
async function correctBank(next: QuestionKey | null): Promise<string> {
  const held = bank.value;
  if (held === null || next === null) return '';
  try {
    await call(api.changeQuestion, { courseId: props.courseId, questionId: props.questionId }, { version: held.version, key: next });
    return ' The question in the bank has a new version with this key.';
  } catch (error) {
    return ` The question in the bank was not changed: ${error instanceof HttpProblem ? error.message : 'try it there.'}`;
  }
}
async function apply(): Promise<void> {
  fault.value = reason.value.trim() === '' ? 'Say why. The reason stands in the ledger.' : '';
  if (fault.value !== '') return;
  isBusy.value = true;
  const body: NewCorrection = {
    questionId: props.questionId,
    kind: kind.value,
    key: kind.value === 'key' ? key.value : null,
    points: kind.value === 'points' ? points.value : null,
    reason: reason.value.trim(),
  };
  try {
    const corrected = await call(api.correctQuestion, props.base, body, `Correct “${props.title}”`);
    if (corrected === null) return;
    const { id, isApplied } = corrected;
    const bankWords = body.kind === 'key' && alsoInBank.value ? await correctBank(body.key) : '';
    await props.reload();
    notices.say(
      `${isApplied ? 'Corrected, and every attempt marked again.' : 'Corrected. The attempts are marked again one after the other.'}${bankWords}`,
      async () => {
        await takeBack(api.correctQuestion, { ...props.base, correctionId: id });
        await props.reload();
      },
    );
    emit('leave');
  } catch (error) {
    fault.value = error instanceof HttpProblem ? error.message : 'Not corrected.';
  } finally {
    isBusy.value = false;
  }
}
</script>

<template>
  <div class="sheet correction" role="dialog" aria-label="Correct a question">
    <h2>Correct “{{ title }}”</h2>
    <div v-if="question" class="shown"><QuestionOnPaper :question="question" /></div>
    <fieldset>
      <legend class="hidden">What is changed</legend>
      <label v-if="hasKey"><PickMark v-model="kind" name="correction" value="key" /> the key: accept other answers</label>
      <label><PickMark v-model="kind" name="correction" value="credit" /> everybody has all its points</label>
      <label><PickMark v-model="kind" name="correction" value="drop" /> it is left out; the rest makes the quiz’s points</label>
      <label><PickMark v-model="kind" name="correction" value="points" /> it has other points</label>
    </fieldset>
    <p v-if="newer && hasKey" class="label">
      It was taken as version {{ question?.number }}; the bank has version {{ newer.number }}.
      <ActButton look="act" @click="takeOver">Take over its key</ActButton>
      <template v-if="taken > 0"> Its key stands below.</template>
    </p>
    <KeyEditor
      v-if="kind === 'key' && key && hasKey"
      :key="taken"
      :value="key"
      :picture="question?.picture ?? null"
      :course-id="courseId"
      @change="key = $event"
    />
    <template v-if="kind === 'key' && hasKey && bank">
      <label><TickBox v-model="alsoInBank" /> the question in the bank too, as a new version</label>
      <p v-if="uses.length > 0" class="label">
        It also stands in {{ uses.map((u) => `“${u.title}” (${u.course})`).join(', ') }}. What nobody has taken yet takes the newest
        version; what was taken is corrected there.
      </p>
    </template>
    <p v-if="kind === 'points'"><LineInput class="points" :value="points / 1000" aria-label="Points" @commit="setPoints" /> points</p>
    <label class="field"
      ><span class="label">Why; it stands in the ledger, and students can ask for it</span><LineField v-model="reason" maxlength="600"
    /></label>
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <p>
      <ActButton look="go" :disabled="isBusy || !question" @click="apply">Show whom it moves</ActButton>
      <ActButton look="quiet" @click="emit('leave')">Leave it</ActButton>
    </p>
  </div>
</template>

<style scoped>
.correction {
  padding: 20px 26px;
  max-height: 84vh;
  overflow: auto;
}
.shown {
  border-left: 3px solid var(--frost);
  padding-left: 14px;
  margin: 10px 0;
}
fieldset {
  border: 0;
  padding: 0;
  margin: 10px 0;
  display: flex;
  flex-direction: column;
  gap: 4px;
}
.points {
  width: 60px;
}
.field {
  margin-top: 12px;
}
</style>
