import type {
  Announcements,
  GivenBoard,
  GivePlace,
  GivingDone,
  GiveWish,
  GivingLine,
  Gradebook,
  MyGrades,
  NoticesView,
  Plan,
  PolicyChange,
  StudentItem,
} from '@rosemary/api';
import { kindOfItem, KINDS_OF_ITEM, type ItemKind, plainText } from '@rosemary/core';
import { servedKind } from '../src/kinds/index.ts';
import { addTerm, withDb } from '../src/index.ts';
import { finishScore, handInText, makeSchool, START, type TestSchool } from './school.ts';

/** Items given to several classes in one go; who has handed them in; how a result is read; late work by a category's policy. */
let school: TestSchool;
let target = '';
beforeAll(async () => {
  school = await makeSchool('copies');
  const termId = await withDb(school.pool, true, (db) =>
    addTerm(db, { title: 'Spring', startsOn: '2027-02-22', endsOn: '2027-05-30', meetingDays: [1, 3], holidays: [] }),
  );
  const made = await school.agents.instructor
    .post('/api/courses')
    .send({ code: 'HOR-1', run: 'b', title: 'Watches again', termId, timeZone: 'Europe/Lisbon', sections: ['Only'], outline: 'empty' })
    .expect(200);
  target = (made.body as { id: string }).id;
}, 60_000);
afterAll(() => school.close());
const teacher = () => school.agents.instructor;
const base = (): string => `/api/courses/${school.courseId}`;
const plan = async (id: string): Promise<Plan> => (await teacher().get(`/api/courses/${id}/plan`).expect(200)).body as Plan;
const items = async (id: string) => (await plan(id)).units.flatMap((u) => u.items);
const places = async (): Promise<GivePlace[]> =>
  (
    await teacher()
      .post(`${base()}/giving/places`)
      .send({ itemIds: [school.itemId] })
      .expect(200)
  ).body as GivePlace[];
type Cell = GiveWish['cells'][number];
const ask = (cells: Cell[]) => teacher().post(`${base()}/giving`).send({ cells });
const give = async (cells: Cell[]): Promise<GivingDone> => (await ask(cells).expect(200)).body as GivingDone;
/** What undoes it: the copies are deleted, and what was announced of them. */
const takeBack = (id: string, isTakenBack = true, status = 200) =>
  teacher().put(`${base()}/giving/${id}`).send({ isTakenBack }).expect(status);
const news = async (courseId: string) =>
  ((await teacher().get(`/api/courses/${courseId}/announcements`).expect(200)).body as Announcements).announcements;
let AS_DRAFT: Pick<Cell, 'itemId' | 'isDraft' | 'opensAt' | 'dueAt' | 'words' | 'tells'>;
beforeAll(() => {
  AS_DRAFT = { itemId: school.itemId, isDraft: true, opensAt: null, dueAt: null, words: '', tells: false };
});

describe('giving to classes', () => {
  it('can go to every course one teaches and its sections, with the dates of the same teaching week', async () => {
    const found = await places();
    expect(found.map((p) => [p.isHere, p.sections.length])).toEqual([
      [true, 2],
      [false, 1],
    ]);
    expect(found[0]?.dates[0]?.dueAt).toBe(new Date(START + 2 * 86_400_000).toISOString());
    // The Wednesday of teaching week 3 again, at the same time by the clock.
    expect(found[1]?.dates).toEqual([{ itemId: school.itemId, opensAt: null, dueAt: '2027-03-10T10:00:00.000Z', note: '' }]);
  });

  it('makes a copy for a course and for a section, each with its own dates, and deleting them undoes it', async () => {
    const { id, made } = await give([
      { ...AS_DRAFT, courseId: target, sectionId: null, dueAt: '2027-03-12T10:00:00.000Z' },
      { ...AS_DRAFT, courseId: school.courseId, sectionId: school.sections[1] ?? '', dueAt: '2026-10-08T09:00:00.000Z' },
    ]);
    expect(made.map((m) => [m.courseId, m.itemIds.length])).toEqual([
      [target, 1],
      [school.courseId, 1],
    ]);
    const there = (await items(target)).find((i) => i.id === made[0]?.itemIds[0]);
    expect(there).toMatchObject({ title: 'Report', isDraft: true, dueAt: '2027-03-12T10:00:00.000Z', possible: 60_000 });
    // It closes as long after it is due as the original does.
    expect(there?.closesAt).toBe('2027-03-15T10:00:00.000Z');
    const here = (await items(school.courseId)).find((i) => i.id === made[1]?.itemIds[0]);
    expect(here).toMatchObject({ title: 'Report, Evening', isDraft: true, dueAt: '2026-10-08T09:00:00.000Z' });
    expect(here?.audience.map((a) => a.sectionId)).toEqual([school.sections[1]]);
    await takeBack(id);
    expect(await items(target)).toEqual([]);
  });

  it('opens it for a section at once, says its words first, and tells that section of all that opens together', async () => {
    const second = (
      (await teacher().post(`${base()}/items`).send({ unitId: school.unitId, kind: 'page', title: 'Sources', position: 9 }).expect(200))
        .body as { id: string }
    ).id;
    const cell = { ...AS_DRAFT, courseId: school.courseId, sectionId: school.sections[0] ?? '', isDraft: false, tells: true };
    const { id, made, notYet } = await give([
      { ...cell, words: 'Bring the draft.\nRead it aloud.', dueAt: '2026-12-08T09:00:00.000Z' },
      { ...cell, itemId: second, dueAt: null },
    ]);
    expect(notYet).toEqual([]);
    const [report] = made[0]?.itemIds ?? [];
    const copies = (await items(school.courseId)).filter((i) => made[0]?.itemIds.includes(i.id));
    expect(copies.map((i) => [i.title, i.state, i.audience.map((a) => a.sectionId)])).toEqual([
      ['Report, Morning', 'open', [school.sections[0]]],
      ['Sources, Morning', 'open', [school.sections[0]]],
    ]);
    const detail = (await teacher().get(`${base()}/items/${report}`).expect(200)).body as { assignment: { instructions: never } };
    expect(plainText(detail.assignment.instructions)).toMatch(/^Bring the draft\.\s+Read it aloud\./);
    const told = await news(school.courseId);
    expect(told.map((a) => [a.title, a.sections.map((s) => s.id)])).toEqual([['2 new items are open', [school.sections[0]]]]);
    expect(plainText(told[0]!.document)).toMatch(/Report, Morning: due Tue 8 Dec.*Sources, Morning\./s);
    const notices = (await school.agents.student.get('/api/notices').expect(200)).body as NoticesView;
    expect(notices.notices.map((n) => n.words)).toContain('2 new items are open');
    const open = await items(school.courseId);
    await takeBack(id);
    expect([(await items(school.courseId)).length, await news(school.courseId)]).toEqual([open.length - 2, []]);
    await takeBack(id, true, 409);
    // Brought back, all of it is there; a copy that was deleted by itself stays deleted.
    await takeBack(id, false);
    expect([await items(school.courseId), (await news(school.courseId)).length]).toMatchObject([open.map((i) => ({ id: i.id })), 1]);
    await teacher()
      .post(`${base()}/items/removals`)
      .send({ itemIds: [report] })
      .expect(200);
    school.clock.at += 60_000;
    await takeBack(id);
    await takeBack(id, false);
    expect((await items(school.courseId)).map((i) => i.id)).not.toContain(report);
    await takeBack(id);
  });

  it('opens later where a time is set, and says where students see nothing of it yet', async () => {
    const { id, notYet } = await give([
      {
        ...AS_DRAFT,
        courseId: target,
        sectionId: null,
        isDraft: false,
        opensAt: '2027-03-01T08:00:00.000Z',
        dueAt: '2027-03-12T10:00:00.000Z',
        tells: true,
      },
    ]);
    expect(notYet).toEqual([expect.stringContaining('HOR-1 b, Watches again is not open yet')]);
    expect((await items(target))[0]).toMatchObject({ isDraft: false, opensAt: '2027-03-01T08:00:00.000Z' });
    const [told] = await news(target);
    expect([told?.title, told?.publishAt, told?.isScheduled]).toEqual(['“Report” is open', '2027-03-01T08:00:00.000Z', true]);
    await takeBack(id);
  });

  it('is done wholly or not at all', async () => {
    const before = (await items(school.courseId)).length;
    const here = { ...AS_DRAFT, courseId: school.courseId, sectionId: school.sections[0] ?? '' };
    await ask([here, { ...AS_DRAFT, courseId: school.otherCourseId, sectionId: null }]).expect(404);
    const refused = [
      [{ ...AS_DRAFT, courseId: target, sectionId: school.sections[0] ?? '' }, 'no longer there'],
      [{ ...AS_DRAFT, courseId: school.courseId, sectionId: null }, 'has these items themselves'],
      [{ ...here, isDraft: false, dueAt: '2026-09-20T09:00:00.000Z' }, 'would open after it is due'],
      [{ ...here, opensAt: '2026-12-20T09:00:00.000Z', dueAt: '2026-12-10T09:00:00.000Z' }, 'Nothing was given'],
      [{ ...here, dueAt: 'soon' }, 'Due is “soon”'],
    ] as const;
    for (const [cell, words] of refused) expect(JSON.stringify((await ask([cell]).expect(422)).body)).toContain(words);
    expect((await items(school.courseId)).length).toBe(before);
    expect(await items(target)).toEqual([]);
    expect((await teacher().get(`${base()}/giving`).expect(200)).body).toEqual([]);
  });

  it('is an instructor’s to do', async () => {
    const cells = [{ ...AS_DRAFT, courseId: school.courseId, sectionId: school.sections[0] }];
    for (const who of ['assistant', 'student', 'outsider'] as const) {
      expect([403, 404]).toContain((await school.agents[who].post(`${base()}/giving`).send({ cells })).status);
      expect([403, 404]).toContain((await school.agents[who].post(`${base()}/giving/places`).send({ itemIds: [school.itemId] })).status);
    }
  });

  it.each(Object.keys(KINDS_OF_ITEM) as ItemKind[])('says words first in every kind that has a text: %s', async (kind) => {
    expect(servedKind(kind).putFirst !== null).toBe(kindOfItem(kind).hasText);
    const { id: itemId } = (
      await teacher()
        .post(`${base()}/items`)
        .send({ unitId: school.unitId, kind, title: `A ${kind}`, position: 9 })
        .expect(200)
    ).body as { id: string };
    const cell = { ...AS_DRAFT, itemId, courseId: school.courseId, sectionId: school.sections[0] ?? '', words: 'For this class.' };
    if (!kindOfItem(kind).hasText) {
      expect((await ask([cell]).expect(422)).body.detail).toContain('has no text');
      return;
    }
    const { id, made } = await give([cell]);
    const [table] = Object.keys(servedKind(kind).parts);
    const found = await school.pool.query(`select t::text as said from ${table} t where item_id = $1`, [made[0]?.itemIds[0]]);
    expect(found.rows[0]?.said).toContain('For this class.');
    await takeBack(id);
  });
});

describe('the board of what was given', () => {
  it('says over all classes who has handed in, when, how late and with how many files', async () => {
    const cell = { ...AS_DRAFT, courseId: school.courseId, isDraft: false, dueAt: '2026-12-08T09:00:00.000Z' };
    const { id, made } = await give([
      { ...cell, sectionId: school.sections[0] ?? '' },
      { ...cell, sectionId: school.sections[1] ?? '' },
      { ...AS_DRAFT, courseId: target, sectionId: null },
    ]);
    await handInText(school, 'student', 'For the class', made[0]?.itemIds[0]);
    const lines = (await teacher().get(`${base()}/giving`).expect(200)).body as GivingLine[];
    expect(lines.find((l) => l.id === id)).toMatchObject({ titles: ['Report'], classes: 3 });
    const board = (await teacher().get(`${base()}/giving/${id}`).expect(200)).body as GivenBoard;
    expect(board.items.map((i) => i.title)).toEqual(['Report']);
    expect(board.classes.map((c) => [c.name.split(', ').at(-1), c.copies[0]?.isDraft, c.copies[0]?.handedIn, c.copies[0]?.of])).toEqual(
      expect.arrayContaining([
        ['Watches again', true, 0, 0],
        [expect.any(String), false, 1, expect.any(Number)],
      ]),
    );
    const own = board.classes.flatMap((c) => c.people).find((p) => p.enrolmentId === school.students[0]);
    expect(own?.states).toEqual([{ state: 'waits', handedInAt: expect.any(String), lateText: null, files: 0 }]);
    const others = board.classes.flatMap((c) => c.people).filter((p) => p.enrolmentId !== school.students[0]);
    expect(others.every((p) => p.states[0]?.handedInAt === null)).toBe(true);
    // Whoever teaches only one of the courses is told how many classes are not theirs.
    const seen = (await school.agents.assistant.get(`${base()}/giving/${id}`).expect(200)).body as GivenBoard;
    expect([seen.classes.every((c) => c.courseId === school.courseId), seen.elsewhere]).toEqual([true, 1]);
    await school.agents.student.get(`${base()}/giving/${id}`).expect(403);
    await teacher().get(`/api/courses/${school.otherCourseId}/giving/${id}`).expect(404);
    await takeBack(id);
    expect((await teacher().get(`${base()}/giving`).expect(200)).body).toEqual([]);
  });
});

describe('how a result is read', () => {
  const policy = async (): Promise<PolicyChange> => {
    const { weightsSum, totals, columns, ...change } = (await teacher().get(`${base()}/policy`).expect(200)).body;
    void weightsSum;
    void totals;
    void columns;
    return change as PolicyChange;
  };
  const own = async (): Promise<StudentItem> =>
    (await school.agents.student.get(`${base()}/own/items/${school.itemId}`).expect(200)).body as StudentItem;
  const set = async (change: object) => {
    const { version } = (await items(school.courseId)).find((i) => i.id === school.itemId) as { version: number };
    return teacher()
      .patch(`${base()}/items/${school.itemId}`)
      .send({ version, ...change })
      .expect(200);
  };

  it('by its student as a share or a letter, everywhere; by staff beside the points', async () => {
    await handInText(school, 'student', 'My report');
    await finishScore(school, school.students[0], 45_000);
    await teacher().post(`${base()}/marking/${school.itemId}/release`).send({ enrolmentIds: null }).expect(200);
    const levels = [
      { label: 'A', cutPoint: 90_000 },
      { label: 'B', cutPoint: 75_000 },
      { label: 'F', cutPoint: 0 },
    ];
    await teacher()
      .put(`${base()}/policy`)
      .send({ ...(await policy()), decimals: 1, levels })
      .expect(200);
    expect((await own()).returned?.reads).toBeNull();
    await set({ studentReads: 'percent', staffReads: 'letter' });
    expect((await own()).returned).toMatchObject({ scoreText: '45', reads: '75.0 %' });
    const book = (await teacher().get(`${base()}/gradebook`).expect(200)).body as Gradebook;
    const place = book.columns.findIndex((c) => c.itemId === school.itemId);
    expect(book.rows.find((r) => r.enrolmentId === school.students[0])?.cells[place]).toEqual([
      'marked',
      '45',
      1,
      0,
      expect.any(String),
      0,
      45_000,
      'B',
    ]);
    await set({ studentReads: 'letter' });
    expect((await own()).returned?.reads).toBe('B');
    const grades = (await school.agents.student.get(`${base()}/own/grades`).expect(200)).body as MyGrades;
    const line = grades.categories.flatMap((c) => c.columns).find((c) => c.itemId === school.itemId);
    // The working still says how it came about.
    expect([line?.text, JSON.stringify(line?.working)]).toEqual(['B', expect.stringContaining('45')]);
    const ownLevels = [
      { label: 'secure', cutPoint: 70_000, value: 100_000 },
      { label: 'beginning', cutPoint: 0, value: null },
    ];
    await set({ ownLevels });
    expect((await own()).returned?.reads).toBe('secure');
    const named = (await teacher().get(`${base()}/gradebook`).expect(200)).body as Gradebook;
    expect([named.rows.find((r) => r.enrolmentId === school.students[0])?.cells[place], named.columns[place]]).toMatchObject([
      { 7: 'secure' },
      { takesLetters: true, ownLevels },
    ]);
    const wrong = [{ label: 'secure', cutPoint: 70_000, value: null }, ...ownLevels.slice(0, 1)];
    const { version } = (await teacher().get(`${base()}/items/${school.itemId}`).expect(200)).body.item as { version: number };
    const twice = await teacher().patch(`${base()}/items/${school.itemId}`).send({ version, ownLevels: wrong }).expect(422);
    expect(twice.body.pointers[0]).toMatchObject({ field: 'ownLevels' });
    await set({ ownLevels: null });
    expect((await own()).returned?.reads).toBe('B');
    const refused = await teacher().patch(`${base()}/items/${school.itemId}`).send({ version: 1, studentReads: 'stars' }).expect(422);
    expect(refused.body.pointers[0].text).toContain('How students read the result is “stars”');
  });

  it('late by its category, unless the item has a rule of its own', async () => {
    school.clock.at = START + 2.5 * 86_400_000;
    await handInText(school, 'second', 'Half a day late');
    const second = { columnId: school.columnId, enrolmentId: school.students[1], state: 'scored', raw: 60_000, seenEventId: null };
    await teacher()
      .put(`${base()}/gradebook/cells`)
      .send({ ...second, isAboveConfirmed: false, reason: '' })
      .expect(200);
    const result = async (): Promise<unknown> => {
      const book = (await teacher().get(`${base()}/gradebook`).expect(200)).body as Gradebook;
      const cell = book.rows.find((r) => r.enrolmentId === school.students[1])?.cells[
        book.columns.findIndex((c) => c.itemId === school.itemId)
      ];
      return Array.isArray(cell) ? cell[1] : cell;
    };
    const late = {
      ratePercent: 10_000,
      stepMinutes: 1440,
      base: 'possible',
      capPercent: 100_000,
      floorPercent: 0,
      graceMinutes: 0,
    } as const;
    const now = await policy();
    const { categoryId } = (await items(school.courseId)).find((i) => i.id === school.itemId) as { categoryId: string };
    const before = await result();
    await teacher()
      .put(`${base()}/policy`)
      .send({ ...now, categories: now.categories.map((c) => (c.id === categoryId ? { ...c, late } : c)) })
      .expect(200);
    expect([before, await result()]).toEqual(['60', '54']);
    await set({ late: { ...late, ratePercent: 5000 } });
    expect(await result()).toBe('57');
    await set({ late: null });
    expect((await policy()).categories.find((c) => c.id === categoryId)?.late).toEqual(late);
  });
});
