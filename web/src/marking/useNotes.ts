import * as api from '@rosemary/api/endpoints';
import type { PathOf } from '@rosemary/api/endpoints';
import type { NoteView, Work } from '@rosemary/api';
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

/** The notes of the open work: where one is to lie, writing, changing and deleting with the way back. */
export function useNotes(work: Ref<Work | null>, base: () => PathOf<typeof api.getWork>, attemptId: () => string | null) {
  const notices = useNotices();
  const chosen = ref<string | null>(null);
  const place = ref<Place | null>(null);
  const writing = ref<Writing | null>(null);
  const notes = computed(() =>
    (work.value?.notes ?? []).filter((n) => n.attemptId === attemptId()).map((n, i) => ({ ...n, number: i + 1 })),
  );

  function clear(): void {
    chosen.value = null;
    place.value = null;
    writing.value = null;
  }
  function start(as: Writing['as'] = 'note'): void {
    const { value } = place;
    if (value === null) notices.say(`Select what the note is about, then press ${{ note: 'N', remark: 'R', correction: 'C' }[as]}.`);
    else if (as === 'correction' && value.anchor.kind !== 'text') notices.say('A correction is of words that were written here.');
    else writing.value = { ...value, as };
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
  async function add(body: string, remarkId: string | null, replacement: string | null): Promise<void> {
    const what = writing.value;
    const id = crypto.randomUUID();
    const at = attemptId();
    if (what === null || at === null) return;
    const { fileId, anchor, quote } = what;
    const note = { id, attemptId: at, fileId, anchor, quote, body, remarkId, replacement };
    if (!(await change(() => call(api.addNote, base(), note)))) return;
    writing.value = null;
    place.value = null;
    chosen.value = id;
    document.getSelection()?.removeAllRanges();
  }
  const edit = (note: NoteView, body: string): Promise<boolean> =>
    change(() => call(api.changeNote, { ...base(), noteId: note.id }, { body, version: note.version }));
  async function remove(note: NoteView): Promise<void> {
    if (await change(() => call(api.removeNote, { ...base(), noteId: note.id })))
      notices.say('The note is deleted.', async () => {
        await change(() => call(api.restoreNote, { ...base(), noteId: note.id }));
      });
  }
  return { chosen, place, writing, notes, clear, start, startAt, add, edit, remove };
}
