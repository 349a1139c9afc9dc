import { type OwnPeer, type OwnReview, paragraphs, type PeerBoard, type PeerChange, type PeerSetting } from '@rosemary/api';
import { plainText } from '@rosemary/core';
import { randomUUID } from 'node:crypto';
import { rows, withDb } from '../src/index.ts';
import { drawReviewers } from '../src/peer/index.ts';
import { judge } from './peerHelp.ts';
import { lever, openQuiz } from './quizHelp.ts';
import { doJob, makeSchool, START, type TestSchool } from './school.ts';

/** What is written in a discussion, and the essays of a quiz, reviewed by other students as works are. */
const DAY = 86_400_000;
let school: TestSchool;
beforeAll(async () => {
  school = await makeSchool('peeranswers');
}, 60_000);
beforeEach(() => {
  school.clock.at = START;
});
afterAll(() => school.close());

type Who = 'student' | 'second';
const course = (): string => `/api/courses/${school.courseId}`;
const iso = (days: number): string => new Date(START + days * DAY).toISOString();
const setting = async (itemId: string): Promise<PeerSetting> =>
  (await school.agents.instructor.get(`${course()}/items/${itemId}/peer`).expect(200)).body as PeerSetting;
const set = async (itemId: string, more: Partial<PeerChange> = {}): Promise<PeerSetting> => {
  const { setting: held } = await setting(itemId);
  const usual = { isOn: true, reviewsPerWork: 1, reviewsPerStudent: 1, reviewsDueAt: iso(4), resultsAt: iso(6) };
  return (
    await school.agents.instructor
      .put(`${course()}/items/${itemId}/peer`)
      .send({ ...held, ...usual, ...more })
      .expect(200)
  ).body as PeerSetting;
};
const own = async (who: Who, itemId: string): Promise<OwnPeer> =>
  (await school.agents[who].get(`${course()}/items/${itemId}/own-reviews`).expect(200)).body as OwnPeer;
const open = async (who: Who, itemId: string, id: string): Promise<OwnReview> =>
  (await school.agents[who].get(`${course()}/items/${itemId}/own-reviews/${id}`).expect(200)).body as OwnReview;
async function give(who: Who, itemId: string, level: number): Promise<void> {
  const [line] = (await own(who, itemId)).owed;
  const path = `${course()}/items/${itemId}/own-reviews/${line?.id}`;
  const review = await open(who, itemId, line?.id ?? '');
  const saved = await school.agents[who]
    .put(path)
    .send({ version: review.version, ...judge(review.form, level), words: `By ${who}`, seconds: 120 })
    .expect(200);
  await school.agents[who].post(`${path}/hand-in`).send({ version: saved.body.version }).expect(200);
}
const gradesOf = (itemId: string): Promise<{ role: string; raw: string | null }[]> =>
  withDb(school.pool, true, (db) =>
    rows<{ role: string; raw: string | null }>(
      db,
      'select c.role, g.raw from grade g join grade_column c on c.id = g.column_id where c.item_id = $1 order by c.role, g.raw',
      [itemId],
    ),
  );

describe('a discussion', () => {
  async function begin(counts: boolean): Promise<string> {
    const made = await school.agents.instructor
      .post(`${course()}/items`)
      .send({ unitId: school.unitId, kind: 'discussion', title: 'What went wrong', position: 0 })
      .expect(200);
    const itemId = made.body.id as string;
    const { version } = (await school.agents.instructor.get(`${course()}/items/${itemId}`).expect(200)).body.item;
    await school.agents.instructor
      .patch(`${course()}/items/${itemId}`)
      .send({ version, isDraft: false, possible: 30_000, counts, dueAt: iso(2) })
      .expect(200);
    return itemId;
  }
  const post = (who: Who, itemId: string, words: string) =>
    school.agents[who]
      .post(`${course()}/discussions/${itemId}/posts`)
      .send({ id: randomUUID(), threadId: null, title: `A thread by ${who === 'student' ? 'one' : 'two'}`, document: paragraphs(words) })
      .expect(200);

  it('is reviewed as one work of each who wrote in it, drawn by itself when it is due, and counts by its points', async () => {
    const itemId = await begin(true);
    expect((await set(itemId)).faults).toEqual([]);
    await post('student', itemId, 'The spring was set.');
    school.clock.at = START + 60_000;
    await post('student', itemId, 'And the click was worn.');
    await post('second', itemId, 'The balance had a bent pivot.');
    expect(await doJob(school, drawReviewers, START + 2 * DAY)).toBe(1);
    school.clock.at = START + 2 * DAY + 1;
    const [line] = (await own('second', itemId)).owed;
    const review = await open('second', itemId, line?.id ?? '');
    expect(plainText(review.work.document)).toBe('A thread by one\nThe spring was set.\nA thread by one\nAnd the click was worn.');
    expect([review.work.attemptId, review.work.wordCount]).toEqual([null, 9]);
    const note = { fileId: null, anchor: { kind: 'text', from: 1, to: 4 }, quote: 'The', body: 'Which?', version: 0 };
    await school.agents.second.put(`${course()}/items/${itemId}/own-reviews/${line?.id}/notes/${randomUUID()}`).send(note).expect(200);
    await give('second', itemId, 3);
    await give('student', itemId, 2);
    await school.agents.instructor.post(`${course()}/items/${itemId}/peer/results`).expect(200);
    const found = await gradesOf(itemId);
    expect(found.filter((g) => g.role === 'work')).toHaveLength(2);
    expect((await own('student', itemId)).received?.map((r) => r.words)).toEqual(['By second']);
    expect((await own('student', itemId)).received?.[0]?.notes.map((n) => n.quote)).toEqual(['The']);
  });

  it('that counts nothing gives its reviews no points, and says so', async () => {
    const itemId = await begin(false);
    expect((await setting(itemId)).setting.workFrom).toBe('teacher');
    expect((await set(itemId, { workFrom: 'mean' })).faults.map((f) => f.text)).toContain(
      'The discussion does not count in the grade, so reviews can give it no points. Let it count, or judge what was written yourself.',
    );
    await set(itemId, { workFrom: 'teacher' });
    await post('student', itemId, 'One');
    await post('second', itemId, 'Two');
    school.clock.at = START + 2 * DAY + 1;
    await school.agents.instructor
      .post(`${course()}/items/${itemId}/peer/draws`)
      .send({ asksForMore: false, dropsPast: false })
      .expect(200);
    await give('second', itemId, 3);
    await give('student', itemId, 2);
    const board = (await school.agents.instructor.post(`${course()}/items/${itemId}/peer/results`).expect(200)).body as PeerBoard;
    expect(board.item.reviewed).toBe('posts');
    expect((await gradesOf(itemId)).map((g) => g.role)).toEqual([]);
    expect((await own('second', itemId)).received?.map((r) => r.words)).toEqual(['By student']);
  });
});

describe('a quiz', () => {
  const essay = { words: paragraphs('Describe the drop.'), points: 4000, key: { kind: 'essay' } };

  it('without an essay has nothing to review', async () => {
    const { itemId } = await openQuiz(school, [lever()], {}, { dueAt: iso(2), closesAt: iso(3) });
    expect((await set(itemId)).faults.map((f) => f.text)).toContain(
      'The quiz has no essay, so there is nothing to review. Add an essay question.',
    );
  });

  it('has its essays reviewed as one work, its points untouched; they wait for a marker as before', async () => {
    const quiz = await openQuiz(school, [lever(), essay], {}, { dueAt: iso(2), closesAt: iso(3) });
    const { itemId } = quiz;
    expect((await setting(itemId)).setting.workFrom).toBe('teacher');
    expect((await set(itemId)).faults).toEqual([]);
    const write = (words: string) => [
      { kind: 'choice', id: 'a' },
      { kind: 'work', document: paragraphs(words), fileId: null },
    ];
    await quiz.take('student', write('It drops by half a degree.'));
    await quiz.take('second', write('There is no drop at all.'));
    school.clock.at = START + 2 * DAY + 1;
    await school.agents.instructor
      .post(`${course()}/items/${itemId}/peer/draws`)
      .send({ asksForMore: false, dropsPast: false })
      .expect(200);
    const [line] = (await own('second', itemId)).owed;
    const review = await open('second', itemId, line?.id ?? '');
    expect(plainText(review.work.document)).toBe('Question 1\nDescribe the drop.\nIt drops by half a degree.');
    expect(JSON.stringify(review)).not.toContain('First Tester');
    // Notes stand at its words as at any work, and at no place outside it.
    const note = (to: number, id = randomUUID()) =>
      school.agents.second.put(`${course()}/items/${itemId}/own-reviews/${line?.id}/notes/${id}`).send({
        ...{ version: 0, fileId: null, anchor: { kind: 'text', from: 34, to } },
        ...{ quote: 'half a degree', body: 'How was it measured?' },
      });
    expect((await note(40).expect(200)).body.notes).toMatchObject([{ body: 'How was it measured?', attemptId: null }]);
    expect((await note(4000).expect(422)).body.detail).toContain('Select the words again');
    await give('second', itemId, 3);
    await give('student', itemId, 2);
    const before = await gradesOf(itemId);
    await school.agents.instructor.post(`${course()}/items/${itemId}/peer/results`).expect(200);
    const after = await gradesOf(itemId);
    expect(after.filter((g) => g.role === 'work')).toEqual(before.filter((g) => g.role === 'work'));
    expect((await own('student', itemId)).received?.map((r) => r.words)).toEqual(['By second']);
    expect((await own('student', itemId)).received?.[0]?.notes.map((n) => n.quote)).toEqual(['half a degree']);
    const marking = (await school.agents.instructor.get(`${course()}/marking`).expect(200)).body as {
      items: { id: string; waits: number }[];
    };
    expect(marking.items.find((i) => i.id === itemId)?.waits).toBe(2);
  });

  it('whose essay somebody left empty gives nothing of theirs to review', async () => {
    const quiz = await openQuiz(school, [essay], {}, { dueAt: iso(2), closesAt: iso(3) });
    await set(quiz.itemId);
    const blank = { type: 'doc', content: [{ type: 'paragraph' }, { type: 'paragraph', content: [{ type: 'text', text: '  ' }] }] };
    await quiz.take('student', [{ kind: 'work', document: paragraphs('It drops.'), fileId: null }]);
    await quiz.take('second', [{ kind: 'work', document: blank, fileId: null }]);
    const { lines } = (await school.agents.instructor.get(`${course()}/items/${quiz.itemId}/peer/board`).expect(200)).body as PeerBoard;
    expect(lines.map((l) => [l.name, l.workId !== null])).toEqual([
      ['Tester, First', true],
      ['Tester, Second', false],
    ]);
  });

  it('is copied with what is set of its reviews, and archived with it', async () => {
    const { itemId } = await openQuiz(school, [essay], {}, { dueAt: iso(2), closesAt: iso(3) });
    await set(itemId, { reviewsPerWork: 4 });
    const made = await school.agents.instructor
      .post(`${course()}/items/duplicates`)
      .send({ itemIds: [itemId] })
      .expect(200);
    const [copyId] = made.body.made as string[];
    expect((await setting(copyId ?? '')).setting).toMatchObject({ isOn: true, reviewsPerWork: 4 });
  });
});
