<script setup lang="ts">
import type { ReadWorkView, ReviewNote, ReviewNoteChange } from '@rosemary/api';
import { computed, nextTick, ref } from 'vue';
import AnnotatedText from '../marking/AnnotatedText.vue';
import ActButton from '../parts/ActButton.vue';
import FileWork from '../parts/FileWork.vue';
import TextField from '../parts/fields/TextField.vue';
import type { Typing } from '../parts/fields/typing.ts';
import { useDraft } from '../platform/kept.ts';

/** A work at reading size, with the notes of one review at its words. */
const props = withDefaults(
  defineProps<{
    work: ReadWorkView;
    notes: readonly ReviewNote[];
    isFixed: boolean;
    put: (id: string, note: ReviewNoteChange) => Promise<boolean>;
    /** By what a note that is being written is known through a reload. */
    draftKey?: string;
  }>(),
  { draftKey: '' },
);
const chosen = ref<string | null>(null);
type Place = Pick<ReviewNote, 'anchor' | 'quote'>;
const place = ref<Place | null>(null);
interface Writing {
  readonly id: string;
  readonly at: Place;
  readonly body: string;
  readonly version: number;
}
const kept = useDraft<Writing>(() => `review note ${props.draftKey}`);
const writing = ref<Writing | null>(props.isFixed ? null : kept.find());
const field = ref<Typing | null>(null);
/** As the reader of marked works knows them: nobody’s name stands at one. */
const numbered = computed(() =>
  [...props.notes]
    .sort((a, b) => placeOf(a) - placeOf(b))
    .map((n, at) => ({
      ...n,
      attemptId: n.attemptId ?? '',
      author: '',
      replacement: null,
      points: null,
      isAnswered: false,
      number: at + 1,
    })),
);
const placeOf = ({ anchor }: ReviewNote): number => (anchor.kind === 'text' ? anchor.from : Number.MAX_SAFE_INTEGER);
function select(at: { from: number; to: number; quote: string } | null): void {
  place.value = at === null ? null : { anchor: { kind: 'text', from: at.from, to: at.to }, quote: at.quote.slice(0, 2000) };
}
async function start(note: ReviewNote | null): Promise<void> {
  const at = note ?? place.value;
  if (at === null) return;
  writing.value = {
    id: note?.id ?? crypto.randomUUID(),
    at: { anchor: at.anchor, quote: at.quote },
    body: note?.body ?? '',
    version: note?.version ?? 0,
  };
  await nextTick();
  field.value?.focus();
}
function type(body: string): void {
  if (writing.value === null) return;
  writing.value = { ...writing.value, body };
  kept.keep(writing.value);
}
function leave(): void {
  kept.forget();
  writing.value = null;
}
async function save(): Promise<void> {
  const what = writing.value;
  if (what === null) return;
  const isNothing = what.body.trim() === '' && what.version === 0;
  if (isNothing || (await props.put(what.id, { fileId: null, ...what.at, body: what.body, version: what.version }))) leave();
}
const remove = (n: ReviewNote): Promise<boolean> =>
  props.put(n.id, { fileId: n.fileId, anchor: n.anchor, quote: n.quote, body: '', version: n.version });
</script>

<template>
  <div class="text-and-notes">
    <div class="text">
      <AnnotatedText
        v-if="work.document"
        :document="work.document"
        :notes="numbered"
        :chosen="chosen"
        @choose="chosen = $event"
        @select="select"
      />
      <p v-if="work.link" class="link">
        <span class="label">Handed in as a link:</span> <a :href="work.link" target="_blank" rel="noopener noreferrer">{{ work.link }}</a>
      </p>
      <section v-for="f in work.files" :key="f.id" class="file" :aria-label="f.name">
        <p class="label">{{ f.name }} · <a :href="`${f.url}?download=1`">download</a></p>
        <FileWork :file="f" />
      </section>
      <p v-if="!work.document && work.files.length === 0 && !work.link" class="soft">Nothing was written in it.</p>
    </div>
    <aside v-if="work.document && (!isFixed || numbered.length > 0)" class="notes" aria-label="Your notes">
      <p v-if="!isFixed && !writing" class="label">
        <ActButton v-if="place" look="act" @mousedown.prevent @click="start(null)">Note on the selected words</ActButton>
        <template v-else>Select words of the work to write a note on them.</template>
      </p>
      <form v-if="writing" class="writing" @submit.prevent="save">
        <q v-if="writing.at.quote" class="soft">{{ writing.at.quote }}</q>
        <TextField
          ref="field"
          :model-value="writing.body"
          rows="3"
          maxlength="4000"
          aria-label="Note"
          @input="type(($event.target as HTMLTextAreaElement).value)"
          @keydown.esc="leave"
        />
        <ActButton type="submit" look="quiet">Keep the note</ActButton> <ActButton look="act" @click="leave">Discard</ActButton>
      </form>
      <ol v-if="numbered.length > 0">
        <li v-for="n in numbered" :key="n.id" :class="{ chosen: chosen === n.id }">
          <ActButton class="place" :aria-label="`Show the words of note ${n.number}`" @click="chosen = n.id"
            ><q class="soft">{{ n.quote }}</q></ActButton
          >
          <p>{{ n.body }}</p>
          <p v-if="!isFixed">
            <ActButton look="act" @click="start(n)">Change</ActButton> <ActButton look="act" @click="remove(n)">Delete</ActButton>
          </p>
        </li>
      </ol>
    </aside>
  </div>
</template>
