import type { ProgressObjectives, ProgressReport, ProgressRhythm, StudentStory, Words } from '@rosemary/api';
import { alignedShares, spreadOf, placedShares } from '@rosemary/core';
import { randomUUID } from 'node:crypto';
import ExcelJS from 'exceljs';
import { addMember, addPerson, hashPassword, recordGrade, rows, run, withDb } from '../src/index.ts';
import { parseTable } from '../src/files/tableFile.ts';
import { addVisit, forgetActivity } from '../src/own/index.ts';
import { openQuiz, lever } from './quizHelp.ts';
import { doJob, handInText, makeSchool, START, type TestSchool } from './school.ts';
import { bytesOf } from './zips.ts';

/** What Progress tells is recomputed here from the rows themselves, by other code than its own. */
let school: TestSchool;
const DAY = 86_400_000;
const MANY = 10;
let extra: string[] = [];
const base = (): string => `/api/courses/${school.courseId}`;
const teacher = () => school.agents.instructor;
const sql = <T extends object>(text: string, values: readonly unknown[] = []): Promise<T[]> =>
  withDb(school.pool, false, (db) => rows<T & Record<string, unknown>>(db, text, values));
const write = (text: string, values: readonly unknown[] = []): Promise<number> => withDb(school.pool, true, (db) => run(db, text, values));
const report = async (): Promise<ProgressReport> => (await teacher().get(`${base()}/progress`).expect(200)).body as ProgressReport;
const give = (
  columnId: string,
  enrolmentId: string,
  raw: number | null,
  state: 'scored' | 'exempt' = 'scored',
  isReleased = true,
): Promise<unknown> =>
  withDb(school.pool, true, (db) =>
    recordGrade(db, {
      columnId,
      enrolmentId,
      kind: 'set',
      state,
      raw,
      isReleased,
      source: 'gradebook',
      reason: '',
      actorId,
      at: school.clock.at,
    }),
  );
let actorId = '';

beforeAll(async () => {
  school = await makeSchool('progress');
  [{ id: actorId }] = (await sql<{ id: string }>("select id from person where email = 'instructor@example.org'")) as [{ id: string }];
  extra = await withDb(school.pool, true, async (db) => {
    const hash = await hashPassword('a password that is long');
    const made: string[] = [];
    for (let n = 0; n < MANY; n += 1) {
      const person = { email: `p${n}@example.org`, givenName: `Given ${n}`, familyName: `Person ${n}`, password: 'x' };
      const id = await addPerson(db, person, false, hash);
      made.push((await addMember(db, school.courseId, id, 'student', school.sections[n % 2] ?? null)) ?? '');
    }
    return made;
  });
  for (const [n, id] of extra.entries()) await give(school.columnId, id, 20_000 + n * 4000);
}, 60_000);
afterAll(() => school.close());

describe('results', () => {
  it('are those of the ledger, and their box that of a plain computation', async () => {
    const { works, people } = await report();
    const at = works.findIndex((w) => w.id === school.columnId);
    const raw = await sql<{ enrolment_id: string; raw: string }>(
      "select enrolment_id, raw from grade where column_id = $1 and state = 'scored'",
      [school.columnId],
    );
    for (const { enrolment_id: id, raw: points } of raw)
      expect(people.find((p) => p.enrolmentId === id)?.results[at]).toBe(Number(points) * 1000);
    const spread = spreadOf(
      placedShares(
        people.map((p) => p.results[at] ?? null),
        works[at]?.possible ?? 0,
      ),
    );
    const sorted = raw.map((r) => Number(r.raw) / 60).sort((a, b) => a - b);
    const quartile = (share: number): number => {
      const position = share * (sorted.length - 1);
      const below = sorted[Math.floor(position)] ?? 0;
      return below + (position % 1) * ((sorted[Math.ceil(position)] ?? 0) - below);
    };
    expect(spread.plot).toMatchObject({
      number: MANY,
      median: expect.closeTo(quartile(0.5), 9),
      lowQuartile: expect.closeTo(quartile(0.25), 9),
      highQuartile: expect.closeTo(quartile(0.75), 9),
    });
  });

  it('say why somebody has none, and leave out drafts and whom the course has no more', async () => {
    await give(school.columnId, school.students[0], null, 'exempt');
    school.clock.at = START + 3 * DAY;
    const seen = await report();
    const at = seen.works.findIndex((w) => w.id === school.columnId);
    const of = (id: string) => seen.people.find((p) => p.enrolmentId === id)?.results[at];
    expect([of(school.students[0]), of(school.students[1])]).toEqual(['exempt', 'missing']);
    expect(seen.left).toEqual({ withdrawn: 0, samples: 2, drafts: 1 });
    expect(JSON.stringify(seen)).not.toContain('Secret page');
    await write('update enrolment set withdrawn_at = now() where id = $1', [extra[9]]);
    const fewer = await report();
    expect([fewer.people.length, fewer.left.withdrawn]).toEqual([MANY + 1, 1]);
    await write('update enrolment set withdrawn_at = null where id = $1', [extra[9]]);
  });

  it('are told to an assistant of their own section alone', async () => {
    const own = (await school.agents.assistant.get(`${base()}/progress`).expect(200)).body as ProgressReport;
    expect(new Set(own.people.map((p) => p.sectionId))).toEqual(new Set([school.sections[0]]));
    for (const path of ['progress', 'progress/rhythm', 'progress/objectives', 'progress/visits', 'words', 'progress/statements'])
      for (const who of ['student', 'outsider', 'nobody'] as const)
        expect([401, 403, 404]).toContain((await school.agents[who].get(`${base()}/${path}`)).status);
  });
});

describe('objectives', () => {
  const make = async (code: string, parentId: string | null = null): Promise<string> => {
    await teacher()
      .post(`${base()}/objectives`)
      .send({ parentId, code, statement: `Does ${code}` })
      .expect(200);
    return (await sql<{ id: string }>('select id from objective where course_id = $1 and code = $2', [school.courseId, code]))[0]?.id ?? '';
  };
  it('count the points of questions aligned to them and to those under them, once', async () => {
    school.clock.at = START;
    const top = await make('T');
    const [one, two] = [await make('T1', top), await make('T2', top)];
    const quiz = await openQuiz(school, [lever('Which part locks?'), lever('Which one lifts?', 4000)]);
    const questions = await sql<{ question_id: string }>(
      'select p.question_id from quiz_part p join quiz_section s on s.id = p.section_id where s.item_id = $1 order by p.position',
      [quiz.itemId],
    );
    for (const [n, code] of [
      [0, 'T1'],
      [0, 'T2'],
      [1, 'T2'],
    ] as const)
      await write('insert into question_objective (question_id, code) values ($1, $2)', [questions[n]?.question_id, code]);
    await quiz.take('student', [
      { kind: 'choice', id: 'a' },
      { kind: 'choice', id: 'b' },
    ]);
    const found = (await teacher().get(`${base()}/progress/objectives`).expect(200)).body as ProgressObjectives;
    const place = found.enrolmentIds.indexOf(school.students[0]);
    const shareOf = (id: string): number | null =>
      alignedShares(found.objectives.find((o) => o.id === id)?.parts ?? [], found.enrolmentIds.length)[place] ?? null;
    // The first question has 2 points and is right, the second 4 and is wrong; the one above has both, each once.
    expect([shareOf(one), shareOf(two), shareOf(top)]).toEqual([1, expect.closeTo(1 / 3, 9), expect.closeTo(1 / 3, 9)]);
    expect(found.objectives.find((o) => o.id === top)?.parts).toMatchObject([{ how: 'questions', pieces: 2 }]);
    const asked = `objective=${top}&item=${quiz.itemId}`;
    const drilled = (await teacher().get(`${base()}/progress/questions?${asked}`).expect(200)).body.questions as {
      shares: [string, number][];
    }[];
    expect(drilled.map((q) => q.shares[0]?.[1]).sort()).toEqual([0, 1]);
  });

  it('count a work that is aligned as a whole with its whole result, and its questions not again', async () => {
    const whole = await make('W');
    await write('insert into objective_use (objective_id, item_id) values ($1, $2)', [whole, school.itemId]);
    const found = (await teacher().get(`${base()}/progress/objectives`).expect(200)).body as ProgressObjectives;
    const [part] = found.objectives.find((o) => o.id === whole)?.parts ?? [];
    expect(part).toMatchObject({ how: 'whole', itemId: school.itemId });
    // Who is exempt has nothing in it.
    expect(part?.results).toHaveLength(MANY);
  });
});

describe('activity', () => {
  const rhythm = async (): Promise<ProgressRhythm> => (await teacher().get(`${base()}/progress/rhythm`).expect(200)).body as ProgressRhythm;
  const activeOf = async (id: string) => (await rhythm()).people.find((p) => p.enrolmentId === id)?.active ?? [];
  const at = (day: number, time: string): number => Date.parse(`2026-10-${String(day).padStart(2, '0')}T${time}:00+01:00`);
  const visit = (enrolmentId: string, when: number, seconds: number, doing: 'reading' | 'writing' = 'reading'): Promise<unknown> =>
    withDb(school.pool, true, (db) => addVisit(db, school.itemId, enrolmentId, { doing, at: when, seconds }));

  it('is kept by day, with the hours it lay in, by the clock of the course', async () => {
    const [id = ''] = extra;
    await visit(id, at(6, '19:50'), 0);
    await visit(id, at(6, '20:20'), 1800);
    await visit(id, at(6, '21:00'), 600, 'writing');
    await visit(id, at(8, '00:10'), 1200);
    const kept = await sql<{ day: string; doing: string; times: number; seconds: number; longest_seconds: number }>(
      'select day, doing, times, seconds, longest_seconds from visit where enrolment_id = $1 order by day, doing',
      [id],
    );
    expect(kept).toEqual([
      { day: '2026-10-06', doing: 'reading', times: 1, seconds: 1800, longest_seconds: 1800 },
      { day: '2026-10-06', doing: 'writing', times: 1, seconds: 600, longest_seconds: 600 },
      // What began the evening before is of the day on which it was told.
      { day: '2026-10-08', doing: 'reading', times: 1, seconds: 1200, longest_seconds: 1200 },
    ]);
    const bits = (...hours: number[]): number => hours.reduce((sum, hour) => sum + 2 ** hour, 0);
    expect(await activeOf(id)).toEqual([
      [15, bits(19, 20), 40, 30, 3],
      [17, bits(0), 20, 20, 1],
    ]);
  });

  it('knows what was handed in, answered and posted, and nothing of works marked without names', async () => {
    const before = await activeOf(school.students[1]);
    school.clock.at = START + DAY;
    expect((await handInText(school, 'second', 'The report.')).status).toBe(200);
    const after = await activeOf(school.students[1]);
    expect(after.length).toBe(before.length + 1);
    expect((after.at(-1)?.[4] ?? 0) & 8).toBe(8);
    await write("update assignment set anonymous = 'release' where item_id = $1", [school.itemId]);
    expect(await activeOf(school.students[1])).toEqual(before);
    await write("update assignment set anonymous = 'none' where item_id = $1", [school.itemId]);
  });

  it('is told against results only where the school shows the two together', async () => {
    const { people } = (await teacher().get(`${base()}/progress/visits`).expect(200)).body as {
      people: { enrolmentId: string; days: number }[];
    };
    expect(people.find((p) => p.enrolmentId === extra[0])?.days).toBe(2);
    const change = (shows: boolean) =>
      school.agents.administrator.put('/api/school/activity').send({ months: 24, showsVisitsAgainstResults: shows });
    await change(false).expect(200);
    const refused = await teacher().get(`${base()}/progress/visits`).expect(409);
    expect(JSON.stringify(refused.body)).not.toContain('soFar');
    expect((await report()).showsVisitsAgainstResults).toBe(false);
    await change(true).expect(200);
    await teacher().put('/api/school/activity').send({ months: 1, showsVisitsAgainstResults: true }).expect(403);
    const bad = await school.agents.administrator
      .put('/api/school/activity')
      .send({ months: 0, showsVisitsAgainstResults: true })
      .expect(422);
    expect(bad.body.detail).toContain('Months');
  });

  it('is forgotten once it is older than the school keeps it, but for the day an item was first opened', async () => {
    const [, id = ''] = extra;
    await visit(id, Date.parse('2025-01-10T12:00:00Z'), 600);
    await visit(id, Date.parse('2025-01-12T12:00:00Z'), 700);
    await visit(id, at(6, '12:00'), 800);
    await doJob(school, forgetActivity, START + 3 * DAY);
    expect(await sql('select day, times, seconds, hours from visit where enrolment_id = $1 order by day', [id])).toHaveLength(3);
    await school.agents.administrator.put('/api/school/activity').send({ months: 12, showsVisitsAgainstResults: true }).expect(200);
    await doJob(school, forgetActivity, START + 3 * DAY);
    expect(await sql('select day, seconds from visit where enrolment_id = $1 order by day', [id])).toEqual([
      { day: '2026-10-06', seconds: 800 },
    ]);
    const [opened] = await sql<{ first: Date }>('select first_at as first from item_opened where enrolment_id = $1', [id]);
    expect(opened?.first.toISOString().slice(0, 10)).toBe('2025-01-10');
    // Nothing is due again on the same day.
    expect(await doJob(school, forgetActivity, START + 3 * DAY)).toBe(0);
  });

  it('goes out as statements of the Experience API, each once, however many pages they take', async () => {
    const [, , , id = ''] = extra;
    await write(
      `insert into visit (enrolment_id, item_id, day, doing, last_at, seconds, longest_seconds, hours)
       select $1, $2, date '2010-01-01' + n, 'reading', timestamptz '2026-10-01 10:00:00.000123', 60, 60, 1 from generate_series(1, 4100) n`,
      [id, school.itemId],
    );
    const answer = await teacher().get(`${base()}/progress/statements`).expect(200);
    const { statements, more } = JSON.parse((await bytesOf(teacher().get(`${base()}/progress/statements`))).toString('utf8')) as {
      statements: { id: string; version: string; verb: { id: string }; actor: { account: { name: string } } }[];
      more: string;
    };
    expect(answer.headers['x-experience-api-version']).toBe('1.0.3');
    expect(more).toBe('');
    expect(new Set(statements.map((s) => s.id)).size).toBe(statements.length);
    expect(statements.filter((s) => s.verb.id.endsWith('/experienced')).length).toBeGreaterThan(4100);
    expect(new Set(statements.map((s) => s.version))).toEqual(new Set(['1.0.3']));
    await write("delete from visit where day < '2024-12-31'");
  });
});

describe('who needs a word', () => {
  const words = async (who: 'instructor' | 'assistant' = 'instructor'): Promise<Words> =>
    (await school.agents[who].get(`${base()}/words`).expect(200)).body as Words;
  const note = (enrolmentIds: string[], kind: string, more: object = {}) =>
    teacher()
      .post(`${base()}/words/notes`)
      .send({ key: randomUUID(), enrolmentIds, rule: 'below', kind, body: '', untilOn: null, ...more });

  it('finds by the rules of the course, with its reason; rules are the instructor’s to set', async () => {
    school.clock.at = START + 3 * DAY;
    const found = await words();
    const below = found.findings.filter((f) => f.rule === 'below');
    // 20 to 56 of 60 points in steps of 4: four lie under 60 percent, and who handed in nothing has a missing piece.
    expect(below.map((f) => f.reason)).toContain('33.3 % so far, below 60 %');
    const rule = { isOn: true, threshold: 40, of: null };
    const fewer = (await teacher().put(`${base()}/words/rules`).send({ below: rule }).expect(200)).body as Words;
    expect(fewer.findings.filter((f) => f.rule === 'below').length).toBeLessThan(below.length);
    expect(fewer.rules.below).toEqual(rule);
    await school.agents.assistant.put(`${base()}/words/rules`).send({ below: rule }).expect(403);
    const bad = await teacher()
      .put(`${base()}/words/rules`)
      .send({ below: { ...rule, threshold: 0 } })
      .expect(422);
    expect(bad.body.detail).toContain('Below the line: percent so far');
  });

  it('keeps what was done, for staff alone, and takes it back', async () => {
    const [id = ''] = extra;
    const made = (await note([id], 'called', { body: 'Moves house this week.' }).expect(200)).body as Words & { noteIds: string[] };
    const of = (all: Words) => all.findings.find((f) => f.enrolmentId === id && f.rule === 'below');
    expect(of(made)?.note).toMatchObject({ kind: 'called', body: 'Moves house this week.', by: 'Instructor Tester' });
    expect(
      of((await teacher().post(`${base()}/words/notes/removals`).send({ noteIds: made.noteIds }).expect(200)).body as Words)?.note,
    ).toBeNull();
    await school.agents.assistant.post(`${base()}/words/notes/removals`).send({ noteIds: made.noteIds }).expect(404);
  });

  it('sets aside until a day, and brings back on it', async () => {
    const [id = ''] = extra;
    const isAside = (all: Words): boolean => all.findings.find((f) => f.enrolmentId === id && f.rule === 'below')?.asideUntil !== null;
    await note([id], 'set aside').expect(422);
    expect(isAside((await note([id], 'set aside', { untilOn: '2026-10-12' }).expect(200)).body as Words)).toBe(true);
    school.clock.at = Date.parse('2026-10-12T08:00:00Z');
    expect(isAside(await words())).toBe(false);
    school.clock.at = START + 3 * DAY;
  });

  it('writes to each alone, once however often it is sent, and notes it; the Desk has a slip for the rest', async () => {
    const desk = async () =>
      ((await teacher().get('/api/desk').expect(200)).body.slips as { id: string; verb: string; text: string }[]).filter(
        (s) => s.verb === 'Write to',
      );
    await teacher()
      .put(`${base()}/words/rules`)
      .send({ below: { isOn: true, threshold: 60, of: null } })
      .expect(200);
    const [first] = (await desk()).filter((s) => s.id.endsWith(':below'));
    const whom = (await words()).findings.filter((f) => f.rule === 'below' && f.asideUntil === null).map((f) => f.enrolmentId);
    expect(first?.text).toBe(`${whom.length} people below 60 % so far`);
    const wish = { key: randomUUID(), enrolmentIds: whom, rule: 'below', title: 'Where you stand', body: 'Let us look together.' };
    await teacher().post(`${base()}/words/messages`).send(wish).expect(200);
    const after = (await teacher().post(`${base()}/words/messages`).send(wish).expect(200)).body as Words;
    expect(
      after.findings
        .filter((f) => f.rule === 'below' && f.note?.kind === 'wrote')
        .map((f) => f.enrolmentId)
        .sort(),
    ).toEqual([...whom].sort());
    const sent = await sql<{ people: number }>(
      "select count(p.person_id)::int as people from conversation c join conversation_person p on p.conversation_id = c.id where c.title = 'Where you stand' group by c.id",
    );
    expect(sent.map((s) => s.people)).toEqual(whom.map(() => 2));
    expect((await desk()).some((s) => s.id.endsWith(':below'))).toBe(false);
  });

  it('reaches nobody beyond one’s own sections', async () => {
    const evening = extra.find((_, n) => n % 2 === 1) ?? '';
    const whom = { key: randomUUID(), enrolmentIds: [evening], rule: 'below' };
    await school.agents.assistant
      .post(`${base()}/words/messages`)
      .send({ ...whom, title: 'A', body: 'B' })
      .expect(404);
    await school.agents.assistant
      .post(`${base()}/words/notes`)
      .send({ ...whom, kind: 'met', body: '', untilOn: null })
      .expect(404);
    expect((await words('assistant')).findings.some((f) => f.enrolmentId === evening)).toBe(false);
  });
});

describe('the story of a student', () => {
  const storyOf = async (id: string): Promise<StudentStory> =>
    (await teacher().get(`${base()}/students/${id}/story`).expect(200)).body as StudentStory;
  const own = async (): Promise<StudentStory> => (await school.agents.student.get(`${base()}/own/story`).expect(200)).body as StudentStory;
  const shows = async (progressShows: string): Promise<unknown> => {
    const { version } = (await teacher().get(`${base()}/settings`).expect(200)).body;
    return teacher().patch(`${base()}/settings`).send({ version, progressShows }).expect(200);
  };

  it('has results against the class, progress, activity, notes and what the rules find', async () => {
    const [id = ''] = extra;
    const story = await storyOf(id);
    const work = story.works.find((w) => w.columnId === school.columnId);
    expect(work).toMatchObject({ state: 'marked', share: expect.closeTo(1 / 3, 9) });
    expect(work?.class?.[1]).toBeCloseTo(38 / 60, 9);
    expect(story.active.length).toBe(2);
    expect(story.staff?.findings.map((f) => f.rule)).toContain('below');
    expect(story.staff?.notes.map((n) => n.kind)).toContain('set aside');
    await school.agents.assistant.get(`${base()}/students/${extra[1]}/story`).expect(404);
    await school.agents.student.get(`${base()}/students/${id}/story`).expect(403);
  });

  it('is the student’s own without notes, of released marks, and without what is not announced to them', async () => {
    await write('update grade set is_released = false where enrolment_id = $1', [school.students[0]]);
    const later = await openQuiz(
      school,
      [lever()],
      {},
      {
        ...{ announcedAt: '2026-11-30T08:00:00Z', opensAt: '2026-12-01T08:00:00Z' },
        ...{ dueAt: '2026-12-02T08:00:00Z', closesAt: '2026-12-03T08:00:00Z' },
      },
    );
    const story = await own();
    expect(story.staff).toBeNull();
    expect(story.works.some((w) => w.state === 'marked')).toBe(false);
    const title = (await sql<{ title: string }>('select title from item where id = $1', [later.itemId]))[0]?.title ?? '?';
    expect(JSON.stringify(story)).not.toContain(title);
    expect(JSON.stringify(story)).not.toContain('Moves house');
  });

  it('has the other courses in which the one who looks teaches them, and no others', async () => {
    const join = (role: string, person: string): Promise<number> =>
      write('insert into enrolment (course_id, person_id, role) select $1, id, $2 from person where email = $3', [
        school.otherCourseId,
        role,
        person,
      ]);
    await join('student', 'p0@example.org');
    const coursesOf = async (): Promise<readonly string[]> => (await storyOf(extra[0] ?? '')).staff?.courses.map((c) => c.title) ?? [];
    expect(await coursesOf()).toEqual([]);
    await join('instructor', 'instructor@example.org');
    expect(await coursesOf()).toEqual(['Clocks']);
  });

  it('tells totals and shares as the gradebook reads them', async () => {
    const book = (await teacher().get(`${base()}/gradebook`).expect(200)).body as {
      rows: { enrolmentId: string; totals: { soFar: string | null } }[];
    };
    const { people } = await report();
    expect(people.map((p) => [p.enrolmentId, p.soFar]).sort()).toEqual(book.rows.map((r) => [r.enrolmentId, r.totals.soFar]).sort());
    const story = await storyOf(extra[0] ?? '');
    expect(story.soFar).toBe(book.rows.find((r) => r.enrolmentId === extra[0])?.totals.soFar);
    const found = (await teacher().get(`${base()}/words`).expect(200)).body as Words;
    for (const { enrolmentId, reason } of found.findings.filter((f) => f.rule === 'below'))
      expect(reason).toContain(`${people.find((p) => p.enrolmentId === enrolmentId)?.soFar ?? '?'} % so far`);
  });

  it('shows its letters to the student, and to nobody who looks as them', async () => {
    await write(
      `with c as (insert into conversation (course_id, title, sending, place) values ($1, 'About your plan', gen_random_uuid(), 0) returning id),
         p as (insert into conversation_person (conversation_id, person_id) select c.id, e.person_id from c, enrolment e where e.id = $2)
       insert into message (id, conversation_id, author_id, body, at) select gen_random_uuid(), c.id, $3, 'For you alone.', now() from c`,
      [school.courseId, school.students[0], actorId],
    );
    expect((await own()).messages.map((m) => m.title)).toEqual(['About your plan']);
    const seen = await teacher().get(`${base()}/own/story`).set('x-see-as', school.students[0]).expect(200);
    expect((seen.body as StudentStory).messages).toEqual([]);
  });

  it('compares with the class only where the course shows it, and of five at least', async () => {
    expect((await own()).works.every((w) => w.class === null)).toBe(true);
    await shows('class');
    expect((await own()).works.some((w) => w.class !== null)).toBe(true);
    const share = async (): Promise<string | null> =>
      (await school.agents.student.get(`${base()}/own/class-progress`).expect(200)).body.share as string | null;
    expect(await share()).toMatch(/^\d+ %$/);
    await write("update enrolment set withdrawn_at = now() where course_id = $1 and role = 'student' and id <> all($2)", [
      school.courseId,
      [...school.students, extra[0], extra[1]],
    ]);
    expect((await own()).works.every((w) => w.class === null)).toBe(true);
    expect(await share()).toBeNull();
    await write("update enrolment set withdrawn_at = null where course_id = $1 and role = 'student'", [school.courseId]);
    await shows('nothing');
    expect([(await own()).progress, await share()]).toEqual([null, null]);
    expect((await school.agents.student.get(`${base()}/own/outline`).expect(200)).body.progress).toBeNull();
    await shows('own');
  });
});

describe('the school’s types of task', () => {
  const keep = (taskTypes: object[], who: 'administrator' | 'instructor' = 'administrator') =>
    school.agents[who].put('/api/school/task-types').send({ taskTypes });
  it('are kept by the administrator, change places, and stay with items when they are taken off', async () => {
    const made = (
      await keep([
        { id: null, title: 'Pre-test' },
        { id: null, title: 'Essay' },
      ]).expect(200)
    ).body.taskTypes as { id: string; title: string }[];
    await keep([], 'instructor').expect(403);
    expect((await school.agents.student.get('/api/task-types').expect(200)).body.taskTypes).toHaveLength(2);
    const [pre, essay] = made;
    const { item } = (await teacher().get(`${base()}/items/${school.itemId}`).expect(200)).body;
    await teacher().patch(`${base()}/items/${school.itemId}`).send({ version: item.version, taskTypeId: essay?.id }).expect(200);
    const swapped = await keep([
      { id: essay?.id, title: 'Pre-test' },
      { id: pre?.id, title: 'Essay' },
    ]).expect(200);
    expect(swapped.body.taskTypes).toMatchObject([
      { id: essay?.id, title: 'Pre-test', uses: 1 },
      { id: pre?.id, title: 'Essay', uses: 0 },
    ]);
    const twice = await keep([
      { id: null, title: 'Same' },
      { id: null, title: 'same' },
    ]).expect(422);
    expect(twice.body.detail).toContain('Two types of task have the same title');
    expect((await report()).taskTypes.map((t) => t.title)).toEqual(['Pre-test']);
    await keep([{ id: pre?.id, title: 'Essay' }]).expect(200);
    const gone = await keep([{ id: essay?.id, title: 'Pre-test' }]).expect(422);
    expect(gone.body.detail).toContain('somebody took it off meanwhile');
    const now = (await teacher().get(`${base()}/items/${school.itemId}`).expect(200)).body.item;
    expect(now.taskTypeId).toBe(essay?.id);
    const refused = await teacher().patch(`${base()}/items/${school.draftId}`).send({ version: 1, taskTypeId: essay?.id }).expect(422);
    expect(refused.body.pointers[0].field).toBe('taskTypeId');
  });
});

describe('a table that is taken out', () => {
  const title = 'How far';
  const lines = [
    ['Family name', 'Done (%)'],
    ['=cmd()', 71],
    ['Adeyemi-Sørli', null],
  ];
  const ask = (format: string, body: unknown) =>
    teacher()
      .post(`/api/table-files?format=${format}`)
      .attach('file', Buffer.from(JSON.stringify(body)), 'table.json');
  it('is the one on the screen, and nothing in it runs', async () => {
    const csv = await ask('csv', { title, lines }).expect(200);
    expect(parseTable(csv.text.replace(/^\uFEFF/, ''))).toEqual([
      ['Family name', 'Done (%)'],
      ['=cmd()', '71'],
      ['Adeyemi-Sørli', ''],
    ]);
    expect(csv.text).toContain("'=cmd()");
    const book = new ExcelJS.Workbook();
    await book.xlsx.load((await bytesOf(ask('xlsx', { title, lines }).expect(200))) as never);
    const [sheet] = book.worksheets;
    expect([sheet?.name, sheet?.getCell('A2').value, sheet?.getCell('B2').value]).toEqual([title, '=cmd()', 71]);
  });
  it.each([
    ['{', 'did not arrive whole'],
    [JSON.stringify({ title, lines: [] }), 'cannot be written'],
    [JSON.stringify({ title, lines: [[{}]] }), 'cannot be written'],
  ])('is refused with the reason where it is none: %s', async (text, words) => {
    const refused = await teacher().post('/api/table-files?format=csv').attach('file', Buffer.from(text), 'table.json').expect(422);
    expect(refused.body.detail).toContain(words);
  });
});
