import { paragraphs, type MatchReport, type Stack } from '@rosemary/api';
import { randomUUID } from 'node:crypto';
import { serveCollection } from '../../standins/src/collection.ts';
import { matchTexts } from '../src/matching/run.ts';
import { doJob, handInText, makeSchool, renewItem, type TestSchool } from './school.ts';

/** What stands elsewhere: evidence, seen by those who may. */
let school: TestSchool;
let collection: Awaited<ReturnType<typeof serveCollection>>;
beforeAll(async () => {
  school = await makeSchool('matching');
  collection = await serveCollection(new URL('../../standins/texts/', import.meta.url), 0);
}, 60_000);
beforeEach(async () => {
  school = await renewItem(school);
  process.env.ROSEMARY_COLLECTION_URL = collection.url;
});
afterAll(async () => {
  delete process.env.ROSEMARY_COLLECTION_URL;
  await collection.stop();
  await school.close();
});
const base = (): string => `/api/courses/${school.courseId}`;
const path = (): string => `${base()}/matching/${school.itemId}`;
const SHARED = 'the pallet stones are clean with a bright line of wear on the entry stone and the drop is even';
const USUAL = {
  version: 0,
  looksAtClass: true,
  looksAtEarlier: true,
  looksAtCollection: false,
  leavesQuotations: true,
  showsStudents: false,
  joinsCollection: false,
};
const set = (more: object) => school.agents.instructor.put(path()).send({ ...USUAL, ...more });
async function match(): Promise<void> {
  await school.agents.instructor.post(`${path()}/run`).expect(200);
  await doJob(school, matchTexts);
}
const report = async (n = 0, who: 'instructor' | 'assistant' = 'instructor'): Promise<MatchReport | null> =>
  (await school.agents[who].get(`${base()}/marking/${school.itemId}/${school.students[n]}/matches`).expect(200)).body
    .report as MatchReport | null;

describe('text matching', () => {
  it('finds what two students share, with the places in both', async () => {
    await handInText(school, 'student', `I looked closely. In my movement ${SHARED}. Nothing else was wrong with it.`);
    await handInText(school, 'second', `To begin: ${SHARED}; I would leave it.`);
    expect(await report()).toBeNull();
    await match();
    const found = await report();
    expect(found?.figures).toEqual({ counted: 32, matched: 20, quoted: 0, ofTask: 0, percent: 63 });
    const [source] = found?.sources ?? [];
    expect([source?.kind, source?.title, source?.words]).toEqual(['class', 'Second Tester', 20]);
    const [run] = source?.runs ?? [];
    expect(found?.text.slice(run?.from, run?.to)).toBe(SHARED);
    expect(source?.text?.slice(run?.sourceFrom, run?.sourceTo)).toBe(SHARED);
    const stack = (await school.agents.instructor.get(`${base()}/marking/${school.itemId}`).expect(200)).body as Stack;
    expect(stack.entries.map((e) => e.matchPercent)).toEqual([63, 77]);
  });

  it('leaves out quotations and the words of the task', async () => {
    await school.pool.query('update assignment set instructions = $2 where item_id = $1', [
      school.itemId,
      paragraphs(`Say whether ${SHARED}.`),
    ]);
    await handInText(school, 'student', `You ask whether ${SHARED}. I say yes.`);
    await handInText(school, 'second', `You ask whether ${SHARED}. I say no.`);
    await match();
    expect((await report())?.figures).toMatchObject({ matched: 0, ofTask: 21 });
    school = await renewItem(school);
    await handInText(school, 'student', `As it says: “${SHARED}”. So it is.`);
    await handInText(school, 'second', `We found that ${SHARED}, both of us.`);
    await match();
    expect((await report())?.figures).toMatchObject({ matched: 0, quoted: 20 });
    await set({ leavesQuotations: false }).expect(200);
    await match();
    expect((await report())?.figures).toMatchObject({ matched: 20, quoted: 0 });
  });

  it('reads PDF, Word and text files too', async () => {
    await school.pool.query("update assignment set file_types = '{text}' where item_id = $1", [school.itemId]);
    const own = `${base()}/own/items/${school.itemId}`;
    await school.agents.student
      .post(`${own}/files`)
      .attach('file', Buffer.from(`Seen today: ${SHARED}.`), 'log.txt')
      .expect(200);
    await handInText(school, 'student', 'See my file.');
    await handInText(school, 'second', `Seen: ${SHARED}.`);
    await match();
    expect((await report())?.sources[0]?.words).toBe(20);
  });

  it('holds against the collection what is sent to it as fingerprints, and says when it does not answer', async () => {
    const copied = 'Too deep a lock wastes the swing of the balance in unlocking; too light a lock lets a tooth fall on the impulse face';
    await set({ looksAtCollection: true, joinsCollection: true }).expect(200);
    await handInText(school, 'student', `I think so too. ${copied}. That is all.`);
    await match();
    const found = await report();
    expect(found?.sources.map((s) => [s.kind, s.title])).toEqual([['collection', 'Notes on the lever escapement']]);
    expect(found?.sources[0]?.text).toContain(copied);
    const { attempts } = (await school.agents.instructor.get(`${base()}/marking/${school.itemId}/${school.students[0]}`).expect(200)).body;
    expect((await fetch(`${collection.url}/documents/${attempts[0].id}`)).status).toBe(200);
    process.env.ROSEMARY_COLLECTION_URL = 'http://127.0.0.1:9';
    await match();
    const { body } = await school.agents.instructor.get(path()).expect(200);
    expect(body.run.said).toContain('The collection did not answer');
    expect((await report())?.sources).toEqual([]);
  });

  it('is seen by students only where it is so set, without whose words they are', async () => {
    await handInText(school, 'student', `In mine ${SHARED}.`);
    await handInText(school, 'second', `In this one ${SHARED}.`);
    await match();
    const own = `${base()}/own/items/${school.itemId}/matches`;
    await school.agents.student.get(own).expect(404);
    await set({ showsStudents: true }).expect(200);
    const { body } = await school.agents.student.get(own).expect(200);
    expect(body.report.sources.map((s: { title: string; text: null }) => [s.title, s.text])).toEqual([
      ['Another work of this class', null],
    ]);
    expect(JSON.stringify(body)).not.toContain('Second');
  });

  it('shows an assistant no text of students they do not reach, and nobody a hidden name', async () => {
    await handInText(school, 'student', `In mine ${SHARED}.`);
    await handInText(school, 'second', `In this one ${SHARED}.`);
    await match();
    expect((await report(0, 'assistant'))?.sources.map((s) => [s.title, s.text])).toEqual([['Another work of this class', null]]);
    await school.pool.query("update assignment set anonymous = 'release' where item_id = $1", [school.itemId]);
    const stack = (await school.agents.instructor.get(`${base()}/marking/${school.itemId}`).expect(200)).body as Stack;
    const { body } = await school.agents.instructor
      .get(`${base()}/marking/${school.itemId}/${stack.entries[0]?.enrolmentId}/matches`)
      .expect(200);
    expect(body.report.sources.map((s: { title: string }) => s.title)).toEqual(['Another work of this class']);
    expect(JSON.stringify(body)).not.toMatch(/Tester/);
  });

  it('is asked once however often, and settings that look at nothing are refused', async () => {
    await school.agents.instructor.post(`${path()}/run`).expect(200);
    await school.agents.assistant.post(`${path()}/run`).expect(200);
    const { rows } = await school.pool.query('select count(*)::int as many from match_run where item_id = $1', [school.itemId]);
    expect(rows[0].many).toBe(1);
    const refused = await set({ looksAtClass: false, looksAtEarlier: false }).expect(422);
    expect(refused.body.pointers[0].field).toBe('looksAtClass');
    await school.agents.assistant.put(path()).send(USUAL).expect(403);
    await school.agents.student.get(path()).expect(403);
    await school.agents.instructor.get(`${base()}/matching/${school.draftId}`).expect(404);
    await set({}).expect(200);
    expect((await set({ looksAtEarlier: false }).expect(409)).body.current.version).toBe(1);
  });

  it('takes earlier terms by where the item was carried from', async () => {
    await handInText(school, 'second', `Last term ${SHARED}.`);
    const before = school.itemId;
    school = await renewItem(school);
    await school.pool.query('update item set source_item_id = $2 where id = $1', [school.itemId, before]);
    await handInText(school, 'student', `This term ${SHARED}.`);
    await match();
    expect((await report())?.sources.map((s) => [s.kind, s.title])).toEqual([['earlier', 'Watches, an earlier term']]);
  });
});

describe('alike answers', () => {
  it('are judged together, each told by itself, and finished ones left', async () => {
    await handInText(school, 'student', 'The roller jewel is loose');
    await handInText(school, 'second', 'the roller jewel is lose.');
    const marking = `${base()}/marking/${school.itemId}`;
    const { body: list } = await school.agents.instructor.get(`${marking}/answers`).expect(200);
    expect(list.answers.map((a: { text: string }) => a.text)).toEqual(['The roller jewel is loose', 'the roller jewel is lose.']);
    const judgement = { choices: {}, score: 50_000, scoreReason: '', feedback: paragraphs('Right.'), finishes: true, overFinished: false };
    const both = await school.agents.instructor
      .post(`${marking}/together`)
      .send({ ...judgement, workIds: school.students })
      .expect(200);
    expect(both.body.rows.map((r: { outcome: string }) => r.outcome)).toEqual(['finished', 'finished']);
    const again = await school.agents.instructor
      .post(`${marking}/together`)
      .send({ ...judgement, score: 1000, workIds: [school.students[0], randomUUID()] })
      .expect(200);
    expect(again.body.rows.map((r: { outcome: string; reason: string }) => [r.outcome, r.reason])).toEqual([
      ['left', 'It is finished already.'],
      ['left', expect.stringContaining('')],
    ]);
    const { rows } = await school.pool.query('select raw from work_grade where item_id = $1', [school.itemId]);
    expect(rows.map((r) => r.raw)).toEqual(['50.000', '50.000']);
  });
  it('keep as a draft what cannot be finished, with the reason', async () => {
    await handInText(school, 'student', 'Loose');
    const judgement = {
      choices: {},
      score: null,
      scoreReason: '',
      feedback: null,
      finishes: true,
      overFinished: false,
      workIds: [school.students[0]],
    };
    const { body } = await school.agents.instructor.post(`${base()}/marking/${school.itemId}/together`).send(judgement).expect(200);
    expect(body.rows[0]).toMatchObject({ outcome: 'kept', reason: expect.stringContaining('There is no mark yet') });
  });
  it('of students an assistant does not reach are not theirs', async () => {
    await handInText(school, 'second', 'Loose');
    const { body: list } = await school.agents.assistant.get(`${base()}/marking/${school.itemId}/answers`).expect(200);
    expect(list.answers).toEqual([]);
    const judgement = {
      choices: {},
      score: 1000,
      scoreReason: '',
      feedback: null,
      finishes: true,
      overFinished: false,
      workIds: [school.students[1]],
    };
    const { body } = await school.agents.assistant.post(`${base()}/marking/${school.itemId}/together`).send(judgement).expect(200);
    expect(body.rows[0].outcome).toBe('left');
  });
});
