import { paragraphs, type AssignmentChange, type ItemDetail, type Judged, type Work } from '@rosemary/api';
import { finishScore, handInText, makeSchool, renewItem, type TestSchool } from './school.ts';

/** What comes in, in every way, and how it is judged. */
let school: TestSchool;
beforeAll(async () => {
  school = await makeSchool('setting');
}, 60_000);
beforeEach(async () => {
  school = await renewItem(school);
  await school.pool.query("update item set release_mode = 'finished' where id = $1", [school.itemId]);
});
afterAll(() => school.close());
const teacher = () => school.agents.instructor;
const base = (): string => `/api/courses/${school.courseId}`;
const own = (): string => `${base()}/own/items/${school.itemId}`;
const marking = (): string => `${base()}/marking/${school.itemId}/${school.students[0]}`;
const detail = async (): Promise<ItemDetail> => (await teacher().get(`${base()}/items/${school.itemId}`).expect(200)).body as ItemDetail;
async function set(change: Omit<AssignmentChange, 'version'>, expected = 200) {
  const version = (await detail()).assignment?.version ?? 0;
  return teacher()
    .put(`${base()}/items/${school.itemId}/assignment`)
    .send({ ...change, version })
    .expect(expected);
}
const handIn = (key: string) => school.agents.student.post(`${own()}/hand-in`).send({ note: '', key: `key-${key}`, version: 1 });
const work = async (): Promise<Work> => (await teacher().get(marking()).expect(200)).body as Work;
async function mark(score: number | null, feedback: string | null) {
  const { version } = (await work()).mark;
  const body = { version, choices: {}, score, scoreReason: '', feedback: feedback === null ? null : paragraphs(feedback) };
  const saved = await teacher().put(`${marking()}/mark`).send(body).expect(200);
  return teacher().post(`${marking()}/finish`).send({ version: saved.body.version, isAboveConfirmed: false });
}

describe('what comes in', () => {
  it('may be a link, which is kept as typed and asked to be one when it is handed in', async () => {
    await set({ acceptsText: false, acceptsFiles: false, acceptsLink: true });
    expect((await handIn('none')).body.detail).toContain('Give an address first');
    await school.agents.student.put(`${own()}/draft-link`).send({ link: 'javascript:alert(1)' }).expect(200);
    const refused = await handIn('script').expect(422);
    expect(refused.body.pointers[0].field).toBe('link');
    await school.agents.student.put(`${own()}/draft-link`).send({ link: ' https://drawings.example/escapement ' }).expect(200);
    expect((await school.agents.student.get(own()).expect(200)).body.draft.link).toBe('https://drawings.example/escapement');
    const receipt = (await handIn('good').expect(200)).body;
    expect(receipt.link).toBe('https://drawings.example/escapement');
    expect((await work()).attempts[0]?.link).toBe('https://drawings.example/escapement');
    // The receipt proves the address too.
    await school.agents.student.put(`${own()}/draft-link`).send({ link: 'https://drawings.example/other' }).expect(200);
    expect((await handIn('again').expect(200)).body.contentHash).not.toBe(receipt.contentHash);
  });

  it('may be a recording, and then no other file', async () => {
    await set({ acceptsText: false, acceptsFiles: false, acceptsRecording: true });
    const voice = Buffer.concat([
      Buffer.from('1a45dfa39f4282847765626d', 'hex'),
      Buffer.from('18538067 A_OPUS '.padEnd(80)),
      Buffer.alloc(40, 1),
    ]);
    const send = (bytes: Buffer, name: string) => school.agents.student.post(`${own()}/files`).attach('file', bytes, name);
    expect((await send(Buffer.from('%PDF-1.4\n%%EOF\n'), 'a.pdf').expect(415)).body.detail).toContain('Accepted here: sound');
    await send(voice, 'Recording 1.weba').expect(200);
    await handIn('voice').expect(200);
    expect((await work()).attempts[0]?.files.map((f) => f.mediaType)).toEqual(['audio/webm']);
  });

  it('takes nothing it does not ask for', async () => {
    await set({ acceptsText: false, acceptsFiles: false, onPaper: true });
    await school.agents.student.put(`${own()}/draft-link`).send({ link: 'https://a.example' }).expect(422);
    await school.agents.student
      .put(`${own()}/draft`)
      .send({ document: paragraphs('x'), version: 0 })
      .expect(422);
    await school.agents.student.post(`${own()}/files`).attach('file', Buffer.from('x'), 'x.txt').expect(422);
    expect((await school.agents.student.get(own()).expect(200)).body).toMatchObject({ canHandIn: false, assignment: { onPaper: true } });
  });

  it('on paper leaves nobody missing by themselves, and can be marked', async () => {
    await set({ acceptsText: false, acceptsFiles: false, onPaper: true });
    school.clock.at += 9 * 86_400_000;
    expect((await work()).entry.state).toBe('not begun');
    expect((await mark(45_000, null)).status).toBe(200);
    expect((await work()).entry.state).toBe('released');
    const { body } = await teacher().get(`${base()}/marking`).expect(200);
    expect(body.items.map((i: { id: string; released: number }) => [i.id, i.released])).toEqual([[school.itemId, 1]]);
  });

  it('and how it is judged travel with a copy', async () => {
    await set({ acceptsLink: true, acceptsRecording: true, onPaper: true, judged: 'done' });
    const { made } = (
      await teacher()
        .post(`${base()}/items/duplicates`)
        .send({ itemIds: [school.itemId] })
        .expect(200)
    ).body as { made: string[] };
    const copy = (await teacher().get(`${base()}/items/${made[0]}`).expect(200)).body as ItemDetail;
    expect(copy.assignment).toMatchObject({ acceptsLink: true, acceptsRecording: true, onPaper: true, judged: 'done' });
  });
});

describe('how it is judged', () => {
  it('done or not is all the points or none', async () => {
    await set({ judged: 'done' });
    await handInText(school, 'student', 'Some words');
    const half = await mark(30_000, null);
    expect([half.status, half.body.pointers[0].field]).toEqual([422, 'score']);
    expect((await mark(60_000, null)).status).toBe(200);
    const { body } = await school.agents.student.get(own()).expect(200);
    expect([body.returned.scoreText, body.assignment.judged]).toEqual(['60', 'done']);
  });

  it('in words needs words, has no number, and counts nothing', async () => {
    const total = async (): Promise<unknown> => (await teacher().get(`${base()}/gradebook`).expect(200)).body.rows[0].totals;
    await set({ judged: 'words' });
    const before = await total();
    await handInText(school, 'student', 'Some words');
    const empty = await mark(null, null);
    expect([empty.status, empty.body.pointers[0].field]).toEqual([422, 'feedback']);
    expect((await mark(null, 'Clear, and short.')).status).toBe(200);
    expect((await work()).entry).toMatchObject({ state: 'released', scoreText: null });
    expect((await detail()).item).toMatchObject({ possible: 0, counts: false, judged: 'words' });
    const { returned } = (await school.agents.student.get(own()).expect(200)).body;
    expect(returned).toMatchObject({ scoreText: null, state: 'judged' });
    expect(JSON.stringify(returned.feedback)).toContain('Clear, and short.');
    expect(await total()).toEqual(before);
  });

  it('not at all is a reminder: no column, nothing to mark, nobody missing', async () => {
    await set({ judged: 'none' });
    school.clock.at += 9 * 86_400_000;
    const { body } = await teacher().get(`${base()}/gradebook`).expect(200);
    expect(body.columns).toEqual([]);
    await teacher().get(marking()).expect(404);
    expect((await school.agents.student.get(own()).expect(200)).body.title).toBe('Report');
  });

  it('is settled once the first mark is given, and says so', async () => {
    await handInText(school, 'student', 'Some words');
    await finishScore(school, school.students[0], 45_000);
    const refused = await set({ judged: 'words' }, 422);
    expect(refused.body.detail).toContain('One mark is given already');
    await set({ judged: 'points', onPaper: true });
  });

  it('can be rehearsed: whom it would move is seen first', async () => {
    const version = (await detail()).assignment?.version ?? 0;
    const answer = await teacher()
      .put(`${base()}/items/${school.itemId}/assignment`)
      .set('x-ripple', 'show')
      .send({ judged: 'words', version })
      .expect(200);
    expect(answer.body.rows).toBeDefined();
    expect((await detail()).assignment?.judged).toBe('points');
  });

  it('gives its points back when it is judged in points again', async () => {
    for (const judged of ['words', 'none', 'points'] as Judged[]) await set({ judged });
    expect((await detail()).item).toMatchObject({ possible: 60_000, counts: true });
  });

  it.each(['assistant', 'student', 'second'] as const)('is not for %s to set', async (who) => {
    await school.agents[who].put(`${base()}/items/${school.itemId}/assignment`).send({ version: 2, judged: 'done' }).expect(403);
  });
});
