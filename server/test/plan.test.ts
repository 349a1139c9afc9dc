import { paragraphs } from '@rosemary/api';
import supertest from 'supertest';
import { makePool, run, withDb } from '../src/index.ts';
import { makeSchool, makeTestApp, PASSWORD, START, type TestSchool } from './school.ts';

let school: TestSchool;
beforeAll(async () => {
  school = await makeSchool('plan');
}, 60_000);
afterAll(() => school.close());
const base = (): string => `/api/courses/${school.courseId}`;
const item = async () => (await school.agents.instructor.get(`${base()}/items/${school.itemId}`).expect(200)).body.item;

describe('an item', () => {
  it.each([
    [{ title: '' }, 'title', 'empty'],
    [{ title: 'x'.repeat(161) }, 'title', '160'],
    [{ possible: -1 }, 'possible', 'at least 0'],
    [{ possible: 'many' }, 'possible', 'not a number'],
    [{ dueAt: 'soon' }, 'dueAt', 'not a date'],
    [{ opensAt: '2026-12-01T00:00:00Z' }, 'closesAt', 'closes before it opens'],
    [{ closesAt: '2026-10-05T10:00:00Z' }, 'closesAt', 'closes before it is due'],
    [{ estimatedMinutes: 7000 }, 'estimatedMinutes', '6000'],
  ])('refuses %p and names the field and the mend', async (change, field, words) => {
    const answer = await school.agents.instructor
      .patch(`${base()}/items/${school.itemId}`)
      .send({ ...change, version: (await item()).version })
      .expect(422);
    expect(answer.body.pointers.map((p: { field: string }) => p.field)).toContain(field);
    expect(answer.body.detail).toContain(words);
  });

  it('warns of a due date outside the term, and keeps it', async () => {
    const changed = await school.agents.instructor
      .patch(`${base()}/items/${school.itemId}`)
      .send({ closesAt: null, dueAt: '2027-03-01T10:00:00Z', version: (await item()).version })
      .expect(200);
    expect(changed.body.warnings[0]).toContain('outside the term');
  });

  it('gives both versions when two people save', async () => {
    const { version } = await item();
    await school.agents.instructor.patch(`${base()}/items/${school.itemId}`).send({ title: 'Mine', version }).expect(200);
    const conflict = await school.agents.instructor
      .patch(`${base()}/items/${school.itemId}`)
      .send({ title: 'Theirs', version })
      .expect(409);
    expect(conflict.body.current.title).toBe('Mine');
  });

  it('has other dates for a section, and the student of it sees them with the reason', async () => {
    const { version } = await item();
    await school.agents.instructor.patch(`${base()}/items/${school.itemId}`).send({ dueAt: '2026-10-07T09:00:00Z', version }).expect(200);
    await school.agents.instructor
      .put(`${base()}/items/${school.itemId}/variants`)
      .send({
        variants: [{ sectionId: school.sections[1], enrolmentId: null, opensAt: null, dueAt: '2026-10-09T09:00:00Z', closesAt: null }],
      })
      .expect(200);
    const own = (who: 'student' | 'second') => school.agents[who].get(`${base()}/own/items/${school.itemId}`).expect(200);
    expect((await own('student')).body.dates.due).toEqual({ at: '2026-10-07T09:00:00.000Z', reason: 'as for everyone' });
    expect((await own('second')).body.dates.due).toEqual({ at: '2026-10-09T09:00:00.000Z', reason: 'set for Evening' });
  });
});

describe('the outline', () => {
  it('adds, reorders, deletes and brings back', async () => {
    const unit = (await school.agents.instructor.post(`${base()}/units`).send({ title: 'Second unit' }).expect(200)).body;
    const page = (
      await school.agents.instructor
        .post(`${base()}/items`)
        .send({ unitId: unit.id, kind: 'page', title: 'New page', position: 0 })
        .expect(200)
    ).body;
    const { units } = page.plan;
    const moved = [
      { id: units[1].id, itemIds: [] },
      { id: units[0].id, itemIds: [page.id, ...units[0].items.map((i: { id: string }) => i.id)] },
    ];
    const after = (await school.agents.instructor.put(`${base()}/order`).send({ units: moved }).expect(200)).body;
    expect(after.units.map((u: { title: string }) => u.title)).toEqual(['Second unit', 'Bench']);
    expect(after.units[1].items[0].title).toBe('New page');
    await school.agents.instructor
      .put(`${base()}/order`)
      .send({ units: moved.slice(1) })
      .expect(409);
    const without = (await school.agents.instructor.delete(`${base()}/items/${page.id}`).expect(200)).body;
    expect(JSON.stringify(without)).not.toContain('New page');
    expect(JSON.stringify((await school.agents.instructor.post(`${base()}/items/${page.id}/restore`).expect(200)).body)).toContain(
      'New page',
    );
    await school.agents.instructor.delete(`${base()}/units/${unit.id}`).expect(200);
    expect((await school.agents.instructor.post(`${base()}/units/${unit.id}/restore`).expect(200)).body.units).toHaveLength(2);
  });

  it('does not add a kind that is none', async () => {
    await school.agents.instructor
      .post(`${base()}/items`)
      .send({ unitId: school.unitId, kind: 'survey', title: 'x', position: 0 })
      .expect(422);
  });

  it('does not reach into another course', async () => {
    const other = `/api/courses/${school.otherCourseId}`;
    await school.agents.outsider.patch(`${other}/items/${school.itemId}`).send({ title: 'stolen', version: 1 }).expect(404);
    await school.agents.outsider.delete(`${other}/items/${school.itemId}`).expect(404);
    await school.agents.outsider
      .put(`${other}/items/${school.itemId}/page`)
      .send({ document: paragraphs('x'), version: 1 })
      .expect(404);
    await school.agents.outsider.get(`${other}/marking/${school.itemId}`).expect(404);
    await school.agents.outsider.get(`${other}/gradebook/working/${school.students[0]}`).expect(404);
  });
});

describe('pages and rubrics', () => {
  it('keep a page’s text by version, with its pictures’ files', async () => {
    const path = `${base()}/items/${school.draftId}/page`;
    await school.agents.instructor
      .put(path)
      .send({ document: paragraphs('words'), version: 1 })
      .expect(200, { version: 2, isWorking: false });
    expect(
      (
        await school.agents.instructor
          .put(path)
          .send({ document: paragraphs('old'), version: 1 })
          .expect(409)
      ).body.current.version,
    ).toBe(2);
    const missing = {
      type: 'doc',
      content: [{ type: 'picture', attrs: { fileId: school.itemId, src: `${base()}/files/${school.itemId}`, alt: 'x' } }],
    };
    await school.agents.instructor.put(path).send({ document: missing, version: 2 }).expect(422);
  });

  it('mark by levels, keep what was used, and need every criterion', async () => {
    const level = (points: number) => ({ id: null, title: '', descriptor: 'd', points });
    const made = (
      await school.agents.instructor
        .put(`${base()}/items/${school.itemId}/rubric`)
        .send({
          version: 0,
          criteria: [
            { id: null, title: 'Observation', levels: [level(0), level(40_000)] },
            { id: null, title: 'Method', levels: [level(0), level(20_000)] },
          ],
        })
        .expect(200)
    ).body.rubric;
    await school.agents.instructor.put(`${base()}/items/${school.itemId}/rubric`).send({ version: 0, criteria: [] }).expect(409);
    const path = `${base()}/marking/${school.itemId}/${school.students[0]}`;
    const choices: Record<string, string> = { [made.criteria[0].id]: made.criteria[0].levels[1].id };
    const half = (
      await school.agents.instructor
        .put(`${path}/mark`)
        .send({ version: 0, choices, score: null, scoreReason: '', feedback: null })
        .expect(200)
    ).body;
    expect(half).toMatchObject({ total: 40_000, isComplete: false });
    expect(
      (await school.agents.instructor.post(`${path}/finish`).send({ version: half.version, isAboveConfirmed: false }).expect(422)).body
        .detail,
    ).toContain('no level yet');
    choices[made.criteria[1].id] = made.criteria[1].levels[1].id;
    const whole = (
      await school.agents.instructor
        .put(`${path}/mark`)
        .send({ version: half.version, choices, score: 50_000, scoreReason: '', feedback: null })
        .expect(200)
    ).body;
    expect(
      (await school.agents.instructor.post(`${path}/finish`).send({ version: whole.version, isAboveConfirmed: false }).expect(422)).body
        .pointers[0].field,
    ).toBe('scoreReason');
  });
});

describe('two server processes on one database', () => {
  it('share sessions and see each other’s work at once', async () => {
    const second = makePool(school.url, 2);
    const app = makeTestApp(second, { at: START });
    const signedIn = await supertest(school.app)
      .post('/api/sign-in')
      .send({ email: 'instructor@example.org', password: PASSWORD })
      .expect(200);
    const cookie = String(signedIn.headers['set-cookie']).split(';')[0] ?? '';
    const plan = await supertest(app).get(`${base()}/plan`).set('cookie', cookie).expect(200);
    expect(plan.body.units[1].title).toBe('Bench');
    await second.end();
  });
});

describe('progress, desk and roster', () => {
  it('count what was really opened and handed in', async () => {
    await school.agents.student.post(`${base()}/own/items/${school.itemId}/visits`).send({ seconds: 30 }).expect(200);
    const view = (await school.agents.instructor.get(`${base()}/progress`).expect(200)).body;
    const place = view.items.findIndex((i: { id: string }) => i.id === school.itemId);
    expect(view.people.map((p: { steps: string }) => p.steps[place])).toEqual(['0', '0']);
    expect(view.people[0].lastVisit).not.toBeNull();
    const detail = (await school.agents.instructor.get(`${base()}/progress/people/${school.students[0]}`).expect(200)).body;
    expect(detail.items[0].how).toContain('first opened');
  });

  it('take what is opened for done, where that is the rule', async () => {
    const standing = async (): Promise<string[]> => {
      const view = (await school.agents.instructor.get(`${base()}/progress`).expect(200)).body;
      const place = view.items.findIndex((i: { id: string }) => i.id === school.itemId);
      return view.people.map((p: { steps: string }) => p.steps[place]);
    };
    expect(await standing()).toEqual(['0', '0']);
    await withDb(school.pool, true, (db) => run(db, "update item set done_rule = 'opened' where id = $1", [school.itemId]));
    await school.agents.second.post(`${base()}/own/items/${school.itemId}/visits`).send({ seconds: 30 }).expect(200);
    expect(await standing()).toEqual(['1', '1']);
  });

  it('say on the Desk what is still a draft and due, and put a slip off', async () => {
    await withDb(school.pool, true, (db) =>
      run(db, 'update item set due_at = to_timestamp($2 / 1000.0) where id = $1', [school.draftId, START + 3 * 86_400_000]),
    );
    const desk = (await school.agents.instructor.get('/api/desk').expect(200)).body;
    const slip = desk.slips.find((s: { verb: string }) => s.verb === 'Finish');
    expect(slip).toMatchObject({ text: 'Secret page', strong: 'Thu 8 Oct 10:00' });
    const after = (
      await school.agents.instructor
        .post('/api/desk/slips')
        .send({ slip: slip.id, until: new Date(START + 86_400_000).toISOString() })
        .expect(200)
    ).body;
    expect(after.slips.some((s: { id: string }) => s.id === slip.id)).toBe(false);
    expect(after.putOff[0].back).toBe('back on Tuesday');
    expect((await school.agents.student.get('/api/desk').expect(200)).body.courses).toEqual([]);
  });

  it('withdraw a student, who then finds no course, and take them back with all their work', async () => {
    const find = async () =>
      (await school.agents.instructor.get(`${base()}/roster`).expect(200)).body.members.find(
        (m: { enrolmentId: string }) => m.enrolmentId === school.students[1],
      );
    await school.agents.instructor
      .patch(`${base()}/roster/${school.students[1]}`)
      .send({ version: (await find()).version, isWithdrawn: true })
      .expect(200);
    await school.agents.second.get(base()).expect(404);
    await school.agents.instructor.patch(`${base()}/roster/${school.students[1]}`).send({ version: 1, isWithdrawn: false }).expect(409);
    await school.agents.instructor
      .patch(`${base()}/roster/${school.students[1]}`)
      .send({ version: (await find()).version, isWithdrawn: false })
      .expect(200);
    await school.agents.second.get(base()).expect(200);
  });
});

describe('the school', () => {
  it('adds terms, people and courses, and refuses what cannot be', async () => {
    const { administrator } = school.agents;
    const term = { title: 'Spring', startsOn: '2027-02-01', endsOn: '2027-01-01', meetingDays: [1], holidays: [] };
    expect((await administrator.post('/api/school/terms').send(term).expect(422)).body.detail).toContain('not after the first');
    const made = (
      await administrator
        .post('/api/school/terms')
        .send({ ...term, endsOn: '2027-05-28' })
        .expect(200)
    ).body;
    await administrator
      .post('/api/school/people')
      .send({ email: 'first@example.org', givenName: 'A', familyName: 'B', password: PASSWORD })
      .expect(422);
    const person = (
      await administrator
        .post('/api/school/people')
        .send({ email: 'new@example.org', givenName: 'New', familyName: 'Teacher', password: PASSWORD })
        .expect(200)
    ).body;
    const course = {
      code: 'X-1',
      run: 'r',
      title: 'New course',
      termId: made.id,
      timeZone: 'Nowhere/Land',
      instructorId: person.id,
      sections: ['One'],
    };
    expect((await administrator.post('/api/school/courses').send(course).expect(422)).body.pointers[0].field).toBe('timeZone');
    await administrator
      .post('/api/school/courses')
      .send({ ...course, timeZone: 'Europe/Lisbon' })
      .expect(200);
    expect(
      (
        await administrator
          .post('/api/school/courses')
          .send({ ...course, timeZone: 'Europe/Lisbon' })
          .expect(422)
      ).body.detail,
    ).toContain('already');
  });
});
