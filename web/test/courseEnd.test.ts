/** @jest-environment ../scripts/jsdomForJest.mjs */
import type { Bin, BinEntry, CourseCheck, CourseHistory, CourseLife as Life, School } from '@rosemary/api';
import { flushPromises, type VueWrapper } from '@vue/test-utils';
import CourseLife from '../src/course/CourseLife.vue';
import CheckPage from '../src/plan/CheckPage.vue';
import HistoryPage from '../src/course/HistoryPage.vue';
import { setHooks } from '../src/platform/http.ts';
import { LIST_COLUMNS, MORE_COLUMNS } from '@rosemary/core';
import ColumnNames from '../src/parts/ColumnNames.vue';
import PeopleList from '../src/school/PeopleList.vue';
import { useCourse } from '../src/stores/courseStore.ts';
import { useNotices } from '../src/stores/noticeStore.ts';
import { useRipple } from '../src/stores/rippleStore.ts';
import { useSession } from '../src/stores/sessionStore.ts';
import { beginMounting, endMounting, makeTestRouter, show } from './mounting.ts';
import { fakeServer, Held, quietEvents, quietHooks, Refusal, until } from './server.ts';

let server: ReturnType<typeof fakeServer>;
beforeEach(() => {
  beginMounting();
  localStorage.clear();
  server = fakeServer();
  quietEvents();
  server.on('GET /me', () => ({ person: null, courses: [], demoPeople: [], now: '2026-11-18T10:00:00Z' }));
  server.on('GET /courses/c', () => ({
    id: 'c',
    timeZone: 'Europe/Lisbon',
    line: { weeks: [] },
    sections: [],
    now: '2026-11-18T10:00:00Z',
  }));
});
afterEach(endMounting);
const press = async (shown: VueWrapper, words: string): Promise<void> => {
  const button = shown.findAll('button').find((b) => b.text() === words || b.attributes('aria-label') === words);
  if (button === undefined) throw new Error(`no button “${words}” in ${shown.text()}`);
  await button.trigger('click');
  await flushPromises();
};
async function atCourse(): Promise<ReturnType<typeof makeTestRouter>> {
  const router = makeTestRouter();
  router.addRoute({ path: '/courses/:courseId/history', name: 'history', component: { template: '<div />' } });
  await router.push('/courses/c/history');
  return router;
}

describe('the history of a course', () => {
  const entry = (more: Partial<BinEntry>): BinEntry => ({
    ...{ kind: 'unit', id: 'u', title: 'The escapement', holds: 'Lock and drop, Name the fault', by: 'Ines Okafor-Lind' },
    removedAt: '2026-11-17T18:00:00Z',
    ...more,
  });
  const act = (id: string, title: string | null) => ({
    id,
    at: '2026-11-17T18:00:00Z',
    by: 'Ines Okafor-Lind',
    what: 'unit deleted',
    title,
  });
  let entries: BinEntry[] = [];
  let history: CourseHistory = { acts: [], before: null };
  async function open() {
    server.on('GET /courses/c/bin', (): Bin => ({ entries, days: 30 }));
    server.on('GET /courses/c/history', () => history);
    const router = await atCourse();
    const shown = await show(HistoryPage, {}, router, () => setHooks(quietHooks));
    await flushPromises();
    return shown;
  }

  it('says what will stand there where nothing was deleted', async () => {
    entries = [];
    expect((await open()).text()).toContain(
      'What is deleted in this course stands here for 30 days, with all it held, and can be put back.',
    );
  });

  it('lists what was deleted with what it held, when and by whom, and what was done', async () => {
    entries = [
      entry({}),
      entry({ kind: 'item', id: 'i', title: 'Oiling', holds: 'Tools' }),
      entry({ kind: 'folder', id: 'f', title: 'Slides', holds: '' }),
    ];
    history = { acts: [act('9', 'The escapement'), act('8', null)], before: null };
    const lines = (await open()).findAll('tbody tr').map((tr) => tr.text().replace(/\s+/g, ' '));
    expect(lines[0]).toMatch(/The escapement ?Unit, with Lock and drop, Name the fault/);
    expect(lines[1]).toMatch(/Oiling ?Item, in Tools/);
    expect(lines[2]).toMatch(/Slides ?Folder/);
    expect(lines[3]).toContain('unit deleted: “The escapement”');
    expect(lines[4]).toMatch(/unit deleted$/);
  });

  it('puts back what is asked for, once whom it moves was seen', async () => {
    entries = [entry({})];
    const shown = await open();
    server.on('POST /courses/c/units/u/restore', ({ headers }) =>
      headers['x-ripple'] === 'mind' ? new Held({ rows: [], levels: [] }) : { units: [] },
    );
    void press(shown, 'Put back The escapement');
    await until(() => useRipple().answer !== null, 'the ripple');
    entries = [];
    useRipple().close(true);
    await until(() => useNotices().notice !== null, 'the notice');
    expect(useNotices().notice?.text).toBe('“The escapement” is put back.');
  });

  it('says why where it cannot be put back, and keeps it listed', async () => {
    entries = [entry({ kind: 'announcement', id: 'a', title: 'Room moved', holds: '' })];
    const shown = await open();
    server.on('POST /courses/c/announcements/a/restore', () => new Refusal(409, 'not-now'));
    await press(shown, 'Put back Room moved');
    expect(useNotices().notice).toMatchObject({ isFault: true, text: 'refused: not-now' });
    expect(shown.text()).toContain('Room moved');
  });

  it('turns to earlier acts, and no further than the first', async () => {
    entries = [];
    history = { acts: [act('9', 'Late')], before: '9' };
    const shown = await open();
    server.on('GET /courses/c/history?before=9', () => ({ acts: [act('8', 'Early')], before: null }));
    await press(shown, 'Earlier');
    expect(shown.findAll('tbody tr').map((tr) => tr.text())).toEqual([expect.stringContaining('Late'), expect.stringContaining('Early')]);
    expect(shown.text()).not.toContain('Earlier');
  });

  it('says that it could not be read, and reads again', async () => {
    server.on('GET /courses/c/bin', () => new Refusal(503, 'busy'));
    server.on('GET /courses/c/history', () => history);
    const shown = await show(HistoryPage, {}, await atCourse(), () => setHooks(quietHooks));
    await flushPromises();
    expect(shown.find('[role=alert]').text()).toContain('refused: busy');
    entries = [];
    server.on('GET /courses/c/bin', (): Bin => ({ entries, days: 30 }));
    await press(shown, 'Try again');
    expect(shown.text()).toContain('What was done');
  });
});

describe('the end of a course', () => {
  const open = async (life: Life, isAdministrator = false) => {
    server.on('GET /courses/c/life', () => life);
    const shown = await show(CourseLife, { courseId: 'c' }, await atCourse(), () => {
      const session = useSession();
      setHooks(quietHooks);
      session.me = { person: { id: 'p', isAdministrator }, courses: [] } as never;
    });
    await flushPromises();
    return shown;
  };
  const life: Life = { isOpen: true, isArchived: false, students: 12 };

  it('closes to students, and opens again by its undo', async () => {
    const shown = await open(life);
    server.on('POST /courses/c/close', () => ({ ...life, isOpen: false }));
    await press(shown, 'Close to students');
    expect(shown.text()).toContain('Closed: only those who teach it reach it.');
    server.on('POST /courses/c/open', () => ({}));
    await useNotices().notice?.undo?.();
    await flushPromises();
    expect(server.bodies('POST /courses/c/open')).toHaveLength(1);
    expect(shown.text()).toContain('Open: its students reach it.');
  });

  it('is opened where it is said first what its students would see', async () => {
    const shown = await open({ ...life, isOpen: false });
    expect(shown.text()).toContain('Check what students would see, and open it');
    expect(shown.findAll('button').map((b) => b.text())).not.toContain('Close to students');
  });

  const check = async (more: Partial<CourseCheck>) => {
    server.on('GET /courses/c/check', (): CourseCheck => ({ findings: [], items: 14, shown: 2, drafts: [], ...more }));
    server.on('GET /courses/c', () => ({ id: 'c', role: 'instructor', timeZone: 'UTC', now: '2026-11-18T10:00:00Z', line: { weeks: [] } }));
    const shown = await show(CheckPage, {}, await atCourse(), () => {
      setHooks(quietHooks);
      (useCourse() as { head: unknown }).head = { id: 'c', role: 'instructor', isOpen: false };
    });
    await flushPromises();
    return shown;
  };
  const drafts = Array.from({ length: 12 }, (_, n) => ({ id: `i${n}`, version: n }));

  it('that opens says what students will see, and takes its drafts along in one go, with one Undo', async () => {
    const shown = await check({ drafts });
    expect(shown.text()).toContain('Its students will see 2 items, each by its dates. 12 drafts stay hidden.');
    const back = { changes: [{ id: 'i0', version: 1, isDraft: true }] };
    server.on('PUT /courses/c/items', () => ({ plan: {}, undo: back }));
    server.on('POST /courses/c/open', () => ({}));
    await press(shown, 'Open the course and these 12 drafts');
    expect(server.bodies('PUT /courses/c/items')).toEqual([{ changes: drafts.map((d) => ({ ...d, isDraft: false })) }]);
    expect(useNotices().notice?.text).toBe('The course is open: its students see it now, with 12 items that were drafts.');
    server.on('POST /courses/c/close', () => ({}));
    await useNotices().notice?.undo?.();
    expect(server.bodies('POST /courses/c/close')).toHaveLength(1);
    expect(server.bodies('PUT /courses/c/items').at(-1)).toEqual(back);
  });

  it('that opens with nothing to see says so', async () => {
    expect((await check({ items: 0, shown: 0 })).text()).toContain('There is nothing in it yet, so its students will see nothing.');
    const shown = await check({ shown: 0, drafts: drafts.slice(0, 1) });
    expect(shown.text()).toContain('Everything in it is a draft, so its students will see nothing.');
    expect(shown.text()).toContain('Open the course and this draft');
    const none = await check({ shown: 14 });
    expect(none.text()).not.toContain('draft');
  });

  it('is archived and brought back; an archived one is neither opened nor closed', async () => {
    const shown = await open(life);
    server.on('POST /courses/c/archival', () => ({ ...life, isArchived: true }));
    await press(shown, 'Archive');
    expect(shown.text()).toContain('Archived: it can be read, and nothing in it is changed.');
    expect(shown.text()).not.toContain('Close to students');
    server.on('DELETE /courses/c/archival', () => life);
    await press(shown, 'Bring back from the archive');
    expect(shown.text()).toContain('Running: it stands on the Desk and can be changed.');
  });

  it('says who can delete it where it has students, and asks twice where it has none', async () => {
    expect((await open(life)).text()).toContain('It has 12 students, so only an administrator of the school can delete it.');
    const empty = await open({ ...life, students: 0 });
    await press(empty, 'Delete the course…');
    await press(empty, 'Keep it');
    await press(empty, 'Delete the course…');
    server.on('DELETE /courses/c', () => ({}));
    await press(empty, 'Delete the course');
    expect(server.sent.filter((s) => s.method === 'DELETE' && s.path === '/courses/c')).toHaveLength(1);
    expect(useNotices().notice?.text).toContain('An administrator of the school can put it back.');
  });

  it('may be deleted by an administrator with its students', async () => {
    expect((await open(life, true)).text()).toContain('Delete the course…');
  });
});

describe('the people of a school', () => {
  const ada = {
    id: 'a',
    givenName: 'Ada',
    familyName: 'Mowbray',
    email: 'ada@school.example',
    isAdministrator: false,
    teaches: true,
    isActive: true,
  };
  const ben = {
    id: 'b',
    givenName: 'Ben',
    familyName: 'Quist',
    email: 'ben@school.example',
    isAdministrator: true,
    teaches: false,
    isActive: false,
  };
  const open = () =>
    show(PeopleList, { people: [ada, ben] }, makeTestRouter(), () => {
      const session = useSession();
      setHooks(quietHooks);
      session.me = { person: { id: 'b' }, courses: [] } as never;
    });
  const school = { school: { people: [] } } as unknown as { school: School };

  it('are found by letters of name or email, and nobody is said so', async () => {
    const shown = await open();
    await shown.find('input[type=search]').setValue('QUI');
    expect(shown.findAll('li').map((li) => li.text())).toEqual([expect.stringContaining('ben@school.example, administrator, deactivated')]);
    await shown.find('input[type=search]').setValue('zzz');
    expect(shown.text()).toContain('Nobody with “zzz” in their name or email.');
  });

  it('are changed in place, with the fault beside its field', async () => {
    const shown = await open();
    await press(shown, 'Change Ada Mowbray');
    const [given] = shown.findAll('form input');
    await given!.setValue('Adaline');
    server.on(
      'PATCH /school/people/a',
      () => new Refusal(422, 'invalid', { pointers: [{ field: 'email', text: 'Someone has it already.' }] }),
    );
    await shown.find('form').trigger('submit');
    await flushPromises();
    expect(shown.find('.fault').text()).toBe('Someone has it already.');
    server.on('PATCH /school/people/a', () => school);
    await shown.find('form').trigger('submit');
    await flushPromises();
    expect(server.bodies('PATCH /school/people/a').at(-1)).toEqual({
      ...{
        email: 'ada@school.example',
        givenName: 'Adaline',
        familyName: 'Mowbray',
        isAdministrator: false,
        teaches: true,
        isActive: true,
      },
    });
    expect(shown.emitted('changed')).toEqual([[school.school]]);
    expect(shown.find('form').exists()).toBe(false);
  });

  it('are deactivated with the way back, but nobody deactivates themselves', async () => {
    const shown = await open();
    server.on('PATCH /school/people/a', () => school);
    await press(shown, 'Change Ada Mowbray');
    await press(shown, 'Deactivate');
    expect(server.bodies('PATCH /school/people/a').at(-1)).toMatchObject({ isActive: false });
    await useNotices().notice?.undo?.();
    expect(server.bodies('PATCH /school/people/a').at(-1)).toMatchObject({ isActive: true });
    await press(shown, 'Change Ben Quist');
    expect(shown.text()).toContain('this is you');
  });
});

describe('a list whose columns are named otherwise', () => {
  const TEXT = 'Surname;First name;E-Mail;Shoe size\nLund;Ada;ada@tower.example;38\n';
  const lists = Object.fromEntries(
    (['people', 'enrolments', 'courses'] as const).map((kind) => [
      kind,
      { words: kind, needed: LIST_COLUMNS[kind], more: MORE_COLUMNS[kind] },
    ]),
  );
  const open = (text = TEXT) => show(ColumnNames, { name: 'staff.csv', text, lists }, makeTestRouter(), () => setHooks(quietHooks));
  const given = (shown: VueWrapper): Promise<string> =>
    new Promise((done) => {
      const reader = new FileReader();
      reader.onload = () => {
        done(String(reader.result));
      };
      reader.readAsText(shown.emitted('named')?.[0]?.[0] as File);
    });

  it('guesses which list it is and which column is which, and reads it with those names', async () => {
    const shown = await open();
    expect(shown.text()).toContain('“staff.csv” names its columns “Surname”, “First name”, “E-Mail”, “Shoe size”.');
    await shown.find('form').trigger('submit');
    expect(await given(shown)).toBe('family name;given name;email;Shoe size\nLund;Ada;ada@tower.example;38\n');
  });

  it('asks for what is missing, and refuses one column chosen twice', async () => {
    const shown = await open('Surname;Other\nLund;x\n');
    await shown.find('form').trigger('submit');
    expect(shown.find('.fault').text()).toBe('Say which column holds email, given name.');
    for (const column of ['email', 'given name']) await shown.find(`select[aria-label="Column of ${column}"]`).setValue('1');
    await shown.find('form').trigger('submit');
    expect(shown.find('.fault').text()).toBe('One column is chosen twice. Choose another for one of them.');
    expect(shown.emitted('named')).toBeUndefined();
  });

  it('is taken for another kind of list where that is chosen', async () => {
    const shown = await open('Mail;Course;Semester;Type\na@b.example;HOR 110;autumn;student\n');
    expect((shown.find('select').element as HTMLSelectElement).value).toContain('enrolments');
    await shown.find('form').trigger('submit');
    expect(await given(shown)).toMatch(/^email;code;run;role\n/);
  });
});
