import { paragraphs, type SharesView, type Stack, type StackEntry, type Work } from '@rosemary/api';
import JSZip from 'jszip';
import { randomUUID } from 'node:crypto';
import { PDFDocument } from 'pdf-lib';
import { bareFile } from '../src/openFile/index.ts';
import { handInText, makeSchool, renewItem, START, type TestSchool } from './school.ts';

/** Marking without names, shared out, and by two. */
const DAY = 86_400_000;

let school: TestSchool;

beforeAll(async () => {
  school = await makeSchool('fair');
}, 60_000);

beforeEach(async () => {
  school = await renewItem(school);
});

afterAll(() => school.close());

type Who = 'instructor' | 'assistant';

const base = (): string => `/api/courses/${school.courseId}`;

const own = (): string => `${base()}/own/items/${school.itemId}`;

const marking = (): string => `${base()}/marking/${school.itemId}`;

async function set(change: Record<string, unknown>): Promise<void> {
  const { assignment } = (await school.agents.instructor.get(`${base()}/items/${school.itemId}`).expect(200)).body;
  await school.agents.instructor
    .put(`${base()}/items/${school.itemId}/assignment`)
    .send({ version: assignment.version, ...change })
    .expect(200);
}

const stack = async (who: Who = 'instructor'): Promise<Stack> => (await school.agents[who].get(marking()).expect(200)).body as Stack;

const entries = async (who: Who = 'instructor'): Promise<readonly StackEntry[]> => (await stack(who)).entries;

const work = async (id: string, who: Who = 'instructor'): Promise<Work> =>
  (await school.agents[who].get(`${marking()}/${id}`).expect(200)).body as Work;

async function mark(id: string, score: number, who: Who = 'instructor', finishes = true): Promise<Work> {
  const { mark: before } = await work(id, who);
  const saved = await school.agents[who]
    .put(`${marking()}/${id}/mark`)
    .send({ version: before.version, choices: {}, score, scoreReason: '', feedback: null })
    .expect(200);
  if (!finishes) return work(id, who);
  return (
    await school.agents[who].post(`${marking()}/${id}/finish`).send({ version: saved.body.version, isAboveConfirmed: false }).expect(200)
  ).body as Work;
}

/** A small PDF that says who made it. */
async function namedPdf(): Promise<Buffer> {
  const document = await PDFDocument.create();
  document.addPage([200, 200]);
  document.setAuthor('First Tester');
  document.setTitle('Report by First Tester');
  return Buffer.from(await document.save());
}

describe('marking without names', () => {
  beforeEach(() => set({ anonymous: 'release' }));

  it('gives works signs in place of names, in an order of their own, and nothing else that tells', async () => {
    await handInText(school, 'student', 'A report that names nobody');
    const list = await stack();
    expect(list.item.isVeiled).toBe(true);
    expect(JSON.stringify(list)).not.toMatch(/Tester|First|Second|Morning|Evening/);
    for (const id of [...school.students, school.sections[0]]) expect(JSON.stringify(list)).not.toContain(id);
    const [entry] = list.entries.filter((e) => e.state === 'waits');
    expect(entry).toMatchObject({ givenName: 'Work', personId: '', section: '', handedInAt: null, isVeiled: true });
    expect(entry?.familyName).toMatch(/^[A-Z2-9]{4}$/);
    // The same sign each time, so that one finds one’s place again.
    expect((await entries()).map((e) => e.familyName)).toEqual(list.entries.map((e) => e.familyName));
    const opened = await work(entry?.enrolmentId ?? '');
    expect(JSON.stringify(opened)).not.toMatch(/Tester|Morning|Evening/);
    for (const id of school.students) expect(JSON.stringify(opened)).not.toContain(id);
    expect(opened.attempts[0]).toMatchObject({ handedInAt: '', by: null, wordCount: 5 });
  });

  it('is not found by the student’s own identifier', async () => {
    await handInText(school, 'student', 'A report');
    await school.agents.instructor.get(`${marking()}/${school.students[0]}`).expect(404);
    await school.agents.instructor.get(`${marking()}/${randomUUID()}`).expect(404);
  });

  it('sends files under no name, without what they say of their maker, and by no other way', async () => {
    const { body: file } = await school.agents.student
      .post(`${own()}/files`)
      .attach('file', await namedPdf(), 'first-tester.pdf')
      .expect(200);
    await handInText(school, 'student', 'A report');
    const [entry] = (await entries()).filter((e) => e.state === 'waits');
    const opened = await work(entry?.enrolmentId ?? '');
    expect(opened.attempts[0]?.files.map((f) => f.name)).toEqual(['File 1.pdf']);
    const sent = await school.agents.instructor
      .get(opened.attempts[0]?.files[0]?.url ?? '')
      .buffer(true)
      .expect(200);
    expect(sent.headers['content-disposition']).not.toContain('tester');
    const read = await PDFDocument.load(sent.body as Buffer, { updateMetadata: false });
    expect([read.getAuthor(), read.getTitle(), read.getPageCount()]).toEqual([undefined, undefined, 1]);
    await school.agents.instructor.get(file.url as string).expect(404);
    await school.agents.student.get(file.url as string).expect(200);
  });

  it('says nothing of the score in the gradebook, its history or a typed score until it is released', async () => {
    await handInText(school, 'student', 'A report');
    const [entry] = (await entries()).filter((e) => e.state === 'waits');
    await mark(entry?.enrolmentId ?? '', 47_000);
    const book = await school.agents.instructor.get(`${base()}/gradebook`).expect(200);
    expect(JSON.stringify(book.body.rows.map((r: { cells: unknown; totals: unknown }) => [r.cells, r.totals]))).not.toContain('47');
    const history = await school.agents.instructor.get(`${base()}/gradebook/history/${school.columnId}/${school.students[0]}`).expect(200);
    expect(history.body).toEqual([]);
    const cell = {
      columnId: school.columnId,
      enrolmentId: school.students[0],
      state: 'scored',
      raw: 1000,
      seenEventId: null,
      isAboveConfirmed: false,
      reason: '',
    };
    expect((await school.agents.instructor.put(`${base()}/gradebook/cells`).send(cell).expect(409)).body.detail).toContain(
      'marked without names',
    );
  });

  it('shows in its preview of release scores and no names, then names whoever is released', async () => {
    await handInText(school, 'student', 'A report');
    const [entry] = (await entries()).filter((e) => e.state === 'waits');
    await mark(entry?.enrolmentId ?? '', 47_000);
    const preview = await school.agents.instructor.post(`${marking()}/release/preview`).send({ enrolmentIds: null }).expect(200);
    expect(preview.body).toMatchObject({
      showsNames: false,
      held: [],
      students: [{ name: `Work ${entry?.familyName}`, score: '47', section: '' }],
    });
    await school.agents.instructor
      .post(`${marking()}/release`)
      .send({ enrolmentIds: [entry?.enrolmentId] })
      .expect(200);
    const after = await entries();
    expect(after.find((e) => !e.isVeiled)).toMatchObject({ givenName: 'First', enrolmentId: school.students[0], state: 'released' });
    expect(after.filter((e) => e.isVeiled)).toHaveLength(1);
    await school.agents.instructor.get(`${marking()}/${school.students[0]}`).expect(200);
  });

  it('talks with the student without saying who it is, and leads staff to the sign', async () => {
    await handInText(school, 'student', 'A report');
    await school.agents.student.post(`${own()}/words`).send({ id: randomUUID(), body: 'May I add a drawing?' }).expect(200);
    const [entry] = (await entries()).filter((e) => e.state === 'waits');
    const opened = await work(entry?.enrolmentId ?? '');
    expect(opened.words.map((w) => [w.author, w.body])).toEqual([['The student', 'May I add a drawing?']]);
    const notices = await school.agents.instructor.get('/api/notices').expect(200);
    expect(JSON.stringify(notices.body)).toContain(`/marking/${school.itemId}/${entry?.enrolmentId}`);
    expect(JSON.stringify(notices.body)).not.toContain(school.students[0]);
  });

  it.each(['finished', 'hand', 'date'] as const)(
    'can be finished where marks are released %s, in every kind of hiding',
    async (releaseMode) => {
      const plan = await school.agents.instructor.get(`${base()}/items/${school.itemId}`).expect(200);
      await school.agents.instructor
        .patch(`${base()}/items/${school.itemId}`)
        .send({
          version: plan.body.item.version,
          releaseMode,
          ...(releaseMode === 'date' ? { releaseAt: new Date(START + DAY).toISOString() } : {}),
        })
        .expect(200);
      await handInText(school, 'student', 'A report');
      await handInText(school, 'second', 'Another report');
      for (const [n, hiding] of [
        { anonymous: 'release' },
        { anonymous: 'date', anonymousUntil: new Date(START + 4 * DAY).toISOString() },
      ].entries()) {
        await set(hiding);
        const waits = (await entries()).filter((e) => e.state === 'waits');
        const finished = await mark(waits[0]?.enrolmentId ?? '', 40_000 + n);
        const isNamed = releaseMode === 'finished' && hiding.anonymous === 'release';
        expect([finished.mark.state, finished.entry.isVeiled]).toEqual([releaseMode === 'finished' ? 'released' : 'finished', !isNamed]);
        // Whoever has it open under its sign goes on with it.
        await school.agents.instructor.get(`${marking()}/${waits[0]?.enrolmentId}`).expect(200);
      }
    },
  );

  it('lasts until the later of its date and the release', async () => {
    await set({ anonymous: 'date', anonymousUntil: new Date(START + 4 * DAY).toISOString() });
    await handInText(school, 'student', 'A report');
    expect((await entries()).every((e) => e.isVeiled)).toBe(true);
    const [entry] = (await entries()).filter((e) => e.state === 'waits');
    await mark(entry?.enrolmentId ?? '', 40_000);
    await school.agents.instructor.post(`${marking()}/release`).send({ enrolmentIds: null }).expect(200);
    expect((await entries()).every((e) => e.isVeiled)).toBe(true);
    const book = await school.agents.instructor.get(`${base()}/gradebook`).expect(200);
    expect(JSON.stringify(book.body.rows.map((r: { cells: unknown }) => r.cells))).not.toContain('"40"');
    expect((await school.agents.student.get(own()).expect(200)).body.returned.scoreText).toBe('40');
    school.clock.at = START + 4 * DAY;
    expect((await entries()).filter((e) => !e.isVeiled).map((e) => e.enrolmentId)).toEqual([school.students[0]]);
  });

  it('needs its date', async () => {
    const { assignment } = (await school.agents.instructor.get(`${base()}/items/${school.itemId}`).expect(200)).body;
    const refused = await school.agents.instructor
      .put(`${base()}/items/${school.itemId}/assignment`)
      .send({ version: assignment.version, anonymous: 'date' })
      .expect(422);
    expect(refused.body.pointers[0].field).toBe('anonymousUntil');
  });
});

describe('a file without what it says of its maker', () => {
  it('a Word file: no properties, no authors of changes, and it still opens', async () => {
    const zip = new JSZip();
    zip.file(
      '[Content_Types].xml',
      '<Types><Override PartName="/docProps/core.xml" ContentType="x"/><Override PartName="/word/document.xml" ContentType="y"/></Types>',
    );
    zip.file(
      '_rels/.rels',
      '<Relationships><Relationship Id="r2" Target="docProps/core.xml"/><Relationship Id="r1" Target="word/document.xml"/></Relationships>',
    );
    zip.file('docProps/core.xml', '<creator>First Tester</creator>');
    zip.file('word/document.xml', '<w:ins w:id="1" w:author="First Tester"><w:t>Hello</w:t></w:ins>');
    const type = 'application/vnd.openxmlformats-officedocument.wordprocessingml.document';
    const bare = await bareFile(await zip.generateAsync({ type: 'nodebuffer' }), type);
    const read = await JSZip.loadAsync(bare ?? Buffer.alloc(0));
    expect(Object.keys(read.files).some((n) => n.startsWith('docProps'))).toBe(false);
    expect(await read.file('word/document.xml')?.async('string')).toBe('<w:ins w:id="1" w:author="Author"><w:t>Hello</w:t></w:ins>');
    expect(await read.file('[Content_Types].xml')?.async('string')).not.toContain('docProps');
    expect(await read.file('_rels/.rels')?.async('string')).not.toContain('docProps');
  });
  it('a JPEG: without EXIF and comments, with everything that is the picture', async () => {
    const segment = (marker: number, text: string): Buffer =>
      Buffer.concat([Buffer.from([0xff, marker, 0, text.length + 2]), Buffer.from(text)]);
    const [head, scan] = [Buffer.from([0xff, 0xd8]), Buffer.from([0xff, 0xda, 0, 2, 1, 2, 3, 0xff, 0xd9])];
    const jpeg = Buffer.concat([
      head,
      segment(0xe0, 'JFIF'),
      segment(0xe1, 'Exif First'),
      segment(0xfe, 'by First'),
      segment(0xdb, 'table'),
      scan,
    ]);
    expect(await bareFile(jpeg, 'image/jpeg')).toEqual(Buffer.concat([head, segment(0xe0, 'JFIF'), segment(0xdb, 'table'), scan]));
  });
  it('a PNG: without words and time', async () => {
    const chunk = (type: string, text: string): Buffer => {
      const size = Buffer.alloc(4);
      size.writeUInt32BE(text.length);
      return Buffer.concat([size, Buffer.from(type), Buffer.from(text), Buffer.alloc(4)]);
    };
    const head = Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]);
    const png = Buffer.concat([head, chunk('IHDR', 'x'), chunk('tEXt', 'Author First'), chunk('IDAT', 'y'), chunk('IEND', '')]);
    expect(await bareFile(png, 'image/png')).toEqual(Buffer.concat([head, chunk('IHDR', 'x'), chunk('IDAT', 'y'), chunk('IEND', '')]));
  });
  it('what cannot be read is not sent', async () => {
    expect(await bareFile(Buffer.from('no zip'), 'application/vnd.openxmlformats-officedocument.wordprocessingml.document')).toBeNull();
    expect(await bareFile(Buffer.from('%PDF-1.4 broken'), 'application/pdf')).toBeNull();
  });
});

describe('shared out', () => {
  const shares = async (): Promise<SharesView> =>
    (await school.agents.instructor.get(`${marking()}/shares`).expect(200)).body as SharesView;
  const personOf = async (name: string): Promise<string> => (await shares()).markers.find((m) => m.name.startsWith(name))?.id ?? '';

  it('is drawn first, then kept, and an assistant marks what is theirs, of any section', async () => {
    await handInText(school, 'second', 'Of the evening');
    const assistant = await personOf('Assistant');
    await school.agents.assistant.get(`${marking()}/${school.students[1]}`).expect(404);
    const drawn = await school.agents.instructor
      .post(`${marking()}/shares/draw`)
      .send({ markerIds: [assistant], within: 'all', each: null })
      .expect(200);
    expect(drawn.body.shares).toHaveLength(2);
    expect((await shares()).markers.every((m) => m.works === 0)).toBe(true);
    const kept = { shares: [{ workId: school.students[1], markerIds: [assistant] }] };
    expect(
      (await school.agents.instructor.put(`${marking()}/shares`).send(kept).expect(200)).body.markers.find(
        (m: { id: string }) => m.id === assistant,
      ).works,
    ).toBe(1);
    expect((await entries('assistant')).map((e) => [e.enrolmentId, e.sharedTo])).toEqual([[school.students[1], ['Assistant Tester']]]);
    await school.agents.assistant.get(`${marking()}/${school.students[0]}`).expect(404);
    await mark(school.students[1], 30_000, 'assistant');
    expect((await entries()).length).toBe(2);
  });

  it('keeps to the sections of each where it is asked to', async () => {
    const ids = [await personOf('Assistant')];
    const drawn = await school.agents.instructor
      .post(`${marking()}/shares/draw`)
      .send({ markerIds: ids, within: 'sections', each: null })
      .expect(200);
    const given = new Map((drawn.body.shares as { workId: string; markerIds: string[] }[]).map((s) => [s.workId, s.markerIds]));
    expect([given.get(school.students[0]), given.get(school.students[1])]).toEqual([ids, []]);
  });

  it('is for the instructor, and names only those who mark here', async () => {
    for (const who of ['assistant', 'student'] as const) await school.agents[who].get(`${marking()}/shares`).expect(403);
    await school.agents.instructor
      .post(`${marking()}/shares/draw`)
      .send({ markerIds: [randomUUID()], within: 'all', each: null })
      .expect(422);
    await school.agents.instructor
      .put(`${marking()}/shares`)
      .send({ shares: [{ workId: randomUUID(), markerIds: [] }] })
      .expect(422);
  });

  it('is under signs where names are hidden', async () => {
    await set({ anonymous: 'release' });
    const view = await shares();
    expect(view.works.every((w) => /^Work [A-Z2-9]{4}$/.test(w.name))).toBe(true);
    expect(JSON.stringify(view.works)).not.toContain(school.students[0]);
    const drawn = await school.agents.instructor
      .post(`${marking()}/shares/draw`)
      .send({ markerIds: [await personOf('Assistant')], within: 'all', each: 1 })
      .expect(200);
    await school.agents.instructor.put(`${marking()}/shares`).send(drawn.body).expect(200);
    expect(await entries('assistant')).toHaveLength(1);
  });
});

describe('by two', () => {
  beforeEach(async () => {
    await set({ markers: 2 });
    await handInText(school, 'student', 'A report for two');
  });
  const id = (): string => school.students[0];
  const note = (who: Who, body: string, attemptId: string | undefined) =>
    school.agents[who]
      .post(`${marking()}/${id()}/notes`)
      .send({ id: randomUUID(), attemptId, fileId: null, anchor: { kind: 'text', from: 1, to: 2 }, quote: 'A', body })
      .expect(200);

  it('each marks on their own: neither sees the other’s mark or notes until both stand by theirs', async () => {
    const opened = await mark(id(), 40_000);
    await note('instructor', 'Mine alone', opened.attempts[0]?.id);
    const other = await work(id(), 'assistant');
    expect([other.part.kind, other.part.isOneOfTwo, other.mark.score, other.notes]).toEqual(['marks', true, null, []]);
    expect(other.part.marks.map((m) => [m.marker, m.state, m.mark])).toEqual([['Instructor Tester', 'finished', null]]);
    expect((await entries()).find((e) => e.enrolmentId === id())?.state).toBe('in hand');
    const { rows } = await school.pool.query('select 1 from work_grade where item_id = $1', [school.itemId]);
    expect(rows).toEqual([]);
    const both = await mark(id(), 48_000, 'assistant');
    expect([both.part.kind, both.notes.map((n) => n.body)]).toEqual(['agrees', ['Mine alone']]);
    expect(both.part.marks.map((m) => [m.marker, m.mark?.total])).toEqual([
      ['Instructor Tester', 40_000],
      ['Assistant Tester', 48_000],
    ]);
    expect((await entries()).find((e) => e.enrolmentId === id())?.state).toBe('to agree');
  });

  it('what they agree on is the mark that counts, and goes into the ledger', async () => {
    await mark(id(), 40_000);
    await mark(id(), 48_000, 'assistant');
    const agreed = await mark(id(), 45_000, 'assistant');
    expect([agreed.entry.state, agreed.mark.score]).toEqual(['finished', 45_000]);
    const { rows } = await school.pool.query('select raw from work_grade where item_id = $1', [school.itemId]);
    expect(rows).toEqual([{ raw: '45.000' }]);
  });

  it('a student sees neither of the two, only what was agreed and released', async () => {
    await mark(id(), 40_000);
    await mark(id(), 48_000, 'assistant');
    expect(JSON.stringify((await school.agents.student.get(own()).expect(200)).body)).not.toMatch(/40000|48000|"40"|"48"/);
    await mark(id(), 45_000);
    await school.agents.instructor.post(`${marking()}/release`).send({ enrolmentIds: null }).expect(200);
    const { body } = await school.agents.student.get(own()).expect(200);
    expect(body.returned.scoreText).toBe('45');
    expect(JSON.stringify(body)).not.toMatch(/40000|48000/);
  });

  it('a third looks on and cannot write', async () => {
    const hash = await school.pool.query('select person_id from enrolment where course_id = $1 and role = $2', [
      school.otherCourseId,
      'instructor',
    ]);
    await school.pool.query("insert into enrolment (course_id, person_id, role) values ($1, $2, 'assistant')", [
      school.courseId,
      hash.rows[0].person_id,
    ]);
    const third = await school.pool.query('select id from enrolment where course_id = $1 and person_id = $2', [
      school.courseId,
      hash.rows[0].person_id,
    ]);
    await school.pool.query('insert into assistant_section (enrolment_id, section_id) values ($1, $2)', [
      third.rows[0].id,
      school.sections[0],
    ]);
    await mark(id(), 40_000, 'instructor', false);
    await mark(id(), 48_000, 'assistant', false);
    const seen = await school.agents.outsider.get(`${marking()}/${id()}`).expect(200);
    expect([seen.body.part.kind, seen.body.mark.score, seen.body.notes]).toEqual(['looks', null, []]);
    await school.agents.outsider
      .put(`${marking()}/${id()}/mark`)
      .send({ version: 0, choices: {}, score: 1, scoreReason: '', feedback: null })
      .expect(403);
    await school.pool.query('delete from assistant_section where enrolment_id = $1', [third.rows[0].id]);
    await school.pool.query('delete from enrolment where id = $1', [third.rows[0].id]);
  });

  it('is settled before anybody has begun', async () => {
    await mark(id(), 40_000, 'instructor', false);
    const { assignment } = (await school.agents.instructor.get(`${base()}/items/${school.itemId}`).expect(200)).body;
    const refused = await school.agents.instructor
      .put(`${base()}/items/${school.itemId}/assignment`)
      .send({ version: assignment.version, markers: 1 })
      .expect(409);
    expect(refused.body.pointers[0].field).toBe('markers');
  });
});

describe('what goes with the feedback', () => {
  it('is added, removed and put back, and reaches the student with the mark', async () => {
    await handInText(school, 'student', 'A report');
    const path = `${marking()}/${school.students[0]}`;
    const { body: files } = await school.agents.instructor
      .post(`${path}/feedback-files`)
      .attach('file', Buffer.from('Look here'), 'look.txt')
      .expect(200);
    const [file] = files as { id: string; url: string }[];
    await school.agents.student.get(file?.url ?? '').expect(404);
    await school.agents.instructor.delete(`${path}/feedback-files/${file?.id}`).expect(200);
    await school.agents.instructor.post(`${path}/feedback-files/${file?.id}/restore`).expect(200);
    await mark(school.students[0], 30_000);
    await school.agents.student.get(file?.url ?? '').expect(404);
    await school.agents.instructor.post(`${marking()}/release`).send({ enrolmentIds: null }).expect(200);
    await school.agents.student.get(file?.url ?? '').expect(200);
    await school.agents.second.get(file?.url ?? '').expect(404);
    const { body } = await school.agents.student.get(own()).expect(200);
    expect(body.returned.feedbackFiles.map((f: { name: string }) => f.name)).toEqual(['look.txt']);
  });
});

describe('criteria of other forms', () => {
  it('are set, judged and kept: a tick, a range, a count, words', async () => {
    const level = (title: string, points: number, more = {}) => ({ id: null, title, descriptor: '', points, ...more });
    const criteria = [
      { id: null, title: 'Labelled', form: 'check', levels: [level('no', 0), level('yes', 10_000)] },
      { id: null, title: 'Depth', form: 'range', levels: [level('thin', 15_000, { least: 0 }), level('full', 30_000, { least: 16_000 })] },
      { id: null, title: 'Slips', form: 'count', levels: [level('few', 20_000, { upTo: 2 }), level('many', 0, { upTo: null })] },
      { id: null, title: 'Style', form: 'comment', levels: [] },
    ];
    const { body } = await school.agents.instructor
      .put(`${base()}/items/${school.itemId}/rubric`)
      .send({ version: 0, criteria })
      .expect(200);
    const [check, range, count, words] = body.rubric.criteria as {
      id: string;
      form: string;
      levels: { id: string; least: number | null; upTo: number | null }[];
    }[];
    expect([check?.form, range?.levels[1]?.least, count?.levels[0]?.upTo, words?.levels]).toEqual(['check', 16_000, 2, []]);
    await handInText(school, 'student', 'A report');
    const change = {
      version: 0,
      choices: { [check?.id ?? '']: check?.levels[1]?.id, [range?.id ?? '']: range?.levels[1]?.id },
      given: { [range?.id ?? '']: 22_500, [count?.id ?? '']: 2 },
      comments: { [words?.id ?? '']: 'Reads well.', [check?.id ?? '']: ' ' },
      score: null,
      scoreReason: '',
      feedback: null,
    };
    const saved = await school.agents.instructor.put(`${marking()}/${school.students[0]}/mark`).send(change).expect(200);
    expect(saved.body).toMatchObject({ total: 52_500, isComplete: true, comments: { [words?.id ?? '']: 'Reads well.' } });
    expect(Object.keys(saved.body.comments)).toEqual([words?.id]);
    await school.agents.instructor
      .post(`${marking()}/${school.students[0]}/finish`)
      .send({ version: saved.body.version, isAboveConfirmed: false })
      .expect(200);
    await school.agents.instructor.post(`${marking()}/release`).send({ enrolmentIds: null }).expect(200);
    const { body: seen } = await school.agents.student.get(own()).expect(200);
    expect(seen.returned).toMatchObject({ scoreText: '52.5', given: change.given, comments: { [words?.id ?? '']: 'Reads well.' } });
  });
  it.each([
    [
      'a range whose least is above its most',
      { form: 'range', levels: [{ id: null, title: '', descriptor: '', points: 1000, least: 2000 }] },
      'levels.0.least',
    ],
    ['words with levels', { form: 'comment', levels: [{ id: null, title: '', descriptor: '', points: 1000 }] }, 'levels'],
    ['one level alone', { form: 'levels', levels: [{ id: null, title: '', descriptor: '', points: 1000 }] }, 'levels'],
  ])('refuse %s', async (_what, criterion, field) => {
    const { body } = await school.agents.instructor
      .put(`${base()}/items/${school.itemId}/rubric`)
      .send({ version: 0, criteria: [{ id: null, title: 'x', ...criterion }] })
      .expect(422);
    expect(body.pointers[0].field).toContain(field);
  });
});

describe('a note', () => {
  it('may propose other words, with or without a word of its own, on written words alone', async () => {
    await handInText(school, 'student', 'A report');
    const { attempts } = await work(school.students[0]);
    const path = `${marking()}/${school.students[0]}/notes`;
    const place = { attemptId: attempts[0]?.id, fileId: null, anchor: { kind: 'text', from: 3, to: 9 }, quote: 'report' };
    const { body } = await school.agents.instructor
      .post(path)
      .send({ id: randomUUID(), ...place, body: '', replacement: 'draft' })
      .expect(200);
    expect(body[0]).toMatchObject({ body: '', replacement: 'draft', quote: 'report' });
    await school.agents.instructor
      .post(path)
      .send({ id: randomUUID(), ...place, body: '' })
      .expect(422);
    expect((await work(school.students[0])).attempts[0]?.document).toEqual(paragraphs('A report'));
  });
  it('carries the points of its stock remark', async () => {
    await handInText(school, 'student', 'A report');
    const { attempts } = await work(school.students[0]);
    const remarkId = randomUUID();
    await school.agents.instructor
      .post('/api/remarks')
      .send({ id: remarkId, body: 'No unit.', criterion: '', shortcut: 'nu', points: -500 })
      .expect(200);
    const note = {
      id: randomUUID(),
      attemptId: attempts[0]?.id,
      fileId: null,
      anchor: { kind: 'text', from: 1, to: 2 },
      quote: 'A',
      body: 'No unit.',
      remarkId,
    };
    const { body } = await school.agents.instructor.post(`${marking()}/${school.students[0]}/notes`).send(note).expect(200);
    expect(body[0].points).toBe(-500);
  });
});
