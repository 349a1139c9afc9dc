import { paragraphs } from '@rosemary/api';
import { finishScore, handInText, makeSchool, START, type TestSchool } from './school.ts';

let school: TestSchool;
beforeAll(async () => {
  school = await makeSchool('work');
}, 60_000);
afterAll(() => school.close());
const own = (): string => `/api/courses/${school.courseId}/own/items/${school.itemId}`;
const marking = (): string => `/api/courses/${school.courseId}/marking/${school.itemId}`;
const PDF = Buffer.from('%PDF-1.4\n1 0 obj<</Type/Catalog>>endobj\ntrailer<</Root 1 0 R>>\n%%EOF\n');

describe('a student’s work, up to the receipt', () => {
  it('cannot be handed in empty', async () => {
    const answer = await school.agents.student.post(`${own()}/hand-in`).send({ note: '', key: 'empty-key', version: 1 }).expect(422);
    expect(answer.body.detail).toContain('nothing to hand in');
  });

  it('is kept as typed, and a second window’s older text is refused with both versions', async () => {
    const saved = await school.agents.student
      .put(`${own()}/draft`)
      .send({ document: paragraphs('first'), version: 0 })
      .expect(200);
    const next = await school.agents.student
      .put(`${own()}/draft`)
      .send({ document: paragraphs('second'), version: saved.body.version })
      .expect(200);
    const stale = await school.agents.student
      .put(`${own()}/draft`)
      .send({ document: paragraphs('stale'), version: saved.body.version })
      .expect(409);
    expect(JSON.stringify(stale.body.current)).toContain('second');
    expect(next.body.version).toBe(saved.body.version + 1);
    expect(JSON.stringify((await school.agents.student.get(own())).body.draft.document)).toContain('second');
  });

  it.each([
    ['a script', { type: 'doc', content: [{ type: 'script', content: [] }] }],
    [
      'a link that runs',
      {
        type: 'doc',
        content: [
          { type: 'paragraph', content: [{ type: 'text', text: 'x', marks: [{ type: 'link', attrs: { href: 'javascript:alert(1)' } }] }] },
        ],
      },
    ],
    [
      'a picture from elsewhere',
      { type: 'doc', content: [{ type: 'picture', attrs: { src: 'https://elsewhere.example/x.png', alt: 'x' } }] },
    ],
  ])('refuses a text with %s', async (_, document) => {
    const { body } = await school.agents.student.get(own());
    await school.agents.student.put(`${own()}/draft`).send({ document, version: body.draft.version }).expect(422);
  });

  it.each([
    ['notes.pdf', Buffer.from('only text'), 415],
    ['empty.pdf', Buffer.alloc(0), 422],
    ['large.pdf', Buffer.concat([PDF, Buffer.alloc(5000, 32)]), 413],
  ])('refuses %s by its content and size', async (name, bytes, status) => {
    const answer = await school.agents.student.post(`${own()}/files`).attach('file', bytes, name).expect(status);
    expect(answer.body.detail).toContain(name);
  });

  it('takes a PDF, hands in once however often it is sent, and gives a receipt', async () => {
    const file = await school.agents.student.post(`${own()}/files`).attach('file', PDF, '../../odd näme.pdf').expect(200);
    expect(file.body.name).toBe('odd näme.pdf');
    const { body: item } = await school.agents.student.get(own());
    const send = () =>
      school.agents.student.post(`${own()}/hand-in`).send({ note: 'by train', key: 'the-same-key', version: item.draft.version });
    const receipt = await send().expect(200);
    const again = await send().expect(200);
    expect(again.body).toEqual(receipt.body);
    expect(receipt.body).toMatchObject({ number: 1, wordCount: 1, note: 'by train', lateText: null });
    expect(receipt.body.contentHash).toMatch(/^[0-9a-f]{64}$/);
    expect((await school.agents.student.get(own())).body.attempts).toHaveLength(1);
  });

  it('opens a file to its student and markers only, with ranges', async () => {
    const { body } = await school.agents.student.get(own());
    const { url } = body.attempts[0].files[0];
    await school.agents.student.get(url).expect(200).expect('content-type', /pdf/);
    const part = await school.agents.instructor
      .get(url)
      .set('range', 'bytes=0-4')
      .buffer(true)
      .parse((res, done) => {
        let text = '';
        res.on('data', (c: Buffer) => {
          text += c.toString('latin1');
        });
        res.on('end', () => {
          done(null, text);
        });
      })
      .expect(206);
    expect(part.body).toBe('%PDF-');
    await school.agents.assistant.get(url).expect(200);
    await school.agents.second.get(url).expect(404);
    await school.agents.outsider.get(url).expect(404);
    await school.agents.nobody.get(url).expect(401);
  });

  it('cannot be handed in after closing', async () => {
    school.clock.at = START + 6 * 86_400_000;
    const answer = await school.agents.second
      .put(`${own()}/draft`)
      .send({ document: paragraphs('too late'), version: 0 })
      .expect(409);
    expect(answer.body.detail).toContain('closed');
    school.clock.at = START;
  });
});

describe('marking, up to release', () => {
  it('shows the stack with everyone in it, missing ones too', async () => {
    school.clock.at = START + 3 * 86_400_000;
    const { body } = await school.agents.instructor.get(marking()).expect(200);
    expect(body.entries.map((e: { state: string }) => e.state)).toEqual(['waits', 'missing']);
    expect(body.waits).toBe(1);
  });

  it('ties a note to words of the work, and to nothing outside it', async () => {
    const work = (await school.agents.instructor.get(`${marking()}/${school.students[0]}`)).body;
    const note = {
      id: '11111111-1111-4111-8111-111111111111',
      attemptId: work.attempts[0].id,
      fileId: null,
      anchor: { kind: 'text', from: 1, to: 7 },
      quote: 'second',
      body: 'Well seen.',
    };
    const path = `${marking()}/${school.students[0]}/notes`;
    await school.agents.instructor
      .post(path)
      .send({ ...note, anchor: { kind: 'text', from: 1, to: 900 } })
      .expect(422);
    await school.agents.instructor
      .post(path)
      .send({ ...note, anchor: { kind: 'text', from: 7, to: 7 } })
      .expect(422);
    expect((await school.agents.assistant.post(path).send(note).expect(200)).body).toHaveLength(1);
    expect((await school.agents.instructor.delete(`${path}/${note.id}`).expect(200)).body).toHaveLength(0);
    expect((await school.agents.instructor.post(`${path}/${note.id}/restore`).expect(200)).body).toHaveLength(1);
    const changed = await school.agents.instructor.patch(`${path}/${note.id}`).send({ body: 'Seen.', version: 3 }).expect(200);
    expect(changed.body[0].body).toBe('Seen.');
    await school.agents.instructor.patch(`${path}/${note.id}`).send({ body: 'stale', version: 3 }).expect(409);
  });

  it('keeps a draft private, refuses another’s overwrite with theirs, and asks before a score above the points', async () => {
    const path = `${marking()}/${school.students[0]}`;
    const draft = { version: 0, choices: {}, score: 61_000, scoreReason: '', feedback: null };
    const saved = await school.agents.instructor.put(`${path}/mark`).send(draft).expect(200);
    const conflict = await school.agents.assistant
      .put(`${path}/mark`)
      .send({ ...draft, score: 5000 })
      .expect(409);
    expect(conflict.body.current).toMatchObject({ score: 61_000, marker: 'Instructor Tester' });
    const asked = await school.agents.instructor
      .post(`${path}/finish`)
      .send({ version: saved.body.version, isAboveConfirmed: false })
      .expect(409);
    expect(asked.body.type).toBe('urn:rosemary:confirm');
    const { body } = await school.agents.student.get(own());
    expect(body.returned).toBeNull();
    expect(JSON.stringify(body)).not.toMatch(/\b61(000)?\b/);
  });

  it('shows nothing of a finished mark before its release, in any answer', async () => {
    await finishScore(school, school.students[0], 47_500);
    const base = `/api/courses/${school.courseId}`;
    for (const path of [own(), `${base}/own/grades`, `${base}/own/week`, `${base}/own/outline`, base, '/api/this-week', '/api/me']) {
      const text = JSON.stringify((await school.agents.student.get(path).expect(200)).body);
      expect(text).not.toMatch(/\b47\.5\b|\b47500\b|Feedback words|Seen\./);
    }
  });

  it('releases to one student what is theirs, and takes it back', async () => {
    await school.agents.assistant.post(`${marking()}/release`).send({ enrolmentIds: null }).expect(403);
    expect((await school.agents.instructor.post(`${marking()}/release`).send({ enrolmentIds: null }).expect(200)).body).toEqual({
      many: 1,
    });
    const { body } = await school.agents.student.get(own());
    expect(body.returned).toMatchObject({ scoreText: '47.5', possible: 60_000 });
    expect(body.returned.notes).toHaveLength(1);
    expect(JSON.stringify(body.returned.feedback)).toContain('Feedback words');
    expect(JSON.stringify((await school.agents.second.get(own())).body)).not.toContain('47.5');
    await school.agents.instructor
      .post(`${marking()}/withhold`)
      .send({ enrolmentIds: [school.students[0]] })
      .expect(200);
    expect((await school.agents.student.get(own())).body.returned).toBeNull();
    await school.agents.instructor
      .post(`${marking()}/release`)
      .send({ enrolmentIds: [school.students[0]] })
      .expect(200);
    await school.agents.instructor.post(`${marking()}/release`).send({ enrolmentIds: null }).expect(409);
  });

  it('lets new work wait again', async () => {
    school.clock.at = START + 4 * 86_400_000;
    const receipt = await handInText(school, 'student', 'a second attempt of mine');
    expect(receipt.body).toMatchObject({ number: 2, lateText: '2 days late' });
    expect((await school.agents.instructor.get(marking())).body.entries[0].state).toBe('waits');
  });
});
