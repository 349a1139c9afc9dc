/** @jest-environment ../scripts/jsdomForJest.mjs */
import 'fake-indexeddb/auto';
import { flushPromises } from '@vue/test-utils';
import { nextTick, ref } from 'vue';
import { setHooks } from '../src/platform/http.ts';
import { forgetKept, keep, keepFor, placeOf, readKept, useChosen, useDraft, useKeptLine } from '../src/platform/kept.ts';
import { noteSaved, noteUnsaved, retryUnsaved, sendLater, sendWaiting, startSending, stuck } from '../src/platform/unsaved.ts';
import { useSaving } from '../src/platform/useSaving.ts';
import UnsavedMenu from '../src/shell/UnsavedMenu.vue';
import { beginMounting, endMounting, inPage, show } from './mounting.ts';
import { fakeServer, quietHooks, Refusal, Silence, until } from './server.ts';

const AT = { method: 'put', path: '/courses/:courseId/word', body: {}, answer: {} } as never;
const WORD = 'PUT /courses/c/word';
let server: ReturnType<typeof fakeServer>;
let turn = 0;
/** The same person comes back after a reload: everything in memory is read again from the browser. */
function reload(): void {
  const me = `person ${turn}`;
  keepFor('');
  keepFor(me);
}
beforeEach(() => {
  beginMounting();
  localStorage.clear();
  keepFor(`person ${(turn += 1)}`);
  setHooks(quietHooks);
  server = fakeServer();
});
afterEach(endMounting);
const later = (key: string, body: object): void => {
  sendLater(key, key.toUpperCase(), AT, { courseId: 'c' } as never, body as never);
};

describe('what a browser keeps', () => {
  it('is never found by another person who signs in on it', () => {
    keep('text i', 'mine');
    expect(readKept('text i')).toBe('mine');
    keepFor('somebody else');
    expect(readKept('text i')).toBeNull();
  });

  it('is nothing where it cannot be read', () => {
    localStorage.setItem(placeOf('broken'), '{');
    expect(readKept('broken')).toBeNull();
    keep('whole', [1]);
    forgetKept('whole');
    expect(readKept('whole')).toBeNull();
  });

  it('holds a draft until it is sent or given up', () => {
    const draft = useDraft<{ title: string }>(() => 'a message');
    expect(draft.find()).toBeNull();
    draft.keep({ title: 'Half a tit' });
    expect(useDraft<{ title: string }>(() => 'a message').find()).toEqual({ title: 'Half a tit' });
    draft.forget();
    expect(draft.find()).toBeNull();
  });

  it('holds a line of text for each thing it is about', async () => {
    const about = ref('one');
    const line = await inPage(() => useKeptLine(() => about.value));
    line.value = 'for one';
    about.value = 'two';
    await nextTick();
    expect(line.value).toBe('');
    about.value = 'one';
    await nextTick();
    expect(line.value).toBe('for one');
    line.value = '';
    expect(readKept('draft one')).toBeNull();
  });

  it('holds how a view was chosen, for each view', async () => {
    const view = ref('plan');
    const chosen = await inPage(() => useChosen(() => view.value, 'outline'));
    chosen.value = 'weeks';
    view.value = 'another';
    await nextTick();
    expect(chosen.value).toBe('outline');
    view.value = 'plan';
    await nextTick();
    expect(chosen.value).toBe('weeks');
  });
});

describe('what is not saved yet', () => {
  it('is not spoken of while its first save is on its way', () => {
    noteUnsaved('text i');
    expect(stuck.value).toEqual([]);
    noteSaved('text i');
  });

  it('is told of after a crash, with where it was typed', () => {
    history.replaceState(null, '', '/courses/c/items/i?of=2');
    noteUnsaved('text i', '', 'A page');
    reload();
    expect(stuck.value).toMatchObject([{ title: 'A page', path: '/courses/c/items/i?of=2', why: 'It was left before it was saved.' }]);
  });

  it('is told of by a text that finds no connection, until it is saved', async () => {
    let isAway = true;
    server.on(WORD, () => (isAway ? new Silence() : {}));
    const saving = await inPage(() =>
      useSaving<string>(
        () => 'text i',
        async (text) => {
          const { call } = await import('../src/platform/call.ts');
          await (call as (...given: unknown[]) => Promise<unknown>)(AT, { courseId: 'c' }, { text });
          return null;
        },
      ),
    );
    saving.push('half');
    await saving.flush();
    expect(stuck.value).toMatchObject([{ key: 'text i', why: 'There is no connection.', request: null }]);
    isAway = false;
    await saving.flush();
    expect(stuck.value).toEqual([]);
  });

  it('is sent in the order in which it was typed, the latest of each', async () => {
    server.on(WORD, () => ({}));
    later('a', { text: 'old' });
    later('b', { text: 'other' });
    later('a', { text: 'new' });
    await sendWaiting();
    expect(server.bodies(WORD)).toEqual([{ text: 'other' }, { text: 'new' }]);
    expect(stuck.value).toEqual([]);
  });

  it('waits on while the server is silent, and is sent when the browser is told of a connection', async () => {
    server.on(WORD, () => new Silence());
    later('a', { text: 'x' });
    startSending();
    await flushPromises();
    expect(stuck.value).toHaveLength(1);
    server.on(WORD, () => ({}));
    window.dispatchEvent(new Event('online'));
    await flushPromises();
    expect([stuck.value, server.bodies(WORD).length > 1]).toEqual([[], true]);
  });

  it('is sent when whoever left it signs in again on a page that stayed open', async () => {
    server.on(WORD, () => new Silence());
    startSending();
    later('a', { text: 'x' });
    await sendWaiting();
    keepFor('somebody else');
    expect(stuck.value).toEqual([]);
    server.on(WORD, () => ({}));
    keepFor(`person ${turn}`);
    await until(() => stuck.value.length === 0, 'the sending');
    expect(server.bodies(WORD).at(-1)).toEqual({ text: 'x' });
  });

  it('is not sent again once it was refused, but says why, and is tried when somebody asks', async () => {
    server.on(WORD, () => new Refusal(422, 'invalid'));
    later('a', { text: 'x' });
    await sendWaiting();
    await sendWaiting();
    expect(server.bodies(WORD)).toHaveLength(1);
    expect(stuck.value).toMatchObject([{ isRefused: true, why: 'refused: invalid' }]);
    server.on(WORD, () => ({}));
    retryUnsaved('a');
    await flushPromises();
    expect(stuck.value).toEqual([]);
  });

  it('is listed in the bar, with its page, why, and what can be done', async () => {
    server.on(WORD, () => new Refusal(422, 'invalid'));
    later('a', { text: 'x' });
    await sendWaiting();
    noteUnsaved('text i', 'There is no connection.', 'A page');
    const shown = await show(UnsavedMenu, {});
    expect(shown.text()).toBe('Not saved yet: 2 ▾');
    await shown.find('button').trigger('click');
    expect(shown.text()).toContain('2 changes are kept in this browser until the server has them.');
    expect(shown.text()).toContain('There is no connection. Open it to save it.');
    await shown
      .findAll('button')
      .find((b) => b.text() === 'Discard')!
      .trigger('click');
    expect(shown.text()).toContain('1 change is kept');
    noteSaved('text i');
    await nextTick();
    expect(shown.text()).toBe('');
  });
});
