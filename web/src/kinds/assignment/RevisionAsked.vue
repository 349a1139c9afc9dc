<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { AttemptView, NoteView, OwnRevision } from '@rosemary/api';
import { dayAndTime, numberNotes, countOf } from '@rosemary/core';
import { computed, ref } from 'vue';
import AnnotatedText from '../../marking/AnnotatedText.vue';
import { call } from '../../platform/call.ts';
import { useCourse } from '../../stores/courseStore.ts';
import { useNotices } from '../../stores/noticeStore.ts';
import ActButton from '../../parts/ActButton.vue';
import TickBox from '../../parts/fields/TickBox.vue';

/** What is to be revised: the marker's words, and the notes in the work, each to be ticked off as it is answered. */
const props = defineProps<{
  revision: OwnRevision;
  attempt: AttemptView | null;
  base: { readonly courseId: string; readonly itemId: string };
  isLooking: boolean;
}>();
const emit = defineEmits<{ changed: [] }>();
const course = useCourse();
const notices = useNotices();
const chosen = ref<string | null>(null);
const notes = computed(() =>
  numberNotes(
    props.revision.notes.filter((n) => n.attemptId === props.attempt?.id),
    props.attempt?.files.map((f) => f.id) ?? [],
  ),
);
const textNotes = computed(() => notes.value.filter((n) => n.fileId === null));
const open = computed(() => notes.value.filter((n) => !n.isAnswered).length);
async function setAnswered(note: NoteView, isAnswered: boolean): Promise<void> {
  try {
    await call(api.answerNote, { ...props.base, noteId: note.id }, { isAnswered });
  } catch (error) {
    notices.sayFault(error);
  }
  emit('changed');
}
</script>

<template>
  <section class="asked" aria-label="A revision is asked for">
    <h2>Please revise it by {{ dayAndTime(Date.parse(revision.dueAt), course.zone, course.now) }}</h2>
    <p class="label">{{ revision.askedBy }}, {{ dayAndTime(Date.parse(revision.askedAt), course.zone, course.now) }}</p>
    <p class="body">{{ revision.words }}</p>
    <div v-if="attempt?.document && textNotes.length > 0" class="paper">
      <AnnotatedText :key="attempt.id" :document="attempt.document" :notes="textNotes" :chosen="chosen" @choose="chosen = $event" />
    </div>
    <template v-if="notes.length > 0">
      <p class="label" role="status">
        {{ open === 0 ? 'Every note is answered.' : `${open} of ${countOf(notes.length, 'note')} not answered yet` }}
      </p>
      <ol>
        <li v-for="n in notes" :key="n.id" :class="{ on: chosen === n.id }">
          <ActButton look="act" @click="chosen = n.id">“{{ n.quote.slice(0, 60) }}{{ n.quote.length > 60 ? '…' : '' }}”</ActButton><br />{{
            n.body
          }}
          <label class="tick"
            ><TickBox
              :model-value="n.isAnswered"
              :disabled="isLooking"
              @change="setAnswered(n, ($event.target as HTMLInputElement).checked)"
            />
            answered</label
          >
        </li>
      </ol>
    </template>
  </section>
</template>

<style scoped>
.asked {
  margin-top: 20px;
  border-top: 2px solid var(--clay);
  padding-top: 12px;
}
.body {
  white-space: pre-wrap;
  margin: 6px 0 10px;
}
.paper {
  background: var(--paper);
  border: 1px solid var(--frost);
  padding: 24px 34px;
  margin: 10px 0;
}
ol {
  padding-left: 22px;
}
li {
  padding: 5px 0;
}
.on {
  background: var(--bloom-wash);
}
.tick {
  margin-left: 8px;
  white-space: nowrap;
}
@media (max-width: 600px) {
  .paper {
    padding: 16px;
    margin-left: -16px;
    margin-right: -16px;
  }
}
</style>
