<script setup lang="ts">
import type { NoteView, RemarkView } from '@rosemary/api';
import { formatPoints } from '@rosemary/core';
import { computed, nextTick, ref, watch } from 'vue';
import RemarkPick from './RemarkPick.vue';
import { useRemarks } from './useRemarks.ts';
import ActButton from '../parts/ActButton.vue';
import TextField from '../parts/fields/TextField.vue';
import LineField from '../parts/fields/LineField.vue';
import type { NoteDraft } from './useNotes.ts';
import type { Typing } from '../parts/fields/typing.ts';

type Numbered = NoteView & { readonly number: number };
const props = defineProps<{
  notes: readonly Numbered[];
  levels: Readonly<Record<string, number>>;
  chosen: string | null;
  writing: { readonly quote: string; readonly as: 'note' | 'remark' | 'correction' } | null;
  draft: NoteDraft;
  draftTop: number;
  hasPlace: boolean;
  /** The title of the criterion at hand, and of all. */
  criterion: string;
  criteria: readonly string[];
}>();
const emit = defineEmits<{
  choose: [id: string];
  type: [draft: NoteDraft];
  save: [];
  leave: [];
  edit: [note: Numbered, body: string];
  remove: [note: Numbered];
  start: [];
}>();
/** One of what is typed, kept by whoever holds the notes. */
const typed = <K extends keyof NoteDraft>(key: K) =>
  computed({
    get: () => props.draft[key],
    set: (next) => {
      emit('type', { ...props.draft, [key]: next });
    },
  });
const text = typed('text');
const proposed = typed('proposed');
const field = ref<Typing | null>(null);
const editing = ref<string | null>(null);
const isPicking = ref(false);
const isCorrecting = computed(() => props.writing?.as === 'correction');
const proposedField = ref<Typing | null>(null);
const remarks = useRemarks();
const heights = ref<Record<string, number>>({});
watch(
  () => props.writing,
  async (w) => {
    isPicking.value = w?.as === 'remark' && text.value === '';
    if (w && !isPicking.value) {
      await nextTick();
      (isCorrecting.value ? proposedField : field).value?.focus();
    }
  },
);

const GAP = 12;
/** Each note at its own height, or just below the one above it. */
const tops = computed(() => {
  let floor = 0;
  const placed: Record<string, number> = {};
  const ordered = [...props.notes].sort((a, b) => (props.levels[a.id] ?? 0) - (props.levels[b.id] ?? 0) || a.number - b.number);
  for (const note of ordered) {
    const top = Math.max(props.levels[note.id] ?? 0, floor);
    placed[note.id] = top;
    floor = top + (heights.value[note.id] ?? 44) + GAP;
  }
  return placed;
});
function measure(el: unknown, id: string): void {
  const h = (el as HTMLElement | null)?.offsetHeight;
  if (h && heights.value[id] !== h)
    void nextTick(() => {
      heights.value = { ...heights.value, [id]: h };
    });
}
const signed = (points: number): string => `${points > 0 ? '+' : '−'}${formatPoints(Math.abs(points))}`;
/** What a remark says is put into the note, to be kept as it is or changed. */
async function take(remark: RemarkView): Promise<void> {
  const before = text.value.trim();
  emit('type', { ...props.draft, text: before === '' ? remark.body : `${before} ${remark.body}`, remarkId: remark.id });
  isPicking.value = false;
  await nextTick();
  field.value?.focus();
}
async function keep(note: Numbered): Promise<void> {
  await remarks.load();
  await remarks.add(note.body, props.criterion);
}
function endEdit(note: Numbered, body: string): void {
  if (editing.value !== note.id) return;
  editing.value = null;
  if (body.trim() !== '' && body.trim() !== note.body) emit('edit', note, body.trim());
}
const inkTop = computed(() => Math.max(0, props.draftTop));
</script>

<template>
  <div class="notes" aria-label="Notes in the margin">
    <div
      v-for="note in notes"
      :key="note.id"
      :ref="(el) => measure(el, note.id)"
      :class="['note', { on: note.id === chosen }]"
      :style="{ top: `${tops[note.id] ?? 0}px` }"
      @click="emit('choose', note.id)"
    >
      <i>{{ note.number }}</i>
      <TextField
        v-if="editing === note.id"
        rows="3"
        maxlength="4000"
        :model-value="note.body"
        :aria-label="`Note ${note.number}`"
        takes-focus
        @blur="endEdit(note, ($event.target as HTMLTextAreaElement).value)"
        @keydown.esc="editing = null"
        @keydown.enter.exact.prevent="endEdit(note, ($event.target as HTMLTextAreaElement).value)"
      />
      <template v-else
        ><span v-if="note.replacement !== null" class="proposed">{{
          note.replacement === '' ? 'Strike this.' : `Rather “${note.replacement}”.`
        }}</span>
        {{ note.body }} <b v-if="note.points">{{ signed(note.points) }}</b>
        <div class="label">
          {{ note.author }}<span v-if="note.isAnswered"> · <b>answered</b></span>
          <span class="acts"
            >· <ActButton look="act" @click.stop="editing = note.id">change</ActButton> ·
            <ActButton look="act" @click.stop="emit('remove', note)">delete</ActButton> ·
            <ActButton look="act" @click.stop="keep(note)">keep as a remark</ActButton></span
          >
        </div></template
      >
    </div>
    <form v-if="writing" class="note writing" :style="{ top: `${inkTop}px` }" @submit.prevent="emit('save')">
      <RemarkPick
        v-if="isPicking"
        :criterion="criterion"
        :criteria="criteria"
        @take="take"
        @leave="
          isPicking = false;
          nextTick(() => field?.focus());
        "
      />
      <LineField
        v-if="isCorrecting && !isPicking"
        ref="proposedField"
        v-model="proposed"
        maxlength="2000"
        aria-label="Rather these words; empty strikes them"
        @keydown.esc="emit('leave')"
        @keydown.enter.prevent="emit('save')"
      />
      <TextField
        v-show="!isPicking"
        ref="field"
        v-model="text"
        :rows="isCorrecting ? 2 : 3"
        maxlength="4000"
        aria-label="Note"
        :placeholder="isCorrecting ? 'why, if you wish' : 'Note'"
        @keydown.esc="emit('leave')"
        @keydown.enter.exact.prevent="emit('save')"
      />
      <div class="label">
        <template v-if="writing.quote !== ''">“{{ writing.quote.slice(0, 40) }}{{ writing.quote.length > 40 ? '…' : '' }}”</template
        ><template v-else>an area</template
        ><template v-if="!isPicking">
          · Enter keeps it, Shift+Enter begins a new line, Esc leaves it ·
          <ActButton look="act" @click="isPicking = true">stock remark</ActButton></template
        >
      </div>
    </form>
    <div v-else-if="hasPlace" class="note hint" :style="{ top: `${inkTop}px` }" />
    <p class="soft foot" :style="{ top: `${Math.max(0, ...Object.entries(tops).map(([id, t]) => t + (heights[id] ?? 44) + 20))}px` }">
      <ActButton v-if="hasPlace && !writing" look="act" @mousedown.prevent="emit('start')">
        Note it (N), with a stock remark (R), or propose other words (C)</ActButton
      ><template v-else-if="!writing">Select words, or draw an area, to note them</template>
    </p>
  </div>
</template>

<style scoped>
.notes {
  flex: 1;
  position: relative;
  min-width: 210px;
  max-width: 330px;
}
.note {
  position: absolute;
  left: 0;
  right: 16px;
  padding: 2px 6px 2px 20px;
  border-radius: 3px;
  transition: top 0.12s;
}
.note.on {
  background: var(--bloom-wash);
}
.note i {
  position: absolute;
  left: 4px;
  font: 600 12px/20px var(--sans);
}
.proposed {
  color: var(--bloom);
  font-style: italic;
}
.writing {
  background: var(--paper);
  border: 1px solid var(--bloom);
  z-index: 3;
  padding: 6px 10px;
}
.foot {
  position: absolute;
  left: 20px;
  right: 16px;
}
</style>
