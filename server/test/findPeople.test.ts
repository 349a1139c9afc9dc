import type { PersonToAdd, Roster } from '@rosemary/api';
import { addPerson, withDb } from '../src/index.ts';
import { makeSchool, type TestSchool } from './school.ts';

let school: TestSchool;
beforeAll(async () => {
  school = await makeSchool('findpeople');
  await withDb(school.pool, true, async (db) => {
    for (let n = 0; n < 30; n += 1)
      await addPerson(db, {
        password: 'a long enough password',
        email: `extra.${n}@tower.example`,
        givenName: 'Extra',
        familyName: `Person${String(n).padStart(2, '0')}`,
      });
    await addPerson(db, { password: 'a long enough password', email: 'ada.lund@tower.example', givenName: 'Ada', familyName: 'Lund' });
    await addPerson(db, { password: 'a long enough password', email: 'percent@tower.example', givenName: '100%', familyName: 'Sure' });
  });
}, 60_000);
afterAll(() => school.close());

const find = async (letters: string, who: 'instructor' | 'assistant' = 'instructor'): Promise<readonly PersonToAdd[]> =>
  (await school.agents[who].get(`/api/courses/${school.courseId}/people?q=${encodeURIComponent(letters)}`).expect(200))
    .body as readonly PersonToAdd[];
const names = async (letters: string): Promise<string[]> => (await find(letters)).map((p) => `${p.givenName} ${p.familyName}`);

describe('somebody of the school to add to a course', () => {
  it('is found by letters of name and email, in any order and in any case', async () => {
    expect(await names('lund ada')).toEqual(['Ada Lund']);
    expect(await names('ADA.LUND@')).toEqual(['Ada Lund']);
    expect(await names('nobody like this')).toEqual([]);
  });

  it('is one of twenty at most, by family name', async () => {
    const found = await names('extra');
    expect(found).toHaveLength(20);
    expect(found).toEqual([...found].sort((a, b) => a.localeCompare(b)));
    expect(await find('')).toHaveLength(20);
  });

  it('is not somebody who is in the course already, nor a sample student', async () => {
    const { members } = (await school.agents.instructor.get(`/api/courses/${school.courseId}/roster`).expect(200)).body as Roster;
    const here = new Set(members.map((m) => m.personId));
    const everybody = [...(await find('tester')), ...(await find('sample')), ...(await find('lund'))];
    expect(everybody.filter((p) => here.has(p.id))).toEqual([]);
    const [ada] = await find('lund');
    const { sections } = (await school.agents.instructor.get(`/api/courses/${school.courseId}/roster`)).body as Roster;
    await school.agents.instructor
      .post(`/api/courses/${school.courseId}/roster`)
      .send({ personId: ada?.id, role: 'student', sectionId: sections[0]?.id })
      .expect(200);
    expect(await names('lund')).toEqual([]);
  });

  it('is not somebody who is deactivated', async () => {
    await school.pool.query("update person set deactivated_at = now() where email = 'percent@tower.example'");
    expect(await names('sure')).toEqual([]);
    await school.pool.query("update person set deactivated_at = null where email = 'percent@tower.example'");
    expect(await names('sure')).toEqual(['100% Sure']);
  });

  it('has the letters as they are typed, where they mean something to the database too', async () => {
    expect(await names('100%')).toEqual(['100% Sure']);
    expect(await names('%')).toEqual(['100% Sure']);
    expect(await names('_')).toEqual([]);
    expect(await names('\\')).toEqual([]);
  });

  it('is looked for by those who may add people, and by nobody else', async () => {
    for (const who of ['assistant', 'student', 'outsider', 'nobody'] as const) {
      const { status } = await school.agents[who].get(`/api/courses/${school.courseId}/people?q=lund`);
      expect([who, [401, 403, 404].includes(status)]).toEqual([who, true]);
    }
  });
});
