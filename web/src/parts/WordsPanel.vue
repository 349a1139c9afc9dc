<script setup lang="ts">
import type { NewWorkWord, WorkWord } from '@rosemary/api';
import { dayAndTime } from '@rosemary/core';
import { onMounted, ref, watch } from 'vue';
import { HttpProblem } from '../platform/http.ts';
import { useKeptLine } from '../platform/kept.ts';
import { useCourse } from '../stores/courseStore.ts';
import ActButton from './ActButton.vue';
import TextField from './fields/TextField.vue';

/** What a student and those who mark say to each other about one work; what is typed is kept until it is sent. */
const props = defineProps<{
  words: readonly WorkWord[];
  say: (word: NewWorkWord) => Promise<readonly WorkWord[]>;
  read: () => Promise<unknown>;
  /** Under what name words that are not sent yet are kept. */
  keptAs: string;
  hint: string;
  isFixed?: boolean;
}>();
const emit = defineEmits<{ said: [words: readonly WorkWord[]]; read: [] }>();
const course = useCourse();
const text = useKeptLine(() => `words ${props.keptAs}`);
const fault = ref('');
const isBusy = ref(false);
// One id for one message: sent again after a lost answer it is said once.
let id = crypto.randomUUID();
async function send(): Promise<void> {
  const body = text.value.trim();
  if (body === '' || isBusy.value) return;
  isBusy.value = true;
  fault.value = '';
  try {
    emit('said', await props.say({ id, body }));
    text.value = '';
    id = crypto.randomUUID();
  } catch (error) {
    fault.value = error instanceof HttpProblem ? error.message : 'It was not sent. It is kept here; try again.';
  } finally {
    isBusy.value = false;
  }
}
async function setRead(): Promise<void> {
  if (props.isFixed || !props.words.some((w) => w.isNew)) return;
  await props.read().catch(() => undefined);
  emit('read');
}
onMounted(setRead);
watch(() => props.words.length, setRead);
const when = (at: string): string => dayAndTime(Date.parse(at), course.zone, course.now);
</script>

<template>
  <div class="words">
    <p v-if="words.length === 0" class="soft">{{ hint }}</p>
    <article v-for="w in words" :key="w.id" :class="{ own: w.isOwn }">
      <p class="label">
        <b>{{ w.isOwn ? 'You' : w.author }}</b> {{ when(w.at) }}<span v-if="w.isNew" class="clay"> · new</span>
      </p>
      <p class="body">{{ w.body }}</p>
    </article>
    <form v-if="!isFixed" @submit.prevent="send">
      <label class="field"
        ><span class="label">Say something about this work</span
        ><TextField v-model="text" rows="2" maxlength="8000" @keydown.ctrl.enter="send" />
      </label>
      <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
      <p><ActButton type="submit" look="go" :disabled="text.trim() === '' || isBusy">Say it</ActButton></p>
    </form>
  </div>
</template>

<style scoped>
article {
  padding: 6px 0;
  border-bottom: 1px solid var(--frost2);
}
.own {
  padding-left: 22px;
}
.body {
  white-space: pre-wrap;
  overflow-wrap: anywhere;
}
form {
  padding-top: 8px;
}
</style>
