<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { Words } from '@rosemary/api';
import { preparedWord, type WordRule } from '@rosemary/core';
import { ref, watch } from 'vue';
import ActButton from '../parts/ActButton.vue';
import LineField from '../parts/fields/LineField.vue';
import TextField from '../parts/fields/TextField.vue';
import { call } from '../platform/call.ts';
import { HttpProblem } from '../platform/http.ts';
import { forgetKept, keep, readKept } from '../platform/kept.ts';

/** A prepared text to one student or to several, each of whom gets it alone. What is typed is kept in this browser until it is sent. */
const props = defineProps<{
  courseId: string;
  ids: readonly string[];
  names: readonly string[];
  rule: WordRule | null;
  givenName: string | null;
}>();
const emit = defineEmits<{ sent: [words: Words]; close: [] }>();
const place = `word ${props.courseId} ${props.rule} ${props.ids.join(' ').slice(0, 400)}`;
const prepared = preparedWord(props.rule, props.givenName);
interface Draft {
  readonly key: string;
  readonly subject: string;
  readonly text: string;
}
const draft = ref({ ...(readKept<Draft>(place) ?? { ...prepared, key: crypto.randomUUID() }) });
watch(draft, (now) => keep(place, now), { deep: true });
const fault = ref('');
const isSending = ref(false);
async function send(): Promise<void> {
  isSending.value = true;
  try {
    const { key, subject, text } = draft.value;
    const next = await call(
      api.writeWords,
      { courseId: props.courseId },
      { key, enrolmentIds: [...props.ids], rule: props.rule, title: subject, body: text },
    );
    forgetKept(place);
    emit('sent', next);
  } catch (error) {
    fault.value = error instanceof HttpProblem ? error.message : 'Not sent. Try again.';
  }
  isSending.value = false;
}
</script>

<template>
  <form class="made" @submit.prevent="send">
    <p>
      To {{ names.slice(0, 12).join('; ') }}{{ names.length > 12 ? ` and ${names.length - 12} others` : ''
      }}{{ ids.length > 1 ? ', each alone' : '' }}
    </p>
    <label class="field"><span class="label">Subject</span><LineField v-model="draft.subject" maxlength="200" required /></label>
    <label class="field"><span class="label">Text</span><TextField v-model="draft.text" rows="6" maxlength="8000" /></label>
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <p>
      <ActButton look="go" type="submit" :disabled="isSending">{{ isSending ? 'Sending…' : 'Send' }}</ActButton>
      <ActButton look="quiet" @click="emit('close')">Close</ActButton>
    </p>
  </form>
</template>
