/** @jest-environment ../scripts/jsdomForJest.mjs */
import 'fake-indexeddb/auto';
import type { DocumentChange, EditedText, ItemDetail } from '@rosemary/api';
import { plainText } from '@rosemary/core';
import { clear } from 'idb-keyval';
import { flushPromises, type VueWrapper } from '@vue/test-utils';
import PageEditor from '../src/kinds/page/PageEditor.vue';
import { setHooks } from '../src/platform/http.ts';
import { useNotices } from '../src/stores/noticeStore.ts';
import { beginMounting, endMounting, makeTestRouter, show, words } from './mounting.ts';
import { planItem } from './planItem.ts';
import { fakeServer, quietEvents, quietHooks, Refusal } from './server.ts';

let server: ReturnType<typeof fakeServer>;
beforeEach(async () => {
  await clear();
  beginMounting();
  localStorage.clear();
  server = fakeServer();
  setHooks({ ...quietHooks });
  quietEvents();
});
afterEach(endMounting);

const PAGE = '/courses/c/items/i';
const detail = (text: Partial<EditedText>): ItemDetail => ({
  ...{ item: planItem('page'), page: { document: words('As it was.'), version: 3 }, link: null, file: null },
  ...{ assignment: null, rubric: null, hasPeers: false },
  text: { document: words('As it was.'), isRead: true, working: null, ...text },
});
const WORKING = {
  document: words('As it is to be.'),
  working: { published: words('As it was.'), begunAt: '2026-11-17T09:00:00.000Z', begunBy: 'Teodor Vasko' },
};

async function open(text: Partial<EditedText> = {}, canEdit = true): Promise<VueWrapper> {
  server.on(`GET ${PAGE}/versions`, () => ({ versions: [] }));
  server.on('GET /templates', () => ({ templates: [] }));
  server.on(`GET ${PAGE}`, () => detail(text));
  let version = 3;
  server.on(`PUT ${PAGE}/page`, () => ({ version: ++version, isWorking: text.isRead !== false }));
  const shown = await show(PageEditor, { base: { courseId: 'c', itemId: 'i' }, detail: detail(text), canEdit }, makeTestRouter());
  await flushPromises();
  return shown;
}
const button = (shown: VueWrapper, name: string) => shown.findAll('button').find((b) => b.text() === name);
/** Saving goes through the browser’s own store, which takes several turns. */
const press = async (shown: VueWrapper, name: string): Promise<void> => {
  await button(shown, name)!.trigger('click');
  do await flushPromises();
  while (shown.findAll('section button').some((b) => b.attributes('disabled') !== undefined));
};
const editor = (shown: VueWrapper): HTMLTextAreaElement => shown.find('textarea').element as HTMLTextAreaElement;

describe('the text of a page that students read', () => {
  it('says that what is written waits, and is published with what was typed a moment ago', async () => {
    const shown = await open();
    expect(shown.text()).toContain('What you change waits until you publish it.');
    expect(button(shown, 'Publish changes')).toBeUndefined();
    server.on(`POST ${PAGE}/publish`, () => ({ version: 9, before: words('As it was.') }));
    await shown.find('textarea').setValue('Half a sentence.');
    // The first save says that there is a working copy; what is typed after it is not saved yet when it is published.
    const saving = (shown.findComponent({ name: 'ItemText' }).props('held') as { saving: { flush: () => Promise<void> } }).saving;
    await saving.flush();
    await flushPromises();
    expect(shown.text()).toContain('Not published.');
    await shown.find('textarea').setValue('A whole sentence.');
    await press(shown, 'Publish changes');
    const sent = server.bodies(`PUT ${PAGE}/page`) as DocumentChange[];
    expect(sent.map((s) => plainText(s.document).trim())).toEqual(['Half a sentence.', 'A whole sentence.']);
    expect(server.bodies(`POST ${PAGE}/publish`)).toEqual([{ version: 5 }]);
    expect(shown.text()).not.toContain('Not published.');
  });

  it('is put back for students when the publishing is taken back', async () => {
    const shown = await open(WORKING);
    expect(shown.text()).toContain('Begun by Teodor Vasko');
    expect(editor(shown).value).toBe('As it is to be.');
    server.on(`POST ${PAGE}/publish`, () => ({ version: 4, before: words('As it was.') }));
    server.on(`PUT ${PAGE}/published`, () => ({ version: 5, isWorking: true }));
    await press(shown, 'Publish changes');
    await useNotices().takeBack();
    await flushPromises();
    // What is taken back now was begun by whoever takes it back, and not by whoever began it first.
    expect(shown.text()).not.toContain('Begun by');
    expect(server.bodies(`PUT ${PAGE}/published`)).toEqual([{ document: words('As it was.'), version: 4 }]);
    expect(shown.text()).toContain('Not published.');
  });

  it('has its changes dropped, and they come back with Undo', async () => {
    const shown = await open(WORKING);
    server.on(`POST ${PAGE}/drop-changes`, () => ({ version: 4, document: words('As it was.') }));
    await press(shown, 'Drop the changes');
    expect(editor(shown).value).toBe('As it was.');
    expect(shown.text()).not.toContain('Not published.');
    await useNotices().takeBack();
    await flushPromises();
    expect(editor(shown).value).toBe('As it is to be.');
  });

  it('is compared with what is not published, the changed paragraphs alone at first', async () => {
    const shown = await open(WORKING);
    await press(shown, 'See what changes');
    await flushPromises();
    expect(shown.text()).toContain('Paragraphs that differ from what students read: 1 replaced.');
    await press(shown, 'Hide what changes');
    expect(shown.text()).not.toContain('Paragraphs that differ');
  });

  it('is not published where what was typed could not be saved', async () => {
    const shown = await open(WORKING);
    server.on(`PUT ${PAGE}/page`, () => new Refusal(422, 'invalid'));
    await shown.find('textarea').setValue('Not accepted.');
    await press(shown, 'Publish changes');
    expect(server.bodies(`POST ${PAGE}/publish`)).toEqual([]);
    expect(useNotices().notice?.text).toMatch(/^Nothing was done: /);
  });

  it('is plain where nobody reads it yet, and for who may not edit it', async () => {
    expect((await open({ isRead: false })).text()).not.toContain('publish');
    expect((await open(WORKING, false)).text()).not.toContain('Not published.');
  });
});
