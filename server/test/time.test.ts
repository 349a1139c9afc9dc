import type { CarryPreview, CourseTime, PlanItem, Plan } from '@rosemary/api';
import { addTerm, withDb } from '../src/index.ts';
import { makeSchool, type TestSchool } from './school.ts';

let school: TestSchool;
beforeAll(async () => {
  school = await makeSchool('time');
}, 60_000);
afterAll(() => school.close());
const base = (): string => `/api/courses/${school.courseId}`;
const time = async (): Promise<CourseTime> => (await school.agents.instructor.get(`${base()}/time`).expect(200)).body as CourseTime;
const item = async (): Promise<PlanItem> =>
  ((await school.agents.instructor.get(`${base()}/plan`).expect(200)).body as Plan).units
    .flatMap((u) => u.items)
    .find((i) => i.id === school.itemId) as PlanItem;

describe('minutes asked and taken', () => {
  it('adds up each student’s visits, leaves out looks in passing, and says nothing of a few', async () => {
    const visit = (who: 'student' | 'second', seconds: number) =>
      school.agents[who].post(`${base()}/own/items/${school.itemId}/visits`).send({ seconds }).expect(200);
    await visit('student', 600);
    await visit('student', 900);
    await visit('second', 5);
    const found = (await time()).items.find((i) => i.id === school.itemId);
    expect(found?.taken).toMatchObject({ students: 1, verdict: 'too few', median: null });
    expect((await time()).items.some((i) => i.id === school.draftId)).toBe(false);
  });

  it('suggests what fits once five have had it open', async () => {
    for (let n = 0; n < 5; n += 1)
      await school.pool.query(
        `with p as (insert into person (email, given_name, family_name) values ($1, 'More', 'Student') returning id),
         e as (insert into enrolment (course_id, person_id, role, section_id) select $2, p.id, 'student', $3 from p returning id)
         insert into visit (item_id, enrolment_id, day, doing, last_at, seconds, longest_seconds) select $4, e.id, now()::date, 'reading', now(), 7200, 7200 from e`,
        [`more${n}@example.org`, school.courseId, school.sections[0], school.itemId],
      );
    // What is handed in is made off the screen: minutes it was open say nothing, and nothing is suggested.
    const found = (await time()).items.find((i) => i.id === school.itemId);
    expect(found?.taken).toMatchObject({ students: 6, median: 120, verdict: 'elsewhere', suggested: null });
    // A page is read where it stands.
    await school.pool.query(
      `insert into visit (item_id, enrolment_id, day, doing, last_at, seconds, longest_seconds)
       select $2, enrolment_id, day, doing, last_at, seconds, longest_seconds from visit where item_id = $1 and seconds = 7200`,
      [school.itemId, school.draftId],
    );
    const setDraft = (isDraft: boolean) => school.pool.query('update item set is_draft = $2 where id = $1', [school.draftId, isDraft]);
    await setDraft(false);
    const page = (await time()).items.find((i) => i.id === school.draftId);
    expect(page?.taken).toMatchObject({ students: 5, median: 120, verdict: 'more', suggested: 120 });
    await setDraft(true);
    await school.agents.student.get(`${base()}/time`).expect(403);
  });

  it('weeks far above the rest are shown and found by the check', async () => {
    const due = (week: number): string => new Date(Date.parse('2026-09-24T17:00:00Z') + week * 7 * 86_400_000).toISOString();
    for (let week = 0; week < 5; week += 1) {
      const { id, plan } = (
        await school.agents.instructor
          .post(`${base()}/items`)
          .send({ unitId: school.unitId, kind: 'assignment', title: `Task ${week}`, position: 0 })
      ).body as { id: string; plan: Plan };
      const version = plan.units[0]?.items.find((i) => i.id === id)?.version;
      await school.agents.instructor
        .patch(`${base()}/items/${id}`)
        .send({ version, dueAt: due(week + 4), estimatedMinutes: week === 4 ? 600 : 60 })
        .expect(200);
    }
    const { weeks, median } = await time();
    expect([weeks.filter((w) => w.isOverfull).map((w) => w.studentMinutes), median]).toEqual([[600], 60]);
    const { findings } = (await school.agents.instructor.get(`${base()}/check`).expect(200)).body;
    expect(findings.filter((f: { place: { kind: string } }) => f.place.kind === 'time').map((f: { text: string }) => f.text)).toEqual([
      expect.stringContaining('asks 10 h of a student; most weeks ask about 1 h'),
    ]);
  });
});

describe('a note to next time', () => {
  it('is kept with the item, comes up when the course is carried forward, comes along into the new item, and no student reads it', async () => {
    const { version } = await item();
    await school.agents.instructor.patch(`${base()}/items/${school.itemId}`).send({ version, nextNote: 'Shorter by half' }).expect(200);
    expect((await item()).nextNote).toBe('Shorter by half');
    const seen = await school.agents.student.get(`${base()}/own/items/${school.itemId}`).expect(200);
    expect(JSON.stringify(seen.body)).not.toContain('Shorter by half');
    const termId = await withDb(school.pool, true, (db) =>
      addTerm(db, { title: 'Spring', startsOn: '2027-02-22', endsOn: '2027-05-30', meetingDays: [1, 3], holidays: [] }),
    );
    const made = await school.agents.instructor
      .post('/api/courses')
      .send({ code: 'HOR-1', run: 'b', title: 'Again', termId, timeZone: 'Europe/Lisbon', sections: ['Only'], outline: 'empty' })
      .expect(200);
    const wish = { fromCourseId: school.courseId, itemIds: [school.itemId], hasPolicy: false, hasDates: true, weekdays: [], again: [] };
    const path = `/api/courses/${(made.body as { id: string }).id}/carry`;
    const preview = (await school.agents.instructor.post(`${path}/preview`).send(wish).expect(200)).body as CarryPreview;
    expect(preview.units[0]?.items.find((i) => i.id === school.itemId)?.nextNote).toBe('Shorter by half');
    await school.agents.instructor.post(path).send(wish).expect(200);
    const copy = ((await school.agents.instructor.get(`/api/courses/${(made.body as { id: string }).id}/plan`)).body as Plan).units[0]
      ?.items[0];
    expect(copy?.nextNote).toBe('Shorter by half');
  });
});
