import { paragraphs, type Found } from '@rosemary/api';
import fc from 'fast-check';
import { toQuery } from '../src/find/texts.ts';
import { makeSchool, START, type TestSchool } from './school.ts';

const DAY = 86_400_000;
let school: TestSchool;
let pageId = '';
beforeAll(async () => {
  school = await makeSchool('find');
  const { instructor } = school.agents;
  const made = await instructor
    .post(`/api/courses/${school.courseId}/items`)
    .send({ unitId: school.unitId, kind: 'page', title: 'The lever', position: 0 })
    .expect(200);
  pageId = made.body.id as string;
  await instructor
    .put(`/api/courses/${school.courseId}/items/${pageId}/page`)
    .send({ document: paragraphs('The pallet stones are of synthetic ruby.', 'Beryllium bronze für Anfänger.'), version: 1 })
    .expect(200);
  await instructor.patch(`/api/courses/${school.courseId}/items/${pageId}`).send({ version: 1, isDraft: false }).expect(200);
  await instructor
    .put(`/api/courses/${school.courseId}/items/${school.draftId}/page`)
    .send({ document: paragraphs('Secret ruby answers.'), version: 1 })
    .expect(200);
}, 60_000);
afterAll(() => school.close());
type Who = 'instructor' | 'assistant' | 'student' | 'outsider';
const find = async (words: string, who: Who = 'instructor'): Promise<Found[]> =>
  (await school.agents[who].get(`/api/find?q=${encodeURIComponent(words)}`).expect(200)).body as Found[];
const titles = async (words: string, who: Who = 'instructor'): Promise<string[]> => (await find(words, who)).map((f) => f.title);

describe('finding', () => {
  it('finds items by letters of their title, and by beginnings of words in their text, each once', async () => {
    expect(await titles('lever')).toEqual(['The lever']);
    expect(await titles('synth rub')).toEqual(['The lever']);
    expect(await titles('anfäng')).toEqual(['The lever']);
    expect(await titles('Write')).toEqual(['Report']);
    expect((await titles('ruby')).sort()).toEqual(['Secret page', 'The lever']);
  });

  it('shows what stands around the words, and leads to the item', async () => {
    const [hit] = await find('synthetic');
    expect(hit).toMatchObject({ what: 'page', where: 'Watches', to: `/courses/${school.courseId}/items/${pageId}` });
    expect(hit?.around).toContain('stones are of synthetic ruby');
  });

  it('finds students for those who see the whole course only', async () => {
    expect(await titles('First Test')).toEqual(['First Tester']);
    expect(await titles('First Test', 'assistant')).toEqual([]);
    expect(await titles('First Test', 'student')).toEqual([]);
  });

  it('shows a student nothing of drafts, nor of what is not open yet, nor by any word in it', async () => {
    expect(await titles('ruby', 'student')).toEqual(['The lever']);
    expect((await find('ruby', 'student'))[0]?.to).toBe(`/courses/${school.courseId}/study/${pageId}`);
    await school.pool.query('update item set opens_at = to_timestamp($2 / 1000.0) where id = $1', [pageId, START + DAY]);
    expect(await titles('ruby', 'student')).toEqual([]);
    expect(await titles('lever', 'student')).toEqual(['The lever']);
    await school.pool.query('update item set announced_at = to_timestamp($2 / 1000.0) where id = $1', [pageId, START + DAY / 2]);
    expect(await titles('lever', 'student')).toEqual([]);
    school.clock.at = START + 2 * DAY;
    expect(await titles('ruby', 'student')).toEqual(['The lever']);
  });

  it('stays inside one’s own courses', async () => {
    expect(await find('ruby', 'outsider')).toEqual([]);
    expect(await find('Report', 'outsider')).toEqual([]);
  });

  it('follows a text as it changes, and forgets what is deleted', async () => {
    const { body } = await school.agents.instructor.get(`/api/courses/${school.courseId}/items/${pageId}`).expect(200);
    await school.agents.instructor
      .put(`/api/courses/${school.courseId}/items/${pageId}/page`)
      .send({ document: paragraphs('Now of sapphire.'), version: body.page.version })
      .expect(200);
    expect(await titles('synthetic')).toEqual([]);
    expect(await titles('sapph')).toEqual(['The lever']);
    // What is not published yet is found by those who write it; students find what they read.
    expect([await titles('sapph', 'student'), await titles('synthetic', 'student')]).toEqual([[], ['The lever']]);
    await school.agents.instructor.delete(`/api/courses/${school.courseId}/items/${pageId}`).expect(200);
    expect(await titles('sapph')).toEqual([]);
    await school.agents.instructor.post(`/api/courses/${school.courseId}/items/${pageId}/restore`).expect(200);
  });

  it.each(['', 'a', '%', '__', '\\\\', "'; drop table item; --", 'a & b | !c', '(:*', 'x'.repeat(500), '\u0000'])(
    'takes %p without harm',
    async (words) => {
      const answer = await school.agents.instructor.get(`/api/find?q=${encodeURIComponent(words)}`);
      expect(answer.status).toBe(200);
      expect(Array.isArray(answer.body)).toBe(true);
    },
  );

  it('asks only for letters and digits, whatever is typed', () => {
    expect(toQuery('pallet stone')).toBe('pallet:* & stone:*');
    expect(toQuery('a & b')).toBeNull();
    fc.assert(
      fc.property(fc.string({ maxLength: 60 }), (letters) => {
        expect(toQuery(letters) ?? '').toMatch(/^(?:[\p{L}\p{N}]+:\*(?: & )?)*$/u);
      }),
    );
  });
});
