<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import { emptyDocument, type QuestionView, type StimulusView } from '@rosemary/api';
import { plainText, type DocumentNode } from '@rosemary/core';
import { computed, onMounted, ref, shallowRef } from 'vue';
import DocumentEditor from '../parts/DocumentEditor.vue';
import { call } from '../platform/call.ts';
import { HttpProblem } from '../platform/http.ts';
import ActButton from '../parts/ActButton.vue';
import ChoiceField from '../parts/fields/ChoiceField.vue';
import LineField from '../parts/fields/LineField.vue';

/** The text or picture a question shares with others: chosen among those of the bank, written, or mended where it stands. */
const props = defineProps<{
  question: QuestionView;
  courseId: string;
  canEdit: boolean;
  set: (stimulusId: string | null) => Promise<void>;
}>();
const listed = shallowRef<readonly StimulusView[]>([]);
const editing = shallowRef<{ id: string | null; title: string; document: DocumentNode; version: number } | null>(null);
const title = ref('');
const document = shallowRef<DocumentNode>(emptyDocument);
const fault = ref('');
const own = computed(() => props.question.stimulus);
const nameOf = (s: StimulusView): string => s.title || plainText(s.document).slice(0, 60) || 'without words';
const choices = computed(() => {
  const held = own.value;
  return held === null || listed.value.some((s) => s.id === held.id) ? listed.value : [held, ...listed.value];
});
async function load(): Promise<void> {
  try {
    listed.value = (await call(api.listStimuli, { courseId: props.courseId })).stimuli;
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
}
onMounted(load);
function edit(stimulus: StimulusView | null): void {
  editing.value = stimulus ?? { id: null, title: '', document: emptyDocument, version: 0 };
  title.value = editing.value.title;
  document.value = editing.value.document;
  fault.value = '';
}
async function choose(id: string): Promise<void> {
  if (id === 'new') edit(null);
  else await props.set(id || null);
}
async function keep(): Promise<void> {
  const held = editing.value;
  if (held === null) return;
  fault.value = '';
  try {
    const saved = await call(
      api.saveStimulus,
      { courseId: props.courseId },
      {
        ...{ id: held.id, title: title.value, document: document.value, version: held.version },
      },
    );
    editing.value = null;
    await load();
    await props.set(saved.id);
  } catch (error) {
    fault.value = error instanceof HttpProblem ? error.message : 'Not kept.';
  }
}
</script>

<template>
  <div class="field">
    <label
      ><span class="label">With a text that several questions share</span>
      <ChoiceField :model-value="own?.id ?? ''" :disabled="!canEdit" @change="choose">
        <option value="">none</option>
        <option v-for="s in choices" :key="s.id" :value="s.id">{{ nameOf(s) }}</option>
        <option value="new">write one…</option>
      </ChoiceField></label
    >
    <ActButton v-if="own && canEdit" look="act" @click="edit(own)">change this text</ActButton>
    <p v-if="fault && !editing" class="fault" role="alert">{{ fault }}</p>
    <v-dialog :model-value="editing !== null" max-width="760" persistent @keydown.esc="editing = null">
      <form v-if="editing" class="sheet form" role="dialog" aria-label="A text that questions share" @submit.prevent="keep">
        <h2>A text that questions share</h2>
        <p v-if="editing.id" class="soft">It changes in every question that has it, also on papers that were taken.</p>
        <label class="field"><span class="label">Title, for finding it again</span><LineField v-model="title" maxlength="160" /></label>
        <DocumentEditor :model-value="editing.document" label="The text" :course-id="courseId" @change="document = $event" />
        <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
        <p class="form-acts row-acts">
          <ActButton type="submit" look="go">Keep it</ActButton> <ActButton look="quiet" @click="editing = null">Leave it</ActButton>
        </p>
      </form>
    </v-dialog>
  </div>
</template>
