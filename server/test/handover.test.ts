import { createHash } from 'node:crypto';
import JSZip from 'jszip';
import type { AgreeRow, Desk, FinalsView, MyGrades, ReadBack, Roster, SchoolHandover, SendAnswer } from '@rosemary/api';
import { Registrar, serveRegistrar } from '../../standins/src/registrar.ts';
import { handOverGrades } from '../src/handover/index.ts';
import { addItem, maybe, rows, run, withDb } from '../src/index.ts';
import { doJob, finishScore, makeSchool, type TestSchool } from './school.ts';
import { bytesOf } from './zips.ts';

/** Final grades agreed and handed over to a registrar who takes only what he likes, and does not always answer. */
let school: TestSchool;
let registrar: Registrar;
let served: Awaited<ReturnType<typeof serveRegistrar>>;
let port = 0;
const MINUTE = 60_000;

beforeAll(async () => {
  school = await makeSchool('handover');
  // A draft before the item that is marked: it has a column that is not counted.
  await withDb(school.pool, true, (db) =>
    addItem(db, school.courseId, { unitId: school.unitId, kind: 'assignment', title: 'Not out yet', position: 0 }),
  );
  await finishScore(school, school.students[0], 54_000);
  await finishScore(school, school.students[1], 20_000);
  const [lists, teacher] = await withDb(school.pool, false, async (db) => [
    await rows<{ section: string; title: string; key: string; name: string }>(
      db,
      `select s.id as section, s.title, p.id as key, p.family_name as name from enrolment e join section s on s.id = e.section_id join person p on p.id = e.person_id
       where e.course_id = $1 and e.role = 'student' and not e.is_sample`,
      [school.courseId],
    ),
    await maybe<{ email: string }>(
      db,
      "select p.email::text as email from enrolment e join person p on p.id = e.person_id where e.course_id = $1 and e.role = 'instructor' and e.is_of_record",
      [school.courseId],
    ),
  ]);
  const sections = Object.fromEntries(
    [...new Set(lists.map((l) => l.section))].map((id) => [
      id,
      {
        title: lists.find((l) => l.section === id)?.title ?? '',
        teacher: teacher?.email ?? '',
        students: lists.filter((l) => l.section === id).map((l) => ({ key: l.key, name: l.name })),
      },
    ]),
  );
  registrar = new Registrar({ token: 'secret', file: null, sections, now: () => school.clock.at });
  served = await serveRegistrar(registrar, 0);
  port = Number(new URL(served.url).port);
  process.env.ROSEMARY_REGISTRAR_URL = served.url;
  process.env.ROSEMARY_REGISTRAR_TOKEN = 'secret';
}, 60_000);
afterAll(async () => {
  delete process.env.ROSEMARY_REGISTRAR_URL;
  delete process.env.ROSEMARY_REGISTRAR_TOKEN;
  await served.stop();
  await school.close();
});

const base = (): string => `/api/courses/${school.courseId}/finals`;
const teacher = () => school.agents.instructor;
const look = async (): Promise<FinalsView> => (await teacher().get(base()).expect(200)).body as FinalsView;
const rowOf = (view: FinalsView, n: 0 | 1) => view.rows.find((r) => r.enrolmentId === school.students[n])!;
const wish = (n: 0 | 1, view: FinalsView, more: Partial<AgreeRow> = {}): AgreeRow => ({
  enrolmentId: school.students[n],
  ...{ sentLetter: null, number: null, reason: '', lastDay: null, lastDayFrom: '', expiresOn: null, lapsesTo: null },
  seenPercent: rowOf(view, n).calculated.percent,
  ...more,
});
const agree = (...list: AgreeRow[]) => teacher().post(`${base()}/agreed`).send({ rows: list });
const send = (ids: readonly string[], reason = '') => teacher().post(`${base()}/sent`).send({ enrolmentIds: ids, reason });
const work = (): Promise<number> => doJob(school, handOverGrades);
const mood = (outage: 'none' | 'refuses' | 'silent' | 'stores then fails'): void => {
  registrar.set({ mood: { outage, percent: 100, delay: 0 } });
};
const held = () => Object.values(registrar.held.grades);

describe('final grades', () => {
  it('cannot be agreed before the registrar has said what he takes, and are asked for anew', async () => {
    const before = await look();
    expect([before.rules, before.registrar.isSet, rowOf(before, 0).calculated.letter]).toEqual([null, true, 'A']);
    expect((await agree(wish(0, before)).expect(409)).body.detail).toContain('What the registrar takes is not known yet');
    await teacher().post(`${base()}/registrar`).expect(200);
    await work();
    const after = await look();
    expect([after.rules?.letters.length, after.registrar.fault, after.gaps]).toEqual([13, '', []]);
    expect(rowOf(after, 0).calculated).toEqual({ percent: '90.0', letter: 'A', sentLetter: 'A' });
    expect(after.findings.filter((f) => f.text.includes('not released')).map((f) => f.text)).toEqual([
      '“Report”: 2 results are not released: students do not know them.',
    ]);
  });

  it('are agreed as they are calculated; a failing letter needs its last day, an override its reason', async () => {
    const view = await look();
    const refused = await agree(wish(0, view), wish(1, view)).expect(422);
    expect(refused.body.pointers).toEqual([
      { field: 'rows.1.lastDay', text: expect.stringContaining('F needs the last day on which the student took part') },
    ]);
    // All of those named or none.
    expect((await look()).rows.every((r) => r.agreed === null)).toBe(true);
    for (const [more, field] of [
      [{ sentLetter: 'C' }, 'reason'],
      [{ sentLetter: 'c', reason: 'x' }, 'sentLetter'],
      [{ sentLetter: 'I', reason: 'ill', expiresOn: '2020-01-01', lapsesTo: 'F' }, 'expiresOn'],
      [{ lastDay: '2050-01-01' }, 'lastDay'],
      [{ seenPercent: '12.0' }, 'seenPercent'],
    ] as const)
      expect((await agree(wish(1, view, more)).expect(422)).body.pointers[0].field).toBe(`rows.0.${field}`);
    const done = (await agree(wish(0, view), wish(1, view, { sentLetter: 'D', reason: 'Oral examination' })).expect(200))
      .body as FinalsView;
    expect([0, 1].map((n) => rowOf(done, n as 0).agreed)).toMatchObject([
      { sentLetter: 'A', letter: 'A', percent: '90.0', isOverride: false },
      { sentLetter: 'D', isOverride: true, reason: 'Oral examination', calculatedLetter: 'F' },
    ]);
    expect(done.sections.reduce((sum, s) => sum + s.agreed, 0)).toBe(2);
  });

  it('may have a number of their own where the registrar takes numbers, with a reason', async () => {
    const takes = (is: boolean) =>
      withDb(school.pool, true, (db) =>
        run(db, "update handover_setting set rules = jsonb_set(rules, '{takesNumber}', to_jsonb($1::boolean))", [is]),
      );
    const view = await look();
    // Where he takes none, none is kept.
    const bare = (await agree(wish(0, view, { number: 91_500 })).expect(200)).body as FinalsView;
    expect(rowOf(bare, 0).agreed).toMatchObject({ percent: '90.0', isOverride: false });
    await takes(true);
    const asked = await agree(wish(0, view, { number: 91_500 })).expect(422);
    expect(asked.body.pointers[0].text).toContain('say why 91.5 stands instead of 90.0');
    const done = (await agree(wish(0, view, { number: 91_500, reason: 'Oral examination' })).expect(200)).body as FinalsView;
    expect(rowOf(done, 0).agreed).toMatchObject({ sentLetter: 'A', letter: 'A', percent: '91.5', isOverride: true });
    await takes(false);
    await agree(wish(0, view)).expect(200);
  });

  it('are checked against the registrar’s list of each section', async () => {
    const students = registrar.held.sections[rowOf(await look(), 0).sectionId ?? '']!.students;
    const away = students.splice(0, 1);
    students.push({ key: 'S-1', name: 'Somebody Else' });
    school.clock.at += 1;
    await teacher().post(`${base()}/registrar`).expect(200);
    await work();
    const words = (await look()).findings.map((f) => f.text);
    expect(words.some((w) => w.includes('the registrar’s list lacks 1 student who is here'))).toBe(true);
    expect(words.some((w) => w.includes('the registrar’s list has 1 student who is not here'))).toBe(true);
    students.pop();
    students.unshift(...away);
    school.clock.at += 1;
    await teacher().post(`${base()}/registrar`).expect(200);
    await work();
    expect((await look()).findings.some((f) => f.text.includes('registrar’s list'))).toBe(false);
  });

  it('never change by themselves: what is calculated otherwise now is shown, with the act after which it was', async () => {
    school.clock.at += MINUTE;
    await finishScore(school, school.students[0], 48_000);
    const view = await look();
    expect(rowOf(view, 0)).toMatchObject({
      agreed: { sentLetter: 'A', percent: '90.0' },
      moved: { from: '90.0 %, A', to: '80.0 %, B', by: expect.stringContaining('Report') },
    });
    await finishScore(school, school.students[0], 54_000);
    expect(rowOf(await look(), 0).moved).toBeNull();
  });

  it('stand on the Desk of the instructor of record while the window is open', async () => {
    const desk = (await teacher().get('/api/desk').expect(200)).body as Desk;
    expect(desk.slips.find((s) => s.id.startsWith('finals:'))).toMatchObject({
      ...{ verb: 'Send', text: expect.stringContaining('2 of 2 final grades'), to: `/courses/${school.courseId}/finals` },
    });
  });

  it('are sent by the instructor of record alone', async () => {
    for (const who of ['student', 'assistant', 'outsider', 'administrator'] as const) {
      expect([403, 404]).toContain((await school.agents[who].get(base())).status);
      expect([403, 404]).toContain(
        (await school.agents[who].post(`${base()}/sent`).send({ enrolmentIds: [school.students[0]], reason: '' })).status,
      );
    }
    const ofRecord = (is: boolean) =>
      withDb(school.pool, true, (db) =>
        run(db, "update enrolment set is_of_record = $2 where course_id = $1 and role = 'instructor'", [school.courseId, is]),
      );
    await ofRecord(false);
    expect((await look()).canSend).toBe(false);
    await send([school.students[0]]).expect(403);
    await ofRecord(true);
  });
});

describe('sending', () => {
  it('says of each that is refused what it means and what to do, and sends it again once it is mended', async () => {
    const [first, second] = school.students;
    const students = registrar.held.sections[rowOf(await look(), 0).sectionId ?? '']!.students;
    const away = students.splice(0, students.length);
    expect((await send([first]).expect(200)).body as SendAnswer).toEqual({ sent: 1, left: [] });
    expect(((await send([first]).expect(200)).body as SendAnswer).left[0]?.text).toBe('is under way already.');
    await work();
    expect(rowOf(await look(), 0).row).toMatchObject({ state: 'refused', mend: expect.stringContaining('Check the student’s key') });
    students.push(...away);
    registrar.set({ window: { opensAt: '2000-01-01T00:00:00Z', closesAt: '2001-01-01T00:00:00Z' } });
    await send([first]).expect(200);
    await work();
    expect(rowOf(await look(), 0).row).toMatchObject({ state: 'refused', says: 'The registrar’s window is closed.' });
    registrar.set({ window: { opensAt: '2000-01-01T00:00:00Z', closesAt: '2100-01-01T00:00:00Z' } });
    await send([first]).expect(200);
    await work();
    expect(rowOf(await look(), 0).row).toMatchObject({ state: 'accepted', receipt: expect.stringMatching(/^R-/), sentLetter: 'A' });
    expect(((await send([first]).expect(200)).body as SendAnswer).left[0]?.text).toBe('is with the registrar already, as it was agreed.');
    expect(held().map((g) => g.letter)).toEqual(['A']);
    // As he said last, his window is open; where he says it is closed nothing is put under way.
    registrar.set({ window: { opensAt: '2000-01-01T00:00:00Z', closesAt: '2001-01-01T00:00:00Z' } });
    await teacher().post(`${base()}/registrar`).expect(200);
    school.clock.at += 1;
    await work();
    expect((await send([second]).expect(409)).body.detail).toContain('The registrar takes no grades now');
    registrar.set({ window: { opensAt: '2000-01-01T00:00:00Z', closesAt: '2100-01-01T00:00:00Z' } });
    school.clock.at += 1;
    await teacher().post(`${base()}/registrar`).expect(200);
    school.clock.at += 1;
    await work();
    const { entries } = (await teacher().get(`${base()}/${first}/history`).expect(200)).body as {
      entries: { state: string; who: string }[];
    };
    expect(entries.map((e) => e.state)).toEqual([
      'accepted',
      'sending',
      'waiting',
      'refused',
      'sending',
      'waiting',
      'refused',
      'sending',
      'waiting',
    ]);
    expect(new Set(entries.map((e) => e.who))).toEqual(new Set(['Instructor Tester', 'by itself']));
    expect(second).not.toBe(first);
  });

  it('comes through an outage of each kind with one grade stored, asking before it sends again', async () => {
    const id = school.students[1];
    mood('stores then fails');
    await send([id]).expect(200);
    await work();
    expect(rowOf(await look(), 1).row).toMatchObject({ state: 'unknown', nextTryAt: expect.any(String) });
    expect(held()).toHaveLength(2);
    // Before its time nothing is tried again.
    expect(await work()).toBe(0);
    mood('refuses');
    school.clock.at += 2 * MINUTE;
    await work();
    expect(rowOf(await look(), 1).row?.state).toBe('unknown');
    await served.stop();
    await teacher()
      .post(`${base()}/tries`)
      .send({ enrolmentIds: [id] })
      .expect(200);
    await work();
    expect(rowOf(await look(), 1).row).toMatchObject({ state: 'unknown', says: expect.stringContaining('no connection') });
    served = await serveRegistrar(registrar, port);
    mood('none');
    await teacher()
      .post(`${base()}/tries`)
      .send({ enrolmentIds: [id] })
      .expect(200);
    await work();
    expect(rowOf(await look(), 1).row).toMatchObject({ state: 'accepted' });
    expect([held().length, Object.keys(registrar.held.submissions).length]).toEqual([2, 4]);
  });

  it('closes the grades once every section is handed over, with a record that nobody changes', async () => {
    const view = await look();
    expect(view.closedAt).not.toBeNull();
    const records = view.sections.flatMap((s) => s.records);
    expect(records.reduce((sum, r) => sum + r.rows, 0)).toBe(2);
    for (const record of records) {
      const csv = await teacher().get(`${base()}/records/${record.id}?format=csv`).expect(200);
      expect(csv.text).toContain('Record of final grades');
      expect((await teacher().get(`${base()}/records/${record.id}?format=pdf`).expect(200)).headers['content-type']).toBe(
        'application/pdf',
      );
      await school.agents.assistant.get(`${base()}/records/${record.id}?format=csv`).expect(403);
    }
    const stored = await withDb(school.pool, false, (db) =>
      rows<{ content: { grades: { working: unknown; letter: string }[] }; sum: Buffer; text: string }>(
        db,
        'select content, content::text as text, sha256 as sum from handover_record where course_id = $1',
        [school.courseId],
      ),
    );
    expect(stored.flatMap((s) => s.content.grades).every((g) => g.working !== null)).toBe(true);
    for (const s of stored) expect(createHash('sha256').update(JSON.stringify(s.content)).digest()).toHaveLength(s.sum.length);
    for (const table of ['agreed_grade', 'handover_event', 'handover_record'])
      await expect(withDb(school.pool, true, (db) => run(db, `delete from ${table}`))).rejects.toThrow(/permission denied|never changed/);
    const typed = {
      ...{ columnId: school.columnId, enrolmentId: school.students[0], state: 'scored', raw: 1000, seenEventId: null },
      ...{ isAboveConfirmed: false, reason: '' },
    };
    const refused = await teacher().put(`/api/courses/${school.courseId}/gradebook/cells`).send(typed).expect(409);
    expect(refused.body.detail).toContain('The grades of this course are closed');
    await teacher().post(`${base()}/reopened`).send({ reason: ' ' }).expect(422);
    await teacher().post(`${base()}/reopened`).send({ reason: 'A mark was added up wrongly.' }).expect(200);
    expect((await look()).closedAt).toBeNull();
  });

  it('corrects what the registrar holds with its reason, and keeps the first', async () => {
    const id = school.students[0];
    await agree(wish(0, await look(), { sentLetter: 'B', reason: 'Added up wrongly' })).expect(200);
    expect(((await send([id]).expect(200)).body as SendAnswer).left[0]?.text).toContain('say why it is corrected');
    expect((await send([id], 'Added up wrongly').expect(200)).body as SendAnswer).toEqual({ sent: 1, left: [] });
    await work();
    expect(rowOf(await look(), 0).row).toMatchObject({ state: 'accepted', isCorrection: true, sentLetter: 'B' });
    expect(
      held()
        .map((g) => [g.letter, g.corrects === null])
        .sort(),
    ).toEqual([
      ['B', false],
      ['D', true],
    ]);
    const kept = await withDb(school.pool, false, (db) =>
      rows<{ state: string }>(db, "select state from handover_row where enrolment_id = $1 and state = 'accepted'", [id]),
    );
    expect(kept).toHaveLength(2);
  });

  it('that was being sent when the server ended is taken up again, stored or not', async () => {
    const id = school.students[1];
    // A crash before the line was reached leaves it being sent and not stored; one after it, being sent and stored.
    for (const [letter, isStored] of [
      ['C-', false],
      ['C+', true],
    ] as const) {
      await agree(wish(1, await look(), { sentLetter: letter, reason: 'Oral' })).expect(200);
      await send([id], 'Oral').expect(200);
      const [row] = await withDb(school.pool, true, (db) =>
        rows<{ id: string; section: string; student: string; receipt: string }>(
          db,
          `update handover_row r set state = 'sending', tries = 1 where enrolment_id = $1 and state = 'waiting'
           returning r.id, r.section_id::text as section, (select person_id::text from enrolment where id = r.enrolment_id) as student, (select receipt from handover_row c where c.id = r.corrects_id) as receipt`,
          [id],
        ),
      );
      if (isStored)
        registrar.take(row!.section, row!.student, row!.id, {
          by: 'instructor@example.org',
          letter,
          corrects: row!.receipt,
          reason: 'Oral',
        });
      const stored = Object.keys(registrar.held.submissions).length;
      await work();
      expect(rowOf(await look(), 1).row).toMatchObject({ state: 'accepted', sentLetter: letter });
      expect(Object.keys(registrar.held.submissions).length - stored).toBe(isStored ? 0 : 1);
    }
    await agree(wish(1, await look(), { sentLetter: 'D', reason: 'Oral examination' })).expect(200);
    await send([id], 'Back to what it was').expect(200);
    await work();
  });

  it('stops where the window closes while grades are being sent: what came before is held, the rest is refused and said', async () => {
    const odd = 'Ünïcode “quotes” <b>bold</b> \u202e🎓 \\ ; drop table -- %s';
    const view = await look();
    await agree(wish(0, view, { sentLetter: 'C', reason: odd }), wish(1, view, { sentLetter: 'C', reason: odd })).expect(200);
    expect(rowOf(await look(), 0).agreed?.reason).toBe(odd);
    const take = registrar.take.bind(registrar);
    registrar.take = (...given) => {
      const answer = take(...given);
      registrar.set({ window: { opensAt: '2000-01-01T00:00:00Z', closesAt: '2001-01-01T00:00:00Z' } });
      return answer;
    };
    await send(school.students, odd).expect(200);
    await work();
    registrar.take = take;
    const after = await look();
    expect([0, 1].map((n) => rowOf(after, n as 0).row?.state).sort()).toEqual(['accepted', 'refused']);
    registrar.set({ window: { opensAt: '2000-01-01T00:00:00Z', closesAt: '2100-01-01T00:00:00Z' } });
    await agree(wish(0, after, { sentLetter: 'B', reason: odd }), wish(1, after, { sentLetter: 'D', reason: odd })).expect(200);
    await send(school.students, odd).expect(200);
    await work();
    expect((await look()).rows.map((r) => r.row?.state)).toEqual(['accepted', 'accepted']);
  });

  it('says of a student who was moved to another section after the grade was agreed', async () => {
    const row = rowOf(await look(), 0);
    const other = school.sections.find((s) => s !== row.sectionId)!;
    const move = (to: string | null) =>
      withDb(school.pool, true, (db) => run(db, 'update enrolment set section_id = $2 where id = $1', [row.enrolmentId, to]));
    await move(other);
    const view = await look();
    expect(rowOf(view, 0).movedFrom).not.toBeNull();
    expect(view.findings.some((f) => f.text.includes('another section when the grade was agreed'))).toBe(true);
    await move(row.sectionId);
  });

  it('is read back and held against what was agreed', async () => {
    const { sectionId } = rowOf(await look(), 0);
    const path = `${base()}/sections/${sectionId}/read-back`;
    const ask = async (): Promise<ReadBack> => {
      await teacher().post(path).expect(200);
      expect((await teacher().get(path).expect(200)).body).toMatchObject({ isAsked: true });
      await work();
      return (await teacher().get(path).expect(200)).body as ReadBack;
    };
    expect(await ask()).toMatchObject({ fault: '', differences: [] });
    const at = Object.keys(registrar.held.grades).find((key) => registrar.held.grades[key]?.letter === 'B')!;
    registrar.held.grades[at] = { ...registrar.held.grades[at]!, letter: 'C' };
    expect((await ask()).differences).toMatchObject([{ field: 'letter', here: 'B', there: 'C' }]);
    mood('silent');
    mood('refuses');
    expect((await ask()).fault).toContain('does not answer');
    mood('none');
  });

  it('is of one grade at a time, whoever sends', async () => {
    const id = school.students[1];
    await agree(wish(1, await look(), { sentLetter: 'C', reason: 'Oral' })).expect(200);
    const answers = await Promise.all([send([id], 'Oral'), send([id], 'Oral'), send([id], 'Oral')]);
    expect(answers.map((a) => (a.body as SendAnswer).sent).sort()).toEqual([0, 0, 1]);
    await teacher()
      .post(`${base()}/stopped`)
      .send({ enrolmentIds: [id] })
      .expect(200);
    expect(await work()).toBe(0);
    expect(rowOf(await look(), 1).row).toMatchObject({ state: 'accepted', sentLetter: 'D' });
  });

  it('may be done by hand, and is noted', async () => {
    const id = school.students[1];
    expect(
      (
        await teacher()
          .post(`${base()}/by-hand`)
          .send({ enrolmentIds: [id] })
          .expect(200)
      ).body,
    ).toEqual({ sent: 1, left: [] });
    expect(rowOf(await look(), 1).row).toMatchObject({ state: 'by hand', sentLetter: 'C' });
  });
});

describe('what students see of it', () => {
  it('is set under the version that was seen', async () => {
    const { version } = await look();
    const put = (seen: number, shows: string) => teacher().put(`${base()}/setting`).send({ version: seen, shows, shownFrom: null });
    expect((await put(version, 'agreed').expect(200)).body).toMatchObject({ shows: 'agreed' });
    await put(version, 'calculated').expect(409);
  });
});

describe('the handover of the whole school', () => {
  const admin = () => school.agents.administrator;
  const path = '/api/school/handover';
  it('is the administrator’s alone: letters, rules, and every section', async () => {
    for (const who of ['instructor', 'student', 'nobody'] as const)
      expect([401, 403]).toContain((await school.agents[who].get(path)).status);
    const read = (await admin().get(path).expect(200)).body as SchoolHandover;
    expect(read.sections.filter((s) => s.courseId === school.courseId).reduce((sum, s) => sum + s.agreed, 0)).toBe(2);
    const labels = ['A', 'B', 'C', 'D', 'F'];
    const table = read.tables.find((t) => t.labels.join() === labels.join());
    expect(table).toMatchObject({ version: 0, gaps: [] });
    const put = (version: number, letters: object) => admin().put(`${path}/letters`).send({ version, labels, letters });
    expect((await put(0, { A: 'Z' }).expect(422)).body.pointers[0]).toMatchObject({
      field: 'letters.A',
      text: expect.stringContaining('He takes A, A-'),
    });
    expect((await put(0, { Q: 'A' }).expect(422)).body.detail).toContain('“Q” is no letter of this scheme.');
    await put(0, { A: 'A-' }).expect(200);
    await put(0, { A: 'B' }).expect(409);
    expect(rowOf(await look(), 0).calculated).toMatchObject({ letter: 'A', sentLetter: 'A-' });
    await put(1, {}).expect(200);
  });

  it('has the columns of the registrar’s form, by which agreed grades go out as a table', async () => {
    const { setting } = (await admin().get(path).expect(200)).body as SchoolHandover;
    const form = [
      { field: 'letter', head: 'NOTE' },
      { field: 'familyName', head: 'NAME' },
    ];
    await admin()
      .put(path)
      .send({ ...setting, form: [{ field: 'shoe', head: 'x' }] })
      .expect(422);
    await admin()
      .put(path)
      .send({ ...setting, form })
      .expect(200);
    const csv = (await teacher().get(`${base()}/table?format=csv`).expect(200)).text;
    expect(csv.replace('\uFEFF', '').split('\n')[0]).toBe('NOTE,NAME');
    expect(csv).toContain('B,Tester');
    const zip = await JSZip.loadAsync(await bytesOf(teacher().get(`${base()}/table?format=oneroster`)));
    expect(await zip.file('results.csv')?.async('string')).toContain('fully graded');
    expect(await zip.file('lineItems.csv')?.async('string')).toContain('Final grade');
    for (const who of ['student', 'assistant', 'outsider'] as const)
      expect([403, 404]).toContain((await school.agents[who].get(`${base()}/table?format=csv`)).status);
  });

  it('says who hands a course over: one instructor of it, and no other', async () => {
    const { sections } = (await admin().get(path).expect(200)).body as SchoolHandover;
    const own = sections.find((s) => s.courseId === school.courseId)!;
    expect(own.instructors).toMatchObject([{ name: 'Instructor Tester', isOfRecord: true }]);
    const put = (enrolmentId: string, who = admin()) => who.put(`${path}/of-record/${enrolmentId}`);
    await put(school.students[0]).expect(404);
    await put(own.instructors[0]!.enrolmentId, teacher()).expect(403);
    await put(own.instructors[0]!.enrolmentId).expect(200);
    expect((await look()).canSend).toBe(true);
  });

  it('reminds those who hand over, by one mail each, and names courses that nobody does', async () => {
    await withDb(school.pool, true, (db) =>
      run(db, "update enrolment set is_of_record = false where course_id = $1 and role = 'instructor'", [school.otherCourseId]),
    );
    const before = ((await admin().get(path).expect(200)).body as SchoolHandover).sections.filter((s) => s.accepted < s.students);
    const done = (await admin().post(`${path}/reminders`).expect(200)).body as { reminded: number; withoutAnybody: string[] };
    const nobody = new Set(before.filter((s) => s.teacher === '').map((s) => s.course));
    expect(done).toEqual({ reminded: new Set(before.map((s) => s.teacher).filter((t) => t !== '')).size, withoutAnybody: [...nobody] });
    await teacher().post(`${path}/reminders`).expect(403);
  });

  it('approves corrections where the school wants that', async () => {
    const { setting } = (await admin().get(path).expect(200)).body as SchoolHandover;
    const rules = (more: object) =>
      admin()
        .put(path)
        .send({ ...setting, ...more });
    await rules({ withdrawnLetter: 'Q' }).expect(422);
    const saved = (await rules({ withdrawnLetter: 'W', needsApproval: true }).expect(200)).body as SchoolHandover;
    expect(saved.setting).toMatchObject({ withdrawnLetter: 'W', needsApproval: true });
    const id = school.students[0];
    await agree(wish(0, await look(), { sentLetter: 'A-', reason: 'Added up again' })).expect(200);
    expect((await send([id], 'Added up again').expect(200)).body).toEqual({ sent: 1, left: [] });
    expect(await work()).toBe(0);
    const { approvals } = (await admin().get(path).expect(200)).body as SchoolHandover;
    expect(approvals).toMatchObject([{ from: 'B', to: 'A-', reason: 'Added up again', who: 'Instructor Tester' }]);
    await admin()
      .post(`${path}/approved`)
      .send({ rowIds: [approvals[0]?.rowId] })
      .expect(200);
    await admin()
      .post(`${path}/approved`)
      .send({ rowIds: [approvals[0]?.rowId] })
      .expect(422);
    await work();
    expect(rowOf(await look(), 0).row).toMatchObject({ state: 'accepted', sentLetter: 'A-' });
  });
});

describe('a student', () => {
  it('sees the agreed grade once it is shown, and never another’s', async () => {
    const own = async () =>
      ((await school.agents.student.get(`/api/courses/${school.courseId}/own/grades`).expect(200)).body as MyGrades).final;
    expect(await own()).toMatchObject({ kind: 'agreed', letter: 'A-', askId: expect.any(String) });
    const put = async (shows: string, shownFrom: string | null) =>
      teacher()
        .put(`${base()}/setting`)
        .send({ version: (await look()).version, shows, shownFrom })
        .expect(200);
    await put('agreed', new Date(school.clock.at + 60 * MINUTE).toISOString());
    expect(await own()).toBeNull();
    await put('calculated', null);
    // From released marks alone: there is none.
    expect(await own()).toBeNull();
    await put('none', null);
    expect(await own()).toBeNull();
  });

  it('who only listens has no calculated grade, and is sent by the rule of the school', async () => {
    // Whole again, the grades were closed again.
    await teacher().post(`${base()}/reopened`).send({ reason: 'A student only listens.' }).expect(200);
    const { members } = (await teacher().get(`/api/courses/${school.courseId}/roster`).expect(200)).body as Roster;
    const member = members.find((m) => m.enrolmentId === school.students[1])!;
    await teacher()
      .patch(`/api/courses/${school.courseId}/roster/${member.enrolmentId}`)
      .send({ version: member.version, isAuditing: true })
      .expect(200);
    expect(rowOf(await look(), 1)).toMatchObject({ standing: 'auditing', calculated: { percent: null, sentLetter: null } });
  });
});
