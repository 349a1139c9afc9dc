import type { BatchDone, Gradebook, Plan, PlanItem, StudentCourse, StudentItem } from '@rosemary/api';
import { rows, withDb } from '../src/index.ts';
import { listVisible } from '../src/opening/visible.ts';
import { finishScore, handInText, makeSchool, START, type TestSchool } from './school.ts';

const DAY = 86_400_000;

let school: TestSchool;

beforeAll(async () => {
  school = await makeSchool('release');
}, 60_000);

afterAll(() => school.close());

const base = (): string => `/api/courses/${school.courseId}`;

const iso = (at: number): string => new Date(at).toISOString();

const plan = async (): Promise<Plan> => (await school.agents.instructor.get(`${base()}/plan`).expect(200)).body as Plan;

const item = async (id = school.itemId): Promise<PlanItem> =>
  (await plan()).units.flatMap((u) => u.items).find((i) => i.id === id) as PlanItem;

const patch = async (change: object, status = 200, id = school.itemId) =>
  school.agents.instructor
    .patch(`${base()}/items/${id}`)
    .send({ ...change, version: (await item(id)).version })
    .expect(status);

const patchUnit = async (change: object, status = 200) =>
  school.agents.instructor
    .patch(`${base()}/units/${school.unitId}`)
    .send({ ...change, version: (await plan()).units[0]?.version })
    .expect(status);

const add = async (title: string, kind = 'page', more: object = {}): Promise<string> => {
  const { id } = (
    await school.agents.instructor.post(`${base()}/items`).send({ unitId: school.unitId, kind, title, position: 0 }).expect(200)
  ).body as { id: string };
  await patch({ isDraft: false, ...more }, 200, id);
  return id;
};

const see = async (who: 'student' | 'second', id = school.itemId): Promise<StudentItem | null> => {
  const answer = await school.agents[who].get(`${base()}/own/items/${id}`);
  return answer.status === 404 ? null : (answer.body as StudentItem);
};

const titles = async (who: 'student' | 'second'): Promise<string[]> =>
  ((await school.agents[who].get(`${base()}/own/outline`).expect(200)).body as StudentCourse).units.flatMap((u) =>
    u.entries.map((e) => e.title),
  );

const everyone = { audience: [] };

const morning = () => ({ audience: [{ sectionId: school.sections[0], enrolmentId: null }] });

describe('whom something is for', () => {
  it('is a section: the others find it nowhere, and it is in no total of theirs', async () => {
    await patch(morning());
    expect(await see('student')).toMatchObject({ visibility: 'open' });
    expect(await see('second')).toBeNull();
    for (const path of [
      `${base()}/own/outline`,
      `${base()}/own/week`,
      base(),
      '/api/find?q=Report',
      '/api/this-week',
      `${base()}/programme`,
    ])
      expect([path, JSON.stringify((await school.agents.second.get(path).expect(200)).body)]).toEqual([
        path,
        expect.not.stringContaining('Report'),
      ]);
    const book = (await school.agents.instructor.get(`${base()}/gradebook`).expect(200)).body as Gradebook;
    expect(JSON.stringify(book)).toContain('Report');
    const stack = (await school.agents.instructor.get(`${base()}/marking/${school.itemId}`).expect(200)).body;
    expect(stack.entries.map((e: { enrolmentId: string }) => e.enrolmentId)).toEqual([school.students[0]]);
    await patch(everyone);
    expect(await see('second')).toMatchObject({ visibility: 'open' });
  });

  it('is a student, by themselves; and a whole unit, with everything in it', async () => {
    await patch({ audience: [{ sectionId: null, enrolmentId: school.students[1] }] });
    expect([await see('student'), (await see('second'))?.visibility]).toEqual([null, 'open']);
    await patch(everyone);
    await patchUnit(morning());
    expect([(await titles('student')).length > 0, await titles('second')]).toEqual([true, []]);
    await patchUnit(everyone);
  });

  it('refuses sections and students of other courses, and one who is both', async () => {
    const foreign = (await school.pool.query<{ id: string }>('select id from section where course_id = $1', [school.otherCourseId])).rows[0]
      ?.id;
    const answer = await patch({ audience: [{ sectionId: foreign, enrolmentId: null }] }, 422);
    expect(answer.body.pointers[0].field).toBe('audience');
    await patch({ audience: [{ sectionId: school.sections[0], enrolmentId: school.students[0] }] }, 422);
    await patch({ audience: [{ sectionId: null, enrolmentId: null }] }, 422);
  });

  it('can be set for several items together, and taken back together', async () => {
    const id = await add('Bench rules');
    const [one, two] = [await item(), await item(id)];
    const changes = [one, two].map((i) => ({ id: i.id, version: i.version, ...morning() }));
    const done = (await school.agents.instructor.put(`${base()}/items`).send({ changes }).expect(200)).body as BatchDone;
    expect([await see('second'), await see('second', id)]).toEqual([null, null]);
    await school.agents.instructor.put(`${base()}/items`).send(done.undo).expect(200);
    expect((await see('second', id))?.title).toBe('Bench rules');
  });
});

describe('staff-only material', () => {
  it('can never be opened, alone or among several, until the mark is removed', async () => {
    const id = await add('Answers of the staff');
    const open = await patch({ isStaffOnly: true }, 422, id);
    expect(open.body.detail).toContain('open to students');
    await patch({ isDraft: true, isStaffOnly: true }, 200, id);
    expect((await patch({ isDraft: false }, 422, id)).body.detail).toContain('can never be opened');
    const changes = [{ id, version: (await item(id)).version, isDraft: false }];
    await school.agents.instructor.put(`${base()}/items`).send({ changes }).expect(422);
    await school.agents.instructor
      .post(`${base()}/items/${id}/hand-openings`)
      .send({ enrolmentId: null, until: iso(START + DAY) })
      .expect(422);
    expect(await see('student', id)).toBeNull();
    await patch({ isStaffOnly: false }, 200, id);
    await patch({ isDraft: false }, 200, id);
    expect((await see('student', id))?.visibility).toBe('open');
  });
  it('a staff-only unit is seen by no student', async () => {
    await patchUnit({ isStaffOnly: true });
    expect(await titles('student')).toEqual([]);
    await patchUnit({ isStaffOnly: false });
  });
});

describe('the dates of a unit', () => {
  it('hold everything in it, with the reason; contradictions are refused by name', async () => {
    expect((await patchUnit({ opensAt: iso(START + 2 * DAY), closesAt: iso(START + DAY) }, 422)).body.pointers[0].field).toBe('closesAt');
    await patchUnit({ opensAt: iso(START + DAY), announcedAt: iso(START - DAY) });
    const seen = await see('student');
    expect([seen?.visibility, seen?.dates.opens.reason, seen?.assignment]).toEqual(['announced', 'with the unit “Bench”', null]);
    expect(seen?.waitsFor).toMatch(/^opens Tue 6 Oct/);
    await patchUnit({ announcedAt: iso(START + 12 * 3_600_000) });
    expect(await see('student')).toBeNull();
    await patchUnit({ opensAt: null, announcedAt: null });
  });
  it('a change seen by someone else first is a conflict', async () => {
    const version = (await plan()).units[0]?.version ?? 0;
    const answer = await school.agents.instructor
      .patch(`${base()}/units/${school.unitId}`)
      .send({ version: version - 1, title: 'X' })
      .expect(409);
    expect(answer.body.current.title).toBe('Bench');
  });
});

describe('opening rules', () => {
  it('keep an item shut until another is done, and say so; nothing of its text goes out before', async () => {
    const first = await add('Read me first', 'page', { doneRule: 'ticked' });
    const second = await add('Then this');
    await school.agents.instructor
      .put(`${base()}/items/${second}/page`)
      .send({ version: 1, document: { type: 'doc', content: [{ type: 'paragraph', content: [{ type: 'text', text: 'Unobtainable' }] }] } })
      .expect(200);
    await patch({ opening: { needs: 'all', rules: [{ kind: 'done', itemId: first }] } }, 200, second);
    const shut = await see('student', second);
    expect([shut?.visibility, shut?.waitsFor, shut?.page]).toEqual(['announced', 'opens when “Read me first” is done', null]);
    expect(JSON.stringify((await school.agents.student.get('/api/find?q=Unobtainable')).body)).not.toContain('Then this');
    await school.agents.student.post(`${base()}/own/items/${second}/visits`).send({ seconds: 5 }).expect(404);
    await school.agents.student.put(`${base()}/own/items/${second}/tick`).send({ isTicked: true }).expect(404);
    await school.agents.student.put(`${base()}/own/items/${first}/tick`).send({ isTicked: true }).expect(200);
    expect([(await see('student', second))?.visibility, (await see('second', second))?.visibility]).toEqual(['open', 'announced']);
    expect((await see('student', first))?.isDone).toBe(true);
    await school.agents.student.put(`${base()}/own/items/${first}/tick`).send({ isTicked: false }).expect(200);
    expect((await see('student', second))?.visibility).toBe('announced');
    expect((await school.agents.student.put(`${base()}/own/items/${school.itemId}/tick`).send({ isTicked: true })).status).toBe(409);
  });

  it('a score counts once it is released, and not before', async () => {
    const next = await add('For those who can');
    await patch({ opening: { needs: 'all', rules: [{ kind: 'score', itemId: school.itemId, least: 8000 }] } }, 200, next);
    await handInText(school, 'student', 'Work');
    await finishScore(school, school.students[0], 9000);
    expect((await see('student', next))?.visibility).toBe('announced');
    await school.agents.instructor.post(`${base()}/marking/${school.itemId}/release`).send({ enrolmentIds: null }).expect(200);
    expect((await see('student', next))?.visibility).toBe('open');
    expect((await see('second', next))?.waitsFor).toBe('opens when you have at least 8 points in “Report”');
  });

  it('refuses an item of another course, itself, and rules half said', async () => {
    const rules = (...list: object[]) => ({ opening: { needs: 'all', rules: list } });
    await patch(rules({ kind: 'done', itemId: school.itemId }), 422);
    await patch(rules({ kind: 'done', itemId: '00000000-0000-4000-8000-000000000000' }), 422);
    await patch(rules({ kind: 'score', itemId: school.itemId }), 422);
    await patch(rules({ kind: 'date', at: 'soon' }), 422);
  });

  it('turning in a circle are found by the check', async () => {
    const [a, b] = [await add('Chicken'), await add('Egg')];
    await patch({ opening: { needs: 'all', rules: [{ kind: 'done', itemId: b }] } }, 200, a);
    await patch({ opening: { needs: 'all', rules: [{ kind: 'done', itemId: a }] } }, 200, b);
    const { findings } = (await school.agents.instructor.get(`${base()}/check`).expect(200)).body;
    const found = findings.filter((f: { place: { field?: string } }) => f.place.field === 'opening');
    expect(found.map((f: { place: { itemId: string } }) => f.place.itemId).sort()).toEqual([a, b].sort());
    expect(found[0].text).toContain('can never open');
  });

  it('come along when items are duplicated together', async () => {
    const [a, b] = [await add('Before'), await add('After')];
    await patch({ opening: { needs: 'any', rules: [{ kind: 'done', itemId: a }] } }, 200, b);
    const { made } = (
      await school.agents.instructor
        .post(`${base()}/items/duplicates`)
        .send({ itemIds: [a, b] })
        .expect(200)
    ).body;
    expect((await item(made[1])).opening).toEqual({ needs: 'any', rules: [{ kind: 'done', itemId: made[0] }] });
  });
});

describe('opening by hand', () => {
  it('is for one student until a time, before its date and past its rules; it can be ended', async () => {
    const id = await add('Later', 'page', { opensAt: iso(START + 10 * DAY) });
    const opened = await school.agents.instructor
      .post(`${base()}/items/${id}/hand-openings`)
      .send({ enrolmentId: school.students[0], until: iso(START + DAY) })
      .expect(200);
    expect(opened.body.item.handOpenings).toMatchObject([{ name: 'Tester, First', until: iso(START + DAY) }]);
    expect([(await see('student', id))?.visibility, (await see('second', id))?.visibility]).toEqual(['open', 'announced']);
    school.clock.at = START + DAY;
    expect((await see('student', id))?.visibility).toBe('announced');
    school.clock.at = START;
    await school.agents.instructor.delete(`${base()}/items/${id}/hand-openings/${opened.body.id}`).expect(200);
    expect((await see('student', id))?.visibility).toBe('announced');
    await school.agents.instructor.delete(`${base()}/items/${id}/hand-openings/${opened.body.id}`).expect(404);
  });
  it('lets a closed assignment be handed in again, for everyone', async () => {
    const id = await add('Closed task', 'assignment', { dueAt: iso(START - 2 * DAY), closesAt: iso(START - DAY) });
    expect((await see('second', id))?.canHandIn).toBe(false);
    await school.agents.instructor
      .post(`${base()}/items/${id}/hand-openings`)
      .send({ enrolmentId: null, until: iso(START + DAY) })
      .expect(200);
    const seen = await see('second', id);
    expect([seen?.canHandIn, seen?.dates.closes]).toEqual([true, { at: iso(START + DAY), reason: 'opened by hand until then' }]);
  });
  it('refuses a time that is past, a draft, a student of another course', async () => {
    const wish = (more: object) => ({ enrolmentId: null, until: iso(START + DAY), ...more });
    const post = (id: string, body: object) => school.agents.instructor.post(`${base()}/items/${id}/hand-openings`).send(body);
    expect((await post(school.itemId, wish({ until: iso(START) }))).body.detail).toContain('past');
    expect((await post(school.draftId, wish({}))).body.detail).toContain('draft');
    expect((await post(school.itemId, wish({ enrolmentId: '00000000-0000-4000-8000-000000000000' }))).status).toBe(404);
  });
});

describe('a change to something running', () => {
  let id: string;
  beforeAll(async () => {
    id = await add('Running task', 'assignment', { dueAt: iso(START + 5 * DAY) });
    await school.agents.student.post(`${base()}/own/items/${id}/visits`).send({ seconds: 0 }).expect(200);
  });
  const due = async (who: 'student' | 'second') => (await see(who, id))?.dates.due;

  it('names whom it touches, by section', async () => {
    expect((await school.agents.instructor.get(`${base()}/items/${id}/touched`).expect(200)).body).toEqual({
      students: 2,
      begun: 1,
      sections: [
        { id: school.sections[0], title: 'Morning', students: 1, begun: 1 },
        { id: school.sections[1], title: 'Evening', students: 1, begun: 0 },
      ],
    });
  });
  it('can be for those who have not begun: the others keep their date', async () => {
    await patch({ dueAt: iso(START + 8 * DAY), whom: 'not begun' }, 200, id);
    expect([await due('student'), await due('second')]).toEqual([
      { at: iso(START + 5 * DAY), reason: 'set for this student' },
      { at: iso(START + 8 * DAY), reason: 'as for everyone' },
    ]);
  });
  it('can be for chosen sections: the item keeps its own', async () => {
    await patch({ dueAt: iso(START + 9 * DAY), whom: [school.sections[1]] }, 200, id);
    expect([(await item(id)).dueAt, await due('second')]).toEqual([
      iso(START + 8 * DAY),
      { at: iso(START + 9 * DAY), reason: 'set for Evening' },
    ]);
    await patch({ dueAt: null, whom: [school.sections[1]] }, 422, id);
    await patch({ dueAt: iso(START + 9 * DAY), whom: ['00000000-0000-4000-8000-000000000000'] }, 422, id);
  });
});

describe('one item alone', () => {
  it('is judged as it is among all: by what it waits for, and what that waits for', async () => {
    await patch(everyone);
    const first = await add('The first step');
    const second = await add('The second step', 'page', { opening: { needs: 'all', rules: [{ kind: 'done', itemId: first }] } });
    await add('The third step', 'page', {
      announcedAt: iso(START - DAY),
      opening: { needs: 'any', rules: [{ kind: 'done', itemId: second }] },
    });
    await school.agents.student.post(`${base()}/own/items/${first}/visits`).send({ seconds: 5 }).expect(200);
    let looked = 0;
    for (const enrolmentId of school.students) {
      const [sectionId] = (
        await school.pool.query<{ section_id: string }>('select section_id from enrolment where id = $1', [enrolmentId])
      ).rows.map((r) => r.section_id);
      const member = { enrolmentId, sectionIds: [sectionId ?? ''] };
      await withDb(school.pool, false, async (db) => {
        for (const now of [START, START + 4 * DAY, START + 30 * DAY]) {
          const all = await listVisible(db, school.courseId, member, now);
          const items = (await rows<{ id: string }>(db, 'select id from item where course_id = $1', [school.courseId])).map((r) => r.id);
          for (const id of items) {
            expect(await listVisible(db, school.courseId, member, now, [id])).toEqual(all.filter((v) => v.item.id === id));
            looked += 1;
          }
        }
      });
    }
    expect(looked).toBeGreaterThan(30);
  });
});
