<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { BankFolder, QtiDone } from '@rosemary/api';
import { KIND_WORDS, type QuestionKind } from '@rosemary/core';
import { computed, onMounted, ref } from 'vue';
import FileDrop from '../parts/media/FileDrop.vue';
import { useFileSending } from '../parts/media/useFileSending.ts';
import { call } from '../platform/call.ts';
import { useNotices } from '../stores/noticeStore.ts';
import ActButton from '../parts/ActButton.vue';
import PlainTable from '../parts/PlainTable.vue';
import ChoiceField from '../parts/fields/ChoiceField.vue';

/** A package of questions, looked at item by item before any of them is made; its tests become quizzes where a unit is chosen. */
const props = defineProps<{ courseId: string; folders: readonly BankFolder[]; folderId: string | null; reload: () => Promise<void> }>();
const emit = defineEmits<{ leave: [] }>();
const notices = useNotices();
const { file, share, fault, carry, cancel } = useFileSending();
const looked = ref<QtiDone | null>(null);
const folder = ref(props.folders.some((f) => f.id === props.folderId && f.canEdit) ? (props.folderId ?? '') : '');
const unit = ref('');
const units = ref<readonly { id: string; title: string }[]>([]);
const base = computed(() => ({ courseId: props.courseId }));
const ask = (isLook: boolean): Promise<QtiDone | null> =>
  carry(isLook ? api.previewQuestionPackage : api.importQuestionPackage, { ...base.value, folder: folder.value, unit: unit.value });
onMounted(async () => {
  units.value = (await call(api.getPlan, base.value).catch(() => null))?.units.filter((u) => !u.isStanding) ?? [];
});
async function look(chosen: File): Promise<void> {
  looked.value = null;
  file.value = chosen;
  looked.value = await ask(true);
}
async function lookAgain(): Promise<void> {
  const again = await ask(true);
  if (again !== null) looked.value = again;
}
const good = computed(() => looked.value?.questions.filter((q) => q.problem === '').length ?? 0);
const left = computed(() => (looked.value?.questions.length ?? 0) - good.value);
const many = (n: number, one: string, more: string): string => (n === 1 ? `one ${one}` : `${n} ${more}`);
async function takeBack(done: QtiDone): Promise<void> {
  const questionIds = done.questions.flatMap((q) => q.id ?? []);
  const itemIds = done.quizzes.flatMap((q) => q.itemId ?? []);
  if (itemIds.length > 0) await call(api.removeItems, base.value, { itemIds }, 'Without what was imported');
  if (questionIds.length > 0) await call(api.changeQuestions, base.value, { questionIds, isRetired: true });
  await props.reload();
}
async function bring(): Promise<void> {
  const done = await ask(false);
  if (done === null) return;
  await props.reload();
  const quizzes = done.quizzes.filter((q) => q.itemId !== null).length;
  const questions = done.questions.filter((q) => q.problem === '').length;
  const words = `${many(questions, 'question is', 'questions are')} in the bank${quizzes === 0 ? '' : `, ${many(quizzes, 'quiz', 'quizzes')} in the Plan as ${quizzes === 1 ? 'a draft' : 'drafts'}`}.`;
  notices.say(words.charAt(0).toUpperCase() + words.slice(1), () => takeBack(done));
  emit('leave');
}
const kindOf = (kind: string): string => (kind in KIND_WORDS ? KIND_WORDS[kind as QuestionKind] : kind);
</script>

<template>
  <div>
    <p class="soft">A package of the open standard QTI (1EdTech), version 2.1, 2.2 or 3.0. It is read and shown first.</p>
    <FileDrop
      words="Choose a package…"
      hint="or let one fall here (.zip)"
      accept=".zip,application/zip"
      :share="share"
      :doing="looked ? 'being taken in' : 'being read'"
      :fault="fault"
      :is-hidden="looked !== null"
      @choose="look"
      @cancel="cancel"
    />
    <template v-if="looked">
      <p class="label">{{ file?.name }} <ActButton look="act" @click="looked = null">choose another</ActButton></p>
      <p v-for="p in looked.problems" :key="p" class="soft">{{ p }}</p>
      <label class="field"
        ><span class="label">Into the folder</span>
        <ChoiceField v-model="folder">
          <option value="">of the subject</option>
          <option v-for="f in folders.filter((x) => x.canEdit)" :key="f.id" :value="f.id">{{ f.title }}</option>
        </ChoiceField></label
      >
      <template v-if="looked.quizzes.length > 0">
        <div v-for="q in looked.quizzes" :key="q.title" class="quiz">
          <p>
            <b>{{ q.title }}</b> <span class="soft">a test of {{ many(q.questions, 'question', 'questions') }}</span>
          </p>
          <p v-if="q.problem" class="clay">{{ q.problem }} Left out.</p>
          <p v-for="n in q.notes" :key="n" class="soft">{{ n }}</p>
        </div>
        <label class="field"
          ><span class="label">{{ looked.quizzes.length === 1 ? 'Make a quiz of it' : 'Make quizzes of them' }}</span>
          <ChoiceField v-model="unit" :disabled="share !== null" @change="lookAgain">
            <option value="">no, only the questions</option>
            <option v-for="u in units" :key="u.id" :value="u.id">in “{{ u.title }}”, as a draft</option>
          </ChoiceField></label
        >
      </template>
      <PlainTable>
        <tbody>
          <tr v-for="(q, n) in looked.questions" :key="n">
            <td class="soft kind">{{ kindOf(q.kind) }}</td>
            <td>
              {{ q.title === q.item ? '' : q.title }}
              <p v-if="q.problem" class="clay">{{ q.item }}: {{ q.problem }} Left out.</p>
              <p v-for="note in q.notes" :key="note" class="soft">{{ note }}</p>
            </td>
          </tr>
        </tbody>
      </PlainTable>
      <p class="form-acts row-acts">
        <ActButton look="go" :disabled="good === 0 || share !== null" @click="bring">
          {{ good === 1 ? 'Import one question' : `Import ${good} questions` }}{{ left === 0 ? '' : `, leave out ${left}` }}
        </ActButton>
        <ActButton look="quiet" @click="emit('leave')">Leave it</ActButton>
      </p>
    </template>
  </div>
</template>

<style scoped>
.quiz {
  margin: 12px 0 4px;
}
.plain {
  margin-top: 12px;
}
.plain td {
  padding: 3px 12px 3px 0;
  vertical-align: top;
}
.kind {
  white-space: nowrap;
}
</style>
