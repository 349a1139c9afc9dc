<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { NewWordNote, Words } from '@rosemary/api';
import { kindOfRule, type WordRule } from '@rosemary/core';
import { ref, watch } from 'vue';
import ActButton from '../parts/ActButton.vue';
import DateField from '../parts/DateField.vue';
import ChoiceField from '../parts/fields/ChoiceField.vue';
import TextField from '../parts/fields/TextField.vue';
import { call } from '../platform/call.ts';
import { HttpProblem } from '../platform/http.ts';
import { forgetKept, keep, readKept } from '../platform/kept.ts';
import { useCourse } from '../stores/courseStore.ts';

/** What was done for a student, or until when they are set aside: for staff only. */
const props = defineProps<{ courseId: string; enrolmentId: string; rules: readonly WordRule[] }>();
const emit = defineEmits<{ noted: [words: Words, ids: readonly string[]]; close: [] }>();
const course = useCourse();
const KINDS = {
  called: 'called',
  met: 'met',
  arranged: 'arranged something',
  noted: 'note',
  'set aside': 'set aside until a day',
} as const;
const kind = ref<NewWordNote['kind']>('called');
const rule = ref<WordRule | ''>(props.rules[0] ?? '');
// What is being noted survives a reload.
const place = `word note ${props.courseId} ${props.enrolmentId}`;
const body = ref(readKept<string>(place) ?? '');
watch(body, (now) => keep(place, now));
const untilOn = ref<string | null>(null);
const key = crypto.randomUUID();
const fault = ref('');
const isSaving = ref(false);
async function save(): Promise<void> {
  if (kind.value === 'set aside' && untilOn.value === null) {
    fault.value = 'Choose the day until which it is set aside.';
    return;
  }
  isSaving.value = true;
  try {
    const { noteIds, ...next } = await call(
      api.addWordNotes,
      { courseId: props.courseId },
      {
        key,
        enrolmentIds: [props.enrolmentId],
        rule: rule.value === '' ? null : rule.value,
        kind: kind.value,
        body: body.value,
        untilOn: kind.value === 'set aside' ? untilOn.value : null,
      },
    );
    forgetKept(place);
    emit('noted', next, noteIds);
  } catch (error) {
    fault.value = error instanceof HttpProblem ? error.message : 'Not saved. Try again.';
  }
  isSaving.value = false;
}
</script>

<template>
  <form class="made" @submit.prevent="save">
    <div class="choices">
      <label
        >what was done
        <ChoiceField v-model="kind" is-word
          ><option v-for="(word, k) in KINDS" :key="k" :value="k">{{ word }}</option></ChoiceField
        ></label
      >
      <label v-if="rules.length > 1"
        >about
        <ChoiceField v-model="rule" is-word
          ><option v-for="r in rules" :key="r" :value="r">{{ kindOfRule(r).title.toLowerCase() }}</option></ChoiceField
        ></label
      >
      <DateField
        v-if="kind === 'set aside'"
        :model-value="untilOn"
        label="until"
        :zone="course.zone"
        :now="course.now"
        is-day
        @change="untilOn = $event"
      />
    </div>
    <label class="field"><span class="label">Note, for staff only</span><TextField v-model="body" rows="2" maxlength="2000" /></label>
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <p>
      <ActButton look="quiet" type="submit" :disabled="isSaving">{{ isSaving ? 'Saving…' : 'Save the note' }}</ActButton>
      <ActButton look="quiet" @click="emit('close')">Close</ActButton>
    </p>
  </form>
</template>
