/** @jest-environment ../scripts/jsdomForJest.mjs */
import 'fake-indexeddb/auto';
import type { NewColumn, TermLineData } from '@rosemary/api';
import { flushPromises, type VueWrapper } from '@vue/test-utils';
import AfterRelease from '../src/gradebook/AfterRelease.vue';
import ClassListSheet from '../src/gradebook/ClassListSheet.vue';
import ColumnHistoryDialog from '../src/gradebook/ColumnHistoryDialog.vue';
import ColumnSettings from '../src/gradebook/ColumnSettings.vue';
import CopyColumnDialog from '../src/gradebook/CopyColumnDialog.vue';
import PastChoice from '../src/gradebook/PastChoice.vue';
import { columnsOf } from '../src/gradebook/columns.ts';
import { FIRST_CHOICE } from '../src/gradebook/gridChoice.ts';
import ItemInspector from '../src/plan/ItemInspector.vue';
import { setHooks } from '../src/platform/http.ts';
import TermLine from '../src/shell/TermLine.vue';
import { useCourse } from '../src/stores/courseStore.ts';
import { useNotices } from '../src/stores/noticeStore.ts';
import { useSession } from '../src/stores/sessionStore.ts';
import { book } from './book.ts';
import { beginMounting, endMounting, makeTestRouter, show } from './mounting.ts';
import { planItem } from './planItem.ts';
import { fakeServer, quietHooks } from './server.ts';

/** What a column opens beside its menu, the class on paper, and a day chosen on the term line. */
let server: ReturnType<typeof fakeServer>;
beforeEach(() => {
  beginMounting();
  localStorage.clear();
  setHooks(quietHooks);
  server = fakeServer();
});
afterEach(endMounting);
const button = (shown: VueWrapper, words: string) => shown.findAll('button').find((b) => b.text().includes(words))!;
const inCourse = (): void => {
  useCourse().head = {
    ...{ id: 'c', role: 'instructor', title: 'Horticulture', code: 'HOR-110', run: '2026', timeZone: 'Europe/Lisbon' },
    ...{ now: '2026-11-18T10:00:00Z', groups: [] },
    sections: [
      { id: 's', title: 'Morning' },
      { id: 't', title: 'Evening' },
    ],
  } as never;
};

describe('the history of a column', () => {
  const open = async (history: object) => {
    server.on('GET /courses/c/gradebook/columns/late/history', () => history);
    return show(ColumnHistoryDialog, { courseId: 'c', column: book().columns[0] }, makeTestRouter(), inCourse);
  };
  it('leads to the gradebook as it stood just after any of it', async () => {
    const at = '2026-11-03T10:00:00Z';
    const entries = [{ eventId: '5', at, who: 'Ines Moura', student: 'Moss, Ada', what: '2 → 4', source: 'gradebook', reason: 'typo' }];
    const shown = await open({ entries, isHidden: false });
    expect(shown.text()).toContain('Moss, Ada');
    expect(shown.text()).toContain('Ines Moura, gradebook: typo');
    await button(shown, 'as it stood then').trigger('click');
    expect(shown.emitted('past')).toEqual([[at]]);
  });
  it('says why it tells nothing, or that there is nothing', async () => {
    expect((await open({ entries: [], isHidden: true })).text()).toContain('Names are hidden in this work');
    expect((await open({ entries: [], isHidden: false })).text()).toContain('Nothing has been written in it yet.');
  });
});

describe('a column copied to other courses', () => {
  it('goes with its points and the title of its category, kept back and without a date', async () => {
    server.on('POST /courses/d/gradebook/columns', () => ({ columnId: 'n', itemId: 'i', row: null }));
    const column = { ...book().columns[0], isAlone: true };
    const shown = await show(CopyColumnDialog, { courseId: 'c', column, categories: book().categories }, makeTestRouter(), () => {
      inCourse();
      useSession().me = {
        courses: [
          { id: 'c', role: 'instructor', code: 'HOR-110', run: '2026', title: 'Horticulture' },
          { id: 'd', role: 'instructor', code: 'HOR-205', run: '2026', title: 'Glasshouses' },
          { id: 'e', role: 'student', code: 'HOR-300', run: '2026', title: 'Orchards' },
        ],
      } as never;
    });
    expect(shown.text()).toContain('Choose where it goes.');
    expect(shown.text()).not.toContain('HOR-300');
    await shown.find('input[type=checkbox]').setValue(true);
    await shown.find('form').trigger('submit');
    await flushPromises();
    expect(server.bodies('POST /courses/d/gradebook/columns').at(-1) as NewColumn).toMatchObject({
      ...{ title: 'Later', possible: 20_000, newCategory: 'Bench work', categoryId: null, dueAt: null, isToldAtOnce: false },
    });
    expect(shown.emitted('close')).toHaveLength(1);
  });
});

describe('the class on paper', () => {
  it('holds whom and what the grid shows, with totals; or the totals alone', async () => {
    const columns = columnsOf(book(), FIRST_CHOICE, () => true);
    const shown = await show(ClassListSheet, { rows: book().rows, columns, at: null, words: 'Morning' }, makeTestRouter(), inCourse);
    expect(shown.text()).toContain('3 students, Morning');
    const heads = () => shown.findAll('th').map((th) => th.text());
    expect(heads()).toEqual(expect.arrayContaining(['Name', 'Section', 'So far', 'Floor–reach']));
    expect(heads().some((h) => h.startsWith('Sooner'))).toBe(true);
    expect(shown.findAll('tbody tr').map((tr) => tr.findAll('td')[1]?.text())).toEqual(
      book().rows.map((r) => `${r.familyName}, ${r.givenName}`),
    );
    const what = shown.find('select');
    await what.setValue(what.findAll('option')[1]!.attributes('value'));
    expect(heads().some((h) => h.startsWith('Sooner'))).toBe(false);
    expect(heads()).toContain('So far');
  });
});

describe('a day chosen on the term line', () => {
  const weeks = Array.from({ length: 15 }, (_, n) => ({
    number: n + 1,
    startsOn: new Date(Date.parse('2026-09-07') + n * 7 * 86_400_000).toISOString().slice(0, 10),
    isTeaching: true,
    holiday: null,
  }));
  const data = { weeks, loads: [], items: [], week: 11, today: 10.4, todayText: 'Wed 18 Nov' } as unknown as TermLineData;
  const now = Date.parse('2026-11-18T10:00:00Z');
  const line = async (more: object = {}) => {
    globalThis.ResizeObserver ??= class {
      observe() {}
      disconnect() {}
      unobserve() {}
    } as never;
    return show(TermLine, { data, zone: 'Europe/Lisbon', now, isChoosable: true, picksDay: true, ...more });
  };
  it('is gone to with the arrow keys: by days, by weeks, never past today', async () => {
    const shown = await line();
    const svg = shown.find('svg');
    await svg.trigger('keydown', { key: 'ArrowRight' });
    expect(shown.text()).toContain('18 Nov 2026');
    await svg.trigger('keydown', { key: 'ArrowUp' });
    await svg.trigger('keydown', { key: 'ArrowLeft' });
    expect(shown.text()).toContain('10 Nov 2026');
    await svg.trigger('keydown', { key: 'Enter' });
    expect(shown.emitted('day')).toEqual([['2026-11-10T23:59:00.000Z']]);
    expect(shown.emitted('choose')).toBeUndefined();
  });
  it('is today as it is now, and may be left', async () => {
    const shown = await line();
    await shown.find('svg').trigger('keydown', { key: 'Enter' });
    await shown.find('svg').trigger('keydown', { key: 'Escape' });
    expect(shown.emitted('day')).toEqual([[new Date(now).toISOString()], [null]]);
  });
  it('stands on the line while it is shown; weeks are chosen as ever where no day is asked for', async () => {
    const shown = await line({ picksDay: false, past: '2026-10-01T22:00:00Z' });
    expect(shown.find('.past').exists()).toBe(true);
    await shown.find('svg').trigger('keydown', { key: 'Enter' });
    expect(shown.emitted('choose')).toEqual([[[11, 11]]]);
    expect((await line({ past: '2025-01-01T00:00:00Z' })).find('.past').exists()).toBe(false);
  });
  it('is asked for from the menu of the past, which closes', async () => {
    const shown = await show(PastChoice, { modelValue: null }, makeTestRouter(), inCourse);
    await button(shown, 'on the term line').trigger('click');
    expect(useCourse().picksDay).toBe(true);
    expect(shown.emitted('close')).toHaveLength(1);
  });
});

describe('the settings of a column', () => {
  it('save each field as it is left, under the version that was seen, and undo it', async () => {
    const at = '/courses/c/items/i-late';
    const item = planItem('activity', { id: 'i-late', title: 'Later', version: 4, possible: 20_000 });
    server.on('GET /courses/c/objectives', () => ({ objectives: [] }));
    server.on(`GET ${at}`, () => ({ item }));
    server.on(`PATCH ${at}`, ({ body }) => ({ ...item, ...(body as object), version: 5 }));
    const column = book().columns[0];
    const router = makeTestRouter();
    await router.push('/courses/c/items/i-late');
    const shown = await show(ColumnSettings, { courseId: 'c', column, categories: [] }, router, inCourse);
    await shown.find('input').setValue('Later talk');
    await flushPromises();
    expect(server.bodies(`PATCH ${at}`).at(-1)).toEqual({ title: 'Later talk', version: 4 });
    const { change } = shown.findComponent(ItemInspector).vm.$props as { change: (wish: object) => Promise<boolean> };
    expect(await change({ possible: 25_000 })).toBe(true);
    expect(server.bodies(`PATCH ${at}`).at(-1)).toEqual({ possible: 25_000, version: 5 });
    expect(shown.emitted('changed')).toHaveLength(2);
    await useNotices().notice?.undo?.();
    expect(server.bodies(`PATCH ${at}`).at(-1)).toEqual({ possible: 20_000, version: 5 });
  });
});

describe('a result that is changed after release', () => {
  const REASONS = 'PUT /courses/c/gradebook/reasons';
  const open = () => show(AfterRelease, { courseId: 'c', changed: { who: 'Ada Moss', title: 'Later', eventId: '41' } });
  it('is asked why, beside what goes on, and the reason stands with the step', async () => {
    server.on(REASONS, () => ({}));
    const shown = await open();
    await shown.find('form').trigger('submit');
    expect(shown.text()).toContain('Type the reason, or leave it unsaid.');
    await shown.find('input').setValue('added up wrongly');
    await shown.find('form').trigger('submit');
    await flushPromises();
    expect(server.bodies(REASONS)).toEqual([{ eventId: '41', reason: 'added up wrongly' }]);
    expect(shown.emitted('done')).toHaveLength(1);
  });
  it('may be left unsaid; what was typed for one change is not kept for another', async () => {
    const shown = await open();
    await shown.find('input').setValue('half a rea');
    await shown.setProps({ changed: { who: 'Ada Moss', title: 'Sooner', eventId: '42' } });
    expect((shown.find('input').element as HTMLInputElement).value).toBe('');
    await button(shown, 'leave it unsaid').trigger('click');
    expect([shown.emitted('done')?.length, server.bodies(REASONS)]).toEqual([1, []]);
  });
});
