<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import { urlOf } from '@rosemary/api/endpoints';
import { emptyDocument, type BankFolder, type QuestionChange, type QuestionView } from '@rosemary/api';
import { KIND_WORDS, newKey } from '@rosemary/core';
import { computed, nextTick, onMounted, ref } from 'vue';
import { useRoute } from 'vue-router';
import TakeOutForm from '../exchange/TakeOutForm.vue';
import SharesForm from '../parts/SharesForm.vue';
import { call } from '../platform/call.ts';
import { newId } from '../questions/keys/shares.ts';
import QuestionEdit from '../questions/QuestionEdit.vue';
import QuestionOnPaper from '../questions/QuestionOnPaper.vue';
import QuestionSide from '../questions/QuestionSide.vue';
import { useCourse } from '../stores/courseStore.ts';
import { useNotices } from '../stores/noticeStore.ts';
import BankCourses from './BankCourses.vue';
import BankRows from './BankRows.vue';
import BankSearchForm from './BankSearchForm.vue';
import BringInForm from './BringInForm.vue';
import { useBank } from './useBank.ts';
import ActButton from '../parts/ActButton.vue';
import LineField from '../parts/fields/LineField.vue';
import ChoiceField from '../parts/fields/ChoiceField.vue';
import ActionMenu from '../parts/ActionMenu.vue';

/** Every question there is for this course: in folders, found by any of it, changed where it stands. */
const route = useRoute();
const course = useCourse();
const notices = useNotices();
const courseId = computed(() => String(route.params.courseId));
const canEdit = computed(() => course.head?.role === 'instructor');
const { search, query, bank, fault, load } = useBank(() => courseId.value);
const chosen = ref<Set<string>>(new Set());
const opened = ref<QuestionView | null>(null);
const edit = ref<InstanceType<typeof QuestionEdit> | null>(null);
const reopened = ref(0);
const naming = ref<{ folder: BankFolder; isNew: boolean; text: string } | null>(null);
const sharing = ref<BankFolder | null>(null);
const moving = ref<'in' | 'out' | null>(null);
const base = computed(() => ({ courseId: courseId.value }));
const objectives = ref<readonly { code: string; statement: string }[]>([]);
onMounted(async () => {
  await load();
  objectives.value = (
    await call(api.listObjectives, { courseId: courseId.value }).catch(() => ({
      objectives: [],
    }))
  ).objectives;
});
const OWNER = { subject: 'of the subject', person: 'yours alone', school: 'the school’s', shared: 'shared with you' } as const;
const tree = computed(() => {
  const folders = bank.value?.folders ?? [];
  const known = new Set(folders.map((f) => f.id));
  const below = (parent: string | null, depth: number): { folder: BankFolder; depth: number }[] =>
    folders
      .filter((f) => (f.parentId !== null && known.has(f.parentId) ? f.parentId : null) === parent)
      .flatMap((folder) => [{ folder, depth }, ...below(folder.id, depth + 1)]);
  return below(null, 0);
});
const isNarrowed = computed(() => {
  const { text, kind, level, tag, objective } = search.value;
  return [text, kind, level, tag, objective].some((one) => one.trim() !== '');
});
const folder = computed(() => bank.value?.folders.find((f) => f.id === search.value.folder) ?? null);
async function attempt(work: () => Promise<unknown>): Promise<void> {
  try {
    await work();
    await load();
  } catch (error) {
    notices.sayFault(error);
  }
}
async function open(question: QuestionView): Promise<void> {
  await edit.value?.flush();
  opened.value = question;
}
/** What was just typed is saved before the question closes, so that the list shows it. */
async function close(): Promise<void> {
  await edit.value?.flush();
  opened.value = null;
}
/** While a question is being made, what is pressed belongs to it: it makes no second one. */
let isAdding = false;
async function add(): Promise<void> {
  if (isAdding) return;
  isAdding = true;
  await attempt(async () => {
    await edit.value?.flush();
    const to = folder.value?.canEdit === true ? { folderId: folder.value.id } : {};
    opened.value = await call(api.addQuestion, base.value, {
      words: emptyDocument,
      key: newKey('single', newId),
      ...to,
    });
  });
  isAdding = false;
  await nextTick();
  edit.value?.focus();
}
async function save(change: Omit<QuestionChange, 'version'>): Promise<void> {
  const held = opened.value;
  const e = edit.value;
  if (held === null) return;
  await e?.flush();
  const done = await call(
    api.changeQuestion,
    { ...base.value, questionId: held.id },
    {
      ...change,
      version: e?.versionNow() ?? held.version,
    },
  );
  e?.sawVersion(done.version);
  saved(done.question);
}
function saved(question: QuestionView): void {
  opened.value = question;
  if (bank.value) bank.value = { ...bank.value, questions: bank.value.questions.map((q) => (q.id === question.id ? question : q)) };
}
function openFolder(id: string): void {
  search.value = { ...search.value, folder: id, quiz: '' };
}
const shared = computed(() => bank.value?.quizzes.find((sq) => sq.itemId === search.value.quiz) ?? null);
const units = ref<readonly { id: string; title: string }[]>([]);
const unit = ref('');
async function openShared(itemId: string): Promise<void> {
  search.value = { ...search.value, folder: '', quiz: itemId };
  if (units.value.length > 0) return;
  units.value = (await call(api.getPlan, { courseId: courseId.value }).catch(() => null))?.units.filter((u) => !u.isStanding) ?? [];
}
/** A quiz of one’s own, with questions of one’s own. */
async function copyShared(): Promise<void> {
  const from = shared.value;
  if (from === null) return;
  await attempt(async () => {
    const { itemId } = await call(api.copySharedQuiz, { ...base.value, itemId: from.itemId }, { unitId: unit.value });
    notices.say(`“${from.title}” is in the Plan as a draft.`, () =>
      call(api.removeItems, base.value, { itemIds: [itemId] }, 'Without the copy').then(() => undefined),
    );
  });
}
const ids = (): string[] => [...chosen.value];
async function retire(isRetired: boolean): Promise<void> {
  const questionIds = ids();
  await attempt(() => call(api.changeQuestions, base.value, { questionIds, isRetired }));
  chosen.value = new Set();
  notices.say(isRetired ? 'Retired. They stay where they are used, and are offered no more.' : 'They are offered again.', () =>
    attempt(() => call(api.changeQuestions, base.value, { questionIds, isRetired: !isRetired })),
  );
}
async function moveTo(folderId: string): Promise<void> {
  const from = bank.value?.questions.find((q) => chosen.value.has(q.id))?.folderId;
  const questionIds = ids();
  await attempt(() => call(api.changeQuestions, base.value, { questionIds, folderId }));
  chosen.value = new Set();
  if (from !== undefined)
    notices.say('Moved.', () => attempt(() => call(api.changeQuestions, base.value, { questionIds, folderId: from })));
}
async function name(): Promise<void> {
  const n = naming.value;
  naming.value = null;
  if (n === null || n.text.trim() === '') return;
  await attempt(() =>
    n.isNew
      ? call(api.addBankFolder, base.value, { parentId: n.folder.id, title: n.text.trim() })
      : call(api.changeBankFolder, { ...base.value, folderId: n.folder.id }, { title: n.text.trim() }),
  );
}
async function removeFolder(f: BankFolder): Promise<void> {
  await attempt(() => call(api.removeBankFolder, { ...base.value, folderId: f.id }));
  if (bank.value?.folders.some((x) => x.id === f.id) === true) return;
  search.value.folder = '';
  notices.say(`“${f.title}” is removed.`, () => attempt(() => call(api.restoreBankFolder, { ...base.value, folderId: f.id })));
}
/** Takes a course out of a bank; its teachers reach it no more. */
async function takeOut(bankFolder: BankFolder, used: BankFolder['courses'][number]): Promise<void> {
  const at = { ...base.value, folderId: bankFolder.id };
  await attempt(async () => {
    await call(api.changeBankFolder, at, { courseOut: used.courseId });
    notices.say(`${used.title} no longer uses “${bankFolder.title}”. Its quizzes keep their questions.`, () =>
      attempt(() => call(api.changeBankFolder, at, { courseAgain: used.courseId })),
    );
  });
  sharing.value = bank.value?.folders.find((f) => f.id === bankFolder.id) ?? null;
}
</script>

<template>
  <div class="two" style="flex: 1">
    <nav class="folders" aria-label="Folders">
      <ActButton :class="['folder', { on: search.folder === '' && search.quiz === '' }]" @click="openFolder('')">Every folder</ActButton>
      <div v-for="{ folder: f, depth } in tree" :key="f.id" class="row" :style="{ paddingLeft: `${depth * 14}px` }">
        <ActButton :class="['folder', { on: search.folder === f.id }]" :title="OWNER[f.owner]" @click="openFolder(f.id)">
          {{ f.title }} <span class="soft">{{ f.questions || '' }}</span>
          <span v-if="f.shares.length > 0" class="label">shared</span>
          <span v-if="f.owner === 'shared'" class="label">from a colleague</span>
        </ActButton>
      </div>
      <template v-if="bank && bank.quizzes.length > 0">
        <p class="label shared">Quizzes shared with you</p>
        <ActButton
          v-for="sq in bank.quizzes"
          :key="sq.itemId"
          :class="['folder', { on: search.quiz === sq.itemId }]"
          :title="`${sq.course}, ${sq.by}`"
          @click="openShared(sq.itemId)"
        >
          {{ sq.title }}
        </ActButton>
      </template>
      <template v-if="folder && folder.canEdit && canEdit">
        <p class="label acts">
          <ActButton look="act" @click="naming = { folder, isNew: true, text: '' }">new folder in it</ActButton>
          <ActButton v-if="folder.parentId" look="act" @click="naming = { folder, isNew: false, text: folder.title }">rename</ActButton>
          <ActButton look="act" @click="sharing = folder">share</ActButton>
          <ActButton v-if="folder.parentId" look="act" @click="removeFolder(folder)">Remove</ActButton>
        </p>
        <form v-if="naming" @submit.prevent="name">
          <LineField
            v-model="naming.text"
            maxlength="120"
            aria-label="Name of the folder"
            placeholder="Name of the folder"
            @keydown.esc="naming = null"
          />
        </form>
      </template>
    </nav>
    <section class="list">
      <p v-if="fault" class="fault">{{ fault }}</p>
      <form v-if="shared" class="from" @submit.prevent="copyShared">
        <p>
          <b>{{ shared.title }}</b> <span class="soft">{{ shared.course }} · {{ shared.by }} shares it with you</span>
          {{ shared.canEdit ? 'to edit its questions.' : 'to read.' }}
        </p>
        <p v-if="canEdit" class="acts">
          <ChoiceField v-model="unit" aria-label="Unit for the copy" required>
            <option value="" disabled>into the unit…</option>
            <option v-for="u in units" :key="u.id" :value="u.id">{{ u.title }}</option>
          </ChoiceField>
          <ActButton type="submit" look="quiet" :disabled="unit === ''">Make a copy in this course</ActButton>
        </p>
      </form>
      <BankSearchForm v-model="search" :tags="bank?.tags ?? []" />
      <p class="acts">
        <ActButton v-if="canEdit" look="quiet" @click="add">Add question</ActButton>
        <template v-if="chosen.size > 0 && canEdit">
          <span>{{ chosen.size }} chosen:</span>
          <ActionMenu words="Move to" label="Move to a folder" @choose="moveTo">
            <option v-for="f in bank?.folders.filter((x) => x.canEdit) ?? []" :key="f.id" :value="f.id">{{ f.title }}</option>
          </ActionMenu>
          <ActButton look="act" @click="retire(true)">retire</ActButton>
          <ActButton look="act" @click="retire(false)">offer again</ActButton>
        </template>
        <span v-if="bank" class="end table">
          <ActButton look="act" :disabled="bank.total === 0" @click="moving = 'out'">Export</ActButton>
          <ActButton v-if="canEdit" look="act" @click="moving = 'in'">Import</ActButton>
        </span>
        <span class="soft">{{ bank ? (bank.total === 1 ? 'one question' : `${bank.total} questions`) : '' }}</span>
      </p>
      <template v-if="!bank && !fault"><div v-for="n in 8" :key="n" class="skeleton" style="height: 22px; margin-top: 12px" /></template>
      <template v-else-if="bank">
        <BankRows :questions="bank.questions" :chosen="chosen" :opened="opened?.id ?? null" @choose="chosen = $event" @open="open" />
        <p v-if="bank.questions.length === 0" class="soft">
          {{
            isNarrowed
              ? 'No question matches. Each of the words must stand in its text, answers, feedback, title or a tag.'
              : 'No question here yet. Every question you write in a quiz joins the bank; or begin one here, or import some.'
          }}
        </p>
        <ActButton v-if="bank.questions.length < bank.total" look="act" @click="load(bank.questions.length)">more</ActButton>
      </template>
    </section>
    <aside v-if="opened" class="inspector wide" aria-label="Question">
      <p class="label">{{ KIND_WORDS[opened.key.kind] }} <ActButton look="act" @click="close">close</ActButton></p>
      <QuestionEdit
        v-if="canEdit && opened.canEdit"
        :key="`${opened.id} ${reopened}`"
        ref="edit"
        :question="opened"
        :course-id="courseId"
        @saved="saved"
        @next="add"
      />
      <QuestionOnPaper v-else :question="opened" />
      <p v-if="opened.isFixed" class="label">Somebody has taken this version; a change makes a new one, and quizzes keep theirs.</p>
      <QuestionSide
        :key="opened.id"
        :question="opened"
        :course-id="courseId"
        :objectives="objectives"
        :points="null"
        :floor="null"
        :can-edit="canEdit"
        :save="save"
        :set-feedback="(f) => edit?.setFeedback(f)"
        @reopened="reopened += 1"
      />
    </aside>
    <v-dialog :model-value="moving !== null" max-width="720" @update:model-value="moving = null">
      <BringInForm
        v-if="bank && moving === 'in'"
        :course-id="courseId"
        :folders="bank.folders"
        :folder-id="search.folder || null"
        :reload="load"
        @leave="moving = null"
      />
      <TakeOutForm
        v-else-if="bank && moving === 'out'"
        :heading="bank.total === 1 ? 'Take one question out' : `Take ${bank.total} questions out`"
        :look="(version) => call(api.getBankPackageLosses, { ...base, ...query, version })"
        :url="(version) => urlOf(api.getBankPackage, { ...base, ...query, version })"
        :csv="urlOf(api.getQuestionTable, { ...base, ...query })"
        @leave="moving = null"
      />
    </v-dialog>
    <v-dialog :model-value="sharing !== null" max-width="520" @update:model-value="sharing = null">
      <SharesForm
        v-if="sharing"
        :title="sharing.title"
        :shares="sharing.shares"
        :note="sharing.owner === 'subject' ? 'Instructors of the courses that use this bank may edit it, and assistants may read it.' : ''"
        :save="(change) => call(api.changeBankFolder, { ...base, folderId: sharing?.id ?? '' }, change)"
        :reload="load"
        @leave="sharing = null"
      >
        <BankCourses v-if="sharing.courses.length > 0" :courses="sharing.courses" @out="takeOut(sharing, $event)" />
      </SharesForm>
    </v-dialog>
  </div>
</template>

<style scoped>
.shared {
  margin: 16px 6px 2px;
}
.from {
  margin-bottom: 12px;
}
.folders {
  width: 210px;
  flex: none;
  padding: 16px 12px 16px 20px;
  border-right: 1px solid var(--frost);
  background: var(--paper);
}
.folder {
  border: 0;
  background: none;
  font: inherit;
  color: inherit;
  padding: 3px 6px;
  text-align: left;
  width: 100%;
  border-radius: 3px;
  cursor: pointer;
}
.folder.on {
  background: var(--bloom-wash);
  color: var(--bloom);
}
.list {
  flex: 1;
  min-width: 0;
  padding: 16px 22px;
}
.acts {
  display: flex;
  gap: 8px 16px;
  align-items: baseline;
  flex-wrap: wrap;
  margin: 10px 0;
}
.table {
  display: flex;
  gap: 14px;
}
.inspector.wide {
  width: 420px;
}
</style>
