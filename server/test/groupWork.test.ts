import { paragraphs, type Groups, type Stack, type StudentItem, type Work } from '@rosemary/api';
import { randomUUID } from 'node:crypto';
import { finishScore, handInText, makeSchool, renewItem, START, type TestSchool } from './school.ts';

/** Work of a group: one draft, one hand-in, one mark; and what of several attempts counts. */
const DAY = 86_400_000;
let school: TestSchool;
let setId = '';
beforeAll(async () => {
  school = await makeSchool('group_work');
  const made = await school.agents.instructor
    .post(`/api/courses/${school.courseId}/group-sets`)
    .send({ title: 'Pairs', makes: 'empty', number: 1, withinSections: false })
    .expect(200);
  setId = made.body.id as string;
  const [set] = (made.body.groups as Groups).sets;
  await school.agents.instructor
    .put(`/api/courses/${school.courseId}/group-sets/${setId}`)
    .send({
      version: set?.version,
      title: 'Pairs',
      groups: [{ id: set?.groups[0]?.id, title: 'Bench one', enrolmentIds: school.students }],
    })
    .expect(200);
}, 60_000);
beforeEach(async () => {
  school = await renewItem(school);
});
afterAll(() => school.close());
const base = (): string => `/api/courses/${school.courseId}`;
const own = (): string => `${base()}/own/items/${school.itemId}`;
const workPath = (n = 0): string => `${base()}/marking/${school.itemId}/${school.students[n]}`;
const work = async (n = 0): Promise<Work> => (await school.agents.instructor.get(workPath(n)).expect(200)).body as Work;
const seen = async (who: 'student' | 'second'): Promise<StudentItem> =>
  (await school.agents[who].get(own()).expect(200)).body as StudentItem;
async function set(change: Record<string, unknown>): Promise<void> {
  const { assignment } = (await school.agents.instructor.get(`${base()}/items/${school.itemId}`).expect(200)).body as {
    assignment: { version: number };
  };
  await school.agents.instructor
    .put(`${base()}/items/${school.itemId}/assignment`)
    .send({ version: assignment.version, ...change })
    .expect(200);
}
const grades = async (): Promise<(string | null)[]> => {
  const { rows } = await school.pool.query<{ raw: string | null }>(
    'select raw from work_grade where item_id = $1 and enrolment_id = any($2) order by array_position($2::uuid[], enrolment_id)',
    [school.itemId, school.students],
  );
  return rows.map((r) => r.raw);
};

describe('work of a group', () => {
  beforeEach(() => set({ groupSetId: setId }));

  it('has one draft, whoever of them types; the other is told of a conflict', async () => {
    await school.agents.student
      .put(`${own()}/draft`)
      .send({ document: paragraphs('One'), version: 0 })
      .expect(200);
    const { draft, group } = await seen('second');
    expect(draft?.document).toEqual(paragraphs('One'));
    expect(group).toMatchObject({ title: 'Bench one', members: ['First Tester', 'Second Tester'], choices: [] });
    await school.agents.second
      .put(`${own()}/draft`)
      .send({ document: paragraphs('Two'), version: draft?.version })
      .expect(200);
    expect((await seen('student')).draft?.document).toEqual(paragraphs('Two'));
    const stale = await school.agents.student
      .put(`${own()}/draft`)
      .send({ document: paragraphs('Three'), version: draft?.version })
      .expect(409);
    expect(stale.body.current.document).toEqual(paragraphs('Two'));
  });

  it('keeps what somebody wrote by themselves before, for them alone', async () => {
    await set({ groupSetId: null });
    const alone = (who: 'student' | 'second', text: string) =>
      school.agents[who]
        .put(`${own()}/draft`)
        .send({ document: paragraphs(text), version: 1 })
        .expect(200);
    await alone('second', 'By myself');
    school.clock.at += 60_000;
    await alone('student', 'Later than theirs');
    await set({ groupSetId: setId });
    const theirs = await seen('second');
    expect([theirs.draft?.document, theirs.group?.ownDraft?.document]).toEqual([paragraphs('Later than theirs'), paragraphs('By myself')]);
    // The group's draft takes its place with the next save, and it is there all the same.
    await school.agents.second
      .put(`${own()}/draft`)
      .send({ document: paragraphs('Ours'), version: theirs.draft?.version })
      .expect(200);
    expect((await seen('second')).group?.ownDraft?.document).toEqual(paragraphs('By myself'));
    expect((await seen('student')).draft?.document).toEqual(paragraphs('Ours'));
    expect(JSON.stringify(await seen('student'))).not.toContain('By myself');
  });

  it('takes files from each of them, and lets each take them away', async () => {
    const pdf = Buffer.from('%PDF-1.4\n%âãÏÓ\n1 0 obj<</Type/Catalog>>endobj\ntrailer<</Root 1 0 R>>\n%%EOF');
    const { body } = await school.agents.student.post(`${own()}/files`).attach('file', pdf, 'log.pdf').expect(200);
    expect((await seen('second')).draft?.files.map((f) => f.name)).toEqual(['log.pdf']);
    await school.agents.second.get(body.url as string).expect(200);
    await school.agents.second.delete(`${own()}/files/${body.id}`).expect(200);
    expect((await seen('student')).draft?.files).toEqual([]);
  });

  it('is handed in once by any of them, for all, and the others are told', async () => {
    await handInText(school, 'student', 'Our log');
    const other = await seen('second');
    expect(other.attempts.map((a) => [a.number, a.by, a.wordCount])).toEqual([[1, 'First Tester', 2]]);
    expect(other.attempts[0]?.contentHash).toBe((await seen('student')).attempts[0]?.contentHash);
    expect(JSON.stringify((await school.agents.second.get('/api/notices').expect(200)).body)).toContain(
      'handed in “Report” for your group',
    );
    const stack = (await school.agents.instructor.get(`${base()}/marking/${school.itemId}`).expect(200)).body as Stack;
    expect(stack.entries.map((e) => [e.group, e.members, e.state])).toEqual([['Bench one', ['First Tester', 'Second Tester'], 'waits']]);
    expect(stack.waits).toBe(1);
  });

  it('has one mark for all, and more or less for one of them with a reason', async () => {
    await handInText(school, 'student', 'Our log');
    const { mark, group } = await work(1);
    expect(group?.members).toHaveLength(2);
    const adjustments = { [school.students[1]]: { points: -5000, reason: 'did not measure' } };
    const change = { version: mark.version, choices: {}, score: 50_000, scoreReason: '', feedback: null, adjustments };
    const saved = await school.agents.instructor.put(`${workPath()}/mark`).send(change).expect(200);
    await school.agents.instructor.post(`${workPath()}/finish`).send({ version: saved.body.version, isAboveConfirmed: false }).expect(200);
    expect(await grades()).toEqual(['50.000', '45.000']);
    await school.agents.instructor
      .post(`${base()}/marking/${school.itemId}/release`)
      .send({ enrolmentIds: [school.students[0]] })
      .expect(200);
    expect((await seen('student')).returned).toMatchObject({ scoreText: '50', adjustment: null });
    expect((await seen('second')).returned).toMatchObject({ scoreText: '45', adjustment: { points: -5000, reason: 'did not measure' } });
  });

  it('takes no adjustment without a reason, nor for somebody else', async () => {
    await handInText(school, 'student', 'Our log');
    const { mark } = await work();
    const change = { version: mark.version, choices: {}, score: 50_000, scoreReason: '', feedback: null };
    const saved = await school.agents.instructor
      .put(`${workPath()}/mark`)
      .send({ ...change, adjustments: { [school.students[1]]: { points: 2000, reason: '' } } })
      .expect(200);
    const refused = await school.agents.instructor
      .post(`${workPath()}/finish`)
      .send({ version: saved.body.version, isAboveConfirmed: false })
      .expect(422);
    expect(refused.body.detail).toContain('Second Tester gets other points than the group');
    await school.agents.instructor
      .put(`${workPath()}/mark`)
      .send({ ...change, version: saved.body.version, adjustments: { [randomUUID()]: { points: 1, reason: 'x' } } })
      .expect(422);
  });

  it('shows a note to all of them, once', async () => {
    await handInText(school, 'student', 'Our log');
    const { attempts } = await work(1);
    const note = {
      id: randomUUID(),
      attemptId: attempts[0]?.id,
      fileId: null,
      anchor: { kind: 'text', from: 1, to: 4 },
      quote: 'Our',
      body: 'Whose?',
    };
    await school.agents.instructor
      .post(`${workPath(1)}/notes`)
      .send(note)
      .expect(200);
    expect((await work(0)).notes.map((n) => n.body)).toEqual(['Whose?']);
    await finishScore(school, school.students[0], 40_000);
    await school.agents.instructor.post(`${base()}/marking/${school.itemId}/release`).send({ enrolmentIds: null }).expect(200);
    for (const who of ['student', 'second'] as const) expect((await seen(who)).returned?.notes.map((n) => n.body)).toEqual(['Whose?']);
  });

  it('is asked of all of them once more, and answered by all', async () => {
    await handInText(school, 'student', 'Our log');
    const dueAt = new Date(START + 9 * DAY).toISOString();
    const asked = (await school.agents.instructor.post(`${workPath()}/revision`).send({ words: 'Again.', dueAt }).expect(200)).body as Work;
    expect((await seen('second')).revision?.words).toBe('Again.');
    await school.agents.instructor.delete(`${workPath(1)}/revision/${asked.revision?.id}`).expect(200);
    expect((await seen('second')).revision).toBeNull();
    await school.agents.instructor.post(`${workPath(1)}/revision/${asked.revision?.id}/restore`).expect(200);
    await handInText(school, 'second', 'Our log, measured');
    expect((await seen('student')).revision?.isAnswered).toBe(true);
  });

  it('stays the work of those who handed it in, when one goes to another group', async () => {
    await handInText(school, 'student', 'Our log');
    await school.pool.query('delete from group_member where enrolment_id = $1', [school.students[1]]);
    try {
      expect((await work(1)).group?.members).toHaveLength(2);
      await finishScore(school, school.students[0], 30_000);
      expect(await grades()).toEqual(['30.000', '30.000']);
    } finally {
      await school.pool.query('insert into group_member (group_id, enrolment_id) select id, $1 from course_group where set_id = $2', [
        school.students[1],
        setId,
      ]);
    }
  });

  it('leaves whoever is exempt as they are', async () => {
    await handInText(school, 'student', 'Our log');
    const cell = {
      columnId: school.columnId,
      enrolmentId: school.students[1],
      state: 'exempt',
      raw: null,
      seenEventId: null,
      isAboveConfirmed: false,
      reason: '',
    };
    await school.agents.instructor.put(`${base()}/gradebook/cells`).send(cell).expect(200);
    await finishScore(school, school.students[0], 30_000);
    expect(await grades()).toEqual(['30.000', null]);
  });

  it('does not become one’s own once something is handed in', async () => {
    await handInText(school, 'student', 'Our log');
    const { assignment } = (await school.agents.instructor.get(`${base()}/items/${school.itemId}`).expect(200)).body;
    const refused = await school.agents.instructor
      .put(`${base()}/items/${school.itemId}/assignment`)
      .send({ version: assignment.version, groupSetId: null })
      .expect(409);
    expect(refused.body.detail).toContain('Work is handed in already');
  });
});

describe('which of several attempts counts', () => {
  async function twice(first: number, second: number): Promise<void> {
    await handInText(school, 'student', 'First try');
    await finishScore(school, school.students[0], first);
    school.clock.at += DAY;
    await handInText(school, 'student', 'Second try');
    await finishScore(school, school.students[0], second);
  }
  it.each([
    ['latest', '40.000'],
    ['best', '50.000'],
    ['mean', '45.000'],
  ])('%s', async (counted, raw) => {
    await set({ counted, attemptsAllowed: 3 });
    await twice(50_000, 40_000);
    expect((await grades())[0]).toBe(raw);
  });
  it('the first: a later one does not make it wait again, nor changes its time', async () => {
    await set({ counted: 'first', attemptsAllowed: 3 });
    await handInText(school, 'student', 'First try');
    await finishScore(school, school.students[0], 50_000);
    school.clock.at = START + 3 * DAY;
    await handInText(school, 'student', 'Second try');
    const { entry, counted } = await work();
    expect([entry.state, entry.lateText, counted]).toEqual(['finished', null, 'first']);
  });
  it('the best: its own time says whether it is late, and the reason stands in the ledger', async () => {
    await set({ counted: 'best', attemptsAllowed: 3 });
    await handInText(school, 'student', 'First try');
    await finishScore(school, school.students[0], 50_000);
    school.clock.at = START + 3 * DAY;
    await handInText(school, 'student', 'Second try');
    expect((await work()).entry.state).toBe('waits');
    await finishScore(school, school.students[0], 40_000);
    expect((await work()).entry.lateText).toBeNull();
    const history = await school.agents.instructor.get(`${base()}/gradebook/history/${school.columnId}/${school.students[0]}`).expect(200);
    expect(JSON.stringify(history.body)).not.toContain('40');
  });
});

describe('late work by an item’s own policy', () => {
  const late = { ratePercent: 10_000, stepMinutes: 1440, base: 'earned', capPercent: 100_000, floorPercent: 0, graceMinutes: 0 };
  const change = async (body: Record<string, unknown>) => {
    const { item } = (await school.agents.instructor.get(`${base()}/items/${school.itemId}`).expect(200)).body;
    return school.agents.instructor.patch(`${base()}/items/${school.itemId}`).send({ version: item.version, ...body });
  };
  it('takes the place of the course’s, and gives it back', async () => {
    await handInText(school, 'student', 'In time');
    school.clock.at = START + 2.5 * DAY;
    await handInText(school, 'second', 'Half a day late');
    await finishScore(school, school.students[1], 40_000);
    const text = async (): Promise<string | null> => (await work(1)).entry.scoreText;
    expect(await text()).toBe('40 of 60');
    expect((await change({ late })).status).toBe(200);
    expect(await text()).toBe('36 of 60');
    expect((await school.agents.instructor.get(`${base()}/items/${school.itemId}`).expect(200)).body.item.late).toEqual(late);
    expect((await change({ late: null })).status).toBe(200);
    expect(await text()).toBe('40 of 60');
  });
  it('is refused beyond its bounds, by its name', async () => {
    const refused = await change({ late: { ...late, ratePercent: 200_000 } });
    expect([refused.status, refused.body.pointers[0].field]).toEqual([422, 'late.ratePercent']);
  });
});

describe('taking back what was handed in', () => {
  const takeBack = (who: 'student' | 'second' = 'student') => school.agents[who].delete(`${own()}/hand-in`);
  it('is possible where it is allowed, until it is due, while nobody marks it', async () => {
    await handInText(school, 'student', 'Too early');
    expect((await seen('student')).canWithdraw).toBe(false);
    expect((await takeBack().expect(409)).body.detail).toContain('cannot be taken back');
    await set({ allowsWithdrawal: true });
    expect((await seen('student')).canWithdraw).toBe(true);
    await takeBack().expect(200);
    const item = await seen('student');
    expect([item.attempts, item.canHandIn, item.draft?.document]).toEqual([[], true, paragraphs('Too early')]);
    const { rows } = await school.pool.query('select attempt from withdrawn_attempt');
    expect(rows[0].attempt.word_count).toBe(2);
    expect((await takeBack().expect(409)).body.detail).toContain('Nothing is handed in');
  });
  it('loses neither what was typed since nor what was taken back', async () => {
    await set({ allowsWithdrawal: true, attemptsAllowed: 3 });
    const type = async (text: string): Promise<void> => {
      const { version } = (await seen('student')).draft ?? { version: 0 };
      await school.agents.student
        .put(`${own()}/draft`)
        .send({ document: paragraphs(text), version })
        .expect(200);
    };
    const handIn = async (note: string): Promise<void> => {
      const { version } = (await seen('student')).draft ?? { version: 0 };
      await school.agents.student
        .post(`${own()}/hand-in`)
        .send({ note, key: `key ${note} ${Math.random()}`, version })
        .expect(200);
    };
    await type('Text A');
    await handIn('the note of A');
    await type('Text B');
    await takeBack().expect(200);
    const once = await seen('student');
    expect([once.draft?.document, once.attempts]).toEqual([paragraphs('Text B'), []]);
    expect(once.takenBack).toMatchObject([{ document: paragraphs('Text A'), note: 'the note of A' }]);
    // Handed in twice: the first stands, and the second is the draft again.
    await type('Text A');
    await handIn('again');
    await type('Text B');
    await handIn('the note of B');
    await takeBack().expect(200);
    const twice = await seen('student');
    expect(twice.attempts.map((a) => a.document)).toEqual([paragraphs('Text A')]);
    expect([twice.draft?.document, twice.takenBack[0]?.note]).toEqual([paragraphs('Text B'), 'the note of B']);
  });
  it('is refused once it is due, and once marking has begun', async () => {
    await set({ allowsWithdrawal: true });
    await handInText(school, 'student', 'Mine');
    const change = { version: 0, choices: {}, score: 1000, scoreReason: '', feedback: null };
    await school.agents.instructor.put(`${workPath()}/mark`).send(change).expect(200);
    expect((await takeBack().expect(409)).body.detail).toContain('Marking of it has begun');
    await handInText(school, 'second', 'Mine too');
    school.clock.at = START + 2 * DAY;
    expect((await takeBack('second').expect(409)).body.detail).toContain('past the due time');
  });
  it('of a group’s work is for all of them', async () => {
    await set({ groupSetId: setId, allowsWithdrawal: true });
    await handInText(school, 'student', 'Ours');
    await takeBack('second').expect(200);
    expect((await seen('student')).attempts).toEqual([]);
  });
});

describe('how the class did', () => {
  it('is told to students where it is shown, and never of fewer than five', async () => {
    await handInText(school, 'student', 'Mine');
    await finishScore(school, school.students[0], 40_000);
    await school.agents.instructor.post(`${base()}/marking/${school.itemId}/release`).send({ enrolmentIds: null }).expect(200);
    const { item } = (await school.agents.instructor.get(`${base()}/items/${school.itemId}`).expect(200)).body;
    await school.agents.instructor
      .patch(`${base()}/items/${school.itemId}`)
      .send({ version: item.version, showsStatistics: true })
      .expect(200);
    expect((await seen('student')).returned?.statistics).toBeNull();
  });
});

describe('sets of groups made in other ways', () => {
  const sets = (): string => `${base()}/group-sets`;
  const read = (text: string | Buffer) => school.agents.instructor.post(`${sets()}/read`).attach('file', Buffer.from(text), 'groups.csv');
  it('are listed by address, name or identifier, each line told by itself', async () => {
    const text = 'group,student\nA,first@example.org\nA,"Tester, Second"\nB,nobody@example.org\nB,First Tester\n,second@example.org';
    const { body } = await read(text).expect(200);
    expect(body.groups).toEqual([{ title: 'A', enrolmentIds: school.students, names: ['Tester, First', 'Tester, Second'] }]);
    // Every line of B was refused: it is named, as it will not be made.
    expect(body.refused).toEqual(['B']);
    expect(body.faults).toEqual([
      { line: 4, text: '“nobody@example.org” is no student of this course.' },
      { line: 5, text: 'Tester, First is in “A” already.' },
      { line: 6, text: 'The group is empty.' },
    ]);
    const groups = body.groups.map((g: { title: string; enrolmentIds: string[] }) => ({ title: g.title, enrolmentIds: g.enrolmentIds }));
    const made = await school.agents.instructor
      .post(sets())
      .send({ title: 'Listed', makes: 'listed', number: 1, withinSections: false, groups })
      .expect(200);
    const set = (made.body.groups as Groups).sets.find((s) => s.title === 'Listed');
    expect(set?.groups.map((g) => [g.title, g.enrolmentIds.length])).toEqual([['A', 2]]);
  });
  it.each([
    ['no column for students', 'group,who\nA,x', 'no column “student”'],
    ['no lines', 'group,student\n', 'no lines under its header'],
    ['another encoding', Buffer.from([0x67, 0xff, 0xfe]), 'UTF-8'],
  ])('a list with %s is refused by its name', async (_what, text, reason) => {
    expect((await read(text).expect(422)).body.detail).toContain(reason);
  });
  it('are alike by standing', async () => {
    const { body } = await school.agents.instructor
      .post(sets())
      .send({ title: 'Alike', makes: 'balanced', number: 1, withinSections: false })
      .expect(200);
    const set = (body.groups as Groups).sets.find((s) => s.title === 'Alike');
    expect(set?.groups.map((g) => g.enrolmentIds.length)).toEqual([1, 1]);
  });
  it('are chosen by students until a time, as long as there is room', async () => {
    const made = await school.agents.instructor
      .post(sets())
      .send({ title: 'Chosen', makes: 'empty', number: 2, withinSections: false })
      .expect(200);
    const set = (made.body.groups as Groups).sets.find((s) => s.title === 'Chosen');
    const groups = set?.groups.map((g) => ({ id: g.id, title: g.title, enrolmentIds: [] })) ?? [];
    const choose = (who: 'student' | 'second', groupId: string | null) =>
      school.agents[who].put(`${base()}/own/group-sets/${set?.id}`).send({ groupId });
    await choose('student', groups[0]?.id ?? '').expect(409);
    const until = new Date(START + DAY).toISOString();
    await school.agents.instructor
      .put(`${sets()}/${set?.id}`)
      .send({ version: set?.version, title: 'Chosen', groups, signUpUntil: until, mostMembers: 1 })
      .expect(200);
    await choose('student', groups[0]?.id ?? '').expect(200);
    expect((await choose('second', groups[0]?.id ?? '').expect(409)).body.detail).toContain('This group is full');
    await choose('student', groups[1]?.id ?? '').expect(200);
    await choose('second', groups[0]?.id ?? '').expect(200);
    await set2(set?.id ?? '');
    const seenChoices = (await seen('student')).group?.choices.map((c) => [c.members, c.isFull]);
    expect(seenChoices).toEqual([
      [['Second Tester'], true],
      [['First Tester'], true],
    ]);
    await choose('student', null).expect(200);
    expect((await seen('student')).group?.groupId).toBeNull();
    await choose('student', randomUUID()).expect(404);
    school.clock.at = START + DAY;
    await choose('student', groups[1]?.id ?? '').expect(409);
    await school.agents.instructor.put(`${base()}/own/group-sets/${set?.id}`).send({ groupId: null }).expect(403);
  });
  const set2 = (groupSetId: string): Promise<void> => set({ groupSetId });
});
