<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import { urlOf } from '@rosemary/api/endpoints';
import type { QuestionChange, QuestionView } from '@rosemary/api';
import {
  alikeWeights,
  keyInWords,
  nodesOfType,
  plainText,
  questionFilesAt,
  type DocumentNode,
  type QuestionContent,
  type QuestionKey,
  type QuestionPicture,
} from '@rosemary/core';
import { computed, defineAsyncComponent, onMounted, ref, shallowRef } from 'vue';
import DocumentEditor from '../parts/DocumentEditor.vue';
import { call } from '../platform/call.ts';
import { makeSerial } from '../platform/serial.ts';
import { useSaving } from '../platform/useSaving.ts';
import KeyEditor from './KeyEditor.vue';
import { newId } from './keys/shares.ts';
import ActButton from '../parts/ActButton.vue';

// Seldom needed, with what compares two texts.
const TwoVersions = defineAsyncComponent(() => import('../parts/TwoVersions.vue'));
type Draft = Pick<QuestionContent, 'words' | 'key' | 'feedback' | 'picture'>;
/** A question, written where it stands. It saves as one goes. */
const props = defineProps<{ question: QuestionView; courseId: string }>();
const emit = defineEmits<{ saved: [question: QuestionView]; next: [] }>();
const { words: ownWords, key: ownKey, feedback: ownFeedback, picture: ownPicture } = props.question;
const asKept: Draft = { words: ownWords, key: ownKey, feedback: ownFeedback, picture: ownPicture };
/** Where each file was kept when it was opened; what is new is a file of this course. */
const homes = new Map<string, string>();
const draft = shallowRef<Draft>(
  questionFilesAt(asKept, (fileId) => urlOf(api.getQuestionFile, { courseId: props.courseId, questionId: props.question.id, fileId })),
);
const homeOf = (fileId: string): string => homes.get(fileId) ?? urlOf(api.getFile, { courseId: props.courseId, fileId });
for (const [, src = '', fileId = ''] of JSON.stringify(asKept).matchAll(/"(\/api\/courses\/[0-9a-f-]{36}\/files\/([0-9a-f-]{36}))"/g))
  homes.set(fileId, src);
const editor = ref<InstanceType<typeof DocumentEditor> | null>(null);
const serial = makeSerial();
let version = props.question.version;

const saving = useSaving<Draft>(
  () => `question ${props.question.id}`,
  (content) =>
    serial(async () => {
      // Pictures are shown through the bank, and kept where they are.
      const change: QuestionChange = { ...questionFilesAt(content, homeOf), version };
      const done = await call(api.changeQuestion, { courseId: props.courseId, questionId: props.question.id }, change);
      version = done.version;
      emit('saved', done.question);
      return null;
    }),
);
onMounted(async () => {
  const kept = await saving.findKept();
  if (kept === null) return;
  draft.value = kept;
  editor.value?.replace(kept.words);
  saving.push(kept);
});
const theirs = computed(() => (saving.state.value === 'conflict' ? (saving.fault.value?.problem.current as QuestionView) : null));
const keyText = (key: QuestionKey): string => keyInWords(key, undefined).join('\n');
const shownHere = (content: Draft): Draft =>
  questionFilesAt(content, (fileId) => urlOf(api.getQuestionFile, { courseId: props.courseId, questionId: props.question.id, fileId }));
async function takeTheirs(): Promise<void> {
  const { value: next } = theirs;
  if (next === null) return;
  ({ version } = next);
  draft.value = shownHere({ words: next.words, key: next.key, feedback: next.feedback, picture: next.picture });
  editor.value?.replace(draft.value.words);
  await saving.forget();
  emit('saved', next);
}
function keepMine(): void {
  if (theirs.value === null) return;
  ({ version } = theirs.value);
  saving.push(draft.value);
}
function push(more: Partial<Draft>): void {
  draft.value = { ...draft.value, ...more };
  saving.push(draft.value);
}
function setWords(words: DocumentNode): void {
  const { key } = draft.value;
  if (key.kind !== 'blanks') {
    push({ words });
    return;
  }
  // What was taken out of the text is no blank any more.
  const inText = nodesOfType(words, 'blank').map((n) => String(n.attrs?.id ?? ''));
  const blanks = key.blanks.filter((b) => inText.includes(b.id));
  push(blanks.length === key.blanks.length ? { words } : { words, key: { kind: 'blanks', blanks: alike(blanks) } });
}
type Blank = Extract<QuestionKey, { kind: 'blanks' }>['blanks'][number];
const alike = (blanks: readonly Blank[]): Blank[] => {
  const weights = alikeWeights(blanks.length);
  return blanks.map((b, n) => ({ ...b, weight: weights[n] ?? 0 }));
};
/** Words that are chosen become a blank, and are its first accepted answer. */
function makeBlank(): void {
  const id = newId();
  const text = editor.value?.selected() ?? '';
  const { key } = draft.value;
  if (key.kind !== 'blanks') return;
  const rules = { accepted: [{ text, isPattern: false, share: 100_000 }], caseMatters: false, spaceMatters: false };
  draft.value = { ...draft.value, key: { kind: 'blanks', blanks: alike([...key.blanks, { id, weight: 0, rules }]) } };
  editor.value?.putInLine({ type: 'blank', attrs: { id, size: 0 } });
}
const insertValue = (name: string): void => {
  editor.value?.putInLine({ type: 'value', attrs: { name } });
};
const setPicture = (picture: QuestionPicture | null): void => push({ picture });
function onKey(event: KeyboardEvent): void {
  if (event.key !== 'Enter' || !(event.ctrlKey || event.metaKey)) return;
  event.preventDefault();
  event.stopPropagation();
  void saving.flush().then(() => {
    emit('next');
  });
}
defineExpose({
  focus: () => editor.value?.focus(),
  flush: () => saving.flush(),
  /** Feedback is written beside, and saved with the rest. */
  setFeedback: (feedback: Draft['feedback']) => {
    push({ feedback });
  },
  versionNow: () => version,
  sawVersion: (next: number) => {
    version = next;
  },
  serial,
});
</script>

<template>
  <div class="edit" @keydown.capture="onKey">
    <DocumentEditor ref="editor" :model-value="draft.words" label="Question" :course-id="courseId" @change="setWords"
      ><template #state>
        <ActButton v-if="draft.key.kind === 'blanks'" class="strong" @mousedown.prevent @click="makeBlank">Make a blank</ActButton>
        <span class="label saved" role="status">{{ saving.words.value }}</span>
      </template></DocumentEditor
    >
    <TwoVersions
      v-if="theirs"
      says="Somebody else changed this question after you opened it."
      :lines="[
        { what: 'Question', theirs: plainText(theirs.words), mine: plainText(draft.words) },
        { what: 'Answers', theirs: keyText(theirs.key), mine: keyText(draft.key) },
      ]"
      @theirs="takeTheirs"
      @mine="keepMine"
      >To merge them, write into yours what you wish to have of theirs; then keep yours.</TwoVersions
    >
    <KeyEditor
      :value="draft.key"
      :picture="draft.picture"
      :course-id="courseId"
      @change="push({ key: $event })"
      @picture="setPicture"
      @insert="insertValue"
    />
  </div>
</template>

<style scoped>
.edit :deep(.ProseMirror) {
  min-height: 40px;
}
.edit :deep(.document p) {
  margin-bottom: 6px;
}
.edit :deep(.tools) {
  margin-bottom: 6px;
}
</style>
