<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { Work, WorkWord } from '@rosemary/api';
import { dayAndTime } from '@rosemary/core';
import { DateTime } from 'luxon';
import { computed, ref } from 'vue';
import DateField from '../parts/DateField.vue';
import WordsPanel from '../parts/WordsPanel.vue';
import { call, callWithFile, takeBack as putBack } from '../platform/call.ts';
import { HttpProblem } from '../platform/http.ts';
import { useBusy } from '../platform/useBusy.ts';
import { useKeptLine } from '../platform/kept.ts';
import { useCourse } from '../stores/courseStore.ts';
import { useNotices } from '../stores/noticeStore.ts';
import ActButton from '../parts/ActButton.vue';
import TickBox from '../parts/fields/TickBox.vue';
import FileInput from '../parts/media/FileInput.vue';
import TextField from '../parts/fields/TextField.vue';
import LineField from '../parts/fields/LineField.vue';

/** What is done about a work beside marking it: talk, ask for a revision, hand in for a student whose work came otherwise. */
const props = defineProps<{ work: Work; base: { readonly courseId: string; readonly itemId: string; readonly enrolmentId: string } }>();
const emit = defineEmits<{ changed: [work: Work]; words: [words: readonly WorkWord[]] }>();
const course = useCourse();
const notices = useNotices();
const open = ref<'words' | 'revision' | 'hand-in' | null>(null);
const busy = useBusy('Not done. Try again.');
const { isBusy, fault } = busy;
const when = (at: string): string => dayAndTime(Date.parse(at), course.zone, course.now);
const turn = (what: NonNullable<typeof open.value>): void => {
  open.value = open.value === what ? null : what;
  fault.value = '';
};
const isNew = computed(() => props.work.words.filter((w) => w.isNew).length);
const given = computed(() => props.work.entry.givenName);

const asked = useKeptLine(() => `revision ${props.base.itemId} ${props.base.enrolmentId}`);
/** A week from now at the end of that day, unless another date is chosen. */
const dueAt = ref<string | null>(
  DateTime.fromMillis(course.now, { zone: course.zone })
    .plus({ days: 7 })
    .set({ hour: 23, minute: 59, second: 0, millisecond: 0 })
    .toUTC()
    .toISO(),
);
async function run(work: () => Promise<Work | null>): Promise<Work | null> {
  const next = await busy.run(work);
  if (next !== null) emit('changed', next);
  return next;
}
async function ask(): Promise<void> {
  if (dueAt.value === null) return;
  const body = { words: asked.value.trim(), dueAt: dueAt.value };
  const next = await run(() => call(api.askRevision, props.base, body, 'A revision is asked for'));
  if (next?.revision === undefined || next?.revision === null) return;
  asked.value = '';
  open.value = null;
  const at = { ...props.base, revisionId: next.revision.id };
  notices.say(`${given.value} is asked to revise it.`, async () => {
    await run(() => putBack(api.askRevision, at));
  });
}
async function takeBack(): Promise<void> {
  const { revision } = props.work;
  if (revision === null) return;
  const at = { ...props.base, revisionId: revision.id };
  if ((await run(() => call(api.endRevision, at, undefined, 'The revision is taken back'))) !== null)
    notices.say('The revision is taken back.', async () => {
      await run(() => putBack(api.endRevision, at));
    });
}

const how = useKeptLine(() => `hand in ${props.base.itemId} ${props.base.enrolmentId}`);
const cameAt = ref<string | null>(DateTime.fromMillis(course.now, { zone: 'utc' }).toISO());
const takesDraft = ref(true);
const laid = ref<string[]>([]);
const input = ref<InstanceType<typeof FileInput> | null>(null);
const key = crypto.randomUUID();
async function lay(files: readonly File[]): Promise<void> {
  for (const file of files) {
    try {
      laid.value.push((await callWithFile(api.addFileFor, props.base, file)).name);
    } catch (error) {
      fault.value = error instanceof HttpProblem ? error.message : `“${file.name}” did not arrive.`;
    }
  }
}
async function handIn(): Promise<void> {
  if (cameAt.value === null) return;
  const body = { key, note: how.value.trim(), handedInAt: cameAt.value, takesDraft: takesDraft.value && props.work.draft !== null };
  if ((await run(() => call(api.handInFor, props.base, body))) === null) return;
  how.value = '';
  open.value = null;
  notices.say(`Handed in for ${given.value}.`);
}
</script>

<template>
  <span class="tools">
    <ActButton look="act" :aria-expanded="open === 'words'" @click="turn('words')">
      {{ work.words.length > 0 ? `conversation, ${work.words.length}` : 'conversation'
      }}<template v-if="work.words.length > 0"
        ><span v-if="isNew > 0" class="clay">, {{ isNew }} new</span></template
      >
    </ActButton>
    <ActButton v-if="work.attempts.length > 0" look="act" :aria-expanded="open === 'revision'" @click="turn('revision')">
      {{ work.revision && !work.revision.isAnswered ? 'revision asked' : 'ask for a revision' }}
    </ActButton>
    <ActButton v-else look="act" :aria-expanded="open === 'hand-in'" @click="turn('hand-in')">hand in for {{ given }}</ActButton>
    <section v-if="open" class="sheet pad panel" :aria-label="open" @keydown.esc="open = null">
      <p class="close"><ActButton look="act" @click="open = null">close</ActButton></p>
      <template v-if="open === 'words'">
        <h2>Conversation</h2>
        <WordsPanel
          :words="work.words"
          :say="(word) => call(api.sayToStudent, base, word)"
          :read="() => call(api.readStudentsWords, base)"
          :kept-as="`${base.itemId} ${base.enrolmentId}`"
          :hint="`Nothing has been said yet. ${given} reads it with the work, and answers here.`"
          @said="emit('words', $event)"
          @read="
            emit(
              'words',
              work.words.map((w) => ({ ...w, isNew: false })),
            )
          "
        />
      </template>
      <template v-else-if="open === 'revision'">
        <h2>Revision</h2>
        <template v-if="work.revision && !work.revision.isAnswered">
          <p>Asked for by {{ work.revision.askedBy }} {{ when(work.revision.askedAt) }}, until {{ when(work.revision.dueAt) }}.</p>
          <p class="body">{{ work.revision.words }}</p>
          <p><ActButton look="act" :disabled="isBusy" @click="takeBack">Take it back</ActButton></p>
        </template>
        <form v-else @submit.prevent="ask">
          <p class="soft">{{ given }} sees your notes with it, has one attempt more, and it is not late until the new date.</p>
          <label class="field"><span class="label">What to revise</span><TextField v-model="asked" rows="3" maxlength="4000" /> </label>
          <DateField :model-value="dueAt" label="New date" :zone="course.zone" :now="course.now" is-required @change="dueAt = $event" />
          <p><ActButton type="submit" look="go" :disabled="isBusy || asked.trim() === '' || dueAt === null">Ask for it</ActButton></p>
        </form>
      </template>
      <form v-else @submit.prevent="handIn">
        <h2>Hand in for {{ given }}</h2>
        <p class="soft">For work that came by other means. It counts as handed in when it came.</p>
        <label class="field"
          ><span class="label">How it came, such as “on paper” or “by mail”</span><LineField v-model="how" maxlength="2000"
        /></label>
        <DateField :model-value="cameAt" label="When it came" :zone="course.zone" :now="course.now" is-required @change="cameAt = $event" />
        <p v-if="work.draft">
          <label><TickBox v-model="takesDraft" /> with the draft as it stands</label>
        </p>
        <p>
          <ActButton look="act" @click="input?.open()">Add a file</ActButton>
          <span v-if="laid.length > 0" class="label"> {{ laid.join(', ') }}</span><FileInput
            ref="input"
            is-many
            label="A file of the work"
            @choose="lay"
          />
        </p>
        <p><ActButton type="submit" look="go" :disabled="isBusy || how.trim() === '' || cameAt === null">Hand it in</ActButton></p>
      </form>
      <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    </section>
  </span>
</template>

<style scoped>
.tools {
  display: inline-flex;
  gap: 14px;
}
.panel {
  position: absolute;
  right: 20px;
  top: 100%;
  white-space: normal;
  width: 380px;
  max-height: 70vh;
  overflow: auto;
  z-index: 8;
  background: var(--paper);
  color: var(--ink);
  border: 1px solid var(--frost);
  border-radius: 4px;
  box-shadow: 0 8px 28px rgb(20 32 26 / 0.18);
}
.close {
  float: right;
}
.body {
  white-space: pre-wrap;
}
</style>
