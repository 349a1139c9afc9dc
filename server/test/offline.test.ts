import { jest } from '@jest/globals';
import { paragraphs, type SheetPreview, type Stack, type Work } from '@rosemary/api';
import JSZip from 'jszip';
import { randomUUID } from 'node:crypto';
import { PDFDocument } from 'pdf-lib';
import { handInText, makeSchool, renewItem, type TestSchool } from './school.ts';

/** Paper out, paper in: a marked copy, an archive of all works, and what comes back. */
let school: TestSchool;
beforeAll(async () => {
  school = await makeSchool('offline');
}, 60_000);
beforeEach(async () => {
  school = await renewItem(school);
});
afterAll(() => school.close());
const base = (): string => `/api/courses/${school.courseId}`;
const marking = (): string => `${base()}/marking/${school.itemId}`;
const workPath = (n = 0): string => `${marking()}/${school.students[n]}`;
const work = async (n = 0): Promise<Work> => (await school.agents.instructor.get(workPath(n)).expect(200)).body as Work;
async function pdfOf(pages: number): Promise<Buffer> {
  const document = await PDFDocument.create();
  for (let n = 0; n < pages; n += 1) document.addPage([300, 400]);
  return Buffer.from(await document.save());
}
async function textOf(bytes: Buffer): Promise<string> {
  const { getDocument } = await import('pdfjs-dist/legacy/build/pdf.mjs');
  const pdf = await getDocument({ data: new Uint8Array(bytes), verbosity: 0 }).promise;
  const pages: string[] = [];
  for (let n = 1; n <= pdf.numPages; n += 1)
    pages.push((await (await pdf.getPage(n)).getTextContent()).items.map((i) => ('str' in i ? i.str : '')).join(''));
  return pages.join('\n');
}
const archive = async (who: 'instructor' | 'assistant' = 'instructor'): Promise<JSZip> =>
  JSZip.loadAsync((await school.agents[who].get(`${marking()}/works.zip`).buffer(true).parse(binary).expect(200)).body as Buffer);
const binary = (answer: unknown, done: (error: Error | null, body: Buffer) => void): void => {
  const response = answer as NodeJS.ReadableStream;
  const parts: Buffer[] = [];
  response.on('data', (part: Buffer) => parts.push(part));
  response.on('end', () => {
    done(null, Buffer.concat(parts));
  });
};
const preview = async (bytes: Buffer | string, name = 'scores.csv'): Promise<SheetPreview> =>
  (await school.agents.instructor.post(`${marking()}/sheet/preview`).attach('file', Buffer.from(bytes), name).expect(200))
    .body as SheetPreview;
const bring = (bytes: Buffer | string, fields: Record<string, string> = {}, name = 'scores.csv') => {
  const request = school.agents.instructor.post(`${marking()}/sheet`);
  for (const [field, value] of Object.entries(fields)) void request.field(field, value);
  return request.attach('file', Buffer.from(bytes), name);
};
const sheet = (...lines: string[]): string => ['work,points,feedback', ...lines].join('\n');

// The first copy waits for fonts and the reader of PDF to be loaded: on a busy machine longer than a test is given.
jest.setTimeout(60_000);

describe('a marked copy', () => {
  it('holds the work, its notes where they belong, score, feedback and the pages handed in', async () => {
    const own = `${base()}/own/items/${school.itemId}`;
    await school.agents.student
      .post(`${own}/files`)
      .attach('file', await pdfOf(2), 'drawing.pdf')
      .expect(200);
    await handInText(school, 'student', 'The pivot is bent. Žluťoučký kůň, ½ mm.');
    const { attempts } = await work();
    const note = {
      id: randomUUID(),
      attemptId: attempts[0]?.id,
      fileId: null,
      anchor: { kind: 'text', from: 5, to: 10 },
      quote: 'pivot',
      body: 'Which one?',
    };
    await school.agents.instructor.post(`${workPath()}/notes`).send(note).expect(200);
    school.clock.at += 1000;
    const box = { x: 0.2, y: 0.2, w: 0.3, h: 0.1 };
    const area = {
      id: randomUUID(),
      attemptId: attempts[0]?.id,
      fileId: attempts[0]?.files[0]?.id,
      anchor: { kind: 'pdf', page: 2, boxes: [box] },
      quote: '',
      body: 'Here too.',
    };
    await school.agents.instructor.post(`${workPath()}/notes`).send(area).expect(200);
    const change = { version: 0, choices: {}, score: 45_000, scoreReason: '', feedback: paragraphs('Careful work.') };
    await school.agents.instructor.put(`${workPath()}/mark`).send(change).expect(200);
    const { body } = await school.agents.instructor.get(`${workPath()}/copy`).buffer(true).parse(binary).expect(200);
    const read = await PDFDocument.load(body as Buffer);
    expect(read.getPageCount()).toBe(3);
    const text = await textOf(body as Buffer);
    for (const words of [
      'Report',
      'First Tester',
      '45 of 60',
      'Careful work.',
      'pivot',
      '[1]',
      'Which one?',
      'Žluťoučký kůň, ½ mm.',
      'Notes on drawing.pdf',
      'page 2',
      'Here too.',
    ])
      expect(text).toContain(words);
  });

  it('for its student has what was released and nothing before', async () => {
    await handInText(school, 'student', 'My report');
    const own = `${base()}/own/items/${school.itemId}/copy`;
    await school.agents.second.get(own).expect(404);
    const change = { version: 0, choices: {}, score: 45_000, scoreReason: '', feedback: paragraphs('Careful work.') };
    const saved = await school.agents.instructor.put(`${workPath()}/mark`).send(change).expect(200);
    await school.agents.instructor.post(`${workPath()}/finish`).send({ version: saved.body.version, isAboveConfirmed: false }).expect(200);
    const before = await textOf((await school.agents.student.get(own).buffer(true).parse(binary).expect(200)).body as Buffer);
    expect([before.includes('My report'), before.includes('45 of'), before.includes('Careful')]).toEqual([true, false, false]);
    await school.agents.instructor.post(`${marking()}/release`).send({ enrolmentIds: null }).expect(200);
    const after = await textOf((await school.agents.student.get(own).buffer(true).parse(binary).expect(200)).body as Buffer);
    expect([after.includes('45 of 60'), after.includes('Careful work.')]).toEqual([true, true]);
  });

  it('names a file that is broken, and is made all the same', async () => {
    const own = `${base()}/own/items/${school.itemId}`;
    await school.agents.student.post(`${own}/files`).attach('file', Buffer.from('%PDF-1.4 and nothing more'), 'broken.pdf').expect(200);
    await handInText(school, 'student', 'See the file');
    const { body } = await school.agents.instructor.get(`${workPath()}/copy`).buffer(true).parse(binary).expect(200);
    expect(await textOf(body as Buffer)).toContain('broken.pdf is not on this copy: it cannot be read.');
  });

  it('of nothing is not there, and of a hidden name has none', async () => {
    await school.agents.instructor.get(`${workPath()}/copy`).expect(404);
    await handInText(school, 'student', 'My report');
    await school.pool.query("update assignment set anonymous = 'release' where item_id = $1", [school.itemId]);
    const { entries } = (await school.agents.instructor.get(marking()).expect(200)).body as Stack;
    const id = entries.find((e) => e.state === 'waits')?.enrolmentId;
    const sent = await school.agents.instructor.get(`${marking()}/${id}/copy`).buffer(true).parse(binary).expect(200);
    expect(await textOf(sent.body as Buffer)).not.toContain('Tester');
    expect(sent.headers['content-disposition']).not.toContain('Tester');
  });
});

describe('an archive of all works', () => {
  it('has a folder for each, a sheet for scores and one for notes; names are safe wherever it is opened', async () => {
    await school.pool.query("update person set family_name = 'T/e:ster..' where email = 'second@example.org'");
    const own = `${base()}/own/items/${school.itemId}`;
    await school.agents.student
      .post(`${own}/files`)
      .attach('file', await pdfOf(1), 'a b?c.pdf')
      .expect(200);
    await handInText(school, 'student', 'Mine');
    await handInText(school, 'second', '=1+1');
    const zip = await archive();
    expect(Object.keys(zip.files).sort()).toEqual([
      'T e ster.. Second/text.html',
      'Tester First/1 a b c.pdf',
      'Tester First/text.html',
      'notes.csv',
      'scores.csv',
      'works.txt',
    ]);
    const scores = (await zip.file('scores.csv')?.async('string')) ?? '';
    expect(scores.startsWith('\uFEFFwork,name,section,state,late,attempt,points,possible,feedback')).toBe(true);
    expect(scores).toContain(`${school.students[0]},"Tester, First",Morning,waits,,1,,60,`);
    await school.pool.query("update person set family_name = 'Tester' where email = 'second@example.org'");
    expect(Object.keys((await archive('assistant')).files)).not.toContain('Tester Second/text.html');
    await school.agents.student.get(`${marking()}/works.zip`).expect(403);
  });

  it('comes back: scores, notes and marked files, seen first, and doing it twice changes nothing more', async () => {
    await handInText(school, 'student', 'The pivot is bent and the stone is clean');
    const zip = await archive();
    const scores = (await zip.file('scores.csv')?.async('string')) ?? '';
    zip.file('scores.csv', scores.replace('waits,,1,,60,,', 'waits,,1,"47,5",60,Careful work,'));
    zip.file('notes.csv', `work,quote,note\n${school.students[0]},pivot is bent,Which one?\n${school.students[0]},the wheel,Not here`);
    zip.file('Tester First/marked report.pdf', await pdfOf(1));
    const bytes = await zip.generateAsync({ type: 'nodebuffer' });
    const seen = await preview(bytes, 'works.zip');
    expect(seen.rows.find((r) => r.workId === school.students[0])).toMatchObject({
      outcome: 'changes',
      ...{ scoreBefore: '', scoreAfter: '47.5', feedback: 'Careful work', notes: 1, files: ['marked report.pdf'] },
    });
    expect(seen.faults).toEqual(['notes.csv, line 3: “the wheel” stands nowhere in the work.']);
    expect((await work()).mark.version).toBe(0);
    expect((await bring(bytes, { finishes: 'true' }, 'works.zip').expect(200)).body).toEqual({ changed: 1, finished: 1, left: [] });
    const after = await work();
    expect(after.mark).toMatchObject({ score: 47_500, state: 'finished' });
    expect(after.notes.map((n) => [n.quote, n.body, n.anchor])).toEqual([
      ['pivot is bent', 'Which one?', { kind: 'text', from: 5, to: 18 }],
    ]);
    expect(after.feedbackFiles.map((f) => f.name)).toEqual(['marked report.pdf']);
    const again = await preview((await zip.file('scores.csv')?.async('nodebuffer')) ?? '');
    expect(again.rows.find((r) => r.workId === school.students[0])?.outcome).toBe('same');
  });
});

describe('a sheet that is older than what it would change', () => {
  const mark = async (score: number): Promise<void> => {
    const { version } = (await work()).mark;
    const change = { version, choices: {}, score, scoreReason: '', feedback: paragraphs('Seen.') };
    await school.agents.instructor.put(`${workPath()}/mark`).send(change).expect(200);
  };
  const taken = async (): Promise<string> => (await (await archive()).file('scores.csv')?.async('string')) ?? '';
  it('says so and leaves it, unless it is chosen', async () => {
    await handInText(school, 'student', 'Mine');
    await mark(35_000);
    const old = await taken();
    await mark(41_000);
    const line = (await preview(old)).rows.find((r) => r.workId === school.students[0]);
    expect(line).toMatchObject({
      outcome: 'changes',
      scoreBefore: '41',
      scoreAfter: '35',
      older: 'The mark was changed since this sheet was downloaded.',
    });
    expect((await bring(old).expect(200)).body).toMatchObject({ changed: 0 });
    expect((await work()).mark.score).toBe(41_000);
    expect((await bring(old, { takeOlder: school.students[0] }).expect(200)).body).toMatchObject({ changed: 1 });
    expect((await work()).mark.score).toBe(35_000);
    const now = await taken();
    expect((await preview(now.replace('35,60', '36,60'))).rows.find((r) => r.workId === school.students[0])).toMatchObject({
      scoreAfter: '36',
      older: '',
    });
  });
  it('empties a cell on purpose alone', async () => {
    await handInText(school, 'student', 'Mine');
    await mark(35_000);
    const sheetOf = (points: string, feedback: string): string => sheet(`${school.students[0]},${points},${feedback}`);
    expect((await preview(sheetOf('', ''))).rows[0]?.outcome).toBe('same');
    expect((await preview(sheetOf('clear', 'clear'))).rows[0]).toMatchObject({ outcome: 'changes', scoreAfter: 'none', feedback: '' });
    await bring(sheetOf('clear', 'clear')).expect(200);
    expect((await work()).mark).toMatchObject({ score: null, feedback: null });
  });
  it('does not send words for a missing work with the work that arrives later', async () => {
    const early = await taken();
    await bring(sheet(`${school.students[0]},0,Nothing came.`)).expect(200);
    school.clock.at += 60_000;
    await handInText(school, 'student', 'Here it is');
    const { version } = (await work()).mark;
    const asked = await school.agents.instructor.post(`${workPath()}/finish`).send({ version, isAboveConfirmed: false });
    expect([asked.status, asked.body.detail]).toEqual([409, expect.stringContaining('typed before the work came')]);
    const line = (await preview(early.replace(',,60,', ',5,60,'))).rows.find((r) => r.workId === school.students[0]);
    expect(line?.older).toBe('Other work was handed in since this sheet was downloaded.');
  });
});

describe('a score sheet with faults', () => {
  beforeEach(async () => {
    await handInText(school, 'student', 'Mine');
    await handInText(school, 'second', 'Mine too');
  });
  const outcome = async (text: string): Promise<string[][]> => (await preview(text)).rows.map((r) => [r.outcome, r.reason]);
  it.each([
    ['points above those of the item', () => `${school.students[0]},61,`, 'more than the 60 points'],
    ['points that are no number', () => `${school.students[0]},lots,`, 'lots'],
    ['points below nothing', () => `${school.students[0]},-3,`, '-3'],
    ['a work that is not here', () => `${randomUUID()},3,`, 'not in the stack'],
    ['something that is no work', () => 'Tester,3,', 'no identifier of a work'],
  ])('%s', async (_what, line, reason) => {
    const [[first, why] = []] = await outcome(sheet(line()));
    expect(first).toBe('refused');
    expect(why).toContain(reason);
  });
  it('a work twice: its first line is taken', async () => {
    expect((await outcome(sheet(`${school.students[0]},3,`, `${school.students[0]},4,`))).map(([o]) => o)).toEqual(['changes', 'refused']);
  });
  it('takes in the rest, and leaves what is to be left', async () => {
    const text = sheet(`${school.students[0]},61,`, `${school.students[1]},30,Good`);
    expect((await bring(text, { leave: school.students[1] }).expect(200)).body.changed).toBe(0);
    expect((await bring(text).expect(200)).body).toEqual({ changed: 1, finished: 0, left: [] });
    expect((await work(1)).mark).toMatchObject({ score: 30_000, state: 'draft' });
  });
  it.each([
    ['other columns', 'name,points\nx,1', 'has no column “work”'],
    ['another encoding', Buffer.from([0x77, 0x6f, 0x72, 0x6b, 0x0a, 0xe9, 0xff]), 'not written in UTF-8'],
    ['an open quotation', 'work,points,feedback\n"abc,1,', 'breaks off'],
  ])('with %s is refused whole, by its name', async (_what, text, reason) => {
    const { body } = await school.agents.instructor
      .post(`${marking()}/sheet/preview`)
      .attach('file', Buffer.from(text), 'scores.csv')
      .expect(422);
    expect(body.detail).toContain(reason);
  });
  it('a zip that is none is refused', async () => {
    const { body } = await school.agents.instructor
      .post(`${marking()}/sheet/preview`)
      .attach('file', Buffer.from('no zip'), 'works.zip')
      .expect(422);
    expect(body.detail).toContain('no zip archive');
  });
  it('semicolons and commas in numbers are read as spreadsheets of other countries write them', async () => {
    expect((await preview(`work;points;feedback\n${school.students[0]};47,5;Well`)).rows[0]).toMatchObject({
      scoreAfter: '47.5',
      feedback: 'Well',
    });
  });
  it('is an assistant’s for those they reach', async () => {
    const text = Buffer.from(sheet(`${school.students[1]},30,`));
    const { body } = await school.agents.assistant.post(`${marking()}/sheet/preview`).attach('file', text, 'scores.csv').expect(200);
    expect(body.rows[0].outcome).toBe('refused');
    await school.agents.student.post(`${marking()}/sheet`).attach('file', text, 'scores.csv').expect(403);
  });
});
