/** @jest-environment ../scripts/jsdomForJest.mjs */
import type { CourseSettings, JoinedSection, QuizResults } from '@rosemary/api';
import { flushPromises, type VueWrapper } from '@vue/test-utils';
import SettingsPage from '../src/course/SettingsPage.vue';
import LateField from '../src/kinds/assignment/LateField.vue';
import CutPoints from '../src/parts/CutPoints.vue';
import DateField from '../src/parts/DateField.vue';
import LineInput from '../src/parts/LineInput.vue';
import { setHooks } from '../src/platform/http.ts';
import ResultsPage from '../src/quiz/ResultsPage.vue';
import { useCourse } from '../src/stores/courseStore.ts';
import { useNotices } from '../src/stores/noticeStore.ts';
import { useQuiz } from '../src/stores/quizStore.ts';
import { useRipple } from '../src/stores/rippleStore.ts';
import { beginMounting, choose, endMounting, makeTestRouter, show } from './mounting.ts';
import { fakeServer, Held, quietHooks, Refusal, until } from './server.ts';

let server: ReturnType<typeof fakeServer>;
beforeEach(() => {
  beginMounting();
  localStorage.clear();
  server = fakeServer();
  setHooks(quietHooks);
});
afterEach(endMounting);

type Shown = Awaited<ReturnType<typeof show>>;
const press = async (shown: Shown, text: string): Promise<void> => {
  const button = shown.findAll('button').find((b) => b.text() === text);
  if (button === undefined) throw new Error(`no button “${text}”`);
  await button.trigger('click');
  await flushPromises();
};
const head = (role: 'instructor' | 'assistant') => ({
  ...{ id: 'c', role, timeZone: 'UTC', now: '2026-11-18T10:00:00Z', isOpen: true, sections: [], groups: [], line: { weeks: [] } },
});

describe('a date that is typed', () => {
  const NOW = Date.parse('2026-11-18T10:00:00Z');
  const field = (more: object = {}) => show(DateField, { modelValue: null, label: 'Due', zone: 'Europe/Lisbon', now: NOW, ...more });
  const type = async (shown: Shown, text: string): Promise<void> => {
    await shown.find('input').setValue(text);
    await shown.find('input').trigger('change');
  };

  it('is read in the zone of the course, and written out', async () => {
    const shown = await field();
    await type(shown, '23 Nov 18:00');
    expect(shown.emitted('change')?.[0]).toEqual(['2026-11-23T18:00:00.000Z']);
    expect((shown.find('input').element as HTMLInputElement).value).toBe('Mon 23 Nov 2026 18:00');
  });

  it('takes the time that is usual here where none is typed', async () => {
    const shown = await field({ time: '08:00' });
    await type(shown, '23 Nov');
    expect(shown.emitted('change')?.[0]).toEqual(['2026-11-23T08:00:00.000Z']);
  });

  it('is a day alone where a day is asked', async () => {
    const shown = await field({ isDay: true });
    await type(shown, '23 Nov 2026');
    expect(shown.emitted('change')?.[0]).toEqual(['2026-11-23']);
    expect((shown.find('input').element as HTMLInputElement).value).toBe('Mon 23 Nov 2026');
  });

  it('says what is not understood and keeps it', async () => {
    const shown = await field();
    await type(shown, 'next blue moon');
    expect(shown.find('[role="alert"]').text()).toContain('is no part of a date');
    expect((shown.find('input').element as HTMLInputElement).value).toBe('next blue moon');
    expect(shown.emitted('change')).toBeUndefined();
    expect(shown.find('input').attributes('aria-invalid')).toBe('true');
  });

  it('is none where it is emptied, unless one is needed', async () => {
    const shown = await field({ modelValue: '2026-11-23T18:00:00.000Z' });
    await type(shown, '');
    expect(shown.emitted('change')?.[0]).toEqual([null]);
    const needed = await field({ modelValue: '2026-11-23T18:00:00.000Z', isRequired: true });
    await type(needed, '');
    expect(needed.emitted('change')).toBeUndefined();
    expect(needed.find('[role="alert"]').text()).not.toBe('');
  });

  it('is not changed by what was typed another way', async () => {
    const shown = await field({ modelValue: '2026-11-23T18:00:00.000Z' });
    await type(shown, 'Monday 23 November 2026, 6pm');
    expect(shown.emitted('change')).toBeUndefined();
  });

  it('is not removed by a save that comes back while it is typed', async () => {
    const shown = await field();
    await shown.find('input').trigger('focus');
    await shown.find('input').setValue('23 No');
    await shown.setProps({ modelValue: '2026-12-01T08:00:00.000Z' });
    expect((shown.find('input').element as HTMLInputElement).value).toBe('23 No');
    await shown.find('input').trigger('blur');
    await shown.setProps({ modelValue: '2026-12-02T08:00:00.000Z' });
    expect((shown.find('input').element as HTMLInputElement).value).toBe('Wed 2 Dec 2026 08:00');
  });
});

describe('a field of one line', () => {
  it('tells what was typed once it is left, and follows what stands while nobody types', async () => {
    const shown = await show(LineInput, { value: 'Bench' });
    await shown.setProps({ value: 'Bench work' });
    const input = shown.find('input');
    expect(input.element.value).toBe('Bench work');
    await input.trigger('focus');
    // Typed and not left yet: a change of the browser comes only then.
    input.element.value = 'Bench w';
    await input.trigger('input');
    await shown.setProps({ value: 'Other' });
    expect(input.element.value).toBe('Bench w');
    await input.trigger('change');
    expect(shown.emitted('commit')?.at(-1)).toEqual(['Bench w']);
  });
});

describe('how late work is reduced', () => {
  const OWN = { ratePercent: 5000, stepMinutes: 1440, base: 'earned', capPercent: 50_000, floorPercent: 0, graceMinutes: 0 } as const;

  it('is the course’s until it has a rule of its own, which reads as a sentence', async () => {
    const shown = await show(LateField, { late: null, canEdit: true });
    expect(shown.find('.rule').exists()).toBe(false);
    await shown.find('select').setValue('own');
    expect(shown.emitted('set')).toEqual([[OWN]]);
    await shown.setProps({ late: OWN });
    expect(shown.find('.rule').text()).toContain('% of the points;');
    await shown.find('select').setValue('course');
    expect(shown.emitted('set')?.at(-1)).toEqual([null]);
  });

  it('is given in percent, and says what cannot be', async () => {
    const shown = await show(LateField, { late: OWN, canEdit: true });
    const rate = shown.find('[aria-label="Late rate in percent"]');
    await rate.setValue('7.5');
    expect(shown.emitted('set')?.at(-1)).toEqual([{ ...OWN, ratePercent: 7500 }]);
    await rate.setValue('120');
    expect(shown.find('[role="alert"]').text()).toBe('120 % is more than everything.');
    const grace = shown.find('[aria-label="Grace in minutes"]');
    await grace.setValue('a while');
    expect(shown.find('[role="alert"]').text()).toBe('“a while” is not a whole number of minutes.');
    await grace.setValue('15');
    expect(shown.emitted('set')?.at(-1)).toEqual([{ ...OWN, graceMinutes: 15 }]);
    expect(shown.find('[role="alert"]').exists()).toBe(false);
    await shown.find('[aria-label="Step"]').setValue('60');
    expect(shown.emitted('set')?.at(-1)).toEqual([{ ...OWN, stepMinutes: 60 }]);
  });
});

describe('the sections of a course in its settings', () => {
  const section = (id: string, title: string, students: number) => ({ id, title, meetingDays: null, students });
  const JOINED: JoinedSection = { actId: 'act', title: 'Evening', into: 'Morning', at: '2026-11-02T09:00:00Z', students: 2 };
  const settings = (more: Partial<CourseSettings> = {}): CourseSettings => ({
    ...{ code: 'HOR-1', run: 'a', title: 'Watches', shortTitle: '', description: '', timeZone: 'UTC', language: 'en', pacing: 'term' },
    ...{
      picture: null,
      progressBy: 'items',
      progressShows: 'own',
      reachedPercent: 60_000,
      meritPercent: 85_000,
      isPublic: false,
      enrolsFrom: null,
      enrolsUntil: null,
      version: 1,
      joined: [],
    },
    term: { title: 'Autumn', startsOn: '2026-09-21', endsOn: '2027-01-03', meetingDays: [2, 4], holidays: [] },
    sections: [section('m', 'Morning', 3), section('e', 'Evening', 2)],
    ...more,
  });
  async function open(more: Partial<CourseSettings> = {}, role: 'instructor' | 'assistant' = 'instructor'): Promise<Shown> {
    server.on('GET /courses/c', () => head(role));
    server.on('GET /courses/c/settings', () => settings(more));
    const router = makeTestRouter();
    await router.push('/courses/c/settings');
    return show(SettingsPage, {}, router, () => {
      (useCourse() as { head: unknown }).head = head(role);
    });
  }
  const JOIN = 'POST /courses/c/sections/e/join';
  const PART = 'POST /courses/c/section-partings';

  it('are joined, and the joining is taken back by its act', async () => {
    server.on(JOIN, () => ({ actId: 'act', settings: settings({ sections: [section('m', 'Morning', 5)], joined: [JOINED] }) }));
    server.on(PART, () => ({ settings: settings(), back: 2, stayed: 0 }));
    const shown = await open();
    await choose(shown, 'Merge Evening with', 'm');
    await flushPromises();
    expect(server.bodies(JOIN)).toEqual([{ into: 'm' }]);
    expect(shown.find('.joined').text()).toContain('Evening was merged with Morning on');
    expect(useNotices().notice?.text).toBe('Evening is merged with Morning; everyone kept their work and dates.');
    await useNotices().notice?.undo?.();
    await flushPromises();
    expect(server.bodies(PART)).toEqual([{ actId: 'act' }]);
    expect(shown.find('.joined').exists()).toBe(false);
  });

  it('show whom a joining moves first, and stay as they are where it is left', async () => {
    server.on(JOIN, (one) =>
      one.headers['x-ripple'] === 'mind' ? new Held({ people: [], levels: [] }) : { actId: 'act', settings: settings() },
    );
    const shown = await open();
    await choose(shown, 'Merge Evening with', 'm');
    await until(() => useRipple().answer !== null, 'the ripple');
    expect(useRipple().title).toBe('Evening merged with Morning');
    useRipple().close(false);
    await flushPromises();
    expect(server.bodies(JOIN)).toHaveLength(1);
    expect(shown.find('.joined').exists()).toBe(false);
  });

  it('are parted again at any later time, and say who stays', async () => {
    const shown = await open({ joined: [JOINED] });
    server.on(PART, () => ({ settings: settings(), back: 1, stayed: 1 }));
    expect(shown.find('.joined').text()).toContain('2 students came from it.');
    await press(shown, 'Split them again');
    expect(useNotices().notice?.text).toBe('1 student is in Evening again. 1 has changed section since and stays there.');
  });

  it('say why they cannot be parted', async () => {
    const shown = await open({ joined: [JOINED] });
    server.on(PART, () => new Refusal(404, 'not-found'));
    await press(shown, 'Split them again');
    expect(useNotices().notice?.text).toContain('refused: not-found');
    expect(shown.find('.joined').exists()).toBe(true);
  });

  it('are read and not changed by those who assist', async () => {
    const shown = await open({ joined: [JOINED] }, 'assistant');
    expect(shown.find('.joined').text()).toContain('Evening was merged with Morning on');
    expect(shown.find('[aria-label="Merge Evening with"]').exists()).toBe(false);
    expect(shown.findAll('button').some((b) => b.text() === 'Split them again')).toBe(false);
  });
});

describe('the results of a quiz', () => {
  const RESULTS: QuizResults = {
    ...{ title: 'Parts', possible: 2000, people: [], marked: [], markers: [], corrections: [] },
    setting: { passPoints: null, meritPoints: null, counted: 'latest', limitMinutes: null },
  };
  const AGAIN = 'POST /courses/c/quizzes/i/outdated-scores';
  const one = { questionId: 'q', title: 'What does what?', answers: 12 };
  let isScored = false;
  beforeEach(() => {
    isScored = false;
  });
  async function open(role: 'instructor' | 'assistant' = 'instructor'): Promise<Shown> {
    server.on('GET /courses/c/quizzes/i/results', () => RESULTS);
    server.on('GET /courses/c/quizzes/i/outdated-scores', () => ({ questions: isScored ? [] : [one] }));
    server.on('GET /courses/c/items/i/follow-ups', () => ({ areReviews: false, possible: 2000, rules: [], items: [], groups: [] }));
    const router = makeTestRouter();
    await router.push('/courses/c/items/i/quiz');
    return show(ResultsPage, {}, router, () => {
      (useCourse() as { head: unknown }).head = head(role);
      const quiz = useQuiz() as unknown as { $patch: (state: object) => void; detail: unknown };
      quiz.$patch({ courseId: 'c' });
      quiz.detail = { itemId: 'i', title: 'Parts', setting: {} };
    });
  }

  it('offer answers that were scored by the rule of before to be scored again, once it was seen whom that moves', async () => {
    server.on(AGAIN, (sent) => {
      if (sent.headers['x-ripple'] === 'mind') return new Held({ people: [], levels: [] });
      isScored = true;
      return { questions: [] };
    });
    const shown = await open();
    expect(shown.find('.outdated').text()).toContain('12 answers to “What does what?” were scored when a');
    await press(shown, 'Score them again');
    await until(() => useRipple().answer !== null, 'the ripple');
    expect([useRipple().title, useRipple().canUndo, isScored]).toEqual(['“What does what?” scored again', false, false]);
    useRipple().close(true);
    await until(() => !shown.find('.outdated').exists(), 'the end of the offer');
    expect(useNotices().notice?.text).toBe('The answers to “What does what?” are scored again.');
    expect(server.bodies(AGAIN)).toEqual([{ questionId: 'q' }, { questionId: 'q' }]);
  });

  it('leave them as they are where the ripple is left', async () => {
    server.on(AGAIN, () => new Held({ people: [], levels: [] }));
    const shown = await open();
    await press(shown, 'Score them again');
    await until(() => useRipple().answer !== null, 'the ripple');
    useRipple().close(false);
    await flushPromises();
    expect(shown.find('.outdated').exists()).toBe(true);
    expect(server.bodies(AGAIN)).toHaveLength(1);
  });

  it('offer nothing of it to those who assist', async () => {
    const shown = await open('assistant');
    expect(shown.find('.outdated').exists()).toBe(false);
    expect(server.sent.some((s) => s.path.endsWith('/outdated-scores'))).toBe(false);
  });
});

describe('the cut-points of the letters', () => {
  const levels = [
    { label: 'A', cutPoint: 87_000, value: null },
    { label: 'B', cutPoint: 73_000, value: 80_000 },
    { label: 'C', cutPoint: 0, value: null },
  ];
  const typed = async (n: number, text: string) => {
    const shown = await show(CutPoints, { levels, totals: [50, 90], isFixed: false });
    const input = shown.findAll('input[aria-label$=" from"]')[n]!;
    await input.setValue(text);
    return { shown, said: shown.find('[role="alert"]') };
  };

  it('are changed where they stay in order', async () => {
    const { shown, said } = await typed(1, '70');
    expect(said.exists()).toBe(false);
    expect(shown.emitted('change')?.at(-1)).toEqual([[levels[0], { label: 'B', cutPoint: 70_000, value: 80_000 }, levels[2]]]);
  });

  it.each([
    [1, '88', 'B from 88 is out of order. Type a number below 87, where A begins and above 0, where C begins.'],
    [0, '70', 'A from 70 is out of order. Type a number above 73, where B begins.'],
  ])('say why one out of order is not taken', async (n, text, words) => {
    const { shown, said } = await typed(n, text);
    expect(said.text()).toBe(words);
    expect(shown.emitted('change')).toBeUndefined();
  });

  it('say what is no number', async () => {
    expect((await typed(0, 'high')).said.text()).toContain('A from “high”:');
  });

  const open = (isFixed = false) => show(CutPoints, { levels, totals: [50, 75, 90, 95], isFixed });
  const labels = (shown: VueWrapper): string[] =>
    (shown.emitted('change')?.at(-1)?.[0] as { label: string; cutPoint: number }[]).map((l) => `${l.label} ${l.cutPoint / 1000}`);

  it('say how many stand at each now', async () => {
    const shown = await open();
    expect(shown.findAll('tbody td.num').map((td) => td.text())).toEqual(['2', '1', '1']);
  });

  it('are renamed, unless another is called so or the name is too long', async () => {
    const shown = await open();
    const name = shown.find('input[aria-label="Name of B"]');
    await name.setValue('a');
    expect(shown.find('[role="alert"]').text()).toBe('There is “a” already. Give this one another name.');
    await name.setValue('a name that is long');
    expect(shown.find('[role="alert"]').text()).toContain('1 to 12 signs');
    await name.setValue('Good');
    expect(labels(shown)).toEqual(['A 87', 'Good 73', 'C 0']);
  });

  it('stand for a value of their own, or for the middle of their range', async () => {
    const shown = await open();
    const values = shown.findAll('input[aria-label^="What "]');
    expect(values.map((v) => [(v.element as HTMLInputElement).value, v.attributes('placeholder')])).toEqual([
      ['', '93.5'],
      ['80', '80'],
      ['', '36.5'],
    ]);
    await values[1]!.setValue('');
    expect((shown.emitted('change')?.at(-1)?.[0] as { value: number | null }[])[1]?.value).toBeNull();
  });

  it('are added where there is most room, and removed so that every total keeps a letter', async () => {
    const shown = await open();
    await shown
      .findAll('button')
      .find((b) => b.text() === 'Add letter')!
      .trigger('click');
    expect(labels(shown)).toEqual(['A 87', 'B 73', 'D 36.5', 'C 0']);
    await shown.find('button[aria-label="Remove C"]').trigger('click');
    expect(labels(shown)).toEqual(['A 87', 'B 0']);
  });

  it('are moved and removed by keys on the line', async () => {
    const shown = await open();
    const cut = shown.findAll('g.cut')[1]!;
    await cut.trigger('keydown', { key: 'ArrowLeft' });
    expect(labels(shown)).toEqual(['A 87', 'B 72.5', 'C 0']);
    await cut.trigger('keydown', { key: 'Delete' });
    expect(labels(shown)).toEqual(['A 87', 'C 0']);
  });

  it('are only read by whoever may not change them', async () => {
    const shown = await open(true);
    expect(shown.text()).not.toContain('Remove');
    expect(shown.text()).not.toContain('Add letter');
    await shown.findAll('g.cut')[1]!.trigger('keydown', { key: 'ArrowLeft' });
    expect(shown.emitted('change')).toBeUndefined();
  });
});
