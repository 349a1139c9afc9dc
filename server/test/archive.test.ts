import { createCanvas } from '@napi-rs/canvas';
import { type Archive, type ArchiveDone, paragraphs, type Plan, type QuizDetail } from '@rosemary/api';
import { sameWallTime } from '@rosemary/core';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { readZip } from '../src/files/unzip.ts';
import { makeSchool, START, type TestSchool } from './school.ts';
import { bytesOf, packZip } from './zips.ts';

let school: TestSchool;

let folder = '';

beforeAll(async () => {
  school = await makeSchool('archive');
  folder = mkdtempSync(join(tmpdir(), 'rosemary-archive-'));
}, 60_000);

afterAll(async () => {
  rmSync(folder, { recursive: true, force: true });
  await school.close();
});

const teacher = () => school.agents.instructor;

const iso = (days: number): string => new Date(START + days * 86_400_000).toISOString();

const takeOut = (courseId: string): Promise<Buffer> => bytesOf(teacher().get(`/api/courses/${courseId}/archive`).expect(200));

async function open(bytes: Buffer): Promise<Archive> {
  const path = join(folder, 'read.zip');
  writeFileSync(path, bytes);
  const zip = await readZip(path);
  try {
    return JSON.parse(await zip.readText('course.json', 10_000_000)) as Archive;
  } finally {
    zip.close();
  }
}

const bring = (courseId: string, bytes: Buffer) => teacher().post(`/api/courses/${courseId}/archive`).attach('file', bytes, 'course.zip');

async function emptyCourse(run: string, timeZone = 'Europe/Lisbon'): Promise<string> {
  const { terms } = (await teacher().get('/api/course-start').expect(200)).body;
  const body = {
    code: 'HOR-1',
    run,
    title: 'Again',
    termId: terms[0].id,
    timeZone,
    sections: ['Morning', 'Evening'],
    outline: 'empty',
  };
  return (await teacher().post('/api/courses').send(body).expect(200)).body.id as string;
}

/** The same archive whatever its identifiers are called and whichever course it came from: each is numbered where it first stands. */
function normal(archive: Archive): string {
  const known = new Map<string, string>();
  const { id, ...course } = archive.course;
  return JSON.stringify({ ...archive, course: { ...course, title: '' } })
    .replaceAll(id, 'COURSE')
    .replace(/[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}/g, (uuid) => {
      if (!known.has(uuid)) known.set(uuid, `#${known.size}`);
      return known.get(uuid) ?? '';
    });
}

/** A quiz with a picture, a shared text, a draw, and a code that stays behind. */
async function fillQuiz(quizId: string): Promise<void> {
  const base = `/api/courses/${school.courseId}`;
  const picture = createCanvas(40, 30).toBuffer('image/png');
  const { id: fileId } = (await teacher().post(`${base}/files`).attach('file', picture, 'wheel.png').expect(200)).body;
  const text = { id: null, version: 1, title: 'A letter', document: paragraphs('I have made the fourth.') };
  const { id: stimulusId } = (await teacher().put(`${base}/bank/stimuli`).send(text).expect(200)).body;
  const quiz = `${base}/quizzes/${quizId}`;
  const fresh = (await teacher().get(quiz).expect(200)).body as QuizDetail;
  const region = { shape: 'ellipse', centre: { x: 0.2, y: 0.5 }, radius: { x: 0.1, y: 0.2 } };
  const spot = { kind: 'hotspot', regions: [{ id: 'r', share: 100_000, region }] };
  const src = `${base}/files/${fileId}`;
  const questions = [
    { ...{ title: 'Where', level: 'easy', tags: ['train'], objectives: ['T'] }, words: paragraphs('Where?'), picture: { fileId, src, alt: 'A wheel' }, key: spot },
    { words: paragraphs('Why?'), key: { kind: 'essay' }, stimulusId },
  ]; // prettier-ignore
  await teacher().post(`${quiz}/questions`).send({ sectionId: fresh.sections[0]?.id, position: 0, questions }).expect(200);
  const folder = { parentId: fresh.folderId, title: 'Pool' };
  const { id: folderId } = (await teacher().post(`${base}/bank/folders`).send(folder).expect(200)).body;
  for (const words of ['One?', 'Two?'])
    await teacher()
      .post(`${base}/bank/questions`)
      .send({ words: paragraphs(words), key: { kind: 'essay' }, folderId })
      .expect(200);
  const held = (await teacher().get(quiz).expect(200)).body as QuizDetail;
  const draw = { count: 1, folderId, tags: [], levels: [], objectives: [], kinds: [] };
  const fixed = (held.sections[0]?.parts ?? []).map((p) => ({
    id: p.id,
    questionId: p.question?.id,
    draw: null,
    points: 2500,
    floor: null,
  }));
  const parts = [...fixed, { id: null, questionId: null, draw, points: 3000, floor: 0 }];
  const sections = [{ id: held.sections[0]?.id, title: 'Only', instructions: 'Answer.', isShuffled: true, parts }];
  await teacher().put(`${quiz}/paper`).send({ version: held.setting.version, sections }).expect(200);
  const { setting } = (await teacher().get(quiz).expect(200)).body as QuizDetail;
  const change = { instructions: paragraphs('Read first.'), limitMinutes: 20, accessCode: 'bell', passPoints: 4000, taken: 'both' };
  await teacher()
    .put(quiz)
    .send({ version: setting.version, ...change })
    .expect(200);
}

/** A course with something of every kind in it. */
async function fill(): Promise<void> {
  const base = `/api/courses/${school.courseId}`;
  const folderId = (await teacher().post(`${base}/folders`).send({ title: 'Charts', parentId: null }).expect(200)).body.id;
  const file = (
    await teacher().post(`${base}/files?folder=${folderId}`).attach('file', Buffer.from('Öl, an oil chart'), 'chart.txt').expect(200)
  ).body;
  const objective = (await teacher().post(`${base}/objectives`).send({ code: 'T', statement: 'Count a train', parentId: null }).expect(200))
    .body.id;
  const add = async (kind: string, title: string, change: object = {}): Promise<string> => {
    const { id } = (await teacher().post(`${base}/items`).send({ unitId: school.unitId, kind, title, position: 0 }).expect(200)).body;
    const { version } = (await teacher().get(`${base}/items/${id}`).expect(200)).body.item;
    await teacher()
      .patch(`${base}/items/${id}`)
      .send({ version, ...change })
      .expect(200);
    return id as string;
  };
  const quizId = await add('quiz', 'The train');
  await fillQuiz(quizId);
  const { version: held } = (await teacher().get(`${base}/items/${quizId}`).expect(200)).body.item;
  await teacher().patch(`${base}/items/${quizId}`).send({ version: held, isDraft: false }).expect(200);
  const link = await add('link', 'Museum', { isDraft: false });
  await teacher().put(`${base}/items/${link}/link`).send({ version: 1, address: 'https://museum.example/', note: 'Room 4' }).expect(200);
  const shown = await add('file', 'Chart', { opensAt: iso(3) });
  await teacher().put(`${base}/items/${shown}/file`).send({ version: 1, fileId: file.id }).expect(200);
  const talk = await add('discussion', 'What went wrong', { isDraft: false });
  await teacher()
    .put(`${base}/discussions/${talk}`)
    .send({ version: 1, document: paragraphs('Say it'), isPostFirst: true })
    .expect(200);
  const page = await add('page', 'Reading', {
    isDraft: false,
    nextNote: 'Shorter',
    audience: [{ sectionId: school.sections[1], enrolmentId: null }],
    opening: {
      needs: 'any',
      rules: [
        { kind: 'done', itemId: link },
        { kind: 'score', itemId: school.itemId, least: 5000 },
      ],
    },
  });
  const document = {
    type: 'doc',
    content: [
      {
        type: 'paragraph',
        content: [
          {
            type: 'text',
            text: 'The task',
            marks: [
              {
                type: 'link',
                attrs: {
                  href: `/courses/${school.courseId}/items/${school.itemId}`,
                  target: '_blank',
                  rel: 'noopener noreferrer nofollow',
                  class: null,
                  title: null,
                },
              },
            ],
          },
        ],
      },
      { type: 'formula', attrs: { tex: 'x^2' } },
      { type: 'fileShown', attrs: { fileId: file.id, src: file.url, name: file.name, mediaType: file.mediaType } },
    ],
  };
  await teacher().put(`${base}/items/${page}/page`).send({ version: 1, document }).expect(200);
  await teacher()
    .put(`${base}/items/${page}/objectives`)
    .send({ objectiveIds: [objective] })
    .expect(200);
  await teacher()
    .put(`${base}/items/${school.itemId}/variants`)
    .send({ variants: [{ sectionId: school.sections[0], enrolmentId: null, opensAt: null, dueAt: iso(4), closesAt: null }] })
    .expect(200);
  await teacher()
    .put(`${base}/items/${school.itemId}/rubric`)
    .send({
      version: 0,
      criteria: [
        {
          id: null,
          title: 'Facts',
          levels: [
            { id: null, title: '1', descriptor: 'none', points: 0 },
            { id: null, title: '2', descriptor: 'all', points: 10_500 },
          ],
        },
      ],
    })
    .expect(200);
}

describe('a course as an archive', () => {
  it('taken out, brought into an empty course and taken out again is the same, to the byte of its files', async () => {
    await fill();
    const first = await takeOut(school.courseId);
    const target = await emptyCourse('b');
    const done = (await bring(target, first).expect(200)).body as ArchiveDone;
    expect([done.problems, done.files]).toEqual([[], 2]);
    const [before, after] = [await open(first), await open(await takeOut(target))];
    expect(JSON.parse(normal(after))).toEqual(JSON.parse(normal(before)));
    expect(JSON.stringify(after)).not.toContain(school.courseId);
    expect([before.questions.length, before.stimuli.length]).toEqual([4, 1]);
    expect(JSON.stringify(before)).not.toContain('bell');
    const quizId = after.items.find((i) => i.kind === 'quiz')?.id ?? '';
    const quiz = (await teacher().get(`/api/courses/${target}/quizzes/${quizId}`).expect(200)).body as QuizDetail;
    expect(quiz).toMatchObject({ possible: 8000, faults: [] });
    const spot = quiz.sections[0]?.parts[0]?.question;
    await teacher().get(`/api/courses/${target}/quizzes/${quizId}/files/${spot?.picture?.fileId}`).expect(200);
    const page = after.items.find((i) => i.title === 'Reading');
    const fileId = after.files.find((f) => f.isKept)?.id ?? '';
    expect(JSON.stringify(page?.page)).toContain(`/api/courses/${target}/files/${fileId}`);
    expect((await teacher().get(`/api/courses/${target}/files/${fileId}`).expect(200)).text).toBe('Öl, an oil chart');
  });

  it('keeps every setting of an item, and its times of day where the clocks are others', async () => {
    const base = `/api/courses/${school.courseId}`;
    const late = { ratePercent: 7000, stepMinutes: 60, base: 'possible', capPercent: 30_000, floorPercent: 10_000, graceMinutes: 5 };
    const { item } = (await teacher().get(`${base}/items/${school.itemId}`).expect(200)).body;
    const ownLevels = [
      { label: 'secure', cutPoint: 80_000, value: 100_000 },
      { label: 'beginning', cutPoint: 0, value: null },
    ];
    const [type] = (
      await school.agents.administrator
        .put('/api/school/task-types')
        .send({ taskTypes: [{ id: null, title: 'Practical' }] })
        .expect(200)
    ).body.taskTypes as { id: string }[];
    const set = {
      late,
      taskTypeId: type?.id,
      showsStatistics: true,
      studentReads: 'percent',
      staffReads: 'letter',
      ownLevels,
      dueAt: '2026-10-08T18:00:00.000Z',
    };
    await teacher()
      .patch(`${base}/items/${school.itemId}`)
      .send({ version: item.version, ...set })
      .expect(200);
    const matching = {
      looksAtClass: true,
      looksAtEarlier: false,
      looksAtCollection: false,
      leavesQuotations: false,
      showsStudents: true,
      joinsCollection: false,
    };
    const { setting } = (await teacher().get(`${base}/matching/${school.itemId}`).expect(200)).body;
    await teacher()
      .put(`${base}/matching/${school.itemId}`)
      .send({ ...matching, version: setting.version })
      .expect(200);
    const target = await emptyCourse('zone', 'Asia/Tokyo');
    const done = (await bring(target, await takeOut(school.courseId)).expect(200)).body as ArchiveDone;
    expect(done.problems).toEqual([]);
    const after = await open(await takeOut(target));
    const came = after.items.find((i) => i.title === item.title);
    const from = (await teacher().get(base).expect(200)).body.timeZone as string;
    expect(came).toMatchObject({
      late,
      taskType: 'Practical',
      showsStatistics: true,
      studentReads: 'percent',
      staffReads: 'letter',
      ownLevels,
      matching,
    });
    expect(came?.dueAt).toBe(new Date(sameWallTime(Date.parse(set.dueAt), from, 'Asia/Tokyo')).toISOString());
    expect(came?.dueAt).not.toBe(set.dueAt);
  });

  it('brought into a course with items stands beside them, and the policy stays', async () => {
    const target = await emptyCourse('c');
    const bytes = await takeOut(school.courseId);
    const first = (await bring(target, bytes).expect(200)).body as ArchiveDone;
    const again = (await bring(target, bytes).expect(200)).body as ArchiveDone;
    expect(again.problems).toEqual(['The policy stays as it is here: the course has items already.']);
    const plan = (await teacher().get(`/api/courses/${target}/plan`).expect(200)).body as Plan;
    expect(plan.units.flatMap((u) => u.items)).toHaveLength(first.itemIds.length + again.itemIds.length);
  });

  it('is the instructor’s alone, in both directions', async () => {
    for (const who of ['assistant', 'student'] as const) {
      await school.agents[who].get(`/api/courses/${school.courseId}/archive`).expect(403);
      await school.agents[who].post(`/api/courses/${school.courseId}/archive`).expect(403);
    }
    const bytes = await takeOut(school.courseId);
    expect((await open(bytes)).items.length).toBeGreaterThan(4);
    expect(bytes.includes('first@example.org')).toBe(false);
  });
});

describe('a broken archive', () => {
  let target = '';
  let good: Archive;
  beforeAll(async () => {
    target = await emptyCourse('d');
    good = await open(await takeOut(school.courseId));
  });
  const withJson = (json: unknown): Promise<Buffer> => packZip({ 'course.json': typeof json === 'string' ? json : JSON.stringify(json) });
  const planOf = async (): Promise<number> =>
    ((await teacher().get(`/api/courses/${target}/plan`).expect(200)).body as Plan).units.flatMap((u) => u.items).length;

  it('takes in what is good and says of each other piece why not', async () => {
    const items = good.items.map((item, n) => (n === 0 ? { ...item, possible: -5 } : n === 1 ? { ...item, dueAt: 'soon' } : item));
    const done = (await bring(target, await withJson({ ...good, items })).expect(200)).body as ArchiveDone;
    expect(done.itemIds).toHaveLength(items.length - 2);
    const said = done.problems.join('\n');
    expect(said).toContain('Points is -5; it must be at least 0.');
    expect(said).toContain('Due is “soon”');
    expect(said).toContain('The file “chart.txt” is named, but is not in the zip.');
    await teacher().post(`/api/courses/${target}/items/removals`).send({ itemIds: done.itemIds }).expect(200);
  });

  it.each([
    ['no zip', () => Promise.resolve(Buffer.from('not a zip')), 'no zip archive'],
    ['a zip broken off', async () => (await takeOut(school.courseId)).subarray(0, 300), 'breaks off'],
    [
      'nothing of ours in it',
      () => packZip({ 'readme.txt': 'x' }),
      'neither a course.json nor an imsmanifest.xml. At its root stand: readme.txt',
    ],
    ['JSON broken off', () => withJson('{"format":"rosem'), 'breaks off or is no JSON'],
    ['another format', () => withJson({ ...good, format: 'other' }), 'not as it should be'],
    ['a version to come', () => withJson({ ...good, version: 9 }), 'not as it should be'],
    ['units that are none', () => withJson({ ...good, units: 'many' }), 'not as it should be'],
  ])('%s is refused in words, and nothing is taken', async (_, make, words) => {
    const before = await planOf();
    const answer = await bring(target, await make()).expect(422);
    expect(answer.body.detail).toContain(words);
    expect(await planOf()).toBe(before);
  });

  it('what stands inside an item is held to the same rules as what is typed', async () => {
    const inside = (kind: string, change: object): Archive => ({
      ...good,
      items: good.items
        .filter((i) => i.kind === kind)
        .slice(0, 1)
        .map((i) => ({ ...i, ...change })),
      units: good.units.map((u) => ({
        ...u,
        itemIds: good.items
          .filter((i) => i.kind === kind)
          .slice(0, 1)
          .map((i) => i.id),
      })),
    });
    for (const [kind, change, words] of [
      ['link', { link: { address: 'javascript:alert(1)', note: '' } }, 'which is no whole address'],
      [
        'assignment',
        {
          assignment: {
            instructions: paragraphs('x'),
            acceptsText: true,
            acceptsFiles: true,
            fileTypes: ['exe'],
            mostFiles: 1,
            mostBytes: 5000,
            attemptsAllowed: 1,
          },
        },
        'not one of the choices',
      ],
      ['assignment', { rubric: [{ id: null, title: '', levels: [] }] }, 'Criterion'],
      ['quiz', { quiz: null }, 'This quiz has no paper in the archive'],
      ['quiz', { quiz: { setting: { limitMinutes: -4 }, sections: [] } }, 'Time limit is -4'],
    ] as const) {
      const done = (await bring(target, await withJson(inside(kind, change))).expect(200)).body as ArchiveDone;
      expect([done.itemIds, done.problems.join()]).toEqual([[], expect.stringContaining(words)]);
    }
  });

  it('a name that leads out of the archive is refused', async () => {
    const bytes = await packZip({ 'course.json': '{}', 'aa/bb.txt': 'x' });
    const evil = Buffer.from(bytes.toString('latin1').replaceAll('aa/bb.txt', '../bb.txt'), 'latin1');
    const answer = await bring(target, evil).expect(422);
    expect(answer.body.detail).toContain('lead out of it');
  });

  it('a zip that unpacks to far more than it is is not opened', async () => {
    const answer = await bring(target, await packZip({ 'course.json': Buffer.alloc(60_000_000) }));
    expect([answer.status, answer.body.type]).toEqual([413, 'urn:rosemary:too-large']);
    expect(answer.body.detail).toContain('unpacks to far more');
  });
});
