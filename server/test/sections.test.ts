import { paragraphs, type Announcements, type SectionMoved, type SectionsParted } from '@rosemary/api';
import { tellAnnouncements } from '../src/announcements/announcements.ts';
import { doJob, makeSchool, START, type TestSchool } from './school.ts';

let school: TestSchool;
beforeEach(async () => {
  school = await makeSchool('sections');
}, 60_000);
afterEach(() => school.close());

const HOUR = 3_600_000;
const iso = (at: number): string => new Date(at).toISOString();
const base = (): string => `/api/courses/${school.courseId}`;
const teacher = () => school.agents.instructor;
type Who = 'instructor' | 'student' | 'second';

const join = async (from: string, into: string): Promise<SectionMoved> =>
  (await teacher().post(`${base()}/sections/${from}/join`).send({ into }).expect(200)).body as SectionMoved;
const part = async (actId: string): Promise<SectionsParted> =>
  (await teacher().post(`${base()}/section-partings`).send({ actId }).expect(200)).body as SectionsParted;
const say = (title: string, sectionId: string, publishAt: string | null = null) =>
  teacher()
    .post(`${base()}/announcements`)
    .send({ version: 0, title, document: paragraphs('Read it.'), publishAt, sectionIds: [sectionId], tells: true })
    .expect(200);
const list = async (who: Who) =>
  ((await school.agents[who].get(`${base()}/announcements`).expect(200)).body as Announcements).announcements;
const titles = async (who: Who): Promise<string[]> => (await list(who)).map((a) => a.title).sort();
const readers = async (): Promise<Record<string, unknown>> =>
  Object.fromEntries((await list('instructor')).map((a) => [a.title, a.readers]));
const sectionsNow = async (): Promise<(readonly [string, number])[]> =>
  (await teacher().get(`${base()}/settings`).expect(200)).body.sections.map((s: { title: string; students: number }) => [
    s.title,
    s.students,
  ]);

/** The first student is of the morning, the second of the evening. */
const [MORNING, EVENING] = [0, 1] as const;
const sectionOf = (n: 0 | 1): string => school.sections[n];

describe('what was said to a section that was joined to another', () => {
  it('stays with those it was said to, who are counted as its readers', async () => {
    await say('For the evening', sectionOf(EVENING));
    const [one] = await list('second');
    await school.agents.second.post(`${base()}/announcements/${one?.id}/read`).expect(200);
    expect(await readers()).toEqual({ 'For the evening': { read: 1, of: 1 } });
    school.clock.at += HOUR;
    await join(sectionOf(EVENING), sectionOf(MORNING));
    expect(await readers()).toEqual({ 'For the evening': { read: 1, of: 1 } });
    expect(await titles('second')).toEqual(['For the evening']);
    expect(await titles('student')).toEqual([]);
  });

  it('reaches those who came from it when it was written before and is told after', async () => {
    await say('Tomorrow, for the evening', sectionOf(EVENING), iso(START + 24 * HOUR));
    await join(sectionOf(EVENING), sectionOf(MORNING));
    await doJob(school, tellAnnouncements, START + 25 * HOUR);
    school.clock.at = START + 25 * HOUR;
    expect(await titles('second')).toEqual(['Tomorrow, for the evening']);
    const told = (await school.agents.second.get('/api/notices').expect(200)).body.notices as { words: string }[];
    expect(told.map((n) => n.words)).toContain('Tomorrow, for the evening');
    expect((await school.agents.student.get('/api/notices').expect(200)).body.notices).toEqual([]);
  });

  it('is theirs after the parting too, with what was said to the other section while they were in it', async () => {
    const { actId } = await join(sectionOf(EVENING), sectionOf(MORNING));
    school.clock.at += HOUR;
    await say('While together', sectionOf(MORNING));
    school.clock.at += HOUR;
    await part(actId);
    school.clock.at += HOUR;
    await say('After the parting', sectionOf(MORNING));
    expect(await titles('second')).toEqual(['While together']);
    expect(await titles('student')).toEqual(['After the parting', 'While together']);
    expect(await readers()).toEqual({ 'While together': { read: 0, of: 2 }, 'After the parting': { read: 0, of: 1 } });
  });
});

describe('what is for a section that was joined to another', () => {
  it('stays for those who came from it, and for them alone', async () => {
    const item = (await teacher().get(`${base()}/items/${school.itemId}`).expect(200)).body.item as { version: number };
    await teacher()
      .patch(`${base()}/items/${school.itemId}`)
      .send({ version: item.version, audience: [{ sectionId: sectionOf(EVENING), enrolmentId: null }] })
      .expect(200);
    const status = async (who: Who): Promise<number> => (await school.agents[who].get(`${base()}/own/items/${school.itemId}`)).status;
    expect([await status('student'), await status('second')]).toEqual([404, 200]);
    const { actId } = await join(sectionOf(EVENING), sectionOf(MORNING));
    expect([await status('student'), await status('second')]).toEqual([404, 200]);
    await part(actId);
    expect([await status('student'), await status('second')]).toEqual([404, 200]);
  });
});

describe('parting', () => {
  it('puts everyone back at a later time, also when their section was joined on', async () => {
    const { settings } = (await teacher().post(`${base()}/sections`).send({ title: 'Day', enrolmentIds: [] }).expect(200))
      .body as SectionMoved;
    const day = settings.sections.find((s) => s.title === 'Day')?.id ?? '';
    const first = await join(sectionOf(EVENING), sectionOf(MORNING));
    school.clock.at += 90 * 24 * HOUR;
    await join(sectionOf(MORNING), day);
    expect(await sectionsNow()).toEqual([['Day', 2]]);
    expect(await part(first.actId)).toMatchObject({ back: 1, stayed: 0 });
    expect(await sectionsNow()).toEqual([
      ['Evening', 1],
      ['Day', 1],
    ]);
  });

  it('leaves whoever has changed section by themselves since where they are, and cannot be done twice', async () => {
    const { settings } = (await teacher().post(`${base()}/sections`).send({ title: 'Day', enrolmentIds: [] }).expect(200))
      .body as SectionMoved;
    const day = settings.sections.find((s) => s.title === 'Day')?.id ?? '';
    const { actId } = await join(sectionOf(EVENING), sectionOf(MORNING));
    const roster = (await teacher().get(`${base()}/roster`).expect(200)).body as { members: { enrolmentId: string; version: number }[] };
    const version = roster.members.find((m) => m.enrolmentId === school.students[1])?.version ?? 0;
    await teacher().patch(`${base()}/roster/${school.students[1]}`).send({ version, sectionId: day }).expect(200);
    expect(await part(actId)).toMatchObject({ back: 0, stayed: 1 });
    expect(await sectionsNow()).toEqual([
      ['Morning', 1],
      ['Evening', 0],
      ['Day', 1],
    ]);
    expect((await part(actId)).back).toBe(0);
  });

  it('counts nobody who was withdrawn, and takes them along', async () => {
    const roster = (await teacher().get(`${base()}/roster`).expect(200)).body as { members: { enrolmentId: string; version: number }[] };
    const version = roster.members.find((m) => m.enrolmentId === school.students[1])?.version ?? 0;
    await teacher().patch(`${base()}/roster/${school.students[1]}`).send({ version, isWithdrawn: true }).expect(200);
    const { actId, settings } = await join(sectionOf(EVENING), sectionOf(MORNING));
    expect(settings.joined).toMatchObject([{ students: 0 }]);
    expect(await part(actId)).toMatchObject({ back: 0, stayed: 0 });
    const { rows } = await school.pool.query<{ section_id: string }>('select section_id from enrolment where id = $1', [
      school.students[1],
    ]);
    expect(rows[0]?.section_id).toBe(sectionOf(EVENING));
  });

  it('keeps a date that was given to a student by hand after the joining', async () => {
    const dates = (due: number, owner: object) =>
      teacher()
        .put(`${base()}/items/${school.itemId}/variants`)
        .send({ variants: [{ sectionId: null, enrolmentId: null, opensAt: null, closesAt: null, dueAt: iso(due), ...owner }] })
        .expect(200);
    await dates(START + 24 * HOUR, { sectionId: sectionOf(EVENING) });
    const { actId } = await join(sectionOf(EVENING), sectionOf(MORNING));
    await dates(START + 48 * HOUR, { enrolmentId: school.students[1] });
    await part(actId);
    const { dates: own } = (await school.agents.second.get(`${base()}/own/items/${school.itemId}`).expect(200)).body;
    expect(own.due).toEqual({ at: iso(START + 48 * HOUR), reason: 'set for this student' });
  });
});
