import type { NewQuestion, SharedQuiz } from '@rosemary/api';
import type { Actor } from '@rosemary/core';
import { addQuestion, folderOf, saveStimulus } from '../bank/index.ts';
import { bringQuiz, readPaperOut, readQuizOut } from '../kinds/quiz/index.ts';
import { addItem } from '../plan/index.ts';
import { type Db, maybe, rows } from '../platform/database.ts';
import { notFound } from '../platform/errors.ts';

/** The quizzes that colleagues share with somebody, those of courses removed left out. */
export const listSharedQuizzes = (db: Db, personId: string): Promise<SharedQuiz[]> =>
  rows<SharedQuiz>(
    db,
    `select i.id as "itemId", i.title, c.code || ' ' || c.run as course, b.given_name || ' ' || b.family_name as by, s.can_edit as "canEdit"
     from quiz_share s join item i on i.id = s.item_id and i.removed_at is null join course c on c.id = i.course_id join person b on b.id = s.by_id
     where s.person_id = $1 order by i.title, i.id`,
    [personId],
  );

/** The course of a quiz that is shared with somebody; one that is not is not there for them. */
async function requireShared(db: Db, personId: string, itemId: string): Promise<string> {
  const row = await maybe<{ course_id: string }>(
    db,
    'select i.course_id from quiz_share s join item i on i.id = s.item_id and i.removed_at is null where s.person_id = $1 and s.item_id = $2',
    [personId, itemId],
  );
  if (row === null) throw notFound();
  return row.course_id;
}

/** The questions of a shared quiz, those of its draws included. */
export async function sharedQuestions(db: Db, actor: Actor, itemId: string): Promise<string[]> {
  await requireShared(db, actor.personId, itemId);
  return [...(await readPaperOut(db, itemId)).numbers.keys()];
}

/**
 * Makes a quiz of one’s own of one that is shared: its questions become questions of the course’s own bank, as they are in the quiz, so that
 * what either side changes later leaves the other alone. Codes and addresses stay behind.
 */
export async function copySharedQuiz(db: Db, actor: Actor, courseId: string, itemId: string, unitId: string, now: number): Promise<string> {
  const from = await requireShared(db, actor.personId, itemId);
  const { quiz, questions } = await readQuizOut(db, actor, from, itemId, now);
  const folderId = await folderOf(db, courseId);
  const stimuli = new Map<string, string>();
  const made = new Map<string, string>();
  for (const question of questions) {
    const { ownTitle: title, level, tags, objectives, words, key, feedback, picture, stimulus } = question;
    if (stimulus !== null && !stimuli.has(stimulus.id)) {
      const change = { id: null, version: 1, title: stimulus.title, document: stimulus.document };
      stimuli.set(stimulus.id, (await saveStimulus(db, actor, folderId, change, stimulus.id)).id);
    }
    const stimulusId = stimulus === null ? null : (stimuli.get(stimulus.id) ?? null);
    const wish: NewQuestion = { title, level, tags, objectives, words, key, feedback, picture, stimulusId };
    made.set(question.id, await addQuestion(db, actor, folderId, wish, now, question.id));
  }
  const copyId = await addItem(db, courseId, { unitId, kind: 'quiz', title: quiz.title, position: 0 });
  const { version, accessCode, allowedAddresses, ...setting } = quiz.setting;
  const sections = quiz.sections.map((s) => ({
    ...s,
    parts: s.parts.map((p) => ({ ...p, questionIds: p.questionIds.flatMap((id) => made.get(id) ?? []) })),
  }));
  await bringQuiz(db, actor, courseId, copyId, { title: quiz.title, setting, sections }, now);
  return copyId;
}
