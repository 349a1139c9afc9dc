import type { CarryDone, CarryPreview, CarryWish, CourseFile, ItemDetail, Plan, PolicyChange, PolicyView } from '@rosemary/api';
import type { DocumentNode } from '@rosemary/core';
import { addTerm, withDb } from '../src/index.ts';
import { rewrite } from '../src/items/rewrite.ts';
import { handInText, makeSchool, type TestSchool } from './school.ts';

const PNG = Buffer.from('iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==', 'base64');

let school: TestSchool;

let target = '';

beforeAll(async () => {
  school = await makeSchool('carry');
  const termId = await withDb(school.pool, true, (db) =>
    addTerm(db, {
      title: 'Spring',
      startsOn: '2027-02-22',
      endsOn: '2027-05-30',
      meetingDays: [1, 3],
      holidays: [{ title: 'Easter', startsOn: '2027-03-22', endsOn: '2027-03-28' }],
    }),
  );
  const made = await school.agents.instructor
    .post('/api/courses')
    .send({ code: 'HOR-1', run: 'b', title: 'Watches again', termId, timeZone: 'Europe/Lisbon', sections: ['Only'], outline: 'empty' })
    .expect(200);
  target = (made.body as { id: string }).id;
}, 60_000);

afterAll(() => school.close());

const plan = async (id: string): Promise<Plan> => (await school.agents.instructor.get(`/api/courses/${id}/plan`).expect(200)).body as Plan;

const detail = async (id: string, itemId: string): Promise<ItemDetail> =>
  (await school.agents.instructor.get(`/api/courses/${id}/items/${itemId}`).expect(200)).body as ItemDetail;

const wish = (more: Partial<CarryWish> = {}): CarryWish => ({
  fromCourseId: school.courseId,
  itemIds: [school.itemId, school.draftId],
  hasDates: true,
  hasPolicy: false,
  weekdays: [],
  again: [],
  ...more,
});

const preview = async (more: Partial<CarryWish> = {}): Promise<CarryPreview> =>
  (await school.agents.instructor.post(`/api/courses/${target}/carry/preview`).send(wish(more)).expect(200)).body as CarryPreview;

const carry = async (more: Partial<CarryWish> = {}): Promise<CarryDone> =>
  (await school.agents.instructor.post(`/api/courses/${target}/carry`).send(wish(more)).expect(200)).body as CarryDone;

describe('before anything comes over', () => {
  it('shows every date old and new, by teaching week and weekday', async () => {
    const p = await preview();
    expect([p.from.term.title, p.to.title]).toEqual(['Autumn', 'Spring']);
    // Due on the Wednesday of teaching week 3, closing on its Saturday.
    expect(p.units[0]?.items[0]).toMatchObject({
      title: 'Report',
      existing: null,
      dates: [
        { name: 'due', was: 'Wed 7 Oct 2026 10:00', will: 'Wed 10 Mar 2027 10:00', note: '' },
        { name: 'closes', was: 'Sat 10 Oct 2026 10:00', will: 'Sat 13 Mar 2027 10:00', note: '' },
      ],
    });
    expect((await plan(target)).units).toEqual([]);
  });

  it('follows a timetable that moved, and can leave the dates off', async () => {
    expect((await preview({ weekdays: [{ from: 3, to: 1 }] })).units[0]?.items[0]?.dates[0]?.will).toBe('Mon 8 Mar 2027 10:00');
    expect((await preview({ hasDates: false })).units[0]?.items[0]?.dates).toEqual([
      { name: 'due', was: 'Wed 7 Oct 2026 10:00', will: null, note: 'left off' },
      { name: 'closes', was: 'Sat 10 Oct 2026 10:00', will: null, note: 'left off' },
    ]);
  });

  it('says what cannot be placed, and what in the text belongs to the old term', async () => {
    const page = (await detail(school.courseId, school.draftId)).page!;
    const document = {
      type: 'doc',
      content: [
        {
          type: 'paragraph',
          content: [
            { type: 'text', text: 'Read this before 12 October, as every Autumn. ' },
            {
              type: 'text',
              text: 'See the report',
              marks: [{ type: 'link', attrs: { href: `/courses/${school.courseId}/study/${school.itemId}` } }],
            },
          ],
        },
      ],
    };
    await school.agents.instructor
      .put(`/api/courses/${school.courseId}/items/${school.draftId}/page`)
      .send({ document, version: page.version })
      .expect(200);
    await school.pool.query("update item set due_at = '2026-12-30T10:00:00Z' where id = $1", [school.draftId]);
    const [report, secret] = (await preview()).units[0]!.items;
    expect(report?.mentions).toEqual([]);
    expect(secret?.mentions).toEqual([
      'Read this before 12 October, as every Autumn. See the r…',
      '…before 12 October, as every Autumn. See the report',
    ]);
    // The report comes along, so the link will lead to it; alone, the page would lead back into the old course.
    const alone = (await preview({ itemIds: [school.draftId] })).units[0]!.items[1];
    expect(alone?.mentions.at(-1)).toBe('a link to an item of the old course that does not come along');
    expect(secret?.dates).toEqual([
      { name: 'due', was: 'Wed 30 Dec 2026 10:00', will: null, note: 'not placed: teaching week 15 is beyond the end of the new term' },
    ]);
  });

  it('brings only from courses one teaches oneself', async () => {
    await school.agents.instructor
      .post(`/api/courses/${target}/carry/preview`)
      .send(wish({ fromCourseId: school.otherCourseId }))
      .expect(404);
    await school.agents.instructor
      .post(`/api/courses/${target}/carry`)
      .send(wish({ fromCourseId: target }))
      .expect(404);
    await school.agents.outsider.post(`/api/courses/${target}/carry`).send(wish()).expect(404);
    await school.agents.assistant.post(`/api/courses/${school.courseId}/carry`).send(wish()).expect(403);
  });
});

describe('carrying forward', () => {
  it('brings texts, settings, rubrics, pictures and dates, as drafts, and reports', async () => {
    const file = (
      await school.agents.instructor.post(`/api/courses/${school.courseId}/files`).attach('file', PNG, 'balance.png').expect(200)
    ).body as CourseFile;
    const before = await detail(school.courseId, school.itemId);
    const instructions = {
      type: 'doc',
      content: [
        { type: 'picture', attrs: { fileId: file.id, src: file.url, alt: 'a balance', caption: '' } },
        {
          type: 'paragraph',
          content: [
            {
              type: 'text',
              text: 'Read first',
              marks: [{ type: 'link', attrs: { href: `/courses/${school.courseId}/study/${school.draftId}` } }],
            },
          ],
        },
      ],
    };
    await school.agents.instructor
      .put(`/api/courses/${school.courseId}/items/${school.itemId}/assignment`)
      .send({ version: before.assignment!.version, instructions })
      .expect(200);
    await school.agents.instructor
      .put(`/api/courses/${school.courseId}/items/${school.itemId}/rubric`)
      .send({
        version: 0,
        criteria: [
          {
            id: null,
            title: 'Evidence',
            levels: [
              { id: null, title: 'none', descriptor: '', points: 0 },
              { id: null, title: 'all', descriptor: 'shown', points: 60_000 },
            ],
          },
        ],
      })
      .expect(200);
    const done = await carry();
    expect(done).toMatchObject({ skipped: 0, moved: [], categories: [] });
    expect(done.unplaced).toEqual([
      'Secret page, due Wed 30 Dec 2026 10:00: not placed: teaching week 15 is beyond the end of the new term',
    ]);
    const made = await plan(target);
    expect(made.units.map((u) => [u.title, u.items.map((i) => i.title)])).toEqual([['Bench', ['Report', 'Secret page']]]);
    const [report, secret] = made.units[0]!.items;
    expect(report).toMatchObject({
      isDraft: true,
      possible: 60_000,
      dueAt: '2027-03-10T10:00:00.000Z',
      closesAt: '2027-03-13T10:00:00.000Z',
    });
    expect(secret?.dueAt).toBeNull();
    expect(made.categories.find((c) => c.id === report?.categoryId)?.title).toBe('Assignments');
    const own = await detail(target, report!.id);
    expect(own.rubric?.criteria[0]).toMatchObject({ title: 'Evidence', levels: [{ points: 0 }, { points: 60_000, descriptor: 'shown' }] });
    expect(own.assignment).toMatchObject({ acceptsText: true, mostBytes: 4096 });
    const text = JSON.stringify(own.assignment!.instructions);
    expect(text).not.toContain(school.courseId);
    expect(text).toContain(`/courses/${target}/study/${secret!.id}`);
    const src = /"src":"([^"]+)"/.exec(text)?.[1] ?? '';
    const shown = await school.agents.instructor.get(src).expect(200);
    expect((shown.body as Buffer).equals(PNG)).toBe(true);
  });

  it('never touches what is there: the source stays as it was, with the work of its students', async () => {
    await handInText(school, 'student', 'Worn jewels');
    const before = JSON.stringify([await plan(school.courseId), await detail(school.courseId, school.itemId)]);
    await carry({ again: [{ itemId: school.itemId, how: 'add' }] });
    expect(JSON.stringify([await plan(school.courseId), await detail(school.courseId, school.itemId)])).toBe(before);
    const works = await school.pool.query('select 1 from submission s join item i on i.id = s.item_id where i.course_id = $1', [target]);
    expect(works.rowCount).toBe(0);
  });

  it('done again, skips by default, adds again when told, and replaces what nobody has worked on', async () => {
    const ids = async (): Promise<string[]> => (await plan(target)).units.flatMap((u) => u.items.map((i) => i.id));
    const before = await ids();
    expect((await preview()).units[0]?.items[0]?.existing).toMatchObject({ title: 'Report', hasWork: false });
    const skipped = await carry();
    expect([skipped.skipped, skipped.itemIds, await ids()]).toEqual([2, [], before]);
    const replaced = await carry({ itemIds: [school.draftId], again: [{ itemId: school.draftId, how: 'replace' }] });
    expect([replaced.replacedIds.length, replaced.itemIds.length]).toEqual([1, 1]);
    const after = await ids();
    expect(after).toHaveLength(before.length);
    expect(after).not.toContain(replaced.replacedIds[0]);
  });

  it('does not replace what a student has worked on', async () => {
    const copy = (await preview()).units[0]!.items[0]!.existing!;
    const enrolled = await school.pool.query<{ id: string }>("select id from enrolment where course_id = $1 and role = 'student' limit 1", [
      target,
    ]);
    await school.pool.query('insert into submission (item_id, enrolment_id) values ($1, $2)', [copy.id, enrolled.rows[0]!.id]);
    expect((await preview()).units[0]?.items[0]?.existing?.hasWork).toBe(true);
    const answer = await school.agents.instructor
      .post(`/api/courses/${target}/carry`)
      .send(wish({ again: [{ itemId: school.itemId, how: 'replace' }] }))
      .expect(409);
    expect(answer.body.detail).toContain('“Report” has work or marks of students');
  });

  it('adds a category that is not there yet, with no weight, and says so', async () => {
    const { version, categories, ...policy } = (await school.agents.instructor.get(`/api/courses/${school.courseId}/policy`).expect(200))
      .body;
    const { weightsSum, totals, columns, ...rest } = policy;
    expect([weightsSum, totals.length]).toEqual([100_000, 2]);
    const renamed = categories.map((c: { title: string }) => (c.title === 'Assignments' ? { ...c, title: 'Bench work' } : c));
    await school.agents.instructor
      .put(`/api/courses/${school.courseId}/policy`)
      .send({ ...rest, version, categories: renamed })
      .expect(200);
    const done = await carry({ again: [{ itemId: school.itemId, how: 'add' }] });
    expect(done.categories).toEqual(['Bench work']);
    const there = (await school.agents.instructor.get(`/api/courses/${target}/policy`).expect(200)).body;
    expect(there.categories.find((c: { title: string }) => c.title === 'Bench work').weightPercent).toBe(0);
    expect(there.weightsSum).toBe(100_000);
  });

  it('refuses an item that is not of that course, and brings nothing', async () => {
    const before = JSON.stringify(await plan(target));
    await school.agents.instructor
      .post(`/api/courses/${target}/carry`)
      .send(wish({ itemIds: ['00000000-0000-4000-8000-000000000000'] }))
      .expect(422);
    expect(JSON.stringify(await plan(target))).toBe(before);
  });
});

describe('the policy of another course', () => {
  let fresh = '';
  const policy = async (id: string): Promise<PolicyView> =>
    (await school.agents.instructor.get(`/api/courses/${id}/policy`).expect(200)).body as PolicyView;
  const titles = (p: PolicyChange): string[] => p.categories.map((c) => `${c.title} ${c.weightPercent / 1000}`);
  const post = (path: string, body: CarryWish) => school.agents.instructor.post(`/api/courses/${fresh}/${path}`).send(body);
  beforeAll(async () => {
    const { terms } = (await school.agents.instructor.get('/api/course-start').expect(200)).body as { terms: { id: string }[] };
    const body = { code: 'HOR-1', run: 'p', title: 'Policies', termId: terms[0]!.id, timeZone: 'Europe/Lisbon', sections: ['Only'] };
    fresh = (
      (
        await school.agents.instructor
          .post('/api/courses')
          .send({ ...body, outline: 'empty' })
          .expect(200)
      ).body as { id: string }
    ).id;
  });

  it('is shown in sentences beside the one that is here, and comes over with its categories, weights and letters', async () => {
    const seen = (await post('carry/preview', wish()).expect(200)).body as CarryPreview;
    expect(seen.policy.refused).toBeNull();
    // Nothing counts here yet, so it is the one to begin with; once something does, it is not.
    expect(seen.policy.isUnused).toBe(true);
    expect(seen.policy.from.join(' ')).toContain('Bench work count 60 %');
    expect(seen.policy.here.join(' ')).not.toContain('Bench work');
    const before = await policy(fresh);
    const done = (await post('carry', wish({ hasPolicy: true })).expect(200)).body as CarryDone;
    const [from, now] = [await policy(school.courseId), await policy(fresh)];
    expect(titles(now)).toEqual(titles(from));
    expect(now.levels).toEqual(from.levels);
    expect([now.lateRatePercent, now.isMissingZero, now.decimals]).toEqual([from.lateRatePercent, from.isMissingZero, from.decimals]);
    expect(done.categories).toEqual([]);
    expect(titles(done.policy!.before)).toEqual(titles(before));
    expect(((await post('carry/preview', wish()).expect(200)).body as CarryPreview).policy.isUnused).toBe(false);
    // The item that came with it is in the category of that name.
    expect((await plan(fresh)).units[0]?.items.map((i) => i.categoryId)).toContain(now.categories[0]?.id);
  });

  it('leaves a category that holds items here without weight, and names it', async () => {
    const { totals, weightsSum, columns, ...now } = await policy(fresh);
    expect([totals.length, weightsSum, columns.length > 0]).toEqual([0, 100_000, true]);
    const renamed = now.categories.map((c, n) => (n === 0 ? { ...c, title: 'Bench logs' } : c));
    await school.agents.instructor
      .put(`/api/courses/${fresh}/policy`)
      .send({ ...now, categories: renamed })
      .expect(200);
    const done = (await post('carry', wish({ itemIds: [], hasPolicy: true })).expect(200)).body as CarryDone;
    expect(done.categories).toEqual(['Bench logs']);
    expect(titles(await policy(fresh))).toContain('Bench logs 0');
    expect((await policy(fresh)).weightsSum).toBe(100_000);
  });

  it('is refused where marks are given, since it would move grades unseen', async () => {
    const base = `/api/courses/${school.courseId}`;
    const cell = { columnId: school.columnId, enrolmentId: school.students[0], state: 'scored', raw: 7_000, seenEventId: null };
    await school.agents.instructor
      .put(`${base}/gradebook/cells`)
      .send({ ...cell, isAboveConfirmed: false, reason: '' })
      .expect(200);
    const back = wish({ fromCourseId: fresh, itemIds: [], hasPolicy: true });
    const before = titles(await policy(school.courseId));
    const seen = (await school.agents.instructor.post(`${base}/carry/preview`).send(back).expect(200)).body as CarryPreview;
    expect(seen.policy.refused).toContain('Marks are given here');
    const refused = await school.agents.instructor.post(`${base}/carry`).send(back).expect(409);
    expect(refused.body.detail).toContain('under Gradebook, Policy');
    expect(titles(await policy(school.courseId))).toEqual(before);
  });
});

describe('a text in its new course', () => {
  const [from, to, file, item] = ['a', 'b', 'c', 'd'].map((c) => `${c.repeat(8)}-7a34-4c7e-9a51-2d6a4f2f9a10`) as [
    string,
    string,
    string,
    string,
  ];
  const doc = (href: string): DocumentNode => ({
    type: 'doc',
    content: [{ type: 'paragraph', content: [{ type: 'text', text: 'x', marks: [{ type: 'link', attrs: { href } }] }] }],
  });
  const read = (href: string): string => JSON.stringify(rewrite(doc(href), from, to, new Map([[file, item]]), new Map([[item, file]])));

  it('leads to what came along, and leaves every other address as it was', () => {
    expect(read(`/courses/${from}/items/${item}`)).toContain(`/courses/${to}/items/${file}`);
    for (const href of [`/courses/${from}/items/${file}`, `/courses/${to}/items/${item}`, 'https://example.org/a?b=c', '#top'])
      expect(read(href)).toContain(`"${href}"`);
  });
});

describe('what comes later than the rest', () => {
  it('brings its note to next time, leads to what came before, and says which quizzes need their room again', async () => {
    const made = await school.agents.instructor
      .post(`/api/courses/${school.courseId}/items`)
      .send({ unitId: school.unitId, kind: 'quiz', title: 'In the workshop', position: 9 })
      .expect(200);
    const quizId = (made.body as { id: string }).id;
    await school.pool.query("update quiz set access_code = 'loupe', allowed_addresses = '{10.1.0.0/16}' where item_id = $1", [quizId]);
    await school.pool.query("update item set next_note = 'Take the small room' where id = $1", [quizId]);
    const before = (await preview()).units[0]?.items[0]?.existing?.id;
    expect(before).toBeDefined();
    const done = await carry({ itemIds: [quizId, school.draftId], again: [{ itemId: school.draftId, how: 'add' }] });
    expect(done.rooms).toEqual([
      'In the workshop: it was opened with a code, which is not copied; set a new one and it can be taken only at 10.1.0.0/16; look whether these are still the room’s',
    ]);
    const found = await school.pool.query(
      'select i.title, i.next_note, p.document::text as text from item i left join page p on p.item_id = i.id where i.id = any($1) order by i.kind desc',
      [done.itemIds],
    );
    expect(found.rows.map((row) => row.next_note as string)).toEqual(['Take the small room', '']);
    // The report came before: the page that comes now leads to it, and not back into the old course.
    expect(found.rows[1]?.text).toContain(`/courses/${target}/study/${before}`);
    expect(done.mentions.some((line) => line.includes('does not come along'))).toBe(false);
  });
});
