/** @jest-environment ../scripts/jsdomForJest.mjs */
import 'fake-indexeddb/auto';
import type { BlockChange, ColumnView, Gradebook, NewColumn } from '@rosemary/api';
import { flushPromises, type VueWrapper } from '@vue/test-utils';
import { nextTick, ref, shallowRef } from 'vue';
import BlockDialog from '../src/gradebook/BlockDialog.vue';
import CellWordsPart from '../src/gradebook/CellWordsPart.vue';
import ColumnForm from '../src/gradebook/ColumnForm.vue';
import ColumnMenu from '../src/gradebook/ColumnMenu.vue';
import CurveDialog from '../src/gradebook/CurveDialog.vue';
import DifferencesDialog from '../src/gradebook/DifferencesDialog.vue';
import ImportDialog from '../src/gradebook/ImportDialog.vue';
import FillDialog from '../src/gradebook/FillDialog.vue';
import PlaceDialog from '../src/gradebook/PlaceDialog.vue';
import ViewChoice from '../src/gradebook/ViewChoice.vue';
import { columnsOf, type Column } from '../src/gradebook/columns.ts';
import { FIRST_CHOICE, type GridChoice } from '../src/gradebook/gridChoice.ts';
import { choiceWords } from '../src/gradebook/gridWords.ts';
import { highlightOf, isRowShown } from '../src/gradebook/narrow.ts';
import { useBlock, type BlockWish } from '../src/gradebook/useBlock.ts';
import { useBook } from '../src/gradebook/useBook.ts';
import { useGridModel } from '../src/gradebook/useGridModel.ts';
import { setHooks } from '../src/platform/http.ts';
import { keepFor, readKept } from '../src/platform/kept.ts';
import { useCourse } from '../src/stores/courseStore.ts';
import { useNotices } from '../src/stores/noticeStore.ts';
import { useRipple } from '../src/stores/rippleStore.ts';
import { book, cell, row } from './book.ts';
import { beginMounting, endMounting, inPage, show } from './mounting.ts';
import { fakeServer, Held, quietHooks, Refusal } from './server.ts';

let server: ReturnType<typeof fakeServer>;
let people = 0;
beforeEach(() => {
  beginMounting();
  localStorage.clear();
  keepFor(`grid person ${(people += 1)}`);
  setHooks(quietHooks);
  server = fakeServer();
});
afterEach(endMounting);

const everything = (): boolean => true;
const titles = (columns: readonly Column[]): string[] => columns.map((c) => c.title);
const choice = (more: Partial<GridChoice> = {}): GridChoice => ({ ...FIRST_CHOICE, ...more });
const ripple = { rows: [], rise: 0, fall: 0, cross: 0, sentence: 'Nobody moves', others: '', levels: [] };
const press = async (shown: VueWrapper, words: string): Promise<void> => {
  const button = shown.findAll('button').find((b) => b.text().includes(words));
  if (button === undefined) throw new Error(`no button ${words} in ${shown.text()}`);
  await button.trigger('click');
  await flushPromises();
};
/** Waits for what the browser's store or a pause of typing brings. */
async function until(isThere: () => boolean): Promise<void> {
  for (let n = 0; n < 300 && !isThere(); n += 1) {
    await new Promise((done) => setTimeout(done, 10));
    await flushPromises();
  }
  expect(isThere()).toBe(true);
}
const inCourse = (): void => {
  const course = useCourse();
  course.head = {
    id: 'c',
    role: 'instructor',
    timeZone: 'Europe/Lisbon',
    now: '2026-11-18T10:00:00Z',
    sections: [],
    groups: [{ id: 'g', title: 'Team one' }],
  } as never;
};

describe('the order of the columns', () => {
  it('is that of the categories, or of the Plan, the date, the making or one’s own, with the subtotals after', () => {
    const held = book();
    const [late, soon, none] = held.columns;
    const all: Gradebook = {
      ...held,
      columns: [
        { ...late!, order: 3, madeAt: '2026-10-03T08:00:00Z' },
        { ...soon!, order: 2, madeAt: '2026-10-01T08:00:00Z' },
        { ...none!, order: 1, madeAt: '2026-10-02T08:00:00Z' },
      ],
    };
    const by = (order: GridChoice['order'], more: Partial<GridChoice> = {}): string[] =>
      titles(columnsOf(all, choice({ order, ...more }), everything)).slice(0, 4);
    expect(by('category')).toEqual(['Sooner', 'Later', '100 %', 'Aside']);
    expect(by('plan')).toEqual(['Aside', 'Sooner', 'Later', 'Bench work 100 %']);
    expect(by('due')).toEqual(['Sooner', 'Later', 'Aside', 'Bench work 100 %']);
    expect(by('made')).toEqual(['Sooner', 'Aside', 'Later', 'Bench work 100 %']);
    expect(by('own', { own: ['none', 'late'] })).toEqual(['Aside', 'Later', 'Sooner', 'Bench work 100 %']);
  });

  it('has the categories of each grading period, and its total after the last of them', () => {
    const held = book();
    const part = (periodId: string, title: string) => ({
      categoryId: 'k',
      periodId,
      title: `${title}: Bench work`,
      weightPercent: 100_000,
    });
    const all: Gradebook = {
      ...held,
      columns: held.columns.map((c, n) => ({ ...c, periodId: ['two', 'one', null][n] ?? null })),
      parts: [part('one', 'First'), part('two', 'Second')],
      periods: [
        { id: 'one', title: 'First', weightPercent: 40_000 },
        { id: 'two', title: 'Second', weightPercent: 60_000 },
      ],
    };
    const made = columnsOf(all, choice(), everything);
    expect(titles(made)).toEqual(['Sooner', '100 %', '40 %', 'Later', '100 %', '60 %', 'Aside', 'So far', 'Floor–reach']);
    expect(made.map((c) => c.key).filter((key) => key.includes(':'))).toEqual([
      'category:k:one',
      'period:one',
      'category:k:two',
      'period:two',
    ]);
    expect(titles(columnsOf(all, choice({ periodId: 'two' }), everything))).toEqual([
      'Later',
      '100 %',
      '60 %',
      'Aside',
      'So far',
      'Floor–reach',
    ]);
  });

  it('leaves out what another category holds', () => {
    expect(titles(columnsOf(book(), choice({ categoryId: 'other' }), everything))).toEqual(['So far', 'Floor–reach']);
  });
});

describe('whom the grid shows', () => {
  const columns = columnsOf(book(), choice(), everything);
  const one = (cells: Gradebook['rows'][number]['cells'], soFar: string | null = '70.0') => row('1', 'Zola', 's', cells, soFar);
  it.each([
    ['missing', one([['missing', '', 1, 0, null, 0, null], 0, 0]), true],
    ['missing', one([cell('1', '1'), 0, 0]), false],
    ['waiting', one([['none', '', 1, 0, null, 1, null], 0, 0]), true],
    ['unreleased', one([['marked', '5', 0, 0, '1', 0, 5000], 0, 0]), true],
    ['unreleased', one([['none', '', 0, 0, null, 0, null], 0, 0]), false],
    ['late', one([['marked', '5', 1, 1, '1', 0, 5000], 0, 0]), true],
    ['exempt', one([['exempt', '', 1, 0, '1', 0, 'exempt'], 0, 0]), true],
    ['failing', one([0, 0, 0], '49.9'), true],
    ['failing', one([0, 0, 0], '50.0'), false],
    ['failing', one([0, 0, 0], null), false],
  ] as const)('by %s', (state, who, isThere) => {
    expect(isRowShown(who, columns, state, 50_000)).toBe(isThere);
  });

  it('are found by letters of their name, whatever their accents, and by a group', async () => {
    server.on('GET /courses/c/gradebook', () => ({
      ...book(),
      rows: [row('1', 'Sørli', 's', [0, 0, 0], null), row('2', 'Añez', 's', [0, 0, 0], null)],
    }));
    const narrowed = ref<{ members: ReadonlySet<string> | null; letters: string }>({ members: null, letters: 'anez' });
    const page = await inPage(() => useBook(ref('c'), ref(choice()), narrowed, ref(null)));
    await page.load();
    expect(page.ofSection.value.map((r) => r.familyName)).toEqual(['Añez']);
    narrowed.value = { members: new Set(['1']), letters: '' };
    expect(page.ofSection.value.map((r) => r.familyName)).toEqual(['Sørli']);
  });

  it('is said in words where it is not everybody', () => {
    expect(choiceWords(choice(), book(), null)).toBe('');
    expect(choiceWords(choice({ categoryId: 'k', state: 'late' }), book(), 'Team one')).toBe(
      'only Bench work · only Team one · only those who handed something in late',
    );
  });

  it('are in the order of a column, and by a second key where they are alike', async () => {
    const rows = [
      row('1', 'Zola', 's', [cell('5', '1'), cell('9', '4'), 0], '80.0'),
      row('2', 'Abara', 's', [cell('5', '2'), cell('2', '5'), 0], '70.0'),
      row('3', 'Moss', 's', [cell('7', '3'), cell('1', '6'), 0], '60.0'),
    ];
    const people = shallowRef(rows);
    const nameBy = ref<'family' | 'given'>('family');
    const page = await inPage(() => useGridModel(people, ref(columns), ref('all'), nameBy));
    const names = async (): Promise<string> => {
      await nextTick();
      return page.rows.value.map((r) => r.familyName).join(' ');
    };
    page.sort('late');
    expect(await names()).toBe('Moss Zola Abara');
    page.sort('soon', true);
    expect([await names(), page.sortOf('late'), page.sortOf('soon')]).toEqual(['Moss Zola Abara', 'descending', 'descending']);
    page.sort('soon', true);
    expect([await names(), page.sortOf('soon')]).toEqual(['Moss Abara Zola', 'ascending']);
    page.sort('name');
    expect(await names()).toBe('Abara Moss Zola');
    people.value = rows.map((r) => ({ ...r, givenName: r.familyName === 'Zola' ? 'A' : 'B' }));
    nameBy.value = 'given';
    expect(await names()).toBe('Zola Abara Moss');
  });
});

describe('what is highlighted', () => {
  const columns = columnsOf(book(), choice(), everything);
  const late = columns.find((c) => c.key === 'late')!;
  const soFar = columns.find((c) => c.kind === 'soFar')!;
  const of = (cells: Gradebook['rows'][number]['cells'], what: Column, chosen: GridChoice['highlights'], changed: string[] = []) =>
    highlightOf(row('1', 'Zola', 's', cells, '40.0'), what, chosen, 50_000, new Set(changed));
  it('is what was chosen, in its own way', () => {
    expect(of([['marked', '9', 1, 1, '1', 0, 9000], 0, 0], late, ['late'])).toBe('late');
    expect(of([['marked', '9', 1, 1, '1', 0, 9000], 0, 0], late, ['missing'])).toBeNull();
    expect(of([['missing', '', 1, 0, null, 0, null], 0, 0], late, ['missing'])).toBe('missing');
    expect(of([cell('9', '1'), 0, 0], late, ['failing'])).toBe('failing');
    expect(of([cell('10', '1'), 0, 0], late, ['failing'])).toBeNull();
    expect(of([0, 0, 0], soFar, ['failing'])).toBe('failing');
    expect(of([cell('9', '1'), 0, 0], late, ['changed'], ['late 1'])).toBe('changed');
  });
});

describe('a block over the grid', () => {
  const open = async () => {
    const written: string[] = [];
    const held = shallowRef<Gradebook | null>(book());
    const columns = ref(columnsOf(book(), choice(), everything));
    const made = await inPage(() => useBlock(ref(book().rows), columns, held, (_, text) => written.push(text)));
    return { ...made, written, held };
  };
  const at = (top: number, left: number, bottom = top, right = left) => ({ top, left, bottom, right });

  it('of one cell is written as if it were typed, and a larger one is seen first', async () => {
    const block = await open();
    await block.paste('12', at(0, 1));
    expect([block.written, block.wish.value]).toEqual([['12'], null]);
    await block.paste('12\t1\nx\t2', at(0, 0));
    expect(block.wish.value?.cells.map((c) => [c.who.familyName, c.what.title, c.judgement.kind])).toEqual([
      ['Zola', 'Sooner', 'above'],
      ['Zola', 'Later', 'change'],
      ['Abara', 'Sooner', 'refused'],
      ['Abara', 'Later', 'change'],
    ]);
  });

  it('is not written to what is worked out, nor for whom a column is not', async () => {
    const block = await open();
    block.held.value = book();
    await block.paste('1\t2\t3', at(0, 1));
    expect(block.wish.value?.cells.map((c) => c.judgement.kind)).toEqual(['change', 'refused', 'change']);
  });

  it('is filled down from its first row, and into a column, only where it is empty or everywhere', async () => {
    const block = await open();
    await block.fillDown(at(0, 0, 2, 0));
    expect(block.wish.value?.cells.map((c) => [c.who.familyName, c.text])).toEqual([
      ['Abara', '9'],
      ['Moss', '9'],
    ]);
    const later = columnsOf(book(), choice(), everything).find((c) => c.key === 'late')!;
    await block.fillColumn(later, '20', true);
    expect(block.wish.value?.cells.map((c) => c.who.familyName)).toEqual(['Abara']);
    await block.fillColumn(later, '20', false);
    expect(block.wish.value?.cells).toHaveLength(3);
    block.wish.value = null;
    await block.fillDown(at(1, 0));
    expect(block.wish.value).toBeNull();
  });

  it('takes letters where a column does', async () => {
    const block = await open();
    const levels = [
      { label: 'A', cutPoint: 80_000, value: 90_000 },
      { label: 'F', cutPoint: 0, value: 0 },
    ];
    block.held.value = { ...book(), levels, columns: book().columns.map((c) => ({ ...c, takesLetters: c.id === 'late' })) };
    await block.paste('A\nF', at(0, 1));
    expect(block.wish.value?.cells.map((c) => c.judgement)).toMatchObject([{ will: '18' }, { will: '0' }]);
    await block.paste('A\nF', at(0, 0));
    expect(block.wish.value?.cells.map((c) => c.judgement.kind)).toEqual(['refused', 'refused']);
  });
});

describe('what is pasted, before it is written', () => {
  const PUT = 'PUT /courses/c/gradebook/block';
  const wishOf = async (text: string): Promise<BlockWish> => {
    const made = await inPage(() => useBlock(ref(book().rows), ref(columnsOf(book(), choice(), everything)), ref(book()), () => undefined));
    await made.paste(text, { top: 0, left: 0, bottom: 1, right: 0 });
    return made.wish.value!;
  };
  const open = async (text: string) => {
    const wish = await wishOf(text);
    const shown = await show(BlockDialog, { courseId: 'c', wish, levels: [] });
    await flushPromises();
    return shown;
  };

  it('says what changes, what cannot be written and why, and writes the rest as one act with one undo', async () => {
    server.on(PUT, ({ headers }) => (headers['x-ripple'] === 'show' ? ripple : { act: 'a1', changed: 2 }));
    server.on('POST /courses/c/gradebook/block/undo', () => ({ act: 'a2', changed: 2, left: 1 }));
    const shown = await open('8\t3\nx\t4');
    expect(shown.text()).toContain('3 cells change');
    expect(shown.text()).toContain('1 cannot be written and stays as it is');
    expect(shown.text()).toContain('“x” is not a number of points');
    expect(shown.text()).toContain('Nobody moves');
    await press(shown, 'Write 3 cells');
    const sent = server.bodies(PUT).at(-1) as BlockChange;
    expect(sent.cells).toEqual([
      [0, 0, 8000, '11'],
      [0, 1, 3000, '10'],
      [1, 1, 4000, null],
    ]);
    expect([sent.enrolmentIds, sent.columnIds, sent.how]).toEqual([['1', '2'], ['soon', 'late'], 'paste']);
    expect(shown.emitted('written')).toHaveLength(1);
    expect(shown.emitted('close')).toHaveLength(1);
    await useNotices().notice?.undo?.();
    await flushPromises();
    expect(server.bodies('POST /courses/c/gradebook/block/undo')).toEqual([{ act: 'a1' }]);
    expect(useNotices().notice?.text).toBe('1 cell of it was changed later and stays as it is.');
  });

  it('leaves a score above the points out until it is said to be meant', async () => {
    server.on(PUT, () => ripple);
    const shown = await open('25');
    expect(shown.text()).toContain('0 cells change');
    expect(shown.text()).toContain('25 is more than the 10 points, so it is left out unless it is meant');
    expect(shown.findAll('button').some((b) => b.text().startsWith('Write'))).toBe(false);
    await shown.find('input[type=checkbox]').setValue(true);
    await flushPromises();
    expect(shown.text()).toContain('Write 2 cells');
    expect((server.bodies(PUT).at(-1) as BlockChange).isAboveConfirmed).toBe(true);
  });

  it('takes what only the server can refuse to those that stay, and asks anew for the rest', async () => {
    let times = 0;
    server.on(PUT, () => {
      times += 1;
      return times === 1
        ? new Refusal(422, 'invalid', { pointers: [{ field: 'cells.0', text: 'Changed meanwhile: it now holds 7.' }] })
        : ripple;
    });
    const shown = await open('8\t3');
    expect(shown.text()).toContain('Changed meanwhile: it now holds 7.');
    expect(shown.text()).toContain('Write 3 cells');
    expect((server.bodies(PUT).at(-1) as BlockChange).cells).toHaveLength(3);
  });

  it('says that nothing of it changes anything', async () => {
    const wish = await wishOf('9');
    const shown = await show(BlockDialog, { courseId: 'c', wish: { ...wish, cells: [] }, levels: [] });
    expect(shown.text()).toContain('Nothing of it would change anything.');
    await press(shown, 'Close');
    expect(shown.emitted('close')).toHaveLength(1);
    expect(server.sent).toEqual([]);
  });

  it('says why it could not be looked at', async () => {
    server.on(PUT, () => new Refusal(409, 'not-now', { detail: 'This course is archived.' }));
    expect((await open('8\t3')).text()).toContain('This course is archived.');
  });
});

describe('a column', () => {
  const column = { ...book().columns[0]!, possible: 20_000 };
  const view = (more: Partial<ColumnView> = {}): ColumnView => ({
    id: 'late',
    title: 'Later',
    possible: 20_000,
    curve: null,
    curveWords: null,
    marks: [10_000, 14_000],
    statistics: null,
    missing: [],
    unreleased: 0,
    isShownToStudents: false,
    ...more,
  });
  const VIEW = 'GET /courses/c/gradebook/columns/late';
  const CURVE = 'PUT /courses/c/gradebook/columns/late/curve';

  it('opened at its head says how the class did and what can be done with it', async () => {
    server.on(VIEW, () =>
      view({
        statistics: { number: 5, mean: '12.0', median: '11.5', spread: '2.1' },
        missing: ['p1', 'p2'],
        unreleased: 3,
        curveWords: '1 point added',
      }),
    );
    const shown = await show(ColumnMenu, { courseId: 'c', column: { ...column, hasCurve: true }, canEdit: true }, undefined, inCourse);
    await flushPromises();
    expect(shown.text()).toContain('5 results: mean 12.0, median 11.5, standard deviation 2.1');
    expect(shown.text()).toContain('Curve: 1 point added.');
    for (const [words, event] of [
      ['Sort by it second', 'sort'],
      ['Fill the column', 'fill'],
      ['Change the curve', 'curve'],
    ] as const) {
      await press(shown, words);
      expect(shown.emitted(event)).toHaveLength(1);
    }
    server.on('POST /courses/c/marking/i-late/release', () => ({ many: 3 }));
    await press(shown, 'Release 3 marks');
    expect(useNotices().notice?.text).toBe('3 marks released.');
    expect(shown.text()).toContain('Write to the 2 whose work is missing');
  });

  it('has nothing to change for whoever may only look, and says where statistics begin', async () => {
    server.on(VIEW, () => view());
    const shown = await show(ColumnMenu, { courseId: 'c', column, canEdit: false }, undefined, inCourse);
    await flushPromises();
    expect(shown.text()).toContain('Mean and median are shown from five results on.');
    expect(shown.text()).not.toContain('Fill');
    expect(shown.text()).not.toContain('Curve…');
  });

  it('of the gradebook alone is put into the Plan, or deleted with its ripple and undo', async () => {
    server.on(VIEW, () => view());
    server.on('DELETE /courses/c/items/i-late', () => ({}));
    server.on('POST /courses/c/items/i-late/restore', () => ({}));
    const shown = await show(
      ColumnMenu,
      { courseId: 'c', column: { ...column, isAlone: true, kind: 'activity' }, canEdit: true },
      undefined,
      inCourse,
    );
    await flushPromises();
    await press(shown, 'Put into the Plan');
    expect(shown.emitted('place')).toHaveLength(1);
    await press(shown, 'Delete the column');
    expect(shown.emitted('changed')).toHaveLength(1);
    await useNotices().notice?.undo?.();
    await flushPromises();
    expect(server.sent.map((s) => s.method)).toContain('POST');
  });

  it('takes a place in a unit of the Plan, as it is or as an assignment', async () => {
    server.on('GET /courses/c/plan', () => ({
      units: [
        { id: 'u0', title: 'Always', isStanding: true },
        { id: 'u1', title: 'Tools', isStanding: false },
      ],
    }));
    server.on('POST /courses/c/gradebook/columns/i-late/place', () => ({}));
    const shown = await show(PlaceDialog, { courseId: 'c', column });
    await flushPromises();
    await shown.findAll('input[type=radio]')[1]!.setValue(true);
    await shown.find('form').trigger('submit');
    await flushPromises();
    expect(server.bodies('POST /courses/c/gradebook/columns/i-late/place')).toEqual([{ unitId: 'u1', isHandedIn: true }]);
    expect(shown.emitted('changed')).toHaveLength(1);
  });

  it('is filled with a value that can be read, into the empty cells or all', async () => {
    const shown = await show(FillDialog, { column: columnsOf(book(), choice(), everything)[1]!, empty: 2, students: 3, levels: [] });
    await shown.find('form').trigger('submit');
    expect(shown.text()).toContain('Type what the empty cells are to hold.');
    await shown.find('input:not([type=radio])').setValue('x');
    expect(shown.text()).toContain('“x” is not a number of points');
    await shown.find('input:not([type=radio])').setValue('80 %');
    await shown.findAll('input[type=radio]')[1]!.setValue(true);
    await shown.find('form').trigger('submit');
    expect(shown.emitted('fill')).toEqual([['80 %', false]]);
  });

  it('is made in one line, asks for what lacks, and keeps what was typed until it is made', async () => {
    const POST = 'POST /courses/c/gradebook/columns';
    const shown = await show(
      ColumnForm,
      { courseId: 'c', categories: book().categories, periods: [{ id: 'p', title: 'Second half', weightPercent: 1 }] },
      undefined,
      inCourse,
    );
    await shown.find('form').trigger('submit');
    expect(shown.text()).toContain('Give it a title.');
    const [title, points] = shown.findAll('input:not([type=checkbox])');
    await title!.setValue('Talk');
    await points!.setValue('1x');
    await shown.find('form').trigger('submit');
    expect(shown.text()).toContain('“1x” is not a number of points.');
    expect(readKept('draft column c')).toMatchObject({ title: 'Talk', points: '1x' });
    await points!.setValue('12.5');
    await shown
      .find('select[aria-label="Category"]')
      .setValue(shown.findAll('select[aria-label="Category"] option').at(-1)!.attributes('value'));
    await flushPromises();
    await shown.find('form').trigger('submit');
    expect(shown.text()).toContain('Name the new category.');
    await shown
      .findAll('input:not([type=checkbox])')
      .find((f) => f.element.closest('label')?.textContent?.includes('new category') === true)!
      .setValue('Practice');
    for (const [name, at] of [
      ['Grading period', 1],
      ['Students read it as', 2],
    ] as const) {
      const field = shown.find(`select[aria-label="${name}"]`);
      await field.setValue(field.findAll('option')[at]!.attributes('value'));
    }
    expect(shown.text()).toContain('By the letters of the course.');
    server.on(POST, ({ headers }) => (headers['x-ripple'] === 'mind' ? new Held(ripple) : { itemId: 'i9' }));
    await shown.find('form').trigger('submit');
    await flushPromises();
    // Floors may move by it: whom is seen first.
    useRipple().close(true);
    await flushPromises();
    expect(server.bodies(POST).at(-1) as NewColumn).toMatchObject({
      title: 'Talk',
      possible: 12_500,
      categoryId: null,
      newCategory: 'Practice',
      isToldAtOnce: true,
      multiplier: 1000,
      periodId: 'p',
      studentReads: 'letter',
      ownLevels: null,
    });
    expect([shown.emitted('added'), readKept('draft column c')]).toEqual([[[]], null]);
  });

  it('that is refused keeps the form, with the words beside the field', async () => {
    server.on(
      'POST /courses/c/gradebook/columns',
      () => new Refusal(422, 'invalid', { pointers: [{ field: 'title', text: 'There is a class activity “Talk” already.' }] }),
    );
    const shown = await show(ColumnForm, { courseId: 'c', categories: [], periods: [] }, undefined, inCourse);
    await shown.find('input:not([type=checkbox])').setValue('Talk');
    await shown.find('form').trigger('submit');
    await flushPromises();
    expect(shown.text()).toContain('There is a class activity “Talk” already.');
    expect(shown.emitted('close')).toBeUndefined();
  });

  it('is curved with the results before and after and whom it moves, and the curve is undone', async () => {
    server.on(VIEW, () => view());
    server.on(CURVE, ({ headers }) => (headers['x-ripple'] === 'show' ? ripple : { before: { curve: null } }));
    const shown = await show(CurveDialog, { courseId: 'c', columnId: 'late' });
    await flushPromises();
    expect(shown.text()).toContain('Whom it moves stands here before it is applied.');
    const amount = () => shown.find('input[inputmode=decimal]');
    await amount().setValue('x');
    expect(shown.text()).toContain('“x” is not a number of points');
    await amount().setValue('3');
    await flushPromises();
    expect(shown.text()).toContain('Results before (above) and after');
    expect(shown.text()).toContain('Nobody moves');
    await shown.find('form').trigger('submit');
    await flushPromises();
    expect(server.bodies(CURVE).at(-1)).toEqual({ curve: { kind: 'add', amount: 3000, isCapped: true } });
    expect(useNotices().notice?.text).toContain('“Later” is curved.');
    await useNotices().notice?.undo?.();
    await flushPromises();
    expect(server.bodies(CURVE).at(-1)).toEqual({ curve: null });
  });

  it('says which curve cannot be, and asks the server for none of it', async () => {
    server.on(VIEW, () => view({ curve: { kind: 'scale', amount: 18_000, isCapped: false } }));
    server.on(CURVE, () => ripple);
    const shown = await show(CurveDialog, { courseId: 'c', columnId: 'late' });
    await flushPromises();
    const before = server.bodies(CURVE).length;
    await shown.find('input[inputmode=decimal]').setValue('0');
    await flushPromises();
    expect(shown.text()).toContain('Full marks cannot be 0 points.');
    expect(server.bodies(CURVE)).toHaveLength(before);
  });
});

describe('words on a cell', () => {
  const WORDS = 'GET /courses/c/gradebook/words/late/1';
  const SAVE = 'PUT /courses/c/gradebook/words/late/1';
  const open = async (canEdit = true) => {
    const shown = await show(CellWordsPart, { at: { courseId: 'c', columnId: 'late', enrolmentId: '1' }, who: 'Tunde', canEdit });
    await until(() => shown.text() !== '');
    return shown;
  };
  const fields = (shown: VueWrapper) => shown.findAll('textarea:not([aria-hidden])');

  it('are saved as they are typed, each for whom it is', async () => {
    server.on(WORDS, () => ({ memo: 'old memo', comment: '', version: 4 }));
    server.on(SAVE, () => ({ version: 5 }));
    const shown = await open();
    expect(shown.text()).toContain('Comment for Tunde, shown with the result');
    await fields(shown)[0]!.setValue('Well done');
    shown.unmount();
    await until(() => server.bodies(SAVE).length > 0);
    expect(server.bodies(SAVE)).toEqual([{ memo: 'old memo', comment: 'Well done', version: 4 }]);
  });

  it('show both where somebody else wrote meanwhile, and either can be kept', async () => {
    server.on(WORDS, () => ({ memo: '', comment: '', version: 0 }));
    server.on(SAVE, ({ body }) =>
      (body as { version: number }).version === 0
        ? new Refusal(409, 'conflict', { current: { memo: 'theirs', comment: '', version: 1 } })
        : { version: 2 },
    );
    const shown = await open();
    await fields(shown)[1]!.setValue('mine');
    await until(() => shown.text().includes('Somebody else wrote here meanwhile.'));
    await press(shown, 'Keep yours');
    await until(() => server.bodies(SAVE).length === 2);
    expect(server.bodies(SAVE).at(-1)).toEqual({ memo: 'mine', comment: '', version: 1 });
  });

  it('say why they cannot be read', async () => {
    server.on(WORDS, () => new Refusal(404, 'not-found', { detail: 'There is nothing here for you.' }));
    expect((await open(false)).text()).toContain('There is nothing here for you.');
  });
});

describe('how the grid is looked at', () => {
  it('is chosen in one place, tells what needs a pass mark, and goes back to the beginning', async () => {
    const shown = await show(
      ViewChoice,
      { modelValue: choice({ order: 'own', own: ['x'] }), book: { categories: book().categories, periods: [], passPercent: null } },
      undefined,
      inCourse,
    );
    expect(shown.text()).toContain('The pass mark is set in the policy.');
    await press(shown, 'Arrange the columns');
    await shown.find('select[aria-label="Order of the columns"]').setValue('due');
    await shown
      .find('select[aria-label="Group that is shown"]')
      .setValue(shown.findAll('select[aria-label="Group that is shown"] option')[1]!.attributes('value'));
    await shown.findAll('input[type=checkbox]')[0]!.setValue(true);
    await press(shown, 'As at the beginning');
    const made = shown.emitted('update:modelValue')!.map(([value]) => value as GridChoice);
    expect([made[0]?.order, made[1]?.groupId, made[2]?.highlights, made[3]]).toEqual([
      'due',
      'g',
      ['late'],
      { ...FIRST_CHOICE, own: ['x'] },
    ]);
    expect(shown.emitted('arrange')).toHaveLength(1);
  });
});

describe('a table that is imported', () => {
  const READ = 'POST /courses/c/gradebook/table/read';
  /** The file goes by a request of its own, which tells how far it is. */
  function answerFile(answer: () => { status: number; body: object }): void {
    class FakeRequest {
      readonly upload = {};
      status = 0;
      responseText = '';
      onload: (() => void) | null = null;
      open(): void {}
      setRequestHeader(): void {}
      send(): void {
        const { status, body } = answer();
        [this.status, this.responseText] = [status, JSON.stringify(body)];
        queueMicrotask(() => this.onload?.());
      }
    }
    globalThis.XMLHttpRequest = FakeRequest as never;
  }
  const open = async (lines: string[][], reload: () => Promise<void> = () => Promise.resolve()) => {
    answerFile(() => ({ status: 200, body: { lines, people: [{ enrolmentId: '1', email: 'zola@example.org', source: null }] } }));
    const shown = await show(ImportDialog, { courseId: 'c', book: book(), reload });
    const input = shown.find('input[type=file]');
    Object.defineProperty(input.element, 'files', { value: [new File(['x'], 'results.csv')], configurable: true });
    await input.trigger('change');
    await until(() => shown.text().includes('are taken') || shown.find('[role=alert]').exists());
    return shown;
  };

  it('is met with the gradebook, asks where it is unsure, and plans what it would change', async () => {
    const shown = await open([
      ['Email', 'Name', 'Later (20)', 'Odd'],
      ['zola@example.org', '', '16', '1'],
      ['', 'Moss, G', '2', '1'],
      ['', 'Nobody', '5', '1'],
      ['', 'Moss, G', '9', '1'],
    ]);
    expect(shown.text()).toContain('2 students and 1 column are taken.');
    expect(shown.text()).toContain('line 4: Nobody');
    expect(shown.text()).toContain('Line 5 names a student of an earlier line and is left out.');
    const whose = shown.find('select[aria-label="Student of line 4"]');
    await whose.setValue(
      whose
        .findAll('option')
        .find((o) => o.text().includes('Abara'))!
        .attributes('value'),
    );
    await press(shown, 'See what changes');
    const [wish] = shown.emitted('planned')!.at(-1) as [BlockWish];
    expect(wish.cells.map((c) => [c.who.familyName, c.what.title, c.text])).toEqual([
      ['Zola', 'Later', '16'],
      ['Abara', 'Later', '5'],
    ]);
    expect([wish.how, wish.same, wish.outside]).toEqual(['import', 1, '1 line without a student']);
  });

  it('makes a new column with its ripple first, and plans its results with the rest', async () => {
    let shown: VueWrapper | null = null;
    const made = { ...book().columns[0]!, id: 'fresh', itemId: 'i-fresh', title: 'Odd', possible: 5000 };
    const grown = () => ({
      ...book(),
      columns: [...book().columns, made],
      rows: book().rows.map((r) => ({ ...r, cells: [...r.cells, 0 as const] })),
    });
    const reload = async (): Promise<void> => {
      await shown?.setProps({ book: grown() });
    };
    shown = await open(
      [
        ['Email', 'Odd'],
        ['zola@example.org', '4'],
      ],
      reload,
    );
    const goes = shown.find('select[aria-label="Where Odd goes"]');
    await goes.setValue(goes.findAll('option')[1]!.attributes('value'));
    const points = () => shown!.find('input[aria-label="Points of Odd"]');
    await points().setValue('5x');
    await press(shown, 'See what changes');
    expect(shown.text()).toContain('Points of “Odd”: “5x” is not a number of points.');
    await points().setValue('5');
    server.on('POST /courses/c/gradebook/columns', ({ headers }) =>
      headers['x-ripple'] === 'mind' ? new Held(ripple) : { itemId: 'i-fresh' },
    );
    await press(shown, 'See what changes');
    useRipple().close(true);
    await until(() => shown?.emitted('planned') !== undefined);
    const [wish] = shown.emitted('planned')!.at(-1) as [BlockWish];
    expect(wish.cells.map((c) => [c.who.familyName, c.what.columnId, c.text])).toEqual([['Zola', 'fresh', '4']]);
  });

  it('says what it lacks, and why a file is refused', async () => {
    expect((await open([['Test'], ['1']])).text()).toContain('No column says who a line is about.');
    answerFile(() => ({
      status: 422,
      body: { type: 'urn:rosemary:invalid', title: '', status: 422, detail: 'This workbook holds macros.' },
    }));
    const shown = await show(ImportDialog, { courseId: 'c', book: book(), reload: () => Promise.resolve() });
    const input = shown.find('input[type=file]');
    Object.defineProperty(input.element, 'files', { value: [new File(['x'], 'x.xlsm')], configurable: true });
    await input.trigger('change');
    await until(() => shown.text().includes('This workbook holds macros.'));
    expect(server.bodies(READ)).toEqual([]);
  });
});

describe('what changed between two days', () => {
  const by = { eventId: '7', act: 'a1', who: 'Ines', at: '2026-11-17T10:00:00Z', source: 'paste' };
  const one = { columnId: 'late', title: 'Later', enrolmentId: '1', name: 'Zola, G', was: '', is: '12', by };
  const found = (more: object = {}) => ({
    from: '2026-11-11T10:00:00Z',
    to: '2026-11-18T10:00:00Z',
    knownSince: null,
    cells: [one],
    totals: [],
    acts: [],
    ...more,
  });
  const open = async (answer: object) => {
    const real: typeof fetch = globalThis.fetch;
    globalThis.fetch = (url, init) => real(String(url as string).replace(/\?.*/, ''), init);
    server.on('GET /courses/c/gradebook/differences', () => answer);
    const shown = await show(DifferencesDialog, { courseId: 'c', canEdit: true }, undefined, inCourse);
    await shown.find('form').trigger('submit');
    await flushPromises();
    return shown;
  };

  it('is listed with the act behind it, which is undone as one or cell by cell', async () => {
    const shown = await open(found({ acts: [{ at: '2026-11-16T10:00:00Z', who: 'Ines', what: 'curve changed', subject: 'Later' }] }));
    expect(shown.text()).toContain('1 result and 0 totals differ');
    expect(shown.text()).toContain('1 cell pasted');
    expect(shown.text()).toContain('curve changed, “Later”');
    server.on('POST /courses/c/gradebook/block/undo', () => ({ act: 'a2', changed: 1, left: 0 }));
    await press(shown, 'Undo all of them');
    expect(server.bodies('POST /courses/c/gradebook/block/undo')).toEqual([{ act: 'a1' }]);
    server.on('POST /courses/c/gradebook/undo', () => ({ eventId: '8', row: book().rows[0] }));
    await shown.find('button[aria-label="Undo Later of Zola, G"]').trigger('click');
    await flushPromises();
    expect(server.bodies('POST /courses/c/gradebook/undo')).toEqual([{ eventId: '7' }]);
    expect(shown.emitted('changed')).toHaveLength(2);
  });

  it('says since when the past is known, and shows letters that were crossed', async () => {
    const totals = [{ enrolmentId: '1', name: 'Zola, G', before: '72.0', after: '74.0', letterBefore: 'C', letterAfter: 'B' }];
    const shown = await open(found({ knownSince: '2026-11-14T10:00:00Z', cells: [{ ...one, by: null }], totals }));
    expect(shown.text()).toContain('Marks are known for all of this time');
    expect(shown.text()).toContain('C → B');
    expect(shown.text()).toContain('by a date, the policy or a curve');
  });
});
