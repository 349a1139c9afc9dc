/** @jest-environment ../scripts/jsdomForJest.mjs */
import 'fake-indexeddb/auto';
import type { StudentCourse, WordNote } from '@rosemary/api';
import { flushPromises, type VueWrapper } from '@vue/test-utils';
import TableDownload from '../src/parts/charts/TableDownload.vue';
import TaskTypeField from '../src/plan/TaskTypeField.vue';
import { setHooks } from '../src/platform/http.ts';
import { keepFor } from '../src/platform/kept.ts';
import DayStrip from '../src/progress/DayStrip.vue';
import { noteWords } from '../src/progress/noteWords.ts';
import PersonItems from '../src/progress/PersonItems.vue';
import StudentPage from '../src/progress/StudentPage.vue';
import { termDays } from '../src/progress/termDays.ts';
import CoursePage from '../src/student/CoursePage.vue';
import { useCourse } from '../src/stores/courseStore.ts';
import { useNotices } from '../src/stores/noticeStore.ts';
import { beginMounting, choose, endMounting, makeTestRouter, show } from './mounting.ts';
import { fakeServer, quietHooks, Refusal } from './server.ts';

/** The smaller parts that Progress is made of, and what students are told of it elsewhere. */
let server: ReturnType<typeof fakeServer>;
beforeEach(() => {
  beginMounting();
  localStorage.clear();
  keepFor('somebody');
  setHooks(quietHooks);
  server = fakeServer();
});
afterEach(endMounting);

const HEAD = {
  id: 'c',
  title: 'Watches',
  role: 'instructor',
  timeZone: 'Europe/Lisbon',
  now: '2026-11-18T10:20:00Z',
  sections: [],
  groups: [],
};
async function open(
  component: Parameters<typeof show>[0],
  props: object = {},
  path = '/courses/c/progress',
  role = 'instructor',
): Promise<VueWrapper> {
  const router = makeTestRouter();
  await router.push(path);
  return show(component, props, router, () => {
    (useCourse() as { head: unknown }).head = { ...HEAD, role };
  });
}

describe('the days of a term', () => {
  const now = Date.parse('2026-11-18T10:20:00Z');
  it('are counted from its first, whatever day of the week that is', () => {
    const days = termDays({ startsOn: '2026-09-23', days: 100 }, now, 'Europe/Lisbon');
    expect([days.first, days.weekdayOf(0), days.weekdayOf(5), days.weekOf(4), days.weekOf(5)]).toEqual([2, 2, 0, 0, 1]);
    expect([days.isoOf(5), days.dateOf(5)]).toEqual(['2026-09-28', 'Mon 28 Sept']);
  });
  it.each([
    ['today within the term', 100, 56],
    ['its last day once it is over', 30, 29],
  ])('end with %s', (_, days, last) => {
    expect(termDays({ startsOn: '2026-09-23', days }, now, 'Europe/Lisbon').last).toBe(last);
  });
  it('have their first alone before it has begun', () => {
    expect(termDays({ startsOn: '2027-01-11', days: 100 }, now, 'Europe/Lisbon').last).toBe(0);
  });
  it('turn at midnight of the course, not of Greenwich', () => {
    const late = Date.parse('2026-09-24T23:30:00Z');
    expect(termDays({ startsOn: '2026-09-23', days: 100 }, late, 'Europe/Lisbon').last).toBe(2);
    expect(termDays({ startsOn: '2026-09-23', days: 100 }, late, 'UTC').last).toBe(1);
  });
  it('of a student are drawn with what was done, the empty ones too', async () => {
    const shown = await open(DayStrip, {
      term: { startsOn: '2026-11-16', days: 10 },
      active: [[1, 1 << 19, 75, 40, 3]],
      ...{ width: 600, label: 'Days at work' },
    });
    expect(shown.findAll('[data-mark]').map((m) => m.attributes('aria-label'))).toEqual([
      'Mon 16 Nov: nothing recorded',
      'Tue 17 Nov: reading, writing; at most 1 h 15, 40 min in one go',
      'Wed 18 Nov: nothing recorded',
    ]);
    await shown.find('[data-mark="1"]').trigger('pointerenter');
    expect(shown.emitted('told')?.at(-1)).toEqual(['Tue 17 Nov: reading, writing; at most 1 h 15, 40 min in one go']);
  });
});

describe('a note of staff', () => {
  const note = (more: Partial<WordNote>): WordNote => ({
    ...{
      id: 'n',
      enrolmentId: 'e',
      rule: 'below',
      kind: 'called',
      body: 'Moves house.',
      untilOn: null,
      at: '2026-11-17T15:00:00Z',
      by: 'Ines',
    },
    ...more,
  });
  it.each([
    [note({}), false, 'called, Tue 17 Nov, Ines: Moves house.'],
    [note({ body: '' }), false, 'called, Tue 17 Nov, Ines'],
    [note({ kind: 'set aside', untilOn: '2026-11-30', body: '' }), false, 'set aside until Mon 30 Nov, Tue 17 Nov, Ines'],
    [note({ kind: 'wrote', body: 'Dear Fidel' }), false, 'wrote, Tue 17 Nov, Ines'],
    [note({ kind: 'wrote', body: 'Dear Fidel' }), true, 'wrote, Tue 17 Nov, Ines: Dear Fidel'],
  ])('reads in one line', (of, isWhole, words) => {
    expect(noteWords(of, 'Europe/Lisbon', isWhole)).toBe(words);
  });
});

describe('the type of a task', () => {
  const TYPES = [
    { id: 'a', title: 'Essay', uses: 2 },
    { id: 'b', title: 'Practical', uses: 0 },
  ];
  const field = (props: object): Promise<VueWrapper> => open(TaskTypeField, { modelValue: null, canEdit: true, ...props });
  it('is chosen from the school’s list, or taken away', async () => {
    server.on('GET /task-types', () => ({ taskTypes: TYPES }));
    const shown = await field({ modelValue: 'a' });
    await shown.find('select').setValue('b');
    await shown.find('select').setValue('');
    expect(shown.emitted('change')).toEqual([['b'], [null]]);
  });
  it('stays with an item after it was taken off the list, and says so', async () => {
    server.on('GET /task-types', () => ({ taskTypes: TYPES }));
    const shown = await field({ modelValue: 'gone', fault: 'Choose another.' });
    expect(shown.findAll('option').at(-1)?.text()).toBe('no longer in the school’s list');
    expect(shown.find('[role="alert"]').text()).toBe('Choose another.');
  });
  it('is not asked for where the school has no list', async () => {
    server.on('GET /task-types', () => ({ taskTypes: [] }));
    expect((await field({})).find('select').exists()).toBe(false);
  });
});

describe('what students are told', () => {
  const course = (more: Partial<StudentCourse>): StudentCourse => ({
    ...{ picture: null, first: null, standing: [], units: [], progress: '60 %', showsClassProgress: false },
    ...more,
  });
  const page = async (more: Partial<StudentCourse>): Promise<string> => {
    server.on('GET /courses/c/own/outline', () => course(more));
    return (await open(CoursePage, {}, '/courses/c/plan', 'student')).text();
  };
  it('of their own progress, beside the class only where the course shows it', async () => {
    expect(await page({})).toContain('You have done 60 % of what is open so far.');
    server.on('GET /courses/c/own/class-progress', () => ({ share: '55 %' }));
    expect(await page({ showsClassProgress: true })).toContain('You have done 60 % of what is open so far; the class 55 %.');
    server.on('GET /courses/c/own/class-progress', () => ({ share: null }));
    expect(await page({ showsClassProgress: true })).toContain('of what is open so far.');
    expect(await page({ progress: null })).not.toContain('You have done');
  });
});

describe('the items behind a share', () => {
  const detail = {
    name: 'Fidel Montoya',
    share: '1 of 2 required items that are open or past',
    items: [
      {
        id: 'a',
        kind: 'page',
        title: 'Light',
        unit: 'Bench',
        unitId: 'u',
        isDone: true,
        isOpen: true,
        rule: 'done when opened',
        how: 'first opened Mon',
        minutes: 25,
      },
      {
        id: 'b',
        kind: 'page',
        title: 'Oil',
        unit: 'Cleaning',
        unitId: 'v',
        isDone: false,
        isOpen: false,
        rule: 'done when opened',
        how: 'never opened',
        minutes: 35,
      },
    ],
  };
  it('stand unit by unit, each with how it came about', async () => {
    server.on('GET /courses/c/progress/people/e', () => detail);
    const shown = await open(PersonItems, { enrolmentId: 'e' }, '/courses/c/progress');
    expect(shown.findAll('h4').map((h) => h.text())).toEqual(['Bench', 'Cleaning']);
    expect(shown.findAll('li').map((l) => l.find('.label').text())).toEqual([
      'first opened Mon · done when opened · 25 min',
      'not open yet · done when opened · 35 min',
    ]);
    expect(shown.find('a').text()).toBe('Fidel Montoya: the whole story');
  });
  it('are seen as the student by instructors alone', async () => {
    server.on('GET /courses/c/progress/people/e', () => detail);
    const asked = (shown: VueWrapper): boolean => shown.text().includes('See as this student');
    expect(asked(await open(PersonItems, { enrolmentId: 'e' }))).toBe(true);
    expect(asked(await open(PersonItems, { enrolmentId: 'e' }, '/courses/c/progress', 'assistant'))).toBe(false);
  });
  it('say that they could not be read', async () => {
    server.on('GET /courses/c/progress/people/e', () => new Refusal(404, 'not-found'));
    expect((await open(PersonItems, { enrolmentId: 'e' })).find('.fault').text()).toBe('refused: not-found');
  });
});

describe('a page of one student', () => {
  it('says why it cannot be shown, and tries again', async () => {
    server.on('GET /courses/c/students/e/story', () => new Refusal(503, 'away'));
    const shown = await open(StudentPage, {}, '/courses/c/students/e');
    expect(shown.find('[role="alert"]').text()).toContain('refused: away');
    await shown.find('button').trigger('click');
    await flushPromises();
    expect(server.sent.filter((s) => s.path === '/courses/c/students/e/story').length).toBe(2);
  });
});

describe('the download of a table', () => {
  it('says what kept it from being written', async () => {
    server.on('POST /table-files?format=xlsx', () => new Refusal(422, 'invalid'));
    const shown = await open(TableDownload, { title: 'How far', lines: [['a'], [1]] });
    await choose(shown, 'Download How far', 'xlsx');
    await flushPromises();
    expect(useNotices().notice?.text).toBe('refused: invalid');
  });
});
