import { valuesOf, type Membership } from '@rosemary/core';
import {
  addQuestions,
  beginQuiz,
  changeItem,
  findSignedIn,
  getPlanItem,
  getQuizDetail,
  giveScore,
  handInQuiz,
  rows,
  saveAnswer,
  savePaper,
  saveQuiz,
  type Db,
} from '@rosemary/server';
import { addTo, putFile, type Adding } from './adding.ts';
import { drawTrain } from './media.ts';
import { beat, calculated, check, falls, lock, thisWeek, type DemoQuestion } from './questions.ts';
import { waking } from './behave.ts';
import { seeded, type Random } from './random.ts';
import type { Enrolled } from './school.ts';

const MINUTE = 60_000;

async function actorOf(db: Db, personId: string): Promise<NonNullable<Awaited<ReturnType<typeof findSignedIn>>>> {
  const found = await findSignedIn(db, personId, Date.now());
  if (found === null) throw new Error('The teacher of the demo is not there.');
  return found;
}

/** Lays questions of the bank into the first section of a quiz. */
async function layIn(
  a: Adding,
  itemId: string,
  questions: readonly { readonly id: string; readonly points: number }[],
  at: number,
): Promise<void> {
  const actor = await actorOf(a.db, a.teacherId);
  const quiz = await getQuizDetail(a.db, actor, a.built.courseId, itemId, at);
  const [section] = quiz.sections;
  await savePaper(
    a.db,
    actor,
    a.built.courseId,
    itemId,
    {
      version: quiz.setting.version,
      sections: [
        {
          id: section?.id ?? null,
          title: '',
          instructions: '',
          isShuffled: false,
          parts: questions.map((q) => ({ id: null, points: q.points, floor: 0, questionId: q.id, draw: null })),
        },
      ],
    },
    at,
  );
}

/** Makes questions in a quiz, which join the bank; gives their identifiers by name. */
async function ask(a: Adding, itemId: string, questions: readonly DemoQuestion[], at: number): Promise<Map<string, string>> {
  const actor = await actorOf(a.db, a.teacherId);
  const quiz = await getQuizDetail(a.db, actor, a.built.courseId, itemId, at);
  const made = await addQuestions(
    a.db,
    actor,
    a.built.courseId,
    itemId,
    { sectionId: quiz.sections[0]?.id ?? '', position: 0, questions: questions.map((q) => ({ ...q.wish, points: q.points })) },
    at,
  );
  return new Map(questions.map((q, n) => [q.name, made[n] ?? '']));
}

const memberOf = (a: Adding, student: Enrolled, sections: ReadonlyMap<string, string>): Membership => ({
  courseId: a.built.courseId,
  enrolmentId: student.enrolmentId,
  role: 'student',
  isActive: true,
  sectionIds: [sections.get(student.section) ?? ''],
});
async function sectionIds(a: Adding): Promise<ReadonlyMap<string, string>> {
  return new Map(
    (await rows<{ id: string; title: string }>(a.db, 'select id, title from section where course_id = $1', [a.built.courseId])).map((s) => [
      s.title,
      s.id,
    ]),
  );
}

/** Whether somebody of this ability is right: the three-parameter logistic model of item responses. */
function knows({ model }: DemoQuestion, ability: number, random: Random): boolean {
  const share = model.chance + (1 - model.chance) / (1 + Math.exp(-model.sharpness * (ability - model.hardness)));
  return random.chance(share);
}

interface Sitting {
  readonly itemId: string;
  readonly ids: ReadonlyMap<string, string>;
  readonly questions: readonly DemoQuestion[];
  readonly begunAt: number;
  /** How many of its questions are answered; all where it is handed in. */
  readonly upTo: number;
  readonly handsIn: boolean;
}

async function sit(a: Adding, student: Enrolled, member: Membership, s: Sitting, random: Random): Promise<string> {
  const { db, built } = a;
  const seed = `demo ${student.email} ${s.begunAt}`;
  const begun = await beginQuiz(db, built.courseId, s.itemId, member, { key: `demo-${s.itemId}`, code: '' }, '127.0.0.1', s.begunAt, seed);
  if ('error' in begun) throw begun.error;
  const { attemptId } = begun;
  let at = s.begunAt;
  for (const [n, question] of s.questions.slice(0, s.upTo).entries()) {
    const drawn = random.whole(25, 110);
    // One is done with every question before it can have been read.
    const spent = student.familyName === 'Quist' && s.handsIn ? 4 : drawn;
    at += spent * 1000;
    const questionId = s.ids.get(question.name) ?? '';
    const isRight = knows(question, student.ability, random);
    const wrong = question.wrong(random);
    const answer = isRight ? question.right(valuesOf(question.wish.key, questionId, seed)) : wrong;
    if (answer === null) continue;
    await saveAnswer(
      db,
      { itemId: s.itemId, attemptId, questionId },
      member,
      { answer: answer as never, isFlagged: !s.handsIn && n === s.upTo - 2, device: 'demo', turn: n + 1, seen: 0, seconds: spent },
      at,
    );
  }
  if (s.handsIn) await handInQuiz(db, built.courseId, s.itemId, attemptId, member, at + 20_000);
  return attemptId;
}

/** A whole quiz, taken by each of these students who is still there, some minutes before it is due. */
async function sitAll(
  a: Adding,
  students: readonly Enrolled[],
  paper: Pick<Sitting, 'itemId' | 'ids' | 'questions'>,
  when: { readonly due: number; readonly within: number },
  random: Random,
): Promise<void> {
  const sections = await sectionIds(a);
  for (const student of students.filter((s) => s.habit !== 'withdrawn')) {
    const begunAt = when.due - random.whole(60, when.within) * MINUTE;
    await sit(a, student, memberOf(a, student, sections), { ...paper, begunAt, upTo: paper.questions.length, handsIn: true }, random);
  }
}

/** Marks what waits of a question, but for the last few. */
async function markEssays(a: Adding, itemId: string, questionId: string, leaves: number, from: number): Promise<void> {
  const found = await rows<{ attempt_id: string; version: number; plain: string }>(
    a.db,
    `select s.attempt_id, s.version, a.answer::text as plain from quiz_score s join quiz_attempt t on t.id = s.attempt_id join enrolment e on e.id = t.enrolment_id join person p on p.id = e.person_id
       join quiz_answer a on a.attempt_id = s.attempt_id and a.question_id = s.question_id where t.item_id = $1 and s.question_id = $2 and s.share is null order by t.handed_in_at, p.email`,
    [itemId, questionId],
  );
  const member: Membership = { courseId: a.built.courseId, enrolmentId: '', role: 'instructor', isActive: true, sectionIds: null };
  for (const [n, row] of found.slice(0, Math.max(0, found.length - leaves)).entries()) {
    const isFull = row.plain.includes('out of beat');
    const points = isFull ? 3000 : row.plain.includes('same way') ? 2000 : 1500;
    await giveScore(
      a.db,
      a.built.courseId,
      { itemId, attemptId: row.attempt_id, questionId },
      { points, reason: isFull ? 'Exactly so.' : 'And what does the balance do then?', version: row.version },
      { member, personId: a.teacherId },
      from + n * 2 * MINUTE,
    );
  }
}

async function drawingOf(a: Adding, name: string): Promise<{ fileId: string; src: string; alt: string }> {
  const held = await rows<{ id: string }>(a.db, 'select id from file where course_id = $1 and name = $2', [a.built.courseId, name]);
  const fileId = held[0]?.id ?? (await putFile(a, name, drawTrain()));
  return {
    fileId,
    src: `/api/courses/${a.built.courseId}/files/${fileId}`,
    alt: 'A going train from the centre wheel to the escape wheel',
  };
}

/** Last term’s quiz, from which the bank has its questions and its first figures. */
export async function addSpringQuiz(a: Adding): Promise<ReadonlyMap<string, string>> {
  const { db, built } = a;
  const random = seeded(20_261_130);
  const at = built.calendar.at(7, 1, '09:00');
  const due = built.calendar.at(7, 3, '20:00');
  const itemId = await addTo(a, 'Lock, drop and draw', 'quiz', 'Trains and locks', {
    estimatedMinutes: 40,
    dueAt: new Date(due).toISOString(),
    closesAt: new Date(due).toISOString(),
  });
  const questions = check(await drawingOf(a, 'Going train.png'));
  const ids = await ask(a, itemId, questions, at);
  const actor = await actorOf(db, a.teacherId);
  const { setting } = await getQuizDetail(db, actor, built.courseId, itemId, at);
  await saveQuiz(db, built.courseId, itemId, { version: setting.version, limitMinutes: 45 }, at);
  await openTo(a, itemId, at);
  await sitAll(a, built.students, { itemId, ids, questions }, { due, within: 500 }, random);
  await markEssays(a, itemId, ids.get('essay') ?? '', 0, due + 60 * MINUTE);
  return ids;
}

/** A short quiz on the families of escapement, taken by these students. */
export async function addTakenQuiz(
  a: Adding,
  students: readonly Enrolled[],
): Promise<{ readonly itemId: string; readonly ids: ReadonlyMap<string, string> }> {
  const { db, built } = a;
  const random = seeded(20_261_132);
  const { calendar } = built;
  const due = calendar.at(6, 3, '20:00');
  const category = await rows<{ id: string }>(db, "select id from category where course_id = $1 and title = 'Exercises'", [built.courseId]);
  const itemId = await addTo(a, 'Compare two escapements', 'quiz', 'Beats and parts', {
    categoryId: category[0]?.id ?? null,
    estimatedMinutes: 15,
    dueAt: new Date(due).toISOString(),
    closesAt: new Date(due).toISOString(),
  });
  const questions = [beat, lock, falls];
  const ids = await ask(a, itemId, questions, calendar.at(5, 1, '09:00'));
  await openTo(a, itemId, calendar.at(5, 1, '09:30'));
  await sitAll(a, students, { itemId, ids, questions }, { due, within: 2000 }, random);
  return { itemId, ids };
}

async function openTo(a: Adding, itemId: string, at: number): Promise<void> {
  const held = await getPlanItem(a.db, a.built.courseId, itemId, at);
  await changeItem(a.db, a.built.courseId, itemId, { version: held.version, isDraft: false }, at);
}

/** A quiz that is over, one that is open this morning with people in the middle of it, and a draft. */
export async function addQuizzes(a: Adding, asked: ReadonlyMap<string, string>): Promise<void> {
  const { db, built } = a;
  const random = seeded(20_261_131);
  const { calendar } = built;
  const actor = await actorOf(db, a.teacherId);
  const sections = await sectionIds(a);
  const category =
    (await rows<{ id: string }>(db, "select id from category where course_id = $1 and title = 'Exercises'", [built.courseId]))[0]?.id ??
    null;
  const iso = (at: number): string => new Date(at).toISOString();

  const questions = check(await drawingOf(a, 'Going train.png'));
  const due = calendar.at(7, 3, '20:00');
  const over = await addTo(a, 'Escapement drawing', 'quiz', 'Trains and locks', {
    categoryId: category,
    estimatedMinutes: 40,
    dueAt: iso(due),
    closesAt: iso(due),
  });
  await layIn(
    a,
    over,
    questions.map((q) => ({ id: asked.get(q.name) ?? '', points: q.points })),
    calendar.at(6, 1, '09:00'),
  );
  const set = async (itemId: string, change: object): Promise<void> => {
    const { setting } = await getQuizDetail(db, actor, built.courseId, itemId, calendar.now);
    await saveQuiz(db, built.courseId, itemId, { version: setting.version, ...change }, calendar.now);
    await openTo(a, itemId, calendar.now);
  };
  await set(over, { limitMinutes: 45, passPoints: 10_000, meritPoints: 16_000, allowsCalculator: true });
  for (const student of built.students) {
    const isGone =
      student.habit === 'silent since week 5' || student.habit === 'withdrawn' || random.chance(student.ability < -0.6 ? 0.15 : 0.02);
    const begunAt = waking(due - random.whole(60, 2600) * MINUTE, due - 60 * MINUTE);
    if (isGone) continue;
    await sit(
      a,
      student,
      memberOf(a, student, sections),
      { itemId: over, ids: asked, questions, begunAt, upTo: questions.length, handsIn: true },
      random,
    );
  }
  await markEssays(a, over, asked.get('essay') ?? '', 9, calendar.at(7, 4, '19:00'));

  const ten = calendar.now - 20 * MINUTE;
  const open = await addTo(a, 'What a hairspring does', 'quiz', 'Hairspring check', {
    categoryId: category,
    estimatedMinutes: 20,
    opensAt: iso(ten),
    dueAt: iso(calendar.at(9, 3, '12:00')),
    closesAt: iso(calendar.at(9, 3, '12:00')),
  });
  const ids = await ask(a, open, thisWeek, calendar.at(9, 1, '18:00'));
  await set(open, { limitMinutes: 30, recordsLeaving: true });
  const there = built.students.filter((s) => s.section === 'Morning bench' && s.habit !== 'silent since week 5' && s.habit !== 'withdrawn');
  for (const [n, student] of there.entries()) {
    const begunAt = ten + random.whole(1, 8) * MINUTE;
    const handsIn = n % 4 === 0;
    await sit(
      a,
      student,
      memberOf(a, student, sections),
      { itemId: open, ids, questions: thisWeek, begunAt, upTo: handsIn ? thisWeek.length : random.whole(1, 5), handsIn },
      random,
    );
    if (n === there.length - 4) break;
  }

  const draft = built.items.find((i) => i.title === 'Beat and amplitude')?.id ?? '';
  const folderId = (await getQuizDetail(db, actor, built.courseId, draft, calendar.now)).folderId;
  const of = (q: DemoQuestion): string => asked.get(q.name) ?? '';
  const { setting, sections: held } = await getQuizDetail(db, actor, built.courseId, draft, calendar.now);
  const part = (questionId: string | null, points: number, draw: object | null = null) => ({
    id: null,
    points,
    floor: 0,
    questionId,
    draw: draw as null,
  });
  await savePaper(
    db,
    actor,
    built.courseId,
    draft,
    {
      version: setting.version,
      sections: [
        {
          id: held[0]?.id ?? null,
          title: '',
          instructions: '',
          isShuffled: false,
          parts: [
            part(of(beat), 2000),
            part(of(calculated), 3000),
            part(of(falls), 4000),
            part(of(lock), 2000),
            part(null, 3000, {
              count: 3,
              folderId,
              tags: [],
              levels: ['medium', 'hard'],
              objectives: ['T2', 'R1'],
              kinds: ['single', 'several'],
            }),
          ],
        },
      ],
    },
    calendar.now,
  );
  const again = await getQuizDetail(db, actor, built.courseId, draft, calendar.now);
  await saveQuiz(db, built.courseId, draft, { version: again.setting.version, limitMinutes: 25, attemptsAllowed: 2 }, calendar.now);
}
