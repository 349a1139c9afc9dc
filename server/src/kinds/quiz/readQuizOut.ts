import type { ArchiveQuiz, QuestionView, QuizSetting } from '@rosemary/api';
import type { Actor } from '@rosemary/core';
import { listVersions } from '../../bank/index.ts';
import { getPlanItem } from '../../items/index.ts';
import type { Db } from '../../platform/database.ts';
import { readPaperOut } from './paperOut.ts';
import { getQuiz } from './setting.ts';

/** A quiz on its way into a package; codes and addresses stay behind, for they are made for one room. */
export interface QuizOut {
  readonly id: string;
  readonly title: string;
  readonly setting: QuizSetting;
  readonly sections: ArchiveQuiz['sections'];
}

/** A quiz of a course with all the questions it can ask, those of its draws included. */
export async function readQuizOut(
  db: Db,
  actor: Actor,
  courseId: string,
  quizId: string,
  now: number,
): Promise<{ quiz: QuizOut; questions: QuestionView[] }> {
  const { title } = await getPlanItem(db, courseId, quizId, now);
  const setting = await getQuiz(db, quizId);
  const { sections, numbers } = await readPaperOut(db, quizId);
  const views = await listVersions(
    db,
    actor,
    [...numbers].map(([id, number]) => ({ id, number })),
  );
  const questions = [...numbers.keys()].flatMap((id) => views.get(id) ?? []);
  const quiz: QuizOut = { id: quizId, title, setting, sections };
  return { quiz, questions };
}
