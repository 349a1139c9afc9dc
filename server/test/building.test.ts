import type { BatchDone, CourseCheck, CourseStart, Plan, PlanItem } from '@rosemary/api';
import { paragraphs } from '@rosemary/api';
import { finishScore, handInText, makeSchool, START, type TestSchool } from './school.ts';

const DAY = 86_400_000;
const NOWHERE = '00000000-0000-4000-8000-000000000000';
let school: TestSchool;
beforeAll(async () => {
  school = await makeSchool('building');
}, 60_000);
afterAll(() => school.close());
const course = (): string => `/api/courses/${school.courseId}`;
const { stringify } = JSON;
const plan = async (id = school.courseId): Promise<Plan> =>
  (await school.agents.instructor.get(`/api/courses/${id}/plan`).expect(200)).body as Plan;
const items = async (): Promise<PlanItem[]> => (await plan()).units.flatMap((u) => u.items);
const iso = (at: number): string => new Date(at).toISOString();

describe('starting a course', () => {
  const start = async (): Promise<CourseStart> => (await school.agents.instructor.get('/api/course-start').expect(200)).body as CourseStart;
  const wish = async (more: object = {}) => ({
    code: 'HOR-300',
    run: 'a',
    title: 'Repeaters',
    termId: (await start()).terms[0]!.id,
    timeZone: 'Europe/Lisbon',
    sections: ['Only'],
    outline: 'weeks',
    ...more,
  });
  const make = async (more: object) => school.agents.instructor.post('/api/courses').send(await wish(more));

  it('shows the terms with their weeks, days and holidays, and the codes that are taken', async () => {
    const { terms, taken } = await start();
    expect(terms[0]).toMatchObject({ title: 'Autumn', startsOn: '2026-09-21', endsOn: '2027-01-01', meetingDays: [2, 4], holidays: [] });
    expect(taken).toContainEqual({ code: 'HOR-1', run: 'a' });
  });

  it('lays out the chosen outline as drafts that no student sees, with weights that add to 100', async () => {
    const { id } = (await make({})).body as { id: string };
    const made = await plan(id);
    expect(made.units).toHaveLength(15);
    expect(made.units[0]?.title).toBe('Week 1, from 21 September');
    expect(made.units.flatMap((u) => u.items).every((i) => i.isDraft)).toBe(true);
    expect(made.units[0]?.items.map((i) => [i.kind, i.possible])).toEqual([
      ['page', 0],
      ['assignment', 20_000],
    ]);
    expect(made.units[0]?.items[1]?.dueAt).toBe('2026-09-24T22:59:00.000Z');
    const policy = (await school.agents.instructor.get(`/api/courses/${id}/policy`).expect(200)).body;
    expect([policy.weightsSum, policy.categories.map((c: { title: string }) => c.title)]).toEqual([100_000, ['Exercises', 'Papers']]);
    const head = (await school.agents.instructor.get(`/api/courses/${id}`).expect(200)).body;
    expect([head.isOpen, head.role]).toEqual([false, 'instructor']);
  });

  it.each([
    ['topics', 6, 24],
    ['projects', 3, 15],
    ['empty', 0, 0],
  ])('“%s” gives %p units with %p items', async (outline, units, many) => {
    const answer = await make({ run: outline, outline });
    const made = await plan((answer.body as { id: string }).id);
    expect([made.units.length, made.units.flatMap((u) => u.items).length, made.categories.length]).toEqual([units, many, 2]);
  });

  it('opens each item’s page and setting, so that nothing of it is a shell', async () => {
    const id = ((await make({ run: 'whole', outline: 'topics' })).body as { id: string }).id;
    for (const item of (await plan(id)).units[0]!.items) {
      const detail = (await school.agents.instructor.get(`/api/courses/${id}/items/${item.id}`).expect(200)).body;
      expect(item.kind === 'page' ? detail.page.document.type : detail.assignment.instructions.type).toBe('doc');
    }
  });

  it.each([
    ['a code in use with its run', { code: 'HOR-1', run: 'a' }, 'run'],
    ['a code with a stroke', { code: 'HOR/1' }, 'code'],
    ['no section', { sections: [] }, 'sections'],
    ['a zone that is none', { timeZone: 'Europe/Atlantis' }, 'timeZone'],
    ['a term that is gone', { termId: NOWHERE }, 'termId'],
    ['an outline that is none', { outline: 'chaos' }, 'outline'],
  ])('refuses %s, by its field, and makes nothing', async (_, more, field) => {
    const count = async (): Promise<string> => (await school.pool.query<{ n: string }>('select count(*) as n from course')).rows[0]!.n;
    const before = await count();
    const answer = await make({ run: 'z', ...more });
    expect([answer.status, answer.body.pointers[0].field]).toEqual([422, field]);
    expect(await count()).toBe(before);
  });

  it('is for those who teach', async () => {
    for (const who of ['student', 'assistant'] as const) {
      await school.agents[who].get('/api/course-start').expect(403);
      await school.agents[who]
        .post('/api/courses')
        .send(await wish({ run: who }))
        .expect(403);
    }
    await school.agents.administrator
      .post('/api/courses')
      .send(await wish({ run: 'office' }))
      .expect(200);
  });
});

describe('several items at once', () => {
  const made: string[] = [];
  beforeAll(async () => {
    for (let n = 0; n < 3; n += 1) {
      const answer = await school.agents.instructor
        .post(`${course()}/items`)
        .send({ unitId: school.unitId, kind: 'assignment', title: `Task ${n}`, position: 2 + n })
        .expect(200);
      made.push((answer.body as { id: string }).id);
    }
  });
  const chosen = async (): Promise<PlanItem[]> => (await items()).filter((i) => made.includes(i.id));
  const send = async (fields: (item: PlanItem, n: number) => object) =>
    school.agents.instructor
      .put(`${course()}/items`)
      .send({ changes: (await chosen()).map((i, n) => ({ id: i.id, version: i.version, ...fields(i, n) })) });

  it('take dates, state, category, minutes and points together, and give back what undoes it', async () => {
    const before = await chosen();
    const category = (await plan()).categories[0]!.id;
    const answer = await send((_, n) => ({
      dueAt: iso(START + (n + 3) * DAY),
      isDraft: false,
      categoryId: category,
      estimatedMinutes: 90,
      possible: 25_000,
    }));
    expect(answer.status).toBe(200);
    const done = answer.body as BatchDone;
    const after = await chosen();
    expect(after.map((i) => i.dueAt)).toEqual([3, 4, 5].map((n) => iso(START + n * DAY)));
    expect(after.every((i) => !i.isDraft && i.categoryId === category && i.estimatedMinutes === 90 && i.possible === 25_000)).toBe(true);
    await school.agents.instructor.put(`${course()}/items`).send(done.undo).expect(200);
    const undone = await chosen();
    expect(undone.map((i) => ({ ...i, version: 0 }))).toEqual(before.map((i) => ({ ...i, version: 0 })));
  });

  it('are changed all or none: one bad date, and nothing moves', async () => {
    const before = stringify(await chosen());
    const answer = await send((_, n) => ({ opensAt: iso(START), dueAt: iso(START + (n === 1 ? -1 : 1) * DAY) }));
    expect([answer.status, answer.body.detail]).toEqual([
      422,
      '“Task 1”: It is due before it opens. Set a later due time or an earlier opening. Nothing was changed.',
    ]);
    expect(stringify(await chosen())).toBe(before);
  });

  it('are refused when one was changed meanwhile, with what stands now', async () => {
    const list = await chosen();
    await school.agents.instructor
      .patch(`${course()}/items/${list[2]!.id}`)
      .send({ version: list[2]!.version, title: 'Task 2, renamed' })
      .expect(200);
    const answer = await school.agents.instructor
      .put(`${course()}/items`)
      .send({ changes: list.map((i) => ({ id: i.id, version: i.version, isDraft: false })) })
      .expect(409);
    expect(answer.body.current.title).toBe('Task 2, renamed');
    expect((await chosen()).every((i) => i.isDraft)).toBe(true);
  });

  it('show their ripple first', async () => {
    await handInText(school, 'student', 'Worn jewels');
    await finishScore(school, school.students[0], 45_000);
    const report = (await items()).find((i) => i.id === school.itemId)!;
    const ripple = await school.agents.instructor
      .put(`${course()}/items`)
      .set('x-ripple', 'show')
      .send({ changes: [{ id: report.id, version: report.version, possible: 90_000 }] })
      .expect(200);
    expect(ripple.body.rows[0]).toMatchObject({ before: '75.0', after: '50.0', move: 'falls' });
    expect((await items()).find((i) => i.id === school.itemId)?.possible).toBe(60_000);
  });

  it('are deleted and brought back together', async () => {
    await school.agents.instructor.post(`${course()}/items/removals`).send({ itemIds: made }).expect(200);
    expect(await chosen()).toEqual([]);
    const back = (await school.agents.instructor.post(`${course()}/items/restorals`).send({ itemIds: made }).expect(200)).body as Plan;
    expect(back.units[0]?.items.map((i) => i.title)).toEqual(['Report', 'Secret page', 'Task 0', 'Task 1', 'Task 2, renamed']);
  });

  it('do not reach into another course, nor take one twice', async () => {
    const other = await school.pool.query<{ id: string }>(
      "insert into item (course_id, kind, title, done_rule) values ($1, 'page', 'Theirs', 'opened') returning id",
      [school.otherCourseId],
    );
    const id = other.rows[0]!.id;
    await school.agents.instructor
      .put(`${course()}/items`)
      .send({ changes: [{ id, version: 1, isDraft: false }] })
      .expect(404);
    await school.agents.instructor
      .post(`${course()}/items/duplicates`)
      .send({ itemIds: [id] })
      .expect(404);
    await school.agents.instructor
      .post(`${course()}/items/removals`)
      .send({ itemIds: [id] })
      .expect(404);
    await school.agents.instructor
      .post(`${course()}/items/removals`)
      .send({ itemIds: [made[0], made[0]] })
      .expect(422);
    await school.agents.assistant
      .put(`${course()}/items`)
      .send({ changes: [{ id: made[0], version: 1 }] })
      .expect(403);
  });
});

describe('copies of items', () => {
  it('stand after their originals as drafts, with text, setting, rubric and other dates, and nothing of students', async () => {
    const rubric = {
      version: 0,
      criteria: [
        {
          id: null,
          title: 'Evidence',
          levels: [
            { id: null, title: 'none', descriptor: '', points: 0 },
            { id: null, title: 'full', descriptor: 'all shown', points: 60_000 },
          ],
        },
      ],
    };
    await school.agents.instructor.put(`${course()}/items/${school.itemId}/rubric`).send(rubric).expect(200);
    await school.agents.instructor
      .put(`${course()}/items/${school.itemId}/variants`)
      .send({
        variants: [{ sectionId: school.sections[1], enrolmentId: null, opensAt: null, dueAt: iso(START + 4 * DAY), closesAt: null }],
      })
      .expect(200);
    await school.agents.instructor
      .put(`${course()}/items/${school.draftId}/page`)
      .send({ document: paragraphs('A page worth copying.'), version: 1 })
      .expect(200);
    const answer = await school.agents.instructor
      .post(`${course()}/items/duplicates`)
      .send({ itemIds: [school.itemId, school.draftId] })
      .expect(200);
    const { made, plan: next } = answer.body as { made: string[]; plan: Plan };
    expect(next.units[0]?.items.slice(0, 4).map((i) => i.title)).toEqual(['Report', 'Report (copy)', 'Secret page', 'Secret page (copy)']);
    const [report, page] = await Promise.all(
      made.map(async (id) => (await school.agents.instructor.get(`${course()}/items/${id}`).expect(200)).body),
    );
    expect(report.item).toMatchObject({ isDraft: true, possible: 60_000, variants: [{ dueAt: iso(START + 4 * DAY) }] });
    expect(report.rubric.criteria[0]).toMatchObject({
      title: 'Evidence',
      levels: [{ points: 0 }, { points: 60_000, descriptor: 'all shown' }],
    });
    expect(report.assignment).toMatchObject({ acceptsText: true, mostBytes: 4096 });
    expect(stringify(page.page.document)).toContain('A page worth copying.');
    const works = await school.pool.query('select 1 from submission where item_id = any($1)', [made]);
    expect(works.rowCount).toBe(0);
    // A change of the copy’s rubric leaves the original’s alone.
    const original = (await school.agents.instructor.get(`${course()}/items/${school.itemId}`)).body;
    expect(report.rubric.criteria[0].id).not.toBe(original.rubric.criteria[0].id);
  });

  it('have titles of their own, however often and however long', async () => {
    const again = await school.agents.instructor
      .post(`${course()}/items/duplicates`)
      .send({ itemIds: [school.itemId] })
      .expect(200);
    expect((again.body as { plan: Plan }).plan.units[0]?.items.map((i) => i.title)).toContain('Report (copy 2)');
    const long = 'L'.repeat(160);
    const made = await school.agents.instructor
      .post(`${course()}/items`)
      .send({ unitId: school.unitId, kind: 'page', title: long, position: 0 })
      .expect(200);
    const copy = await school.agents.instructor
      .post(`${course()}/items/duplicates`)
      .send({ itemIds: [made.body.id] })
      .expect(200);
    expect((copy.body as { plan: Plan }).plan.units[0]?.items[1]?.title).toBe(`${'L'.repeat(153)} (copy)`);
  });

  it('are hundreds in a moment, without a query for each', async () => {
    const id = (
      (
        await school.agents.instructor
          .post('/api/courses')
          .send({
            code: 'HOR-400',
            run: 'a',
            title: 'Large',
            termId: (await school.agents.instructor.get('/api/course-start')).body.terms[0].id,
            timeZone: 'Europe/Lisbon',
            sections: ['Only'],
            outline: 'weeks',
          })
          .expect(200)
      ).body as { id: string }
    ).id;
    for (let n = 0; n < 3; n += 1) {
      const all = (await plan(id)).units.flatMap((u) => u.items.map((i) => i.id));
      await school.agents.instructor.post(`/api/courses/${id}/items/duplicates`).send({ itemIds: all }).expect(200);
    }
    const whole = (await plan(id)).units;
    expect(whole.flatMap((u) => u.items)).toHaveLength(32 * 8);
    expect(new Set(whole[0]?.items.map((i) => i.id)).size).toBe(16);
  });
});

describe('a check before opening', () => {
  it('finds what is wrong in the course as it stands, and leads to it', async () => {
    const { body } = await school.agents.instructor.get(`${course()}/check`).expect(200);
    const found = (body.findings as { text: string; place: object }[]).map((f) => f.text);
    expect(found).toEqual(
      expect.arrayContaining(['The page “' + 'L'.repeat(153) + ' (copy)” is empty.', 'The category “Class work” has 40 % and no item.']),
    );
    const page = (await school.agents.instructor.get(`${course()}/items/${school.draftId}`).expect(200)).body.page;
    const link = {
      type: 'doc',
      content: [
        {
          type: 'paragraph',
          content: [
            { type: 'text', text: 'gone', marks: [{ type: 'link', attrs: { href: `/courses/${school.courseId}/items/${NOWHERE}` } }] },
          ],
        },
      ],
    };
    await school.agents.instructor
      .put(`${course()}/items/${school.draftId}/page`)
      .send({ document: link, version: page.version })
      .expect(200);
    const after = (await school.agents.instructor.get(`${course()}/check`).expect(200)).body.findings as { text: string; place: object }[];
    expect(after.find((f) => f.text.includes('“gone”'))).toEqual({
      weight: 'mend',
      text: 'In “Secret page” the link “gone” leads to an item that is no longer here.',
      place: { kind: 'text', itemId: school.draftId },
    });
  });

  it('says what students would see of it, and which drafts could be opened with it', async () => {
    const { body } = await school.agents.instructor.get(`${course()}/check`).expect(200);
    const { shown, drafts, items } = body as CourseCheck;
    const all = new Map((await plan()).units.flatMap((u) => u.items).map((i) => [i.id, i]));
    expect(items).toBe([...all.values()].length);
    expect(drafts.map((d) => [d.id, d.version]).sort()).toEqual(
      [...all.values()]
        .filter((i) => i.isDraft && !i.isStaffOnly)
        .map((i) => [i.id, i.version])
        .sort(),
    );
    expect(drafts.some((d) => d.id === school.draftId)).toBe(true);
    expect(shown).toBe([...all.values()].filter((i) => !i.isDraft && !i.isStaffOnly).length);
  });

  it('is for staff: a student learns nothing of drafts by it', async () => {
    await school.agents.student.get(`${course()}/check`).expect(403);
    await school.agents.assistant.get(`${course()}/check`).expect(200);
  });
});
