import type { Desk } from '@rosemary/api';
import { finishScore, handInText, makeSchool, START, type TestSchool } from './school.ts';

const HOUR = 3_600_000;
const DAY = 24 * HOUR;
let school: TestSchool;
beforeAll(async () => {
  school = await makeSchool('desk');
}, 60_000);
afterAll(() => school.close());
const desk = async (who: 'instructor' | 'assistant' | 'student' | 'outsider' = 'instructor'): Promise<Desk> =>
  (await school.agents[who].get('/api/desk').expect(200)).body as Desk;
const slip = (d: Desk, id: string) => d.slips.find((s) => s.id.startsWith(id));

describe('the Desk', () => {
  it('names the day and the week, and says that nothing waits', async () => {
    const d = await desk();
    expect([d.heading, d.summary]).toEqual(['Monday, week 3', 'one course, nothing waits to be marked']);
    expect(d.courses).toEqual([
      { id: school.courseId, title: 'Watches', about: 'HOR-1 · 2 sections', students: 2, toMark: 0, soFar: null },
    ]);
    expect(d.line?.weeks).toHaveLength(15);
  });

  it('brings a slip for work that waits, with its age and what the estimate rests on', async () => {
    await handInText(school, 'student', 'Worn jewels');
    school.clock.at = START + 26 * HOUR;
    await handInText(school, 'second', 'Clean');
    const mark = slip(await desk(), 'mark:')!;
    expect(mark).toMatchObject({ verb: 'Mark', text: '2 works · Report', after: 'of 2', strong: '1 day', action: 'about 15 min · Begin' });
    expect(mark.detail).toBe('Watches · 8 min each, as planned · oldest waits');
    expect(mark.to).toBe(`/courses/${school.courseId}/marking/${school.itemId}`);
    expect((await desk()).summary).toBe('one course, about 15 min of marking waiting, the oldest for 1 day');
  });

  it('shows an assistant only what waits in their sections, and nothing to finish or release', async () => {
    const own = await desk('assistant');
    expect(own.slips.map((s) => s.text)).toEqual(['1 work · Report']);
    expect(own.courses[0]).toMatchObject({ students: 1, toMark: 1 });
    expect((await desk('outsider')).slips).toEqual([]);
    expect((await desk('student')).courses).toEqual([]);
  });

  it('puts a slip off until a day, or for good, and brings it back', async () => {
    const put = async (id: string, until: string | null): Promise<Desk> =>
      (await school.agents.instructor.post('/api/desk/slips').send({ slip: id, until }).expect(200)).body as Desk;
    const { id } = slip(await desk(), 'mark:')!;
    const off = await put(id, new Date(school.clock.at + DAY).toISOString());
    expect([slip(off, 'mark:'), off.putOff.map((p) => p.back)]).toEqual([undefined, ['back on Wednesday']]);
    expect(slip(await desk('assistant'), 'mark:')).toBeDefined();
    school.clock.at += DAY + HOUR;
    expect(slip(await desk(), 'mark:')).toBeDefined();
    expect((await put(id, null)).putOff.map((p) => p.back)).toEqual(['not needed']);
    expect(slip(await put(id, new Date(0).toISOString()), 'mark:')).toBeDefined();
  });

  it('asks to release what is finished and kept back, and says how the class stands', async () => {
    await school.pool.query("update item set release_mode = 'hand' where id = $1", [school.itemId]);
    await finishScore(school, school.students[0], 45_000);
    const d = await desk();
    expect(slip(d, 'release:')).toMatchObject({ verb: 'Release', text: '1 finished mark · Report' });
    expect(slip(d, 'mark:')?.text).toBe('1 work · Report');
    expect(d.courses[0]).toMatchObject({ toMark: 1, soFar: '75.0 %' });
  });

  it('asks to finish a draft that is due within seven days, the nearer the more urgently', async () => {
    await school.pool.query('update item set due_at = to_timestamp($2 / 1000.0) where id = $1', [
      school.draftId,
      school.clock.at + 6 * DAY,
    ]);
    expect(slip(await desk(), 'finish:')).toMatchObject({ verb: 'Finish', text: 'Secret page' });
    await school.pool.query('update item set due_at = to_timestamp($2 / 1000.0) where id = $1', [school.draftId, school.clock.at + HOUR]);
    expect((await desk()).slips[0]?.verb).toBe('Finish');
    await school.pool.query('update item set due_at = to_timestamp($2 / 1000.0) where id = $1', [
      school.draftId,
      school.clock.at + 8 * DAY,
    ]);
    expect(slip(await desk(), 'finish:')).toBeUndefined();
  });

  it('lets a finished term rest', async () => {
    school.clock.at = Date.parse('2027-02-10T10:00:00Z');
    const d = await desk();
    expect(d.line).toBeNull();
    expect([d.heading, d.courses[0]?.about]).toEqual(['Wednesday 10 February', 'HOR-1 · Autumn, finished']);
  });
});
