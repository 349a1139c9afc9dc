import { paragraphs } from '@rosemary/api';
import { addCourse, markAgain, makePool, rows, run, silentLog, withDb, type Db } from '@rosemary/server';

/** A key is corrected after 5,000 people took the quiz: every attempt is marked again and every result that moves goes into the ledger. */
const PEOPLE = 5000;
const QUESTIONS = 20;
const pool = makePool(process.env.ROSEMARY_DATABASE_URL ?? '', 4);
const one = async (db: Db, sql: string, values: unknown[] = []): Promise<string> =>
  (await rows<{ id: string }>(db, sql, values))[0]?.id ?? '';

/** A quiz of single choices that 5,000 people took and that was scored with “a” as the key of its first question. */
async function fill(db: Db): Promise<{ itemId: string; questionId: string }> {
  const teacher = await one(db, "select id from person where given_name = 'Ines'");
  const termId = await one(db, "select id from term where title = 'Autumn'");
  const course = { code: 'BENCH-R', run: String(Date.now()).slice(-9), title: 'Examination', termId, timeZone: 'Europe/Lisbon' };
  const courseId = await addCourse(db, { ...course, instructorId: teacher, sections: ['One'] }, true);
  await run(
    db,
    `with p as (insert into person (email, given_name, family_name, password_hash) select 'r' || n || $2 || '@bench.example', 'Given' || n, 'Family' || n, 'none' from generate_series(1, $3::int) n returning id)
     insert into enrolment (course_id, person_id, role, section_id) select $1, p.id, 'student', (select id from section where course_id = $1) from p`,
    [courseId, courseId, PEOPLE],
  );
  const unit = await one(db, "insert into unit (course_id, title, position) values ($1, 'Unit', 0) returning id", [courseId]);
  const itemId = await one(
    db,
    "with i as (insert into item (course_id, kind, title, is_draft, done_rule, release_mode) values ($1, 'quiz', 'Examination', false, 'handed in', 'finished') returning id, course_id), c as (insert into grade_column (course_id, item_id, role, possible) select course_id, id, 'work', $2 from i) select id from i",
    [courseId, QUESTIONS],
  );
  await run(db, 'insert into unit_item (unit_id, item_id, position) values ($1, $2, 0)', [unit, itemId]);
  await run(db, 'insert into quiz (item_id, instructions) values ($1, $2)', [itemId, paragraphs('')]);
  const folder = await one(db, "insert into bank_folder (title, subject) values ('BENCH-R', $1) returning id", [`BENCH-R ${courseId}`]);
  const questions: { questionId: string; number: number; points: number; floor: number }[] = [];
  const choices = ['a', 'b', 'c', 'd'].map((id) => ({ id, words: paragraphs(id), share: id === 'a' ? 100_000 : 0, feedback: null }));
  const key = { kind: 'single', choices, hasDontKnow: false };
  for (let n = 0; n < QUESTIONS; n += 1) {
    const id = await one(db, 'insert into question (folder_id, author_id, created_at) values ($1, $2, now()) returning id', [
      folder,
      teacher,
    ]);
    await run(
      db,
      "insert into question_version (question_id, number, kind, words, plain, key, feedback, made_by, made_at, fixed_at) values ($1, 1, 'single', $2, $3, $4, $5, $6, now(), now())",
      [id, paragraphs(`Question ${n}`), `Question ${n}`, key, { right: null, wrong: null, general: null }, teacher],
    );
    questions.push({ questionId: id, number: 1, points: 1000, floor: 0 });
  }
  const paper = { sections: [{ id: folder, title: '', instructions: '', questions }] };
  await run(
    db,
    `insert into quiz_attempt (item_id, enrolment_id, number, seed, paper, state, begun_at, handed_in_at, handed_in_how, idempotency_key)
     select $1, e.id, 1, 'as it stands', $2, 'handed in', now(), now(), 'student', 'bench' from enrolment e where e.course_id = $3 and e.role = 'student'`,
    [itemId, JSON.stringify(paper), courseId],
  );
  await run(
    db,
    `insert into quiz_answer (attempt_id, question_id, answer, device, turn, saved_at)
     select t.id, q.id, jsonb_build_object('kind', 'choice', 'id', substr('abcd', 1 + (hashtext(t.id::text || q.id::text) & 3), 1)), 'bench', 1, now()
     from quiz_attempt t cross join unnest($2::uuid[]) as q(id) where t.item_id = $1`,
    [itemId, questions.map((q) => q.questionId)],
  );
  await run(
    db,
    `insert into quiz_score (attempt_id, question_id, share, rule, points) select a.attempt_id, a.question_id, case a.answer ->> 'id' when 'a' then '1/1' else '0/1' end, 'scored', 1
     from quiz_answer a join quiz_attempt t on t.id = a.attempt_id where t.item_id = $1`,
    [itemId],
  );
  return { itemId, questionId: questions[0]?.questionId ?? '' };
}

const { itemId, questionId } = await withDb(pool, true, fill);
await pool.query('analyze');
const correct = async (kind: 'points' | 'credit'): Promise<number> => {
  await pool.query(
    "insert into quiz_correction (item_id, question_id, kind, points, reason, made_by, made_at) select $1, $2, $3, $4, 'bench', id, now() from person where given_name = 'Ines'",
    [itemId, questionId, kind, kind === 'points' ? 1 : null],
  );
  const begun = performance.now();
  await markAgain.run(pool, silentLog, Date.now());
  return performance.now() - begun;
};
// The first run writes the first result of everybody; the second moves those who had the question wrong.
const first = await correct('points');
const again = await correct('credit');
const moved = await pool.query<{ n: string }>(
  "select count(*) as n from grade_event e join grade_column c on c.id = e.column_id where c.item_id = $1 and reason like '%bench%'",
  [itemId],
);
/** The floor: the same rows written by two statements that know nothing of keys or rules. */
const begun = performance.now();
await withDb(pool, true, async (db) => {
  await run(db, "update quiz_score set rule = rule || '.' where question_id = $1", [questionId]);
  await run(
    db,
    `insert into grade_event (column_id, enrolment_id, kind, state, raw, is_released, source, reason, actor_id, at)
     select g.column_id, g.enrolment_id, 'set', g.state, g.raw, g.is_released, 'quiz', 'floor', e.person_id, now() from work_grade g join enrolment e on e.id = g.enrolment_id where g.item_id = $1`,
    [itemId],
  );
});
const floor = performance.now() - begun;
process.stdout.write(
  `${PEOPLE} attempts of ${QUESTIONS} questions\n` +
    `marked for the first time: ${(first / 1000).toFixed(1)} s\n` +
    `marked again after one key: ${(again / 1000).toFixed(1)} s, ${moved.rows[0]?.n ?? ''} entries in the ledger in all\n` +
    `floor, the same rows by two bare statements: ${(floor / 1000).toFixed(2)} s; ratio ${(again / floor).toFixed(0)}\n`,
);
await pool.end();
