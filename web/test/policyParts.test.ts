/** @jest-environment ../scripts/jsdomForJest.mjs */
import 'fake-indexeddb/auto';
import type { ColumnMove, MyGrades, PolicyCategory, PolicyChange, PolicyPeriod, PolicyView } from '@rosemary/api';
import { sentCell, type GradedCell, type GradedColumn, type Policy } from '@rosemary/core';
import { flushPromises, type VueWrapper } from '@vue/test-utils';
import CategoryLine from '../src/gradebook/CategoryLine.vue';
import PeriodsPart from '../src/gradebook/PeriodsPart.vue';
import PolicyPage from '../src/gradebook/PolicyPage.vue';
import SupposePart from '../src/student/SupposePart.vue';
import GradesPage from '../src/student/GradesPage.vue';
import { setHooks } from '../src/platform/http.ts';
import { keepFor, readKept } from '../src/platform/kept.ts';
import { useCourse } from '../src/stores/courseStore.ts';
import { useSession } from '../src/stores/sessionStore.ts';
import { beginMounting, choose, endMounting, makeTestRouter, show } from './mounting.ts';
import { fakeServer, quietHooks } from './server.ts';

let server: ReturnType<typeof fakeServer>;
let people = 0;
beforeEach(() => {
  beginMounting();
  localStorage.clear();
  keepFor(`policy person ${(people += 1)}`);
  setHooks(quietHooks);
  server = fakeServer();
});
afterEach(endMounting);

const category = (id: string | null, title: string, more: Partial<PolicyCategory> = {}): PolicyCategory => ({
  id,
  title,
  weightPercent: 50_000,
  method: 'points',
  dropLowest: 0,
  keepBest: 0,
  dropHighest: 0,
  isExtraCredit: false,
  isCapped: false,
  declaredItems: 0,
  declaredPoints: 0,
  declaredIn: [],
  late: null,
  ...more,
});
const late = { ratePercent: 5000, stepMinutes: 1440, base: 'earned', capPercent: 50_000, floorPercent: 0, graceMinutes: 0 } as const;
const period = (id: string | null, title: string, more: Partial<PolicyPeriod> = {}): PolicyPeriod => ({
  id,
  title,
  weightPercent: 50_000,
  startsOn: null,
  endsOn: null,
  ...more,
});
const inCourse = (): void => {
  useCourse().head = {
    id: 'c',
    role: 'instructor',
    timeZone: 'Europe/Lisbon',
    now: '2026-11-18T10:00:00Z',
    sections: [],
    groups: [],
  } as never;
};
const last = <T>(shown: VueWrapper, event: string): T => shown.emitted(event)?.at(-1)?.[0] as T;

describe('a category of the policy', () => {
  const open = (c: PolicyCategory, more: object = {}) =>
    show(CategoryLine, {
      category: c,
      was: null,
      courseLate: late,
      built: { pieces: 3, points: 60_000 },
      periods: [],
      others: [{ id: 'p', title: 'Papers' }],
      place: 'middle',
      ...more,
    });
  const menu = (shown: VueWrapper, value: string) => choose(shown, 'What can be done with Quizzes', value);

  it('leaves out the lowest or keeps the best, never both', async () => {
    const shown = await open(category('q', 'Quizzes', { keepBest: 4 }));
    expect(shown.text()).toContain('keeping only the best');
    const keeps = shown.find('select[aria-label="What is left out of Quizzes"]');
    await keeps.setValue(keeps.findAll('option')[1]!.attributes('value'));
    expect(last(shown, 'edit')).toEqual({ dropLowest: 1, keepBest: 0 });
    await shown.find('input[aria-label="How many of the best are kept in Quizzes"]').setValue('60');
    expect(last(shown, 'fault')).toBe('“60” in Quizzes is not a whole number from 0 to 50.');
    await shown.find('input[aria-label="How many of the best are kept in Quizzes"]').setValue('5');
    expect(last(shown, 'edit')).toEqual({ keepBest: 5 });
  });

  it('says how much it will hold, and how much of that is still to come', async () => {
    const shown = await open(category('q', 'Quizzes', { declaredItems: 9, declaredPoints: 180_000 }));
    expect(shown.text()).toMatch(/3 built, 6 to come/);
    await shown.find('input[aria-label="Points that Quizzes will hold"]').setValue('x');
    expect(last<string>(shown, 'fault')).toContain('Points that Quizzes will hold: “x” is not a number');
    await shown.find('input[aria-label="Points that Quizzes will hold"]').setValue('200');
    expect(last(shown, 'edit')).toEqual({ declaredPoints: 200_000 });
    await menu(shown, 'declare');
    expect(last(shown, 'edit')).toEqual({ declaredItems: 0, declaredPoints: 0, declaredIn: [] });
  });

  it('says it for each grading period, where there are periods', async () => {
    const periods = [
      { id: 'one', title: 'First half', pieces: 2, points: 40_000 },
      { id: 'two', title: 'Second half', pieces: 1, points: 20_000 },
    ];
    const shown = await open(category('q', 'Quizzes', { declaredItems: 9, declaredPoints: 180_000 }), { periods });
    await menu(shown, 'periods');
    const built = [
      { periodId: 'one', items: 2, points: 40_000 },
      { periodId: 'two', items: 1, points: 20_000 },
    ];
    expect(last(shown, 'edit')).toEqual({ declaredItems: 0, declaredPoints: 0, declaredIn: built });
    const said = await open(category('q', 'Quizzes', { declaredIn: built }), { periods });
    expect(said.text()).toMatch(/In First half it will hold.*2 built, 0 to come\. In Second half.*1 built, 0 to come/);
    await said.find('input[aria-label="Pieces that Quizzes will hold in Second half"]').setValue('4');
    expect(last(said, 'edit')).toEqual({ declaredIn: [built[0], { periodId: 'two', items: 4, points: 20_000 }] });
    await said.find('input[aria-label="Points that Quizzes will hold in First half"]').setValue('many');
    expect(last<string>(said, 'fault')).toContain('“many” is not a number');
    await said.find('input[aria-label="Pieces that Quizzes will hold in First half"]').setValue('501');
    expect(last(said, 'fault')).toBe('“501” in Quizzes is not a whole number from 0 to 500.');
    await menu(said, 'whole');
    expect(last(said, 'edit')).toEqual({ declaredItems: 3, declaredPoints: 60_000, declaredIn: [] });
  });

  it.each([
    ['extra', { isExtraCredit: true }],
    ['cap', { isCapped: true }],
    ['highest', { dropHighest: 1 }],
    ['declare', { declaredItems: 3, declaredPoints: 60_000, declaredIn: [] }],
    ['late', { late }],
  ])('has what is seldom needed in its menu: %s', async (act, change) => {
    const shown = await open(category('q', 'Quizzes', { method: 'share' }));
    await menu(shown, act);
    expect(last(shown, 'edit')).toEqual(change);
  });

  it('offers the highest by equal share only, and is moved among the others', async () => {
    const shown = await open(category('q', 'Quizzes'));
    await shown.find('button[aria-label="What can be done with Quizzes"]').trigger('click');
    expect(shown.find('[data-value="highest"]').exists()).toBe(false);
    await shown.find('[data-value="up"]').trigger('click');
    expect(last(shown, 'move')).toBe(-1);
  });

  it('asks where its columns go before it is removed, and goes at once where it has none', async () => {
    const shown = await open(category('q', 'Quizzes'));
    await menu(shown, 'remove');
    expect(shown.emitted('remove')).toBeUndefined();
    expect(shown.text()).toContain('Its 3 columns (60 points) go to');
    const where = shown.find('select[aria-label="Category that takes the columns of Quizzes"]');
    await where.setValue(where.findAll('option')[1]!.attributes('value'));
    await shown
      .findAll('button')
      .find((b) => b.text() === 'Remove “Quizzes”')!
      .trigger('click');
    expect(last(shown, 'remove')).toBe('p');
    const empty = await open(category('q', 'Quizzes'), { built: { pieces: 0, points: 0 } });
    await menu(empty, 'remove');
    expect(last(empty, 'remove')).toBeNull();
  });

  it('takes a weight from 0 to 1000 %, to a thousandth', async () => {
    const shown = await open(category('q', 'Quizzes'));
    const weight = shown.find('input[aria-label="Weight of Quizzes"]');
    await weight.setValue('-5');
    expect(last<string>(shown, 'fault')).toContain('Weight of Quizzes: “-5” is not a number');
    await weight.setValue('100.0005');
    expect(last<string>(shown, 'fault')).toContain('more than three decimals');
    await weight.setValue('1001');
    expect(last<string>(shown, 'fault')).toBe('Weight of Quizzes: at most 1000 %.');
    await weight.setValue('33.5');
    expect(last(shown, 'edit')).toEqual({ weightPercent: 33_500 });
  });
});

describe('the grading periods', () => {
  const columns: PolicyView['columns'] = [
    { id: 'a', title: 'Test', possible: 10_000, categoryId: 'q', periodId: null, inPeriodId: 'one' },
    { id: 'b', title: 'Talk', possible: 10_000, categoryId: null, periodId: null, inPeriodId: null },
  ];
  const open = (periods: PolicyPeriod[], moves: ColumnMove[] = []) =>
    show(
      PeriodsPart,
      { draft: { periods, categories: [category('q', 'Quizzes')], moves, total: 'weights' }, columns },
      undefined,
      inCourse,
    );
  const set = (shown: VueWrapper): Partial<PolicyChange> => last(shown, 'set');

  it('are two halves at first, and then as many as one adds', async () => {
    const shown = await open([]);
    await shown
      .findAll('button')
      .find((b) => b.text() === 'Add grading periods')!
      .trigger('click');
    expect(set(shown).periods?.map((p) => [p.title, p.weightPercent])).toEqual([
      ['First half', 50_000],
      ['Second half', 50_000],
    ]);
    const more = await open([period('one', 'First half'), period('two', 'Second half')]);
    await more
      .findAll('button')
      .find((b) => b.text() === 'Add grading period')!
      .trigger('click');
    expect(set(more).periods?.at(-1)).toMatchObject({ title: 'Period 3', weightPercent: 0 });
  });

  it('say what does not add to 100, and which column is in none', async () => {
    const shown = await open([period('one', 'First half', { weightPercent: 40_000 }), period('two', 'Second half')]);
    expect(shown.text()).toContain('together they are 90 %, so they are taken in proportion');
    expect(shown.text()).toContain('1 column has no date in any period and counts in each. Choose a period for it below.');
    await shown.find('input[aria-label="Weight of First half"]').setValue('x');
    expect(last<string>(shown, 'fault')).toContain('Weight of First half');
    await shown.find('input[aria-label="Weight of First half"]').setValue('60');
    expect(set(shown).periods?.[0]?.weightPercent).toBe(60_000);
  });

  it('take a column by hand, or leave it to its date again', async () => {
    const shown = await open([period('one', 'First half'), period('two', 'Second half')]);
    const of = (title: string) => shown.find(`select[aria-label="Grading period of ${title}"]`);
    expect(of('Test').findAll('option')[0]!.text()).toBe('by its date: First half');
    expect(of('Talk').findAll('option')[0]!.text()).toBe('by its date: in each period: its date is in none');
    await of('Test').setValue(of('Test').findAll('option')[2]!.attributes('value'));
    expect(set(shown).moves).toEqual([{ columnId: 'a', categoryId: 'q', periodId: 'two' }]);
    const moved = await open(
      [period('one', 'First half'), period('two', 'Second half')],
      [{ columnId: 'a', categoryId: 'q', periodId: 'two' }],
    );
    const back = moved.find('select[aria-label="Grading period of Test"]');
    await back.setValue(back.findAll('option')[0]!.attributes('value'));
    expect(set(moved).moves).toEqual([]);
  });

  it('that is removed leaves its columns to their dates', async () => {
    const shown = await open(
      [period('one', 'First half'), period('two', 'Second half')],
      [{ columnId: 'a', categoryId: 'q', periodId: 'two' }],
    );
    await shown.find('button[aria-label="Remove Second half"]').trigger('click');
    expect([set(shown).periods?.length, set(shown).moves]).toEqual([1, [{ columnId: 'a', categoryId: 'q', periodId: null }]]);
  });
});

describe('the page of the policy', () => {
  const policy = (more: Partial<PolicyView> = {}): PolicyView => ({
    version: 3,
    total: 'weights',
    wholeDropLowest: 0,
    isRenormalised: true,
    isMissingZero: true,
    decimals: 1,
    showsFloorAndReach: true,
    lateRatePercent: 5000,
    lateStepMinutes: 1440,
    lateBase: 'earned',
    lateCapPercent: 0,
    lateFloorPercent: 0,
    lateGraceMinutes: 0,
    wholeKeepBest: 0,
    wholeDropHighest: 0,
    wholeIsCapped: false,
    passPercent: null,
    categories: [category('q', 'Quizzes'), category('p', 'Papers')],
    periods: [],
    moves: [],
    columns: [{ id: 'a', title: 'Test', possible: 10_000, categoryId: 'q', periodId: null, inPeriodId: null }],
    levels: [{ label: 'A', cutPoint: 0, value: null }],
    weightsSum: 100_000,
    totals: [],
    ...more,
  });
  const PUT = 'PUT /courses/c/policy';
  const open = async (shownPolicy: PolicyView = policy()) => {
    server.on('GET /courses/c/policy', () => shownPolicy);
    server.on(PUT, () => ({ rows: [], rise: 0, fall: 0, cross: 0, sentence: 'Nobody moves', others: '', levels: [] }));
    const router = makeTestRouter();
    router.addRoute({ path: '/courses/:courseId/policy', name: 'policy', component: { template: '<div />' } });
    router.addRoute({ path: '/courses/:courseId/gradebook', name: 'gradebook', component: { template: '<div />' } });
    await router.push('/courses/c/policy');
    const shown = await show(PolicyPage, {}, router, () => {
      inCourse();
      useSession().me = {
        courses: [
          { id: 'c', role: 'instructor' },
          { id: 'd', role: 'instructor', title: 'Escapements', code: 'HOR-205', run: 'autumn' },
          { id: 'e', role: 'student' },
        ],
      } as never;
    });
    await flushPromises();
    return shown;
  };
  const draft = (): PolicyChange => server.bodies(PUT).at(-1) as PolicyChange;

  it('moves the columns of a category that is removed, and shows whom that moves first', async () => {
    const shown = await open();
    await choose(shown, 'What can be done with Quizzes', 'remove');
    const where = shown.find('select[aria-label="Category that takes the columns of Quizzes"]');
    await where.setValue(where.findAll('option')[1]!.attributes('value'));
    await shown
      .findAll('button')
      .find((b) => b.text() === 'Remove “Quizzes”')!
      .trigger('click');
    await flushPromises();
    expect(draft().categories.map((c) => c.title)).toEqual(['Papers']);
    expect(draft().moves).toEqual([{ columnId: 'a', categoryId: 'p', periodId: null }]);
    expect(shown.text()).toContain('Nobody moves');
  });

  it('orders categories, sets a pass mark and takes a scheme that is ready', async () => {
    const shown = await open();
    await choose(shown, 'What can be done with Papers', 'up');
    await flushPromises();
    expect(draft().categories.map((c) => c.title)).toEqual(['Papers', 'Quizzes']);
    const pass = shown.find('select[aria-label="Whether there is a pass mark"]');
    await pass.setValue(pass.findAll('option')[0]!.attributes('value'));
    await flushPromises();
    expect(draft().passPercent).toBe(50_000);
    await shown.find('input[aria-label="Pass mark in percent"]').setValue('x');
    expect(shown.text()).toContain('Pass mark: “x” is not a number');
    await shown.find('input[aria-label="Pass mark in percent"]').setValue('55');
    await flushPromises();
    expect(draft().passPercent).toBe(55_000);
    await shown
      .findAll('button')
      .find((b) => b.text().includes('Begin with a scheme'))!
      .trigger('click');
    await shown
      .findAll('[role="menuitem"]')
      .find((b) => b.text() === 'Pass or not')!
      .trigger('click');
    await flushPromises();
    expect(draft().levels.map((l) => l.label)).toEqual(['Pass', 'Not passed']);
  });

  it('has the rules of a whole course where it has no categories', async () => {
    const shown = await open(policy({ total: 'share' }));
    const keeps = shown.find('select[aria-label="What is left out"]');
    await keeps.setValue(keeps.findAll('option')[2]!.attributes('value'));
    await flushPromises();
    expect([draft().wholeKeepBest, draft().wholeDropLowest]).toEqual([1, 0]);
    await shown.find('input[aria-label="How many of the highest are left out"]').setValue('99');
    expect(shown.text()).toContain('“99” is not a whole number from 0 to 50.');
    const cap = shown.find('select[aria-label="Cap"]');
    await cap.setValue(cap.findAll('option')[1]!.attributes('value'));
    await flushPromises();
    expect(draft().wholeIsCapped).toBe(true);
  });

  it('takes the policy of another course as a draft, its categories met by their titles', async () => {
    const shown = await open();
    server.on('GET /courses/d/policy', () =>
      policy({ version: 8, categories: [category('x', 'papers'), category('y', 'Drills')], decimals: 0 }),
    );
    await shown
      .findAll('button')
      .find((b) => b.text().includes('another course'))!
      .trigger('click');
    expect(shown.findAll('[role="menuitem"]').map((b) => b.text())).toEqual(['Escapements, HOR-205 autumn']);
    await shown.find('[role="menuitem"]').trigger('click');
    await flushPromises();
    expect(draft()).toMatchObject({ version: 3, decimals: 0 });
    expect(draft().categories.map((c) => [c.id, c.title, c.weightPercent])).toEqual([
      ['p', 'papers', 50_000],
      [null, 'Drills', 50_000],
      ['q', 'Quizzes', 0],
    ]);
  });
});

const column = (id: string, more: Partial<GradedColumn> = {}): GradedColumn => ({
  ...{
    id,
    itemId: id,
    title: `Item ${id}`,
    categoryId: null,
    periodId: null,
    possible: 100_000,
    multiplier: 1000,
    isExtraCredit: false,
    dueAt: null,
    order: 0,
  },
  ...more,
});
const cell = (state: GradedCell['state'], points: number | null): GradedCell => ({
  ...{ state, raw: points, result: points === null ? null : points * 1000, late: null, isReleased: true },
  mostPossible: points === null ? 100_000 : points * 1000,
});
const whole: Policy = {
  total: 'points',
  whole: { dropLowest: 0, keepBest: 0, dropHighest: 0, isCapped: false },
  isRenormalised: true,
  isMissingZero: true,
  decimals: 1,
  categories: [],
  periods: [],
  levels: [
    { label: 'A', cutPoint: 87_000 },
    { label: 'B', cutPoint: 75_000 },
    { label: 'F', cutPoint: 0 },
  ],
};
const facts = { policy: whole, columns: [column('a'), column('b')], cells: [cell('marked', 70), cell('none', null)].map(sentCell) };

describe('suppose', () => {
  const open = () => show(SupposePart, { courseId: 'c', facts, levels: whole.levels, showsRange: true });
  const field = (shown: VueWrapper) => shown.find('input[aria-label="Supposed result of Item b"]');

  it('shows what a result would make of the grade, keeps it in this browser and sends nothing', async () => {
    const shown = await open();
    expect(shown.text()).toContain('So far 70.0 %');
    await field(shown).setValue('90');
    await flushPromises();
    expect(shown.text()).toContain('So far 80.0 %');
    expect(shown.text()).toContain('if nothing more came 80.0 · if all the rest were perfect 80.0');
    expect([readKept('suppose c'), server.sent]).toEqual([{ b: '90' }, []]);
    await field(shown).setValue('80 %');
    await flushPromises();
    expect(shown.text()).toContain('So far 75.0 %');
    await shown
      .findAll('button')
      .find((b) => b.text() === 'Clear')!
      .trigger('click');
    await flushPromises();
    expect(shown.text()).toContain('So far 70.0 %');
  });

  it('says what is needed for a letter, and when nothing is enough', async () => {
    const shown = await open();
    expect(shown.text()).toContain('79.9 % in what is left.');
    expect(shown.text()).toContain('79.9 of 100');
    const goal = shown.find('select[aria-label="Letter that is aimed at"]');
    expect((goal.element as HTMLSelectElement).selectedOptions[0]?.text).toBe('B, from 75 %');
    await goal.setValue(goal.findAll('option')[0]!.attributes('value'));
    await flushPromises();
    expect(shown.text()).toContain('Even full marks in all the rest are not enough.');
    expect(shown.text()).toContain('more than full marks');
  });

  it.each([
    ['x', '“x” is not a number of points'],
    ['101', 'That is more than the 100 points.'],
    ['x %', '“x %” is not a percentage'],
  ])('says why %s cannot be supposed', async (text, words) => {
    const shown = await open();
    await field(shown).setValue(text);
    await flushPromises();
    expect(shown.text()).toContain(words);
    expect(shown.text()).toContain('So far 70.0 %');
  });

  it('says when nothing is left', async () => {
    const none = { ...facts, cells: [cell('marked', 70), cell('exempt', null)].map(sentCell) };
    const shown = await show(SupposePart, { courseId: 'c', facts: none, levels: [], showsRange: false });
    expect(shown.text()).toContain('There is nothing left that can still bring a result.');
  });
});

describe('the grades of a student', () => {
  const line = { rule: 'Item a', value: '70 / 100', look: 'plain', itemId: null, lines: [] } as const;
  const grades: MyGrades = {
    final: null,
    totals: { soFar: '70.0', floor: null, reach: null, letter: 'F' },
    working: [line],
    floorWorking: [],
    reachWorking: [],
    says: 'Counted from released marks only.',
    levels: whole.levels,
    passPercent: 50_000,
    periods: [{ id: 'one', title: 'First half', weightPercent: 40_000, percent: '70.0', working: [line] }],
    suppose: facts,
    categories: [
      {
        ...{ id: 'all', title: 'All items', weightPercent: null, rule: 'by points', percent: '70.0', working: [line] },
        columns: [
          {
            ...{ id: 'a', itemId: 'a', kind: 'assignment', title: 'Item a', text: '70', state: 'marked', possible: 100_000, working: line },
            ...{ dueAt: '2026-11-20T18:00:00Z', isExtraCredit: true, comment: 'Well filed.\nSee me.' },
            statistics: { number: 9, mean: '61.0', median: '63.0', spread: '9.1' },
          },
        ],
      },
    ],
  };
  it('say what each was worth, when it was due, what was written with it and how the class did', async () => {
    server.on('GET /courses/c/own/grades', () => grades);
    const router = makeTestRouter();
    await router.push('/courses/c/plan');
    const shown = await show(GradesPage, {}, router, inCourse);
    await flushPromises();
    const text = shown.text();
    for (const words of [
      ...[
        'A from 87 · B from 75 · F from 0. The course is passed from 50 %.',
        'First half, weight 40:',
        'due Fri 20 Nov 18:00',
        'extra credit',
      ],
      ...['Well filed.', 'Of 9 results the mean is 61.0, the median 63.0.'],
    ])
      expect(text).toContain(words);
    await shown
      .findAll('button')
      .find((b) => b.text() === '70.0 %' && b.element.closest('p') !== null)!
      .trigger('click');
    expect(shown.text()).toContain('First half so far');
  });
});
