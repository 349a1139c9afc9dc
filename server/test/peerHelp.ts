import type { OwnPeer, OwnReview, PeerBoard, PeerChange, PeerSample, PeerSetting, ReviewContent, RubricView } from '@rosemary/api';
import type { DocumentNode } from '@rosemary/core';
import type supertest from 'supertest';
import { recordGrades } from '../src/gradebook/index.ts';
import { addItem, addMember, addPerson, addUnit, hashPassword, rows, run, withDb } from '../src/index.ts';
import { makeSchool, PASSWORD, renewItem, signIn, START, type TestSchool } from './school.ts';

export type Agent = ReturnType<typeof supertest.agent>;
export const DAY = 86_400_000;
const NAMES = ['First', 'Second', 'Third', 'Fourth', 'Fifth', 'Sixth'] as const;

export const text = (words: string): DocumentNode => ({
  type: 'doc',
  content: [{ type: 'paragraph', content: [{ type: 'text', text: words }] }],
});
/** Every criterion at the level of that place, with a word on the last. */
export const judge = (form: RubricView | null, level: number, words = ''): Omit<ReviewContent, 'words'> => ({
  choices: Object.fromEntries((form?.criteria ?? []).flatMap((c) => (c.levels.length === 0 ? [] : [[c.id, c.levels[level]?.id ?? '']]))),
  given: {},
  comments: words === '' ? {} : { [form?.criteria.at(-1)?.id ?? '']: words },
});

/** A school with six students at one assignment, laid out before the tests of a file, and what is done in a peer review by a word each. */
export function usePeers(name: string) {
  let school: TestSchool;
  let students: { readonly id: string; readonly agent: Agent; readonly name: string }[] = [];

  beforeAll(async () => {
    school = await makeSchool(name);
    const hash = await hashPassword(PASSWORD);
    const more = await withDb(school.pool, true, async (db) => {
      const made: string[] = [];
      for (const name of NAMES.slice(2)) {
        const person = await addPerson(
          db,
          { email: `${name.toLowerCase()}@example.org`, givenName: name, familyName: 'Tester', password: PASSWORD },
          false,
          hash,
        );
        made.push((await addMember(db, school.courseId, person, 'student', school.sections[0])) ?? '');
      }
      return made;
    });
    const others = await Promise.all(NAMES.slice(2).map((name) => signIn(school.app, `${name.toLowerCase()}@example.org`)));
    students = [
      { id: school.students[0], agent: school.agents.student, name: 'First Tester' },
      { id: school.students[1], agent: school.agents.second, name: 'Second Tester' },
      ...more.map((id, n) => ({ id, agent: others[n] as Agent, name: `${NAMES[n + 2]} Tester` })),
    ];
  }, 60_000);
  beforeEach(async () => {
    school = await renewItem(school);
    await withDb(school.pool, true, (db) =>
      run(db, 'update item set due_at = to_timestamp($2 / 1000.0) where id = $1', [school.itemId, START + 2 * DAY]),
    );
    await withDb(school.pool, true, (db) => run(db, 'update enrolment set withdrawn_at = null where course_id = $1', [school.courseId]));
  });
  afterAll(() => school.close());

  const at = (path = ''): string => `/api/courses/${school.courseId}/items/${school.itemId}/peer${path}`;
  const own = (path = ''): string => `/api/courses/${school.courseId}/items/${school.itemId}/own-reviews${path}`;
  const teacher = (): Agent => school.agents.instructor;
  const iso = (days: number): string => new Date(START + days * DAY).toISOString();
  const sql = <R extends object>(text: string, values: unknown[] = []): Promise<R[]> =>
    withDb(school.pool, true, (db) => rows<R>(db, text, values));

  const readSetting = async (): Promise<PeerSetting> => (await teacher().get(at()).expect(200)).body as PeerSetting;
  const change = async (more: Partial<PeerChange> = {}): Promise<PeerSetting> => {
    const { setting } = await readSetting();
    const usual = { isOn: true, reviewsPerWork: 2, reviewsPerStudent: 2, reviewsDueAt: iso(4), resultsAt: iso(6) };
    return (
      await teacher()
        .put(at())
        .send({ ...setting, ...(setting.version === 0 ? usual : {}), ...more })
        .expect(200)
    ).body as PeerSetting;
  };
  async function handIn(n: number, text = `The work of number ${n}`): Promise<void> {
    const base = `/api/courses/${school.courseId}/own/items/${school.itemId}`;
    const { agent } = students[n] as (typeof students)[number];
    const item = await agent.get(base).expect(200);
    const document = { type: 'doc', content: [{ type: 'paragraph', content: [{ type: 'text', text }] }] };
    const saved = await agent.put(`${base}/draft`).send({ document, version: item.body.draft.version }).expect(200);
    await agent
      .post(`${base}/hand-in`)
      .send({ note: '', key: `key ${n} ${text}`.slice(0, 60), version: saved.body.version })
      .expect(200);
  }
  const board = async (who: Agent = teacher()): Promise<PeerBoard> => (await who.get(at('/board')).expect(200)).body as PeerBoard;
  const ownPeer = async (n: number): Promise<OwnPeer> =>
    (await (students[n] as (typeof students)[number]).agent.get(own()).expect(200)).body as OwnPeer;
  const open = async (n: number, id: string): Promise<OwnReview> =>
    (await (students[n] as (typeof students)[number]).agent.get(own(`/${id}`)).expect(200)).body as OwnReview;
  /** Writes and hands in one review: for every criterion the level of that place. */
  async function give(n: number, id: string, level: number, words = 'Some words of my own'): Promise<OwnReview> {
    const { agent } = students[n] as (typeof students)[number];
    const review = await open(n, id);
    const choices = Object.fromEntries(
      review.form.criteria.flatMap((c) => (c.levels.length === 0 ? [] : [[c.id, c.levels[level]?.id ?? '']])),
    );
    const saved = await agent
      .put(own(`/${id}`))
      .send({ version: review.version, choices, given: {}, comments: {}, words, seconds: 120 })
      .expect(200);
    return (
      await agent
        .post(own(`/${id}/hand-in`))
        .send({ version: saved.body.version })
        .expect(200)
    ).body as OwnReview;
  }
  async function draw(more: object = {}): Promise<PeerBoard> {
    return (
      await teacher()
        .post(at('/draws'))
        .send({ asksForMore: false, dropsPast: false, ...more })
        .expect(200)
    ).body as PeerBoard;
  }
  /** Set, handed in by some, drawn, and reviews open. */
  async function begun(many = 6, more: Partial<PeerChange> = {}): Promise<PeerBoard> {
    await change(more);
    for (let n = 0; n < many; n += 1) await handIn(n);
    school.clock.at = START + 2 * DAY + 1;
    return draw();
  }
  /** Everybody gives all their reviews; one of them another level. */
  async function giveAll(level: (n: number) => number): Promise<void> {
    for (const n of students.keys()) for (const line of (await ownPeer(n)).owed) await give(n, line.id, level(n));
  }
  const gradeOf = async (n: number, role: string): Promise<{ raw: string; is_released: boolean } | undefined> =>
    (
      await sql<{ raw: string; is_released: boolean }>(
        'select g.raw, g.is_released from grade g join grade_column c on c.id = g.column_id where c.item_id = $1 and c.role = $2 and g.enrolment_id = $3',
        [school.itemId, role, students[n]?.id],
      )
    )[0];

  /** A sample work that the teacher wrote and assessed. */
  async function addSample(words = 'A work to practise on', level = 2): Promise<PeerSample> {
    const made = (await teacher().post(at('/samples')).send({ from: null }).expect(200)).body as PeerSample;
    const body = {
      version: made.version,
      title: 'Practice',
      document: text(words),
      words: 'In all',
      ...judge(made.form, level, 'Say why.'),
    };
    return (
      await teacher()
        .put(at(`/samples/${made.id}`))
        .send(body)
        .expect(200)
    ).body as PeerSample;
  }
  return {
    get school() {
      return school;
    },
    get students() {
      return students;
    },
    ...{ addSample, at, own, teacher, iso, sql, readSetting, change, handIn, board, ownPeer, open, give, draw, begun, giveAll, gradeOf },
  };
}

export const PNG = Buffer.from(
  'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
  'base64',
);

/** The words of a PDF, page after page. */
export async function textOfPdf(bytes: Buffer): Promise<string> {
  const { getDocument } = await import('pdfjs-dist/legacy/build/pdf.mjs');
  const pdf = await getDocument({ data: new Uint8Array(bytes), verbosity: 0 }).promise;
  const pages: string[] = [];
  for (let n = 1; n <= pdf.numPages; n += 1)
    pages.push((await (await pdf.getPage(n)).getTextContent()).items.map((i) => ('str' in i ? i.str : '')).join(''));
  return pages.join('\n');
}

/** A work of another course that the teacher of the first teaches too, with a result that is out: its submission and the course’s code. */
export async function otherWork(school: TestSchool): Promise<{ readonly submission: string; readonly code: string }> {
  const { otherCourseId: courseId } = school;
  return withDb(school.pool, true, async (db) => {
    const [teaching] = await rows<{ person_id: string }>(
      db,
      "select person_id from enrolment where course_id = $1 and role = 'instructor'",
      [school.courseId],
    );
    await addMember(db, courseId, teaching?.person_id ?? '', 'instructor', null);
    const author = { email: 'earlier@example.org', givenName: 'Earlier', familyName: 'Author', password: PASSWORD };
    const person = await addPerson(db, author, false, await hashPassword(PASSWORD));
    const [section] = await rows<{ id: string }>(db, 'select id from section where course_id = $1', [courseId]);
    const enrolmentId = (await addMember(db, courseId, person, 'student', section?.id ?? null)) ?? '';
    const unitId = await addUnit(db, courseId, 'Earlier');
    const itemId = await addItem(db, courseId, { unitId, kind: 'assignment', title: 'An earlier report', position: 1 });
    const [made] = await rows<{ id: string }>(db, 'insert into submission (item_id, enrolment_id) values ($1, $2) returning id', [
      itemId,
      enrolmentId,
    ]);
    const document = { type: 'doc', content: [{ type: 'paragraph', content: [{ type: 'text', text: 'What was learnt last year' }] }] };
    await run(
      db,
      "insert into attempt (submission_id, number, document, word_count, handed_in_at, content_hash, handed_in_by, idempotency_key) values ($1, 1, $2, 5, to_timestamp($3 / 1000.0), 'hash', $4, 'key of it')",
      [made?.id, JSON.stringify(document), START, person],
    );
    const [column] = await rows<{ id: string }>(db, "select id from grade_column where item_id = $1 and role = 'work'", [itemId]);
    await recordGrades(db, [
      {
        ...{ columnId: column?.id ?? '', enrolmentId, kind: 'set', state: 'scored', raw: 50_000, isReleased: true },
        ...{ source: 'gradebook', reason: '', actorId: teaching?.person_id ?? '', at: START },
      },
    ]);
    const [course] = await rows<{ code: string }>(db, 'select code from course where id = $1', [courseId]);
    return { submission: made?.id ?? '', code: course?.code ?? '' };
  });
}
