<script setup lang="ts">
import { useEventListener } from '@vueuse/core';
import * as api from '@rosemary/api/endpoints';
import type { DrawWish, QuestionChange, QuestionView, QuizPart, QuizQuestions } from '@rosemary/api';
import { pointsInWords, KIND_WORDS, newKey, plainText, countOf } from '@rosemary/core';
import { emptyDocument } from '@rosemary/api';
import { computed, nextTick, ref } from 'vue';
import { useRoute } from 'vue-router';
import BankPicker from '../bank/BankPicker.vue';
import KeyOnlyForm from '../paperTest/KeyOnlyForm.vue';
import LineInput from '../parts/LineInput.vue';
import { call } from '../platform/call.ts';
import { useCourse } from '../stores/courseStore.ts';
import { useNotices } from '../stores/noticeStore.ts';
import BlueprintTable from './BlueprintTable.vue';
import DrawForm from './DrawForm.vue';
import { newId } from '../questions/keys/shares.ts';
import PasteQuestions from './PasteQuestions.vue';
import QuestionEdit from '../questions/QuestionEdit.vue';
import QuestionOnPaper from '../questions/QuestionOnPaper.vue';
import QuestionSide from '../questions/QuestionSide.vue';
import QuizOutside from './QuizOutside.vue';
import QuizSettings from './QuizSettings.vue';
import { useQuiz, type NewPart, type SectionsWish } from '../stores/quizStore.ts';
import { useQuestionOrder } from './useQuestionOrder.ts';
import TickBox from '../parts/fields/TickBox.vue';
import ActButton from '../parts/ActButton.vue';
import DragList from '../parts/DragList.vue';
import TextField from '../parts/fields/TextField.vue';

/** The paper as it will be printed, its key and points in the margin; a question is written where it stands. */
const route = useRoute();
const course = useCourse();
const quiz = useQuiz();
const notices = useNotices();
const courseId = computed(() => String(route.params.courseId));
const detail = computed(() => quiz.detail!);
const canEdit = computed(() => course.head?.role === 'instructor');
const isTaken = computed(() => detail.value.attempts > 0);
const canChange = computed(() => canEdit.value && !isTaken.value);
const chosen = ref<string | null>(null);
const side = ref<'blueprint' | 'settings'>('blueprint');
const form = ref<{ kind: 'paste' | 'draw' | 'bank' | 'key'; sectionId: string; part: QuizPart | null } | null>(null);
const edit = ref<InstanceType<typeof QuestionEdit>[] | InstanceType<typeof QuestionEdit> | null>(null);
const reopened = ref(0);
const parts = computed(() => detail.value.sections.flatMap((s) => s.parts.map((part) => ({ part, section: s }))));
const numberOf = computed(() => {
  let n = 0;
  return new Map(parts.value.map(({ part }) => [part.id, [n + 1, (n += part.draw?.count ?? 1)] as const]));
});
const current = computed(() => parts.value.find(({ part }) => part.id === chosen.value) ?? null);
const editor = (): InstanceType<typeof QuestionEdit> | null => (Array.isArray(edit.value) ? (edit.value[0] ?? null) : edit.value);

/** Whatever changes the paper can be taken back. */
async function savePaper(sections: SectionsWish, words: string): Promise<void> {
  try {
    await editor()?.flush();
    const before = await quiz.savePaper(sections);
    if (before === null) return;
    notices.say(words, async () => {
      await quiz.savePaper(before.map((s) => ({ ...s })));
    });
  } catch (error) {
    notices.sayFault(error);
  }
}
const withParts = (sectionId: string, change: (parts: readonly (QuizPart | NewPart)[]) => readonly (QuizPart | NewPart)[]): SectionsWish =>
  detail.value.sections.map((s) => (s.id === sectionId ? { ...s, parts: change(s.parts) } : s));
const setPart = (id: string, more: Partial<QuizPart>): SectionsWish =>
  detail.value.sections.map((s) => ({ ...s, parts: s.parts.map((p) => (p.id === id ? { ...p, ...more } : p)) }));
const setSection = (id: string, more: Partial<(typeof detail.value.sections)[number]>): Promise<void> =>
  savePaper(
    detail.value.sections.map((s) => (s.id === id ? { ...s, ...more } : s)),
    'The section is changed.',
  );
const remove = async (part: QuizPart, sectionId: string): Promise<void> => {
  if (chosen.value === part.id) await close();
  await savePaper(
    withParts(sectionId, (list) => list.filter((p) => p.id !== part.id)),
    part.draw === null ? 'The question is out of the paper; it stays in the bank.' : 'The draw is out of the paper.',
  );
};
const { move, drop } = useQuestionOrder(() => detail.value.sections, savePaper);
/** What was just typed is saved before the question closes, so that the paper shows it. */
async function close(): Promise<void> {
  await editor()?.flush();
  chosen.value = null;
}
async function open(part: QuizPart): Promise<void> {
  if (chosen.value === part.id) return;
  await editor()?.flush();
  chosen.value = part.id;
  await nextTick();
  editor()?.focus();
}
/** While questions are being made, what is pressed belongs to the first of them: it makes no more. */
let isAdding = false;
async function addQuestions(sectionId: string, position: number, questions: QuizQuestions['questions']): Promise<boolean> {
  if (isAdding) return false;
  isAdding = true;
  try {
    await editor()?.flush();
    const made = await quiz.addQuestions(sectionId, position, questions);
    const first = parts.value.find(({ part }) => part.question?.id === made[0]);
    if (questions.length > 1) notices.say(`${questions.length} questions are made.`);
    if (first) await open(first.part);
    return true;
  } catch (error) {
    notices.sayFault(error);
    return false;
  } finally {
    isAdding = false;
  }
}
/** The list stays open with what was typed until its questions are there. */
async function makePasted(questions: QuizQuestions['questions']): Promise<boolean> {
  const sectionId = form.value?.sectionId ?? '';
  const position = detail.value.sections.find((s) => s.id === sectionId)?.parts.length ?? 0;
  const isMade = await addQuestions(sectionId, position, questions);
  if (isMade) form.value = null;
  return isMade;
}
/** The questions of a key are made by the server, which numbers them. */
async function keyMade(many: number): Promise<void> {
  form.value = null;
  try {
    await quiz.reload();
    notices.say(`${countOf(many, 'question is', 'questions are')} made. Sheets for them are made under “On paper”.`);
  } catch (error) {
    notices.sayFault(error);
  }
}
/** The next question is of the kind of the one before, until another is chosen. */
async function addAfter(part: QuizPart | null, sectionId: string, isLike = false): Promise<void> {
  const section = detail.value.sections.find((s) => s.id === sectionId);
  const position = part === null ? (section?.parts.length ?? 0) : (section?.parts.findIndex((p) => p.id === part.id) ?? 0) + 1;
  const from = part?.question ?? null;
  const question =
    isLike && from !== null
      ? {
          words: from.words,
          key: from.key,
          feedback: from.feedback,
          picture: from.picture,
          level: from.level,
          objectives: from.objectives,
          tags: from.tags,
          points: part?.points,
        }
      : { words: emptyDocument, key: newKey(from?.key.kind ?? 'single', newId) };
  await addQuestions(sectionId, position, [question]);
}
const addSection = (): Promise<void> =>
  savePaper(
    [
      ...detail.value.sections,
      { id: null, title: `Part ${detail.value.sections.length + 1}`, instructions: '', isShuffled: false, parts: [] },
    ],
    'A section is added.',
  );
const removeSection = (id: string): Promise<void> =>
  savePaper(
    detail.value.sections.filter((s) => s.id !== id),
    'The section is removed.',
  );

async function saveQuestion(change: Omit<QuestionChange, 'version'>): Promise<void> {
  const held = current.value?.part.question;
  const e = editor();
  if (!held) return;
  await e?.flush();
  const write = async (): Promise<void> => {
    const done = await call(
      api.changeQuestion,
      { courseId: courseId.value, questionId: held.id },
      {
        ...change,
        version: e?.versionNow() ?? held.version,
      },
    );
    e?.sawVersion(done.version);
    quiz.putQuestion(done.question);
  };
  await (e === null ? write() : e.serial(write));
}
async function takeNewer(part: QuizPart): Promise<void> {
  await savePaper(setPart(part.id, { questionVersion: part.question?.newest ?? null }), 'The newer version is in the paper.');
}
async function makeCopy(part: QuizPart): Promise<void> {
  try {
    const copy = await call(api.copyQuestion, { courseId: courseId.value, questionId: part.question?.id ?? '' });
    await savePaper(
      detail.value.sections.map((s) => ({
        ...s,
        parts: s.parts.map((p) => (p.id === part.id ? { ...p, question: copy, questionVersion: 1 } : p)),
      })),
      'The paper has a copy of the question now, which you can change.',
    );
  } catch (error) {
    notices.sayFault(error);
  }
}
function saveDraw(draw: DrawWish, points: number): void {
  const f = form.value;
  form.value = null;
  if (f === null) return;
  const made = { ...draw, matching: 0, words: '' };
  void savePaper(
    f.part === null
      ? withParts(f.sectionId, (list) => [...list, { id: null, points, floor: 0, question: null, questionVersion: null, draw: made }])
      : setPart(f.part.id, { draw: made, points }),
    f.part === null ? 'The draw is laid into the paper.' : 'The draw is changed.',
  );
}
function takeFromBank(questions: readonly QuestionView[]): void {
  const f = form.value;
  form.value = null;
  if (f === null || questions.length === 0) return;
  void savePaper(
    withParts(f.sectionId, (list) => [
      ...list,
      ...questions.map((q): NewPart => ({ id: null, points: 1000, floor: 0, question: q, questionVersion: q.newest, draw: null })),
    ]),
    questions.length === 1 ? 'The question is laid into the paper.' : `${questions.length} questions are laid into the paper.`,
  );
}
const inPaper = computed(() => new Set(parts.value.flatMap(({ part }) => (part.question === null ? [] : [part.question.id]))));
const figure = (value: number): string => value.toFixed(2).replace('0.', '.');
function onKey(event: KeyboardEvent): void {
  const target = event.target as HTMLElement;
  if (target.isContentEditable || ['INPUT', 'TEXTAREA', 'SELECT', 'BUTTON', 'A', 'SUMMARY'].includes(target.tagName) || form.value !== null)
    return;
  if (event.key === 'Escape') void close();
  else if (event.key === 'Enter' && canChange.value) {
    const last = detail.value.sections.at(-1);
    if (last) void addAfter(current.value?.part ?? last.parts.at(-1) ?? null, current.value?.section.id ?? last.id);
  } else return;
  event.preventDefault();
}
useEventListener(window, 'keydown', onKey);
</script>

<template>
  <div class="two" style="flex: 1">
    <section class="bed">
      <p v-if="isTaken" class="note">
        {{ detail.attempts === 1 ? 'One attempt has begun' : `${detail.attempts} attempts have begun` }}, so the paper stays as it is.
        <router-link :to="{ name: 'quiz-figures', params: route.params }">Correct a key</router-link> where one is wrong, or make a copy of
        the quiz in the Plan.
      </p>
      <div class="sheet-paper paper">
        <div v-for="(s, sn) in detail.sections" :key="s.id" class="section">
          <div v-if="detail.sections.length > 1 || s.title || s.instructions || s.isShuffled" class="section-head">
            <LineInput
              class="section-title serif"
              :value="s.title"
              :is-fixed="!canChange"
              aria-label="Title of the section"
              placeholder="Title of the section"
              @commit="setSection(s.id, { title: $event })"
            />
            <TextField
              rows="1"
              :model-value="s.instructions"
              :is-fixed="!canChange"
              aria-label="Instructions of the section"
              placeholder="Instructions"
              @change="setSection(s.id, { instructions: ($event.target as HTMLTextAreaElement).value })"
            />
            <p v-if="canChange" class="label">
              <label
                ><TickBox :model-value="s.isShuffled" @change="setSection(s.id, { isShuffled: !s.isShuffled })" /> questions in another
                order for each</label
              >
              <ActButton v-if="detail.sections.length > 1 && s.parts.length === 0" look="act" @click="removeSection(s.id)">
                take the section away
              </ActButton>
            </p>
          </div>
          <DragList
            :model-value="s.parts as QuizPart[]"
            group="questions"
            handle=".no"
            :is-fixed="!canChange"
            is-followed
            class="questions"
            :data-section="sn"
            @end="drop"
          >
            <article v-for="p in s.parts" :key="p.id" class="q" :class="{ on: chosen === p.id }">
              <div class="margin">
                <span>{{ pointsInWords(p.points) }}{{ (p.draw?.count ?? 1) > 1 ? ' each' : '' }}</span>
                <template v-if="p.question">
                  <span>{{ [...p.question.objectives, p.question.level ?? KIND_WORDS[p.question.key.kind]].join(' · ') }}</span>
                  <span v-if="p.question.use.shareRight !== null">share correct {{ figure(p.question.use.shareRight) }}</span>
                  <span v-if="p.question.faults.length > 0" class="clay">{{
                    p.question.faults.length === 1 ? 'lacks something' : `lacks ${p.question.faults.length} things`
                  }}</span>
                </template>
                <span v-else-if="p.draw" :class="{ clay: p.draw.matching < p.draw.count }"
                  >draw {{ p.draw.count }} of {{ p.draw.matching }}</span
                >
              </div>
              <span class="no" :class="{ grip: canChange }" :title="canChange ? 'drag to move' : undefined"
                >{{ numberOf.get(p.id)?.[0] }}{{ (p.draw?.count ?? 1) > 1 ? `–${numberOf.get(p.id)?.[1]}` : '' }}</span
              >
              <div class="body">
                <template v-if="p.question">
                  <p v-if="p.question.stimulus" class="label">
                    with “{{ p.question.stimulus.title || plainText(p.question.stimulus.document).slice(0, 60) }}”
                  </p>
                  <QuestionEdit
                    v-if="chosen === p.id && canChange && p.question.canEdit && p.question.number === p.question.newest"
                    :key="`${p.id} ${reopened}`"
                    ref="edit"
                    :question="p.question"
                    :course-id="courseId"
                    @saved="quiz.putQuestion($event)"
                    @next="addAfter(p, s.id)"
                  />
                  <div
                    v-else
                    class="shown"
                    :role="canEdit ? 'button' : undefined"
                    :tabindex="canEdit ? 0 : undefined"
                    :aria-label="`Question ${numberOf.get(p.id)?.[0]}: ${p.question.title}`"
                    @click="open(p)"
                    @keydown.enter.prevent.stop="open(p)"
                  >
                    <QuestionOnPaper :question="p.question" />
                  </div>
                  <p v-if="canChange && p.question.newest > p.question.number" class="label">
                    There is a newer version of this question. <ActButton look="act" @click="takeNewer(p)">Take it over</ActButton>
                  </p>
                  <p v-if="chosen === p.id && canChange && !p.question.canEdit" class="label">
                    This question is kept by somebody else. <ActButton look="act" @click="makeCopy(p)">Use a copy of your own</ActButton>
                  </p>
                </template>
                <p v-else-if="p.draw" class="drawn">
                  {{ p.draw.count === 1 ? 'One question' : `${p.draw.count} questions` }}, at random, from the bank:
                  <b>{{ p.draw.words }}</b>. {{ p.draw.matching === 1 ? 'One matches.' : `${p.draw.matching} match.` }}
                  <ActButton v-if="canChange" look="act" @click="form = { kind: 'draw', sectionId: s.id, part: p }">
                    {{ p.draw.matching === 0 ? 'change it' : 'see them' }}
                  </ActButton>
                </p>
                <p v-if="canChange && (chosen === p.id || p.draw)" class="acts">
                  <template v-if="p.question">
                    <ActButton look="act" @click="addAfter(p, s.id)">next question</ActButton>
                    <ActButton look="act" @click="addAfter(p, s.id, true)">one like this</ActButton>
                  </template>
                  <ActButton look="act" :aria-label="`Question ${numberOf.get(p.id)?.[0]} up`" @click="move(p, -1)">up</ActButton>
                  <ActButton look="act" :aria-label="`Question ${numberOf.get(p.id)?.[0]} down`" @click="move(p, 1)">down</ActButton>
                  <ActButton look="act" @click="remove(p, s.id)">Remove</ActButton>
                </p>
              </div>
            </article>
          </DragList>
          <p v-if="s.parts.length === 0" class="soft empty">
            {{ canChange ? 'No question yet. Begin with one, paste a list, or take some from the bank.' : 'No question yet.' }}
          </p>
          <p v-if="canChange" class="more">
            <ActButton look="act" @click="addAfter(s.parts.at(-1) ?? null, s.id)">Add question</ActButton>
            <span v-if="sn === detail.sections.length - 1" class="soft">or Enter</span>
            · <ActButton look="act" @click="form = { kind: 'paste', sectionId: s.id, part: null }">paste a list</ActButton> ·
            <ActButton look="act" @click="form = { kind: 'bank', sectionId: s.id, part: null }">from the bank</ActButton> ·
            <ActButton look="act" @click="form = { kind: 'draw', sectionId: s.id, part: null }">draw at random</ActButton>
            · <ActButton look="act" @click="form = { kind: 'key', sectionId: s.id, part: null }">only a key</ActButton>
            <template v-if="sn === detail.sections.length - 1"> · <ActButton look="act" @click="addSection">section</ActButton></template>
          </p>
        </div>
      </div>
    </section>
    <aside class="inspector" aria-label="Inspector">
      <template v-if="current?.part.question">
        <p class="label">Question {{ numberOf.get(current.part.id)?.[0] }} <ActButton look="act" @click="close">close</ActButton></p>
        <h3 class="kind">{{ KIND_WORDS[current.part.question.key.kind] }}</h3>
        <QuestionSide
          :key="current.part.question.id"
          :question="current.part.question"
          :course-id="courseId"
          :objectives="detail.objectives"
          :points="current.part.points"
          :floor="current.part.floor"
          :can-edit="canChange"
          :save="saveQuestion"
          :set-feedback="(f) => editor()?.setFeedback(f)"
          @points="savePaper(setPart(current!.part.id, { points: $event }), 'The points are changed.')"
          @floor="savePaper(setPart(current!.part.id, { floor: $event }), 'Changed.')"
          @reopened="reopened += 1"
        />
      </template>
      <template v-else>
        <p class="tabs" role="group" aria-label="Inspector">
          <ActButton look="act" :class="{ on: side === 'blueprint' }" :aria-pressed="side === 'blueprint'" @click="side = 'blueprint'">
            Blueprint
          </ActButton>
          <ActButton look="act" :class="{ on: side === 'settings' }" :aria-pressed="side === 'settings'" @click="side = 'settings'">
            Settings
          </ActButton>
        </p>
        <template v-if="side === 'blueprint'">
          <BlueprintTable :quiz="detail" />
          <template v-if="detail.faults.length > 0 && parts.length > 0">
            <p class="label" style="margin-top: 14px">Before it opens</p>
            <ul class="faults">
              <li v-for="f in detail.faults" :key="f" class="clay">{{ f }}</li>
            </ul>
          </template>
        </template>
        <template v-else>
          <QuizSettings :can-edit="canEdit" />
          <QuizOutside :can-edit="canEdit" />
        </template>
      </template>
    </aside>
    <v-dialog
      :model-value="form !== null"
      :max-width="form?.kind === 'draw' || form?.kind === 'key' ? 620 : form?.kind === 'paste' ? 1180 : 1040"
      @update:model-value="form = null"
    >
      <PasteQuestions v-if="form?.kind === 'paste'" :make="makePasted" @leave="form = null" />
      <KeyOnlyForm
        v-else-if="form?.kind === 'key'"
        :base="quiz.base"
        :section-id="form.sectionId"
        :objectives="detail.objectives"
        @leave="form = null"
        @made="keyMade"
      />
      <DrawForm
        v-else-if="form?.kind === 'draw'"
        :course-id="courseId"
        :folder-id="detail.folderId"
        :draw="form.part?.draw ?? null"
        :points="form.part?.points ?? 1000"
        :objectives="detail.objectives"
        @save="saveDraw"
        @leave="form = null"
      />
      <BankPicker v-else-if="form?.kind === 'bank'" :course-id="courseId" :present="inPaper" @take="takeFromBank" @leave="form = null" />
    </v-dialog>
  </div>
</template>

<style scoped>
.bed {
  flex: 1;
  background: var(--bed);
  padding: 16px 22px 60px;
  min-width: 0;
}
.note {
  max-width: 760px;
  margin: 0 auto 10px;
  color: var(--straw);
}
.paper {
  max-width: 640px;
  margin: 0 auto 0 max(130px, calc(50% - 320px));
  padding: 26px 44px 34px;
  box-sizing: border-box;
}
.section + .section {
  border-top: 1px solid var(--frost);
  margin-top: 20px;
  padding-top: 14px;
}
.section-title {
  font-size: 17px;
}
.q {
  position: relative;
  padding: 10px 44px 12px;
  margin: 0 -44px;
}
.q.on {
  background: linear-gradient(90deg, var(--bloom-wash), var(--paper));
}
.no {
  position: absolute;
  left: 16px;
  top: 11px;
  color: var(--soft);
  font: 16px/25px var(--serif);
}
.no.grip {
  cursor: grab;
}
/* An empty section has room for a question to be let fall. */
.questions {
  min-height: 8px;
}
.margin {
  position: absolute;
  left: -128px;
  width: 112px;
  top: 13px;
  font-size: 13px;
  line-height: 18px;
  color: var(--soft);
  text-align: right;
  display: flex;
  flex-direction: column;
}
.shown {
  cursor: text;
}
.body :deep(.document) {
  line-height: 25px;
}
.body :deep(.shown .document p) {
  margin: 0;
}
.drawn {
  font-size: 15px;
  color: var(--soft);
}
.drawn b {
  color: var(--ink);
  font-weight: 500;
}
.acts {
  display: flex;
  gap: 18px;
  font-size: 14px;
  margin-top: 8px;
}
.more {
  border-top: 1px solid var(--frost2);
  padding-top: 8px;
  margin-top: 6px;
  font-size: 14px;
}
.empty {
  padding: 12px 0;
}
.kind {
  margin-bottom: 10px;
}
.kind::first-letter {
  text-transform: uppercase;
}
.tabs {
  display: flex;
  gap: 18px;
  margin-bottom: 12px;
}
.tabs .on {
  color: var(--ink);
  font-weight: 600;
}
.faults {
  padding-left: 18px;
  font-size: 13.5px;
}
</style>
