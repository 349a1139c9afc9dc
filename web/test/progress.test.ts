/** @jest-environment ../scripts/jsdomForJest.mjs */
import 'fake-indexeddb/auto';
import type { ProgressObjectives, ProgressReport, ProgressRhythm, ReportPerson, StudentStory as Story, Words } from '@rosemary/api';
import { boxPlot, ruleBegins, WORD_RULE_NAMES, type WordSettings } from '@rosemary/core';
import { flushPromises, type VueWrapper } from '@vue/test-utils';
import BoxPlots from '../src/parts/charts/BoxPlots.vue';
import ChartFrame from '../src/parts/charts/ChartFrame.vue';
import HeatGrid from '../src/parts/charts/HeatGrid.vue';
import OverTime from '../src/parts/charts/OverTime.vue';
import { chartSvg } from '../src/parts/charts/saveChart.ts';
import ScatterPlot from '../src/parts/charts/ScatterPlot.vue';
import SlopeChart from '../src/parts/charts/SlopeChart.vue';
import { titleLines } from '../src/parts/charts/titleLines.ts';
import { setHooks } from '../src/platform/http.ts';
import { keepFor } from '../src/platform/kept.ts';
import ComparePart from '../src/progress/ComparePart.vue';
import HowFarSheet from '../src/progress/HowFarSheet.vue';
import ObjectivesSheet from '../src/progress/ObjectivesSheet.vue';
import ResultsSheet from '../src/progress/ResultsSheet.vue';
import RhythmSheet from '../src/progress/RhythmSheet.vue';
import StudentStory from '../src/progress/StudentStory.vue';
import { useReport } from '../src/progress/useReport.ts';
import VisitsSheet from '../src/progress/VisitsSheet.vue';
import WordsSheet from '../src/progress/WordsSheet.vue';
import ProgressSettingPage from '../src/school/ProgressSettingPage.vue';
import { useCourse } from '../src/stores/courseStore.ts';
import { useNotices } from '../src/stores/noticeStore.ts';
import { useVisit } from '../src/student/useVisit.ts';
import { ref } from 'vue';
import { beginMounting, choose, endMounting, inPage, makeTestRouter, show } from './mounting.ts';
import { fakeServer, quietHooks, Refusal, until } from './server.ts';

/** The report of a course in the interface, sheet by sheet, and the charts that it is drawn with. */
let server: ReturnType<typeof fakeServer>;
let readers = 0;
beforeEach(() => {
  beginMounting();
  localStorage.clear();
  keepFor(`progress reader ${(readers += 1)}`);
  setHooks(quietHooks);
  server = fakeServer();
});
afterEach(endMounting);

const NAMES = ['Abiola', 'Brannagh', 'Castellane', 'Dvorsky', 'Eguchi', 'Fennimore'] as const;
const person = (n: number, more: Partial<ReportPerson> = {}): ReportPerson => ({
  ...{ enrolmentId: `e${n}`, familyName: NAMES[n] ?? 'X', givenName: `Given ${n}`, userName: `${n}@example.org` },
  ...{ sectionId: n % 2 === 0 ? 'm' : 'e', groupIds: n < 2 ? ['g'] : [], steps: '10.', lastVisit: null, soFar: String(60 + n) },
  results: [5000 + n * 1000, n === 0 ? 'missing' : 9000, null],
  ...more,
});
const work = (id: string, title: string, more: object = {}): ProgressReport['works'][number] => ({
  ...{ id, itemId: `i-${id}`, kind: 'assignment', title, unitId: 'u', possible: 10_000, categoryId: 'c' },
  ...{ periodId: null, taskTypeId: null, dueAt: '2026-10-01T10:00:00Z' },
  ...more,
});
const report = (more: Partial<ProgressReport> = {}): ProgressReport => ({
  by: 'items',
  units: [{ id: 'u', title: 'The bench' }],
  items: ['Light', 'Tools', 'Report'].map((title, n) => ({
    ...{ id: `i${n}`, title, unitId: 'u', minutes: 10, periodId: null },
    dueAt: `2026-10-0${n + 1}T10:00:00Z`,
  })),
  works: [work('a', 'Gear ratios'), work('b', 'Strip-down log', { taskTypeId: 't' }), work('z', 'Final paper')],
  categories: [{ id: 'c', title: 'Exercises' }],
  periods: [],
  taskTypes: [{ id: 't', title: 'Essay' }],
  groups: [{ id: 'g', title: 'Pairs: one' }],
  people: NAMES.map((_, n) => person(n)),
  left: { withdrawn: 1, samples: 1, drafts: 2 },
  showsVisitsAgainstResults: true,
  activityMonths: 24,
  ...more,
});
const everything = (of: ProgressReport) => ({
  people: of.people.map((_, n) => n),
  items: of.items.map((_, n) => n),
  works: of.works.map((_, n) => n),
});
const HEAD = {
  ...{ id: 'c', title: 'Watches', role: 'instructor', timeZone: 'UTC', now: '2026-11-18T10:00:00Z', sections: [], groups: [] },
  line: { weeks: [{ number: 1, startsOn: '2026-09-21' }] },
};
/** A part of the report as it stands in its page. */
async function open(component: Parameters<typeof show>[0], props: object): Promise<VueWrapper> {
  const router = makeTestRouter();
  await router.push('/courses/c/progress');
  return show(component, props, router, () => {
    (useCourse() as { head: unknown }).head = HEAD;
  });
}
const lineOf = (shown: VueWrapper, n: number): string => shown.findAll('tbody tr')[n]?.text() ?? '';

describe('how far', () => {
  const sheet = (of = report(), looked = everything(of)): Promise<VueWrapper> =>
    open(HowFarSheet, { report: of, looked, person: null, 'onUpdate:person': () => undefined });

  it('says the share of the class, who is furthest and the ends, and opens what they are made of', async () => {
    const shown = await sheet(report({ people: [person(0, { steps: '11.' }), person(1)] }));
    const says = shown.find('.says').text();
    expect(says).toContain('The class has done 75 % of what is open.');
    expect(says).toContain('Furthest, at 100 %: Abiola, Given 0.');
    expect(says).toContain('Highest total Brannagh, Given 1, 61 %; lowest');
    await shown.find('.says button').trigger('click');
    expect(shown.find('.made').text()).toContain('The mean of the shares of 2 students');
    expect(shown.find('.made').text()).toContain('Abiola, G. 100 %; Brannagh, G. 50 %');
  });

  it('orders by what is chosen, and shows names in full on request', async () => {
    const shown = await sheet();
    expect(lineOf(shown, 0)).toContain('Abiola, G.');
    await shown.find('select').setValue('total');
    expect(lineOf(shown, 0)).toContain('Fennimore, G.');
    await shown.findAll('input[type="checkbox"]')[0]?.setValue(true);
    expect(lineOf(shown, 0)).toContain('Fennimore, Given 5');
    await shown.findAll('input[type="checkbox"]')[1]?.setValue(true);
    expect(lineOf(shown, 0)).toContain('5@example.org');
  });

  it('opens a unit into its items, each with its sign in words', async () => {
    const shown = await sheet();
    await shown.find('button[aria-label="The bench: show its items"]').trigger('click');
    const signs = shown
      .findAll('tbody tr')[0]!
      .findAll('td.narrow [role="img"]')
      .map((s) => s.attributes('aria-label'));
    expect(signs).toEqual(['done', 'not done', 'not open yet']);
    expect(shown.findAll('thead th').map((h) => h.attributes('title'))).toContain('Tools');
  });

  it('is taken out exactly as it is expanded and ordered', async () => {
    const sent: string[] = [];
    const before = globalThis.fetch;
    globalThis.fetch = (async (_url: string, init: RequestInit) => {
      const file = (init.body as FormData).get('file') as Blob;
      sent.push(
        await new Promise<string>((done) => {
          const reader = new FileReader();
          reader.onload = () => {
            done(String(reader.result));
          };
          reader.readAsText(file);
        }),
      );
      return new Response('x');
    }) as typeof fetch;
    URL.createObjectURL = () => 'blob:x';
    URL.revokeObjectURL = () => undefined;
    const shown = await sheet();
    await shown.find('select').setValue('total');
    await shown.find('button[aria-label="The bench: show its items"]').trigger('click');
    await choose(shown, 'Download How far', 'csv');
    await until(() => sent.length > 0, 'the download');
    globalThis.fetch = before;
    const { lines } = JSON.parse(sent[0] ?? '{}') as { lines: unknown[][] };
    expect(lines[0]).toEqual([
      'Family name',
      'Given name',
      'The bench (%)',
      'Light',
      'Tools',
      'Report',
      'Done (%)',
      'So far (%)',
      'Last visit',
    ]);
    expect(lines[1]).toEqual(['Fennimore', 'Given 5', 50, 'done', 'not done', 'not open yet', 50, 65, null]);
  });

  it('has words in place of an empty table', async () => {
    const nobody = report({ people: [] });
    expect((await sheet(nobody)).text()).toContain('Students will stand here');
    expect((await sheet(report(), { ...everything(report()), people: [] })).text()).toContain('Nobody in this section and group');
    const bare = report({ units: [], items: [] });
    expect((await sheet(bare)).text()).toContain('There are no units with anything open yet');
    expect((await sheet(report(), { ...everything(report()), items: [] })).text()).toContain('Nothing lies in these weeks');
  });

  it('draws a hundred of a large class, and the rest on request', async () => {
    const many = report({ people: Array.from({ length: 130 }, (_, n) => person(n, { enrolmentId: `x${n}`, familyName: `P${1000 + n}` })) });
    const shown = await sheet(many);
    expect(shown.findAll('tbody tr').length).toBe(101);
    await shown
      .findAll('button')
      .find((b) => b.text() === 'Show 30 more')!
      .trigger('click');
    expect(shown.findAll('tbody tr').length).toBe(131);
  });
});

describe('results', () => {
  const sheet = (of = report()): Promise<VueWrapper> => open(ResultsSheet, { report: of, looked: everything(of) });

  it('are box plots in the order of due dates, and say what has none', async () => {
    const shown = await sheet();
    const marks = shown.findAll('[data-mark]');
    expect(marks.map((m) => m.attributes('data-mark'))).toEqual(['a', 'b']);
    expect(marks[0]?.attributes('aria-label')).toBe('Gear ratios: median 75 %, middle half 63 to 88 %, reach 50 to 100 %; 6 results');
    expect(shown.find('.says').text()).toContain('The median is lowest in “Gear ratios”, 75 %, and highest in “Strip-down log”, 90 %.');
    expect(shown.find('.says').text()).toContain('1 piece of work has no results yet.');
    expect(shown.find('.remarks').text()).toContain('“Strip-down log”: median 90 %: most found this easy.');
  });

  it('are filtered by category and by type of task', async () => {
    const shown = await sheet();
    await shown.findAll('select')[1]!.setValue('t');
    expect(shown.findAll('[data-mark]').map((m) => m.attributes('data-mark'))).toEqual(['b']);
    await shown.findAll('select')[1]!.setValue('');
    expect(shown.findAll('[data-mark]').length).toBe(2);
  });

  it('open into everybody, with the way to each result and to the works', async () => {
    const shown = await sheet();
    await shown.find('[data-mark="b"]').trigger('click');
    expect(shown.find('.made').text()).toContain('5 results; no result: 1 missing.');
    const ways = shown.findAll('.made a').map((a) => a.attributes('href'));
    expect(ways).toContain('/courses/c/marking/i-b');
    expect(ways).toContain('/courses/c/gradebook?student=e1&column=b');
  });

  it('compare two for those who have both', async () => {
    const shown = await sheet();
    await shown
      .findAll('button')
      .find((b) => b.text() === 'Compare two')!
      .trigger('click');
    const says = shown.findAll('.says').at(-1)!.text();
    expect(says).toContain('Of 5 students with both, 3 rose, 1 fell, 1 stayed.');
    expect(says).toContain('Mean change +10.0 percentage points (95 % interval');
    expect(says).toContain(
      'effect size d = 0.63, which is the mean change divided by the standard deviation (of a sample) of the changes.',
    );
    expect(shown.text()).toContain('Fell: Fennimore, Given 5 −10.0.');
  });

  it.each([
    ['no work', { works: [] }, 'There is no graded work yet'],
    ['no result', { people: [] }, 'None of this work has a finished result yet.'],
  ])('with %s say so in words', async (_, more, words) => {
    expect((await sheet(report(more))).text()).toContain(words);
  });

  it('of four students are points', async () => {
    const shown = await sheet(report({ people: [0, 1, 2, 3].map((n) => person(n)) }));
    expect(shown.findAll('.box').length).toBe(0);
    expect(shown.findAll('[data-mark="a"] .dot').length).toBe(4);
  });
});

describe('objectives', () => {
  const found = (more: Partial<ProgressObjectives> = {}): ProgressObjectives => ({
    objectives: [
      { id: 'o', parentId: null, code: 'T', statement: 'Counts a train', parts: [] },
      {
        ...{ id: 'p', parentId: 'o', code: 'T1', statement: 'Finds a ratio' },
        parts: [{ itemId: 'i-a', how: 'questions', pieces: 3, results: NAMES.map((_, n) => [n, n, 5] as const) }],
      },
    ],
    criteria: [{ id: 'k', title: 'Evidence', itemId: 'i-b', parts: [{ itemId: 'i-b', how: 'criteria', pieces: 1, results: [[0, 1, 4]] }] }],
    enrolmentIds: NAMES.map((_, n) => `e${n}`),
    ...{ reachedPercent: 60_000, meritPercent: 85_000 },
    ...more,
  });
  const quizReport = report({ works: [work('a', 'Trains', { kind: 'quiz' }), work('b', 'Report')] });
  async function sheet(of = found(), from = quizReport): Promise<VueWrapper> {
    server.on('GET /courses/c/progress/objectives', () => of);
    return open(ObjectivesSheet, { report: from, looked: everything(from), courseId: 'c' });
  }

  it('are drawn with what is aligned, and open down to works, levels and questions', async () => {
    server.on('GET /courses/c/progress/questions?objective=p&item=i-a', () => ({
      questions: [
        {
          questionId: 'q',
          title: 'Which part locks?',
          shares: [
            ['e0', 0],
            ['e1', 1],
          ],
        },
      ],
    }));
    const shown = await sheet();
    expect(shown.findAll('[data-mark]').map((m) => m.attributes('data-mark'))).toEqual(['p']);
    await shown.find('[data-mark="p"]').trigger('click');
    const made = shown.find('.made');
    expect(made.text()).toContain('share of the points of 3 questions, from 1 piece of work');
    expect(made.text()).toContain(
      'By tests: 3 reached it (60 % of the points or more), 1 of them with merit (85 % or more); 3 not yet: Abiola, Given 0',
    );
    await made
      .findAll('button')
      .find((b) => b.text() === 'Its questions')!
      .trigger('click');
    await flushPromises();
    expect(shown.find('.made').text()).toContain('Which part locks?: mean 50 %');
  });

  it('give way to criteria where nothing is aligned, and say what is missing', async () => {
    const bare = found({ objectives: [] });
    const shown = await sheet(bare);
    expect(shown.findAll('[data-mark]').map((m) => m.attributes('data-mark'))).toEqual(['k']);
    await shown.find('select').setValue('objective');
    expect(shown.text()).toContain('This course has no objectives.');
  });

  it('say that they could not be read', async () => {
    server.on('GET /courses/c/progress/objectives', () => new Refusal(503, 'away'));
    const shown = await open(ObjectivesSheet, { report: quizReport, looked: everything(quizReport), courseId: 'c' });
    expect(shown.find('[role="alert"]').text()).toBe('refused: away');
  });
});

describe('rhythm and visits', () => {
  const rhythm: ProgressRhythm = {
    startsOn: '2026-09-21',
    days: 105,
    people: [
      {
        enrolmentId: 'e0',
        active: [
          [0, 1 << 19, 30, 20, 1],
          [8, 1 << 20, 10, 10, 4],
        ],
      },
      { enrolmentId: 'e1', active: [] },
    ],
  };
  it('shows days, hours and each student, and opens one by day', async () => {
    const of = report();
    const shown = await open(RhythmSheet, { report: of, looked: everything(of), rhythm });
    expect(shown.text()).toContain('Most is done on Mondays');
    expect(shown.find('[data-mark="0"]').attributes('aria-label')).toBe('Mon 21 Sept: 1 of 6 students, at most 30 min in all');
    const line = shown.findAll('.each tbody tr')[0]!;
    expect(line.text()).toContain('40 min');
    expect(line.text()).toContain('reading, answering');
    await line.find('button').trigger('click');
    expect(
      shown
        .findAll('.each [data-mark]')
        .some((m) => m.attributes('aria-label') === 'Tue 29 Sept: answering; at most 10 min, 10 min in one go'),
    ).toBe(true);
  });
  it('says that nothing was recorded', async () => {
    const of = report();
    const shown = await open(RhythmSheet, { report: of, looked: everything(of), rhythm: { ...rhythm, people: [] } });
    expect(shown.text()).toContain('Nothing has been recorded in these weeks yet.');
  });
  const visits = (many: number) => ({
    people: Array.from({ length: many }, (_, n) => ({ enrolmentId: `x${n}`, days: n, minutes: n * 60, soFar: String(50 + n) })),
  });
  it.each([
    [12, 'Rank correlation (Spearman) ρ = 1.00'],
    [6, 'With 6 students nothing is said of how the two go together: that takes ten.'],
  ])('holds visits of %i students against results, as far as that goes', async (many, words) => {
    server.on('GET /courses/c/progress/visits', () => visits(many));
    const of = report({ people: visits(many).people.map((v, n) => person(n, { enrolmentId: v.enrolmentId, familyName: `P${n}` })) });
    const shown = await open(VisitsSheet, { report: of, looked: everything(of), courseId: 'c' });
    expect(shown.find('.says').text()).toContain(words);
    expect(shown.findAll('circle').length).toBe(many);
    expect(shown.find('[data-mark="x3"]').attributes('aria-label')).toBe('P3, Given 3: 3 days, 53 % so far');
  });
});

describe('who needs a word', () => {
  const rules = Object.fromEntries(WORD_RULE_NAMES.map((rule) => [rule, ruleBegins(rule)])) as unknown as WordSettings;
  const finding = (n: number, rule: 'missing' | 'below', more: object = {}): Words['findings'][number] => ({
    ...{ enrolmentId: `e${n}`, rule, reason: `reason of ${rule}`, urgency: 50, note: null, asideUntil: null },
    ...more,
  });
  const words = (findings: Words['findings']): Words => ({ rules, findings });
  async function sheet(given: Words): Promise<VueWrapper> {
    server.on('GET /courses/c/words', () => given);
    const of = report();
    return open(WordsSheet, { report: of, looked: everything(of), courseId: 'c' });
  }
  const button = (shown: VueWrapper, text: string) => shown.findAll('button').find((b) => b.text().startsWith(text))!;

  it('lists people with their reasons, and narrows to a rule', async () => {
    const shown = await sheet(words([finding(0, 'missing'), finding(0, 'below'), finding(1, 'below')]));
    expect(shown.find('.says').text()).toBe('2 students of 6: missing work 1, below the line 2.');
    expect(shown.findAll('.words-list > li').length).toBe(2);
    await button(shown, 'Missing work 1').trigger('click');
    expect(shown.findAll('.words-list > li').map((l) => l.find('a').text())).toEqual(['Abiola, Given 0']);
  });

  it('writes a prepared text to all of a rule, which survives a reload until it is sent', async () => {
    const given = words([finding(0, 'below'), finding(1, 'below')]);
    const first = await sheet(given);
    await button(first, 'Below the line 2').trigger('click');
    await button(first, 'Write to all 2').trigger('click');
    expect(first.find('textarea').element.value).toContain('Good day,');
    await first.find('textarea').setValue('Come to my hour.');
    first.unmount();
    const shown = await sheet(given);
    await button(shown, 'Below the line 2').trigger('click');
    await button(shown, 'Write to all 2').trigger('click');
    expect(shown.find('textarea').element.value).toBe('Come to my hour.');
    server.on('POST /courses/c/words/messages', () => words([]));
    await shown.find('form').trigger('submit');
    await flushPromises();
    expect(server.bodies('POST /courses/c/words/messages')).toMatchObject([
      { enrolmentIds: ['e0', 'e1'], rule: 'below', title: 'Where you stand', body: 'Come to my hour.' },
    ]);
    expect(shown.find('.says').text()).toBe('Nobody, by the rules that are on.');
    expect(useNotices().notice?.text).toContain('2 messages are sent, each alone');
  });

  it('keeps a text that could not be sent, with the reason', async () => {
    const shown = await sheet(words([finding(0, 'below')]));
    await shown.find('button[aria-label="Write to Abiola, Given 0"]').trigger('click');
    expect(shown.find('textarea').element.value).toContain('Dear Given 0,');
    server.on('POST /courses/c/words/messages', () => new Refusal(503, 'away'));
    await shown.find('form').trigger('submit');
    await flushPromises();
    expect(shown.find('[role="alert"]').text()).toBe('refused: away');
    expect(shown.find('textarea').exists()).toBe(true);
  });

  it('notes what was done, and asks for the day of setting aside', async () => {
    const shown = await sheet(words([finding(0, 'below')]));
    await shown.find('button[aria-label="Note what was done for Abiola, Given 0"]').trigger('click');
    await shown.find('form select').setValue('set aside');
    await shown.find('form').trigger('submit');
    expect(shown.find('[role="alert"]').text()).toContain('Choose the day');
    await shown.find('form select').setValue('met');
    await shown.find('textarea').setValue('Lost a week to the flu.');
    const note = {
      id: 'n',
      enrolmentId: 'e0',
      rule: 'below' as const,
      kind: 'met' as const,
      body: 'Lost a week to the flu.',
      untilOn: null,
      at: '2026-11-18T09:00:00Z',
      by: 'Ines',
    };
    server.on('POST /courses/c/words/notes', () => ({ ...words([finding(0, 'below', { note })]), noteIds: ['n'] }));
    await shown.find('form').trigger('submit');
    await flushPromises();
    expect(shown.find('.words-list').text()).toContain('met, Wed 18 Nov, Ines: Lost a week to the flu.');
  });

  it('keeps who is set aside apart, and brings them back', async () => {
    const note = {
      id: 'n',
      enrolmentId: 'e0',
      rule: 'below' as const,
      kind: 'set aside' as const,
      body: '',
      untilOn: '2026-11-30',
      at: '2026-11-18T09:00:00Z',
      by: 'Ines',
    };
    const shown = await sheet(words([finding(0, 'below', { note, asideUntil: '2026-11-30' })]));
    expect(shown.findAll('.words-list > li').length).toBe(0);
    await button(shown, '1 set aside').trigger('click');
    expect(shown.find('.remarks').text()).toContain('set aside until Mon 30 Nov, Wed 18 Nov, Ines');
    server.on('POST /courses/c/words/notes/removals', () => words([finding(0, 'below')]));
    await button(shown, 'Bring back').trigger('click');
    await flushPromises();
    expect(shown.findAll('.words-list > li').length).toBe(1);
  });

  it('sets rules, deviations with a decimal, and says what is no number', async () => {
    const shown = await sheet(words([]));
    await button(shown, 'Rules').trigger('click');
    const fields = shown.findAll('.rule .few input');
    expect(fields.map((f) => (f.element as HTMLInputElement).value)).toEqual(['2', '4', '8', '1.0', '60', '2', '20', '1.2']);
    server.on('PUT /courses/c/words/rules', () => words([]));
    await fields[3]!.setValue('0.7');
    await fields[3]!.trigger('change');
    await flushPromises();
    expect(server.bodies('PUT /courses/c/words/rules').at(-1)).toEqual({ fall: { isOn: true, threshold: 7, of: null } });
    await fields[2]!.setValue('many');
    await fields[2]!.trigger('change');
    expect(shown.find('.rule [role="alert"]').text()).toBe('“many” is no whole number from 1 to 120.');
  });
});

describe('the story of a student', () => {
  const story = (more: Partial<Story> = {}): Story => ({
    ...{ enrolmentId: 'e0', givenName: 'Fidel', familyName: 'Montoya', section: 'Distance', soFar: '28.4', floor: '16.0', reach: '71.6' },
    works: [
      {
        ...{ columnId: 'a', itemId: 'i', kind: 'assignment', title: 'Gear ratios', dueAt: '2026-10-01T10:00:00Z', handedInAt: null },
        ...{ state: 'marked', text: '12 of 20', share: 0.6, feedback: 'Count the leaves.', class: [0.7, 0.8, 0.9] },
      },
      {
        ...{ columnId: 'b', itemId: 'j', kind: 'assignment', title: 'Log', dueAt: null, handedInAt: null },
        ...{ state: 'missing', text: 'missing', share: null, feedback: '', class: null },
      },
    ],
    progress: { name: 'Fidel Montoya', share: '6 of 26 required items that are open or past', items: [] },
    ...{ startsOn: '2026-09-21', days: 105, active: [[0, 1 << 19, 30, 20, 1]], arrangements: ['2 more days, works nights'] },
    messages: [{ id: 'm', title: 'How are you?', at: '2026-11-10T10:00:00Z', many: 2 }],
    staff: { userName: 'fidel@example.org', notes: [], findings: [], courses: [] },
    ...more,
  });
  it('tells results against the class, state, feedback, arrangements and messages', async () => {
    const shown = await open(StudentStory, { story: story(), courseId: 'c' });
    expect(shown.find('.says').text()).toBe(
      '28.4 % so far, at least 16.0 % and at most 71.6 % at the end. Over the median of the class in 0 of 1.',
    );
    expect(shown.find('[data-mark="a"]').attributes('aria-label')).toBe(
      'Gear ratios: 60 %; the class: median 80 %, middle half 70 to 90 %',
    );
    const text = shown.text();
    for (const words of [
      'Count the leaves.',
      'missing',
      '2 more days, works nights',
      'How are you?',
      'None yet. Students never see these.',
    ])
      expect(text).toContain(words);
  });
  it('is the student’s own without anything of staff', async () => {
    const shown = await open(StudentStory, { story: story({ staff: null, floor: null, reach: null, progress: null }), courseId: 'c' });
    expect(shown.find('.says').text()).toContain('28.4 % so far.');
    for (const words of ['Notes of staff', 'Write', 'How far']) expect(shown.text()).not.toContain(words);
    expect(shown.text()).toContain('Results are what was released to you.');
  });
});

describe('what is looked at', () => {
  it('follows section, group, period and weeks', async () => {
    server.on('GET /courses/c/progress', () =>
      report({ works: [work('a', 'A'), work('b', 'B', { dueAt: '2026-10-20T10:00:00Z', periodId: 'p' })] }),
    );
    const course = () => useCourse() as unknown as { head: unknown; sectionId: string | null; weeks: readonly number[] | null };
    const held = await inPage(() => {
      course().head = HEAD;
      return { course: course(), ...useReport(ref('c')) };
    });
    await held.load();
    expect(held.looked.value).toEqual(everything(held.report.value!));
    held.course.sectionId = 'm';
    expect(held.looked.value.people).toEqual([0, 2, 4]);
    held.groupId.value = 'g';
    expect(held.looked.value.people).toEqual([0]);
    held.course.weeks = [2, 2];
    expect([held.looked.value.works, held.looked.value.items]).toEqual([[0], [0, 1, 2]]);
    held.course.weeks = null;
    held.periodId.value = 'p';
    expect(held.looked.value.works).toEqual([1]);
  });
});

describe('a visit', () => {
  it('counts while the page is in sight, and says whether something was typed', async () => {
    let now = 0;
    let isHidden = false;
    Object.defineProperty(document, 'hidden', { configurable: true, get: () => isHidden });
    const told: unknown[] = [];
    const visit = await inPage(() =>
      useVisit(
        (one) => told.push(one),
        () => now,
      ),
    );
    visit.begin();
    now = 60_000;
    isHidden = true;
    document.dispatchEvent(new Event('visibilitychange'));
    now = 600_000;
    isHidden = false;
    document.dispatchEvent(new Event('visibilitychange'));
    document.dispatchEvent(new Event('input'));
    now = 630_000;
    isHidden = true;
    document.dispatchEvent(new Event('visibilitychange'));
    // A glance is no reading.
    isHidden = false;
    document.dispatchEvent(new Event('visibilitychange'));
    now = 635_000;
    isHidden = true;
    document.dispatchEvent(new Event('visibilitychange'));
    isHidden = false;
    expect(told).toEqual([{ seconds: 0 }, { seconds: 60, hasTyped: false }, { seconds: 30, hasTyped: true }]);
  });
});

describe('the charts', () => {
  const box = (id: string, values: readonly number[]) => ({
    id,
    title: `Work ${id}`,
    plot: boxPlot(values),
    values,
    words: `words of ${id}`,
  });
  it('are walked through with the arrows, one of their marks by Tab, and tell of the one in hand', async () => {
    const shown = await show(BoxPlots, { plots: [box('a', [1]), box('b', [0.5]), box('c', [])], width: 600, label: 'plots' });
    const mark = (id: string) => shown.find(`[data-mark="${id}"]`);
    expect(['a', 'b', 'c'].map((id) => mark(id).attributes('tabindex'))).toEqual(['0', '-1', '-1']);
    await mark('a').trigger('focus');
    await mark('a').trigger('keydown', { key: 'ArrowRight' });
    expect(document.activeElement).toBe(mark('b').element);
    expect(shown.emitted('told')?.at(-1)).toEqual(['words of b']);
    await mark('b').trigger('keydown', { key: 'End' });
    expect(document.activeElement).toBe(mark('c').element);
    await mark('c').trigger('keydown', { key: 'Enter' });
    expect(shown.emitted('choose')).toEqual([['c']]);
    await mark('c').trigger('blur');
    expect(shown.emitted('told')?.at(-1)).toEqual(['']);
  });
  it('draw what lies below nothing and above everything, and what is all alike', async () => {
    const shown = await show(BoxPlots, {
      plots: [box('a', [-0.5, 0, 0.5, 1, 1.5, 1.6]), box('b', [0.7, 0.7, 0.7, 0.7, 0.7])],
      width: 600,
      label: 'plots',
    });
    expect(shown.html()).not.toContain('NaN');
    expect(Number(shown.findAll('.box')[1]?.attributes('height'))).toBeGreaterThanOrEqual(1);
  });
  it('draw nothing where there is nothing, without a number that is none', async () => {
    for (const [component, props] of [
      [BoxPlots, { plots: [], width: 600, label: 'x' }],
      [SlopeChart, { slopes: [], heads: ['a', 'b'], width: 600, label: 'x' }],
      [ScatterPlot, { dots: [], heads: ['a', 'b'], width: 600, label: 'x' }],
      [HeatGrid, { rows: ['Mon'], columns: [], cells: [], width: 600, label: 'x' }],
      [OverTime, { points: [], width: 600, label: 'x' }],
    ] as const)
      expect((await show(component, props)).html()).not.toContain('NaN');
  });
  it('write a title over two lines, and cut what is longer', () => {
    expect(titleLines('Gear ratios', 120)).toEqual(['Gear ratios']);
    expect(titleLines('Parts of the lever escapement', 70)).toEqual(
      ['Parts of', 'the lever…'].map((l) => expect.stringContaining(l.slice(0, 5))),
    );
  });
  it('are taken out as pictures that stand by themselves', async () => {
    const shown = await show(BoxPlots, { plots: [box('a', [0.2, 0.4, 0.5, 0.6, 0.9])], width: 600, label: 'plots' });
    const svg = shown.find('svg').element as SVGSVGElement;
    Object.defineProperty(svg, 'viewBox', { value: { baseVal: { width: 600, height: 248 } } });
    const { text, width } = chartSvg(svg, 'Results');
    expect(width).toBe(624);
    expect(text).toContain('<title>Results</title>');
    for (const left of ['data-mark', 'tabindex', 'class=']) expect(text).not.toContain(left);
  });
  it('stand in a frame with their sentence, their table and the reason where there is nothing', async () => {
    const lines = [
      ['Work', 'Median'],
      ['Gear ratios', 75],
      ['Log', null],
    ];
    const shown = await show(ChartFrame, { title: 'Results', name: 'Results', sentence: 'All is well.', lines });
    await shown
      .findAll('button')
      .find((b) => b.text() === 'Table')!
      .trigger('click');
    expect(shown.findAll('tbody tr').map((r) => r.text())).toEqual(['Gear ratios75', 'Log·']);
    await shown.setProps({ empty: 'Nothing yet.' });
    expect(shown.text()).toContain('Nothing yet.');
  });
  it('say so in a comparison where nobody has both', async () => {
    const plot = (id: string, place: number) => ({
      id,
      title: id,
      work: work(id, id),
      spread: { results: [{ place, share: 0.5 }], plot: boxPlot([0.5]) },
    });
    const shown = await open(ComparePart, { plots: [plot('a', 0), plot('b', 1)], people: [person(0), person(1)] });
    expect(shown.text()).toContain('No student here has a result in both.');
  });
});

describe('what the school decides about Progress', () => {
  const type = (id: string, title: string, uses = 0) => ({ id, title, uses });
  async function page(): Promise<VueWrapper> {
    server.on('GET /task-types', () => ({ taskTypes: [type('a', 'Essay', 2), type('b', 'Practical')] }));
    server.on('GET /activity-setting', () => ({ months: 24, showsVisitsAgainstResults: true }));
    return open(ProgressSettingPage, {});
  }
  const PUT = 'PUT /school/task-types';
  it('adds a type, takes one off, and says what cannot be', async () => {
    const shown = await page();
    server.on(PUT, () => ({ taskTypes: [type('a', 'Essay', 2), type('b', 'Practical'), type('n', 'Pre-test')] }));
    await shown.find('form input').setValue('Pre-test');
    await shown.find('form').trigger('submit');
    await flushPromises();
    expect(server.bodies(PUT).at(-1)).toEqual({
      taskTypes: [
        { id: 'a', title: 'Essay' },
        { id: 'b', title: 'Practical' },
        { id: null, title: 'Pre-test' },
      ],
    });
    server.on(PUT, () => ({ taskTypes: [type('b', 'Practical')] }));
    await shown.find('button[aria-label="Take Essay off the list"]').trigger('click');
    await flushPromises();
    expect(useNotices().notice?.text).toBe('“Essay” is off the list. 2 items of this type keep it.');
    server.on(PUT, () => new Refusal(422, 'invalid'));
    await shown.find('form input').setValue('Practical');
    await shown.find('form').trigger('submit');
    await flushPromises();
    expect(shown.find('[role="alert"]').text()).toBe('refused: invalid');
    expect((shown.find('form input').element as HTMLInputElement).value).toBe('Practical');
  });
  it('keeps for how long activity is kept', async () => {
    const shown = await page();
    const months = shown.find('input[inputmode="numeric"]');
    await months.setValue('never');
    await months.trigger('change');
    expect(shown.find('[role="alert"]').text()).toContain('“never” is not a whole number of months');
    server.on('PUT /school/activity', () => ({ months: 12, showsVisitsAgainstResults: true }));
    await months.setValue('12');
    await flushPromises();
    expect(server.bodies('PUT /school/activity')).toEqual([{ months: 12, showsVisitsAgainstResults: true }]);
    expect(shown.find('[role="alert"]').exists()).toBe(false);
  });
});
