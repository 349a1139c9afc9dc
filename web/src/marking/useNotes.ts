import { useDraft } from '../platform/kept.ts';
import * as api from '@rosemary/api/endpoints';
import type { PathOf } from '@rosemary/api/endpoints';
import type { NoteView, Work } from '@rosemary/api';
import { numberNotes } from '@rosemary/core';
import { computed, ref, type Ref } from 'vue';
import { call } from '../platform/call.ts';
import { useNotices } from '../stores/noticeStore.ts';

/** Where a note is to lie: words, or an area of a page or picture. */
export interface Place {
  readonly fileId: string | null;
  readonly anchor: NoteView['anchor'];
  readonly quote: string;
}
/** What is being written: a note, one from a stock remark, or other words for those selected. */
export type Writing = Place & { readonly as: 'note' | 'remark' | 'correction' };
/** What is typed into it so far. */
export interface NoteDraft {
  readonly text: string;
  /** Other words for those selected; emptied, they are struck. */
  readonly proposed: string;
  readonly remarkId: string | null;
}
const NOTHING: NoteDraft = { text: '', proposed: '', remarkId: null };

/** The notes of the open work: where one is to lie, writing, changing and deleting with the way back. What is typed survives a reload. */
export function useNotes(
  work: Ref<Work | null>,
  base: () => PathOf<typeof api.getWork>,
  attempt: () => { readonly id: string; readonly fileIds: readonly string[] } | null,
) {
  const notices = useNotices();
  const chosen = ref<string | null>(null);
  const place = ref<Place | null>(null);
  const writing = ref<Writing | null>(null);
  const draft = ref<NoteDraft>(NOTHING);
  const notes = computed(() => {
    const at = attempt();
    return numberNotes(
      (work.value?.notes ?? []).filter((n) => n.attemptId === at?.id),
      at?.fileIds ?? [],
    );
  });
  const kept = useDraft<{ readonly attemptId: string | undefined; readonly writing: Writing; readonly draft: NoteDraft }>(
    () => `note ${base().itemId} ${base().enrolmentId}`,
  );

  /** Another work is opened: what is typed here stays kept for this one. */
  function clear(): void {
    chosen.value = null;
    place.value = null;
    writing.value = null;
    draft.value = NOTHING;
  }
  /** What was being written on this work when it was left without being kept. */
  function restore(): void {
    const found = kept.find();
    if (found === null || writing.value !== null) return;
    if (found.attemptId !== attempt()?.id) return;
    place.value = found.writing;
    writing.value = found.writing;
    draft.value = found.draft;
  }
  function type(next: NoteDraft): void {
    draft.value = next;
    if (writing.value !== null) kept.keep({ attemptId: attempt()?.id, writing: writing.value, draft: next });
  }
  function leave(): void {
    kept.forget();
    writing.value = null;
    draft.value = NOTHING;
  }
  function start(as: Writing['as'] = 'note'): void {
    const { value } = place;
    if (value === null) notices.say(`Select what the note is about, then press ${{ note: 'N', remark: 'R', correction: 'C' }[as]}.`);
    else if (as === 'correction' && value.anchor.kind !== 'text') notices.say('A correction is of words that were written here.');
    else {
      writing.value = { ...value, as };
      draft.value = { ...NOTHING, proposed: value.quote };
    }
  }
  /** An area that was just drawn is written about at once. */
  function startAt(at: Place): void {
    place.value = at;
    start();
  }
  async function change(ask: () => Promise<readonly NoteView[]>): Promise<boolean> {
    try {
      const next = await ask();
      if (work.value) work.value = { ...work.value, notes: next };
      return true;
    } catch (error) {
      notices.sayFault(error);
      return false;
    }
  }
  /** Keeps what is written; where nothing is, it is left. */
  async function save(): Promise<void> {
    const what = writing.value;
    const at = attempt();
    if (what === null || at === null) return;
    const { text, proposed, remarkId } = draft.value;
    const changes = what.as === 'correction' && proposed.trim() !== what.quote;
    if (!changes && text.trim() === '') {
      leave();
      return;
    }
    const { fileId, anchor, quote } = what;
    const note = { id: crypto.randomUUID(), attemptId: at.id, fileId, anchor, quote, body: text.trim(), remarkId };
    if (!(await change(() => call(api.addNote, base(), { ...note, replacement: changes ? proposed.trim() : null })))) return;
    leave();
    place.value = null;
    chosen.value = note.id;
    document.getSelection()?.removeAllRanges();
  }
  const edit = (note: NoteView, body: string): Promise<boolean> =>
    change(() => call(api.changeNote, { ...base(), noteId: note.id }, { body, version: note.version }));
  async function remove(note: NoteView): Promise<void> {
    if (await change(() => call(api.removeNote, { ...base(), noteId: note.id })))
      notices.say(
        'The note is deleted.',
        async () => {
          await change(() => call(api.restoreNote, { ...base(), noteId: note.id }));
        },
        () => remove(note),
      );
  }
  return { chosen, place, writing, draft, notes, clear, restore, type, leave, start, startAt, save, edit, remove };
}
