import {
  addSteps,
  correctQuestion,
  listAgreed,
  readFinalFacts,
  readFacts,
  recordGrade,
  rows,
  run,
  type AgreedStep,
  type Db,
  type FinalFacts,
} from '@rosemary/server';
import type { Adding } from './adding.ts';
import { addTakenQuiz } from './quizzes.ts';
import type { Enrolled } from './school.ts';

/** Agreed before the others, as calculated, and without the last day that the registrar asks for with some letters. */
function earlyStep(all: FinalFacts, enrolmentId: string): AgreedStep[] {
  const person = all.people.find((p) => p.enrolmentId === enrolmentId);
  const is = all.calculated.get(enrolmentId);
  if (person === undefined || is === undefined || is.sentLetter === null) return [];
  return [
    {
      ...{ enrolmentId, sectionId: person.sectionId, kind: 'agreed', sentLetter: is.sentLetter, letter: is.letter, percent: is.percent },
      ...{ calculatedLetter: is.letter, calculatedPercent: is.percent, isOverride: false, reason: '' },
      ...{ lastDay: null, lastDayFrom: '', expiresOn: null, lapsesTo: null },
    },
  ];
}

/** Exempt from everything: a student of whom there is no result. */
async function exemptFromAll(db: Db, courseId: string, student: Enrolled, actorId: string, at: number): Promise<void> {
  const facts = await readFacts(db, courseId, { seesVeiled: true });
  for (const column of facts.columns.filter((c) => !c.isDraft))
    await recordGrade(db, {
      ...{ columnId: column.id, enrolmentId: student.enrolmentId, kind: 'set', state: 'exempt', raw: null, isReleased: true },
      ...{ source: 'demo', reason: 'Abroad this term; joins the next run.', actorId, at },
    });
}

/**
 * In the course that is still to be agreed, what the check before sending finds beside its columns: a question dropped after it was taken, a
 * student without a result, and three who were agreed early, of whom one changed section since, one has another result, one lacks the last day.
 */
export async function addTroubles(a: Adding): Promise<void> {
  const { db, built, teacherId } = a;
  const { calendar, courseId } = built;
  const at = (weekday: number, time: string): number => calendar.at(9, weekday, time);
  const absent = built.students.at(-2);
  const { itemId, ids } = await addTakenQuiz(
    a,
    built.students.filter((s) => s !== absent),
  );
  await correctQuestion(
    db,
    courseId,
    itemId,
    {
      ...{ questionId: ids.get('beat') ?? '', kind: 'drop', key: null, points: null },
      reason: 'The figure was printed in the handout.',
    },
    teacherId,
    calendar.at(6, 5, '10:00'),
    true,
  );
  if (absent !== undefined) await exemptFromAll(db, courseId, absent, teacherId, at(1, '09:00'));
  const all = await readFinalFacts(db, courseId, null, at(2, '17:00'));
  const sentOf = (s: Enrolled): string | null => all.calculated.get(s.enrolmentId)?.sentLetter ?? null;
  const [moves, gains] = built.students.filter((s) => s !== absent && s.section === 'Weekend' && sentOf(s) !== 'F');
  const fails = built.students.find((s) => sentOf(s) === 'F');
  const early = [moves, gains, fails].flatMap((s) => (s === undefined ? [] : earlyStep(all, s.enrolmentId)));
  await addSteps(db, courseId, early, teacherId, at(2, '17:00'));
  const talk = all.facts.columns.find((c) => c.title === 'Bench talk');
  if (talk !== undefined && gains !== undefined)
    await recordGrade(db, {
      ...{ columnId: talk.id, enrolmentId: gains.enrolmentId, kind: 'set', state: 'scored', raw: 10_000, isReleased: true },
      ...{ source: 'demo', reason: 'The questions after the talk were not counted before.', actorId: teacherId, at: at(3, '09:00') },
    });
  const [day] = await rows<{ id: string }>(db, "select id from section where course_id = $1 and title = 'Day'", [courseId]);
  if (moves !== undefined && day !== undefined)
    await run(db, 'update enrolment set section_id = $2 where id = $1', [moves.enrolmentId, day.id]);
  if ((await listAgreed(db, courseId)).size !== 3)
    throw new Error('The demo needs three students who are agreed early, one of them with F.');
}
