/** @jest-environment ../scripts/jsdomForJest.mjs */
import type { NoteView, Work } from '@rosemary/api';
import { createPinia, setActivePinia } from 'pinia';
import { ref } from 'vue';
import { useNotes, type Place } from '../src/marking/useNotes.ts';
import { setHooks } from '../src/platform/http.ts';
import { useNotices } from '../src/stores/noticeStore.ts';
import { fakeServer, quietHooks, Refusal } from './server.ts';

const NOTES = 'POST /courses/c/marking/i/e/notes';
const note = (id: string, from: number, more: Partial<NoteView> = {}): NoteView => ({
  ...{ id, attemptId: 'a', fileId: null, anchor: { kind: 'text', from, to: from + 3 }, quote: 'the pin', body: id, author: 'Ines' },
  ...{ replacement: null, points: null, version: 1, isAnswered: false },
  ...more,
});
const PLACE: Place = { fileId: null, anchor: { kind: 'text', from: 4, to: 9 }, quote: 'pivot' };

let server: ReturnType<typeof fakeServer>;
beforeEach(() => {
  setActivePinia(createPinia());
  localStorage.clear();
  setHooks(quietHooks);
  server = fakeServer();
});
function open(enrolmentId = 'e', notes: readonly NoteView[] = []) {
  const work = ref({ notes } as unknown as Work);
  const own = useNotes(
    work as never,
    () => ({ courseId: 'c', itemId: 'i', enrolmentId }),
    () => ({ id: 'a', fileIds: ['f'] }),
  );
  return { own, work };
}
const write = (own: ReturnType<typeof useNotes>, text: string): void => {
  own.place.value = PLACE;
  own.start();
  own.type({ ...own.draft.value, text });
};

describe('the notes on a work', () => {
  it('have their numbers by where they stand', () => {
    const { own } = open('e', [note('second', 40), note('first', 2), note('of another attempt', 1, { attemptId: 'b' })]);
    expect(own.notes.value.map((n) => [n.number, n.id])).toEqual([
      [1, 'first'],
      [2, 'second'],
    ]);
  });

  it('are written where the selection lies, and one with no words is left', async () => {
    const { own } = open();
    own.start();
    expect(own.writing.value).toBe(null);
    expect(useNotices().notice?.text).toBe('Select what the note is about, then press N.');
    server.on(NOTES, ({ body }) => [note('new', 4, { body: (body as { body: string }).body })]);
    write(own, '  Say how.  ');
    await own.save();
    expect(server.bodies(NOTES)[0]).toMatchObject({ attemptId: 'a', quote: 'pivot', body: 'Say how.', replacement: null });
    expect([own.writing.value, own.draft.value.text, own.notes.value.map((n) => n.body)]).toEqual([null, '', ['Say how.']]);
    write(own, '   ');
    await own.save();
    expect([server.bodies(NOTES).length, own.writing.value]).toEqual([1, null]);
  });

  it('propose other words, or strike them, and say nothing where nothing was changed', async () => {
    const { own } = open();
    server.on(NOTES, () => []);
    own.place.value = PLACE;
    own.start('correction');
    expect(own.draft.value.proposed).toBe('pivot');
    await own.save();
    expect(server.bodies(NOTES)).toEqual([]);
    own.place.value = PLACE;
    own.start('correction');
    own.type({ ...own.draft.value, proposed: '' });
    await own.save();
    expect(server.bodies(NOTES)[0]).toMatchObject({ body: '', replacement: '' });
  });

  it('are kept while they are written: a reload or another work loses no word', () => {
    const before = open();
    write(before.own, 'Half a sen');
    before.own.clear();
    expect(before.own.writing.value).toBe(null);
    const other = open('another');
    other.own.restore();
    expect(other.own.writing.value).toBe(null);
    const after = open();
    after.own.restore();
    expect([after.own.writing.value?.quote, after.own.draft.value.text]).toEqual(['pivot', 'Half a sen']);
    after.own.leave();
    const last = open();
    last.own.restore();
    expect(last.own.writing.value).toBe(null);
  });

  it('stay as they are typed where saving is refused', async () => {
    const { own } = open();
    server.on(NOTES, () => new Refusal(409, 'conflict'));
    write(own, 'Do not lose me.');
    await own.save();
    expect([own.writing.value?.quote, own.draft.value.text]).toEqual(['pivot', 'Do not lose me.']);
    const again = open();
    again.own.restore();
    expect(again.own.draft.value.text).toBe('Do not lose me.');
  });
});
