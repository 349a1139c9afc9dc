/** @jest-environment ../scripts/jsdomForJest.mjs */
import type { GivenBoard, GivePlace, GiveWish, Plan } from '@rosemary/api';
import { flushPromises, type VueWrapper } from '@vue/test-utils';
import { peopleShown, stateWords } from '../src/giving/board.ts';
import GivenPage from '../src/giving/GivenPage.vue';
import GivePage from '../src/giving/GivePage.vue';
import { atClockOf, classesOf, commonOf, faultOf, toCell, usualWish, type Wish } from '../src/giving/wishes.ts';
import PickGrid from '../src/parts/PickGrid.vue';
import { setHooks } from '../src/platform/http.ts';
import { useCourse } from '../src/stores/courseStore.ts';
import { useNotices } from '../src/stores/noticeStore.ts';
import { beginMounting, endMounting, makeTestRouter, show } from './mounting.ts';
import { planItem } from './planItem.ts';
import { fakeServer, quietEvents, quietHooks } from './server.ts';

let server: ReturnType<typeof fakeServer>;
beforeEach(() => {
  beginMounting();
  localStorage.clear();
  server = fakeServer();
  setHooks({ ...quietHooks });
  quietEvents();
});
afterEach(endMounting);

const NOW = Date.parse('2026-11-02T09:00:00.000Z');
const DUE = '2026-11-13T17:00:00.000Z';
const place = (courseId: string, over: Partial<GivePlace> = {}): GivePlace => ({
  ...{ courseId, course: `Course ${courseId}`, zone: 'Europe/Lisbon', isHere: courseId === 'c', isOpen: true },
  sections: [
    { id: `${courseId}1`, title: 'Morning' },
    { id: `${courseId}2`, title: 'Evening' },
  ],
  dates: [
    { itemId: 'a', opensAt: null, dueAt: DUE, note: '' },
    { itemId: 'b', opensAt: null, dueAt: null, note: 'moved off a holiday' },
  ],
  ...over,
});
const PLACES = [place('c'), place('d', { zone: 'Europe/Madrid', sections: [{ id: 'd1', title: 'Only' }] })];
const wish = (over: Partial<Wish> = {}): Wish => ({ how: 'draft', opensAt: null, dueAt: DUE, words: '', tells: true, ...over });

describe('what is given to a class', () => {
  it('goes to the sections of the course at hand, and to other courses as a whole or by section', () => {
    expect(classesOf(PLACES).map((c) => c.name)).toEqual(['Course c, Morning', 'Course c, Evening', 'Course d']);
    expect(classesOf([place('e')]).map((c) => c.section)).toEqual(['', 'Morning', 'Evening']);
  });

  it('begins as a draft with the dates of the same teaching week', () => {
    expect(usualWish(PLACES[0]!, 'a')).toEqual(wish());
  });

  it.each([
    [wish(), ''],
    [wish({ how: 'now', opensAt: '2026-12-01T09:00:00.000Z' }), ''],
    [wish({ how: 'later' }), 'has no time to open'],
    [wish({ how: 'later', opensAt: '2026-11-20T09:00:00.000Z' }), 'opens after it is due'],
    [wish({ how: 'now', dueAt: '2026-11-01T09:00:00.000Z' }), 'is due in the past'],
    [wish({ dueAt: '2026-11-01T09:00:00.000Z' }), ''],
  ])('is refused here where the server would refuse it: %j', (one, words) => {
    expect(faultOf(one, NOW)).toBe(words);
  });

  it('has the same hour by the clock of each class', () => {
    expect(atClockOf(DUE, 'Europe/Lisbon', 'Europe/Madrid')).toBe('2026-11-13T16:00:00.000Z');
    expect(atClockOf(null, 'Europe/Lisbon', 'Europe/Madrid')).toBeNull();
    expect([commonOf([1, 1]), commonOf([1, 2]), commonOf([null, null])]).toEqual([1, undefined, null]);
  });

  it('is sent without a time to open where it opens at once, and tells nobody of a draft', () => {
    const [to] = classesOf(PLACES);
    expect(toCell('a', to!, wish({ how: 'now', opensAt: DUE }))).toMatchObject({ isDraft: false, opensAt: null, tells: true });
    expect(toCell('a', to!, wish())).toMatchObject({ isDraft: true, tells: false, sectionId: 'c1', courseId: 'c' });
  });
});

describe('the grid of places', () => {
  const HEADS = (ids: string) => ids.split('').map((id) => ({ id, name: id.toUpperCase() }));
  const grid = async (chosen: string[] = []) => {
    const shown: VueWrapper = await show(PickGrid, {
      ...{
        rows: HEADS('ab'),
        columns: HEADS('xyz'),
        label: 'Places',
        isOff: (row: string, column: string) => row === 'b' && column === 'z',
      },
      modelValue: new Set(chosen),
      'onUpdate:modelValue': (next: ReadonlySet<string>) => shown.setProps({ modelValue: next }),
    });
    const cell = (row: number, column: number) => shown.findAll('tbody tr')[row]!.findAll('td')[column]!;
    const now = () => [...(shown.props() as { modelValue: ReadonlySet<string> }).modelValue].sort();
    return { shown, cell, now };
  };
  it('is filled by dragging over several, and what is off is left out', async () => {
    const { cell, now } = await grid();
    await cell(0, 1).trigger('pointerdown', { button: 0 });
    expect(now()).toEqual(['a y']);
    await cell(1, 2).trigger('pointerenter');
    expect(now()).toEqual(['a y', 'a z', 'b y']);
    window.dispatchEvent(new Event('pointerup'));
    await cell(0, 0).trigger('pointerenter');
    expect(now()).toEqual(['a y', 'a z', 'b y']);
  });
  it('takes more with Ctrl, up to somewhere with Shift, and a whole row or column by its head', async () => {
    const { shown, cell, now } = await grid();
    await cell(0, 0).trigger('pointerdown', { button: 0 });
    await cell(1, 1).trigger('pointerdown', { button: 0, ctrlKey: true });
    expect(now()).toEqual(['a x', 'b y']);
    await cell(0, 0).trigger('pointerdown', { button: 0, ctrlKey: true });
    expect(now()).toEqual(['b y']);
    await cell(0, 0).trigger('pointerdown', { button: 0 });
    window.dispatchEvent(new Event('pointerup'));
    await cell(0, 2).trigger('pointerdown', { button: 0, shiftKey: true });
    expect(now()).toEqual(['a x', 'a y', 'a z']);
    await shown.findAll('thead th')[3]!.trigger('click');
    expect(now()).toEqual(['a z']);
    await shown.findAll('tbody th')[1]!.trigger('click');
    expect(now()).toEqual(['b x', 'b y']);
  });
  it('goes by keys: arrows, Shift with them, all, none', async () => {
    const { shown, now } = await grid();
    const press = (key: string, more: object = {}) => shown.find('td[tabindex="0"]').trigger('keydown', { key, ...more });
    await press('Enter');
    expect(now()).toEqual(['a x']);
    await press('ArrowRight', { shiftKey: true });
    await press('ArrowDown', { shiftKey: true });
    expect(now()).toEqual(['a x', 'a y', 'b x', 'b y']);
    expect(shown.find('td[tabindex="0"]').element).toBe(document.activeElement);
    await press('a', { ctrlKey: true });
    expect(now()).toHaveLength(5);
    await press('Escape');
    expect(now()).toEqual([]);
    await press('ArrowUp');
    expect(now()).toEqual(['a y']);
    await press('ArrowUp');
    expect(now()).toEqual(['a y']);
  });
});

const PLAN = {
  units: [
    {
      id: 'u',
      items: [
        planItem('assignment', { id: 'a', title: 'Report', possible: 10_000 }),
        planItem('activity', { id: 'b', title: 'Bench test' }),
      ],
    },
  ],
} as unknown as Plan;
const inCourse = (): void => {
  useCourse().head = { id: 'c', role: 'instructor', timeZone: 'Europe/Lisbon', now: new Date(NOW).toISOString() } as never;
};
async function givePage(): Promise<VueWrapper> {
  server.on('GET /courses/c/plan', () => PLAN);
  server.on('POST /courses/c/giving/places', () => PLACES);
  const router = makeTestRouter();
  await router.push('/courses/c/give?items=a,b');
  const shown = await show(GivePage, {}, router, inCourse);
  await flushPromises();
  return shown;
}
const cellOf = (shown: VueWrapper, row: number, column: number) => shown.findAll('tbody tr')[row]!.findAll('td')[column]!;
const choose = async (shown: VueWrapper, words: string): Promise<void> => {
  await shown
    .findAll('.choice-line')
    .find((line) => line.text().includes(words))!
    .find('input')
    .setValue(true);
};

describe('giving to classes', () => {
  it('sends what was chosen for each place in one act, and leads to the board; one undo takes copies and words back', async () => {
    server.on('POST /courses/c/giving', () => ({
      id: 'g',
      made: [
        { courseId: 'c', name: 'Course c, Morning', itemIds: ['x'] },
        { courseId: 'd', name: 'Course d', itemIds: ['y'] },
      ],
      notYet: ['Course d is not open yet: students see nothing of it until it is.'],
    }));
    server.on('PUT /courses/c/giving/g', () => ({}));
    const shown = await givePage();
    expect(shown.text()).toContain('Choose in the grid which class is given what; nothing is made yet.');
    await cellOf(shown, 0, 0).trigger('pointerdown', { button: 0 });
    await cellOf(shown, 0, 2).trigger('pointerenter');
    window.dispatchEvent(new Event('pointerup'));
    expect(shown.text()).toContain('“Report” for 3 classes');
    await choose(shown, 'open at once');
    await shown.find('.inspector textarea').setValue('Bring loupes.');
    expect(shown.text()).toContain('3 classes · 3 copies open · students are told');
    await cellOf(shown, 0, 1).trigger('pointerdown', { button: 0 });
    window.dispatchEvent(new Event('pointerup'));
    await choose(shown, 'not given');
    await shown
      .findAll('button')
      .find((b) => b.text() === 'Give 2 copies')!
      .trigger('click');
    await flushPromises();
    const [sent] = server.bodies('POST /courses/c/giving') as GiveWish[];
    expect(sent?.cells.map((c) => [c.courseId, c.sectionId, c.isDraft, c.opensAt, c.dueAt, c.words, c.tells])).toEqual([
      ['c', 'c1', false, null, DUE, 'Bring loupes.', true],
      ['d', null, false, null, DUE, 'Bring loupes.', true],
    ]);
    const { notice } = useNotices();
    expect(notice?.text).toBe(
      '2 copies are given: Course c, Morning; Course d. Course d is not open yet: students see nothing of it until it is.',
    );
    await notice?.undo?.();
    expect(server.bodies('PUT /courses/c/giving/g')).toEqual([{ isTakenBack: true }]);
  });

  it('keeps what was chosen over a reload, and says what cannot be given so', async () => {
    const first = await givePage();
    await cellOf(first, 0, 0).trigger('pointerdown', { button: 0 });
    await choose(first, 'opens at a time');
    expect(first.text()).toContain('“Report” for Course c, Morning has no time to open.');
    expect(
      first
        .findAll('button')
        .find((b) => b.text() === 'Give 1 copy')
        ?.attributes('disabled'),
    ).toBeDefined();
    first.unmount();
    const again = await givePage();
    expect(cellOf(again, 0, 0).text()).toContain('no time to open');
  });

  it('offers no words where an item has no text', async () => {
    const shown = await givePage();
    await cellOf(shown, 1, 0).trigger('pointerdown', { button: 0 });
    await choose(shown, 'as a draft');
    expect(shown.find('.inspector textarea').exists()).toBe(false);
    expect(shown.text()).toContain('“Bench test” is a class activity and has no text to say something before.');
  });

  it('says what to do where nothing is chosen, and where there is no class', async () => {
    const router = makeTestRouter();
    await router.push('/courses/c/give');
    expect((await show(GivePage, {}, router, inCourse)).text()).toContain('Nothing is chosen.');
    server.on('GET /courses/c/plan', () => PLAN);
    server.on('POST /courses/c/giving/places', () => [place('c', { sections: [] })]);
    await router.push('/courses/c/give?items=a');
    const alone = await show(GivePage, {}, router, inCourse);
    await flushPromises();
    expect(alone.text()).toContain('You teach no other course');
  });
});

const given = (handedInAt: string | null, over: object = {}) => ({
  state: 'waits' as const,
  handedInAt,
  lateText: null,
  files: 0,
  ...over,
});
const BOARD: GivenBoard = {
  ...{ id: 'g', at: '2026-11-01T09:00:00.000Z', by: 'Ines Moura', items: [{ id: 'a', title: 'Report', kind: 'assignment' }], elsewhere: 1 },
  classes: [
    {
      ...{ courseId: 'd', sectionId: null, name: 'Course d', zone: 'Europe/Lisbon' },
      copies: [{ itemId: 'y', isDraft: false, takesWork: true, opensAt: null, dueAt: DUE, handedIn: 2, of: 3, isVeiled: false }],
      people: [
        { enrolmentId: 'e1', personId: 'p1', name: 'Orlov, Vasilis', states: [given('2026-11-13T10:00:00.000Z', { files: 2 })] },
        {
          enrolmentId: 'e2',
          personId: 'p2',
          name: 'Rosing, Quillon',
          states: [given('2026-11-13T19:00:00.000Z', { lateText: '2 h late' })],
        },
        { enrolmentId: 'e3', personId: 'p3', name: 'Yarrow, Nadège', states: [given(null, { state: 'missing' })] },
      ],
    },
  ],
};

describe('the board of what was given', () => {
  const open = async (lines: unknown[] = [{ id: 'g', at: BOARD.at, by: BOARD.by, titles: ['Report'], classes: 1 }], board = BOARD) => {
    server.on('GET /courses/c/giving', () => lines);
    server.on('GET /courses/c/giving/g', () => board);
    const router = makeTestRouter();
    await router.push('/courses/c/given');
    const shown = await show(GivenPage, {}, router, inCourse);
    await flushPromises();
    return { shown, router };
  };
  it('says who has handed in, how late, with how many files, and leads to the work', async () => {
    const { shown } = await open();
    const text = shown.text();
    expect(text).toContain('2 of 3 in');
    expect(text).toContain('1 class is in a course that you do not teach.');
    expect(text).toMatch(/Fri 13 Nov.*2 files/s);
    expect(text).toContain('2 h late');
    expect(text).toContain('missing');
    expect(shown.findAll('a').map((a) => a.attributes('href'))).toContain('/courses/d/marking/y/e1');
  });
  it('leads from a quiz to its results', async () => {
    const { shown } = await open(undefined, { ...BOARD, items: [{ id: 'a', title: 'Check', kind: 'quiz' }] });
    expect(shown.findAll('a').map((a) => a.attributes('href'))).toContain('/courses/d/quizzes/y/results');
  });
  it('is narrowed to who has not handed in or was late, and writes to those who have not', async () => {
    expect(peopleShown(BOARD.classes[0]!, 'not in').map((p) => p.enrolmentId)).toEqual(['e3']);
    expect(peopleShown(BOARD.classes[0]!, 'late').map((p) => p.enrolmentId)).toEqual(['e2']);
    const { shown, router } = await open();
    await shown
      .findAll('button')
      .find((b) => b.text().includes('Write to the one who has not handed in'))!
      .trigger('click');
    await flushPromises();
    expect(router.currentRoute.value.path).toBe('/courses/d/messages');
    expect(history.state ?? {}).toBeDefined();
  });
  it('is empty where nothing was given', async () => {
    expect((await open([])).shown.text()).toContain('Nothing has been given to several classes yet.');
  });
  it.each([
    [given(null, { state: 'draft' }), 'begun, not handed in'],
    [given(null, { state: 'exempt' }), 'exempt'],
    [given(null, { state: 'not begun' }), 'not yet'],
    [given('2026-11-13T19:00:00.000Z', { files: 1 }), 'then · 1 file'],
  ])('words a state: %j', (state, words) => {
    expect(stateWords(state, () => 'then')).toBe(words);
  });
});
