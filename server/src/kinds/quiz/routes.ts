import { instructionsChange, paperChange, quizQuestions, quizShareChange } from '@rosemary/api';
import * as api from '@rosemary/api/endpoints';
import { urlOf } from '@rosemary/api/endpoints';
import { findFile, sendFile } from '../../files/index.ts';
import { getPlanItem } from '../../items/index.ts';
import { maybe } from '../../platform/database.ts';
import { notFound } from '../../platform/errors.ts';
import { implement, type MemberContext, type Route, type Sending } from '../../platform/route.ts';
import { loadQuestions, questionsOf, showPaper } from './content.ts';
import { itemOf, requireQuiz } from './quizRoute.ts';
import { changeQuizShares } from './quizShares.ts';
import { getQuizDetail } from './quizzes.ts';
import { addQuestions, savePaper } from './savePaper.ts';
import { listSections, readPools, storePaper } from './sections.ts';
import { getQuiz, saveQuiz } from './setting.ts';

/** Sends a file that belongs to a quiz of this course. */
export async function sendQuizFile(c: MemberContext<unknown>, sql: string, values: readonly unknown[]): Promise<Sending> {
  const row = await maybe<{ course_id: string }>(c.db, sql, values);
  const file = row === null ? null : await findFile(c.db, row.course_id, c.params.fileId ?? '');
  if (file === null) throw notFound();
  return sendFile(file, c.request, c.response);
}

/** A file that stands in a question of a quiz: of its paper, of a draw, or of an attempt. */
export const QUESTION_FILE = `select f.course_id from question_file qf join file f on f.id = qf.file_id where qf.file_id = $2 and (
  exists (select 1 from quiz_part p join quiz_section s on s.id = p.section_id where s.item_id = $1 and p.question_id = qf.question_id)
  or exists (select 1 from quiz_attempt t where t.item_id = $1 and t.paper @> jsonb_build_object('sections', jsonb_build_array(jsonb_build_object('questions', jsonb_build_array(jsonb_build_object('questionId', qf.question_id)))))))`;

export const quizRoutes: readonly Route[] = [
  implement(api.getQuiz, (c) => getQuizDetail(c.db, c.person, c.courseId, itemOf(c), c.now)),
  implement(api.saveQuizInstructions, instructionsChange, (c) => saveQuiz(c.db, c.courseId, itemOf(c), c.body, c.now)),
  implement(api.shareQuiz, quizShareChange, async (c) => {
    await requireQuiz(c);
    const shares = await changeQuizShares(c.db, c.person, itemOf(c), c.body, c.now);
    c.account({ after: shares });
    return { shares };
  }),
  implement(api.savePaper, paperChange, async (c) => {
    await savePaper(c.db, c.person, c.courseId, itemOf(c), c.body, c.now);
    return getQuizDetail(c.db, c.person, c.courseId, itemOf(c), c.now);
  }),
  implement(api.addQuizQuestions, quizQuestions, async (c) => {
    const made = await addQuestions(c.db, c.person, c.courseId, itemOf(c), c.body, c.now);
    return { made, quiz: await getQuizDetail(c.db, c.person, c.courseId, itemOf(c), c.now) };
  }),
  implement(api.getQuizPreview, async (c) => {
    await getPlanItem(c.db, c.courseId, itemOf(c), c.now);
    const setting = await getQuiz(c.db, itemOf(c));
    const sections = await listSections(c.db, itemOf(c));
    const seed = c.query.seed ?? 'preview';
    const paper = storePaper(sections, await readPools(c.db, sections), seed, setting.shufflesSections);
    const loaded = await loadQuestions(c.db, questionsOf(paper));
    return showPaper(paper, seed, setting, loaded, (fileId) => urlOf(api.getQuizFile, { ...c.params, fileId }));
  }),
  implement(api.getQuizFile, async (c) => {
    await getPlanItem(c.db, c.courseId, itemOf(c), c.now);
    return sendQuizFile(c, QUESTION_FILE, [itemOf(c), c.params.fileId]);
  }),
];
