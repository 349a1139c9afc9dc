import {
  bankFolderChange,
  type BankView,
  newBankFolder,
  newQuestion,
  questionChange,
  questionsMove,
  questionTable,
  sharedQuizCopy,
  stimulusChange,
  tryWish,
} from '@rosemary/api';
import * as api from '@rosemary/api/endpoints';
import type { QuestionKey } from '@rosemary/core';
import {
  addFolder,
  addQuestion,
  changeFolder,
  changeQuestion,
  copyQuestion,
  folderOf,
  getQuestion,
  listFolders,
  listStimuli,
  listTags,
  listUses,
  moveQuestions,
  readQuestionTable,
  rehearseKey,
  saveStimulus,
  setFolderRemoved,
  tryAnswer,
  writeQuestionTable,
} from '../bank/index.ts';
import { findFile, sendFile } from '../files/index.ts';
import { maybe } from '../platform/database.ts';
import { notFound } from '../platform/errors.ts';
import { implement, type MemberContext, type Route } from '../platform/route.ts';
import { searchBank } from './search.ts';
import { copySharedQuiz, listSharedQuizzes } from './sharedQuizzes.ts';

const PAGE = 100;

const MOST_IN_TABLE = 2000;

/** The folders somebody reaches and the questions a search finds in them. */
async function viewBank(c: MemberContext<undefined>): Promise<BankView & { home: string }> {
  const folders = await listFolders(c.db, c.person, true);
  const home = await folderOf(c.db, c.courseId);
  const { folderIds, questions, total } = await searchBank(c, folders, PAGE);
  return {
    folders,
    questions,
    total,
    tags: await listTags(c.db, folderIds),
    home,
    quizzes: await listSharedQuizzes(c.db, c.person.personId),
  };
}

const id = (c: MemberContext<unknown>): string => c.params.questionId ?? '';

export const bankRoutes: readonly Route[] = [
  implement(api.getBank, viewBank),
  implement(api.addBankFolder, newBankFolder, async ({ db, person, body }) => ({ id: await addFolder(db, person, body) })),
  implement(api.changeBankFolder, bankFolderChange, ({ db, person, params, body, now }) =>
    changeFolder(db, person, params.folderId, body, now),
  ),
  implement(api.removeBankFolder, ({ db, person, params, now }) => setFolderRemoved(db, person, params.folderId, now)),
  implement(api.restoreBankFolder, ({ db, person, params }) => setFolderRemoved(db, person, params.folderId, null)),
  implement(api.getQuestionTable, async (c) => {
    const { questions } = await searchBank(c, await listFolders(c.db, c.person, false), MOST_IN_TABLE);
    c.response.set('content-disposition', 'attachment; filename="questions.csv"').type('text/csv').send(writeQuestionTable(questions));
  }),
  implement(api.importQuestionTable, questionTable, async (c) =>
    readQuestionTable(
      c.db,
      c.person,
      c.courseId,
      c.body.folderId ?? (await folderOf(c.db, c.courseId)),
      c.body.csv,
      c.body.isPreview,
      c.now,
    ),
  ),
  implement(api.addQuestion, newQuestion, async ({ db, person, courseId, body, now }) => {
    const made = await addQuestion(db, person, body.folderId ?? (await folderOf(db, courseId)), body, now);
    return getQuestion(db, person, made);
  }),
  implement(api.getQuestion, async (c) => ({ question: await getQuestion(c.db, c.person, id(c)), uses: await listUses(c.db, id(c)) })),
  implement(api.changeQuestion, questionChange, async (c) => {
    const done = await changeQuestion(c.db, c.person, id(c), c.body, c.now);
    return { ...done, question: await getQuestion(c.db, c.person, id(c)) };
  }),
  implement(api.copyQuestion, async (c) => {
    const made = await copyQuestion(c.db, c.person, id(c), await folderOf(c.db, c.courseId), c.now);
    return getQuestion(c.db, c.person, made);
  }),
  implement(api.changeQuestions, questionsMove, (c) => moveQuestions(c.db, c.person, c.body.questionIds, c.body, c.now)),
  implement(api.tryQuestion, tryWish, async (c) => tryAnswer(await getQuestion(c.db, c.person, id(c)), id(c), c.body)),
  implement(api.rehearseQuestion, tryWish, async (c) => {
    const question = await getQuestion(c.db, c.person, id(c));
    const key: QuestionKey = c.body.key ?? question.key;
    return rehearseKey(c.db, id(c), key);
  }),
  implement(api.listStimuli, async (c) => ({ stimuli: await listStimuli(c.db, c.person) })),
  implement(api.saveStimulus, stimulusChange, async (c) => saveStimulus(c.db, c.person, await folderOf(c.db, c.courseId), c.body)),
  implement(api.copySharedQuiz, sharedQuizCopy, async (c) => ({
    itemId: await copySharedQuiz(c.db, c.person, c.courseId, c.params.itemId, c.body.unitId, c.now),
  })),
  // A picture of a question, which may be of another course than the one it is looked at from.
  implement(api.getQuestionFile, async (c) => {
    await getQuestion(c.db, c.person, id(c));
    const row = await maybe<{ course_id: string }>(
      c.db,
      'select f.course_id from question_file q join file f on f.id = q.file_id where q.question_id = $1 and q.file_id = $2',
      [id(c), c.params.fileId],
    );
    const file = row === null ? null : await findFile(c.db, row.course_id, c.params.fileId);
    if (file === null) throw notFound();
    return sendFile(file, c.request, c.response);
  }),
];
