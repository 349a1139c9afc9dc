import { asks, endpoint, is } from '../contract.ts';
import type {
  AnswersSaid,
  AnswersTable,
  AnswersTableDone,
  KeyOnly,
  PaperSettingChange,
  PaperTestView,
  PrintWish,
  RowSaid,
  SheetOwner,
  SheetsWish,
} from '../paperTest.ts';
import type { QuizDetail } from '../quiz.ts';

export const getPaperTest = endpoint({
  method: 'get',
  path: '/courses/:courseId/quizzes/:itemId/paper-test',
  needs: 'marking.see',
  answer: is<PaperTestView>(),
});

export const changePaperTest = endpoint({
  method: 'put',
  path: '/courses/:courseId/quizzes/:itemId/paper-test',
  needs: 'plan.edit',
  body: is<PaperSettingChange>(),
  answer: is<PaperTestView>(),
  audit: 'paper test changed',
});

export const makeKeyOnlyTest = endpoint({
  method: 'post',
  path: '/courses/:courseId/quizzes/:itemId/key-only',
  needs: 'plan.edit',
  body: is<KeyOnly>(),
  answer: is<{ readonly made: readonly string[]; readonly quiz: QuizDetail }>(),
  audit: 'test made from a key',
});

export const addSheets = endpoint({
  method: 'post',
  path: '/courses/:courseId/quizzes/:itemId/paper-test/sheets',
  needs: 'plan.edit',
  body: is<PrintWish>(),
  answer: is<PaperTestView>(),
  audit: 'answer sheets made',
});

export const removeSheets = endpoint({
  method: 'delete',
  path: '/courses/:courseId/quizzes/:itemId/paper-test/sheets',
  needs: 'plan.edit',
  answer: is<PaperTestView>(),
  audit: 'answer sheets removed',
});

export const getQuestionPaper = endpoint({
  method: 'get',
  path: '/courses/:courseId/quizzes/:itemId/paper-test/question-paper',
  needs: 'course.teach',
  isHeavy: true,
  isStream: true,
  query: asks({ form: 'text' }),
});

export const getSheets = endpoint({
  method: 'get',
  path: '/courses/:courseId/quizzes/:itemId/paper-test/sheets',
  needs: 'marking.see',
  isHeavy: true,
  isStream: true,
  query: asks({ sheet: 'id', which: ['spare'] }),
});

export const addScans = endpoint({
  method: 'post',
  path: '/courses/:courseId/quizzes/:itemId/paper-test/scans',
  needs: 'marking.mark',
  isHeavy: true,
  takesFile: 'file',
  answer: is<{ readonly pages: number; readonly unread: number }>(),
  audit: 'scans added',
});

export const removeScan = endpoint({
  method: 'delete',
  path: '/courses/:courseId/quizzes/:itemId/paper-test/scans/:scanId',
  needs: 'marking.mark',
  audit: 'scan removed',
});

export const restoreScan = endpoint({
  method: 'post',
  path: '/courses/:courseId/quizzes/:itemId/paper-test/scans/:scanId/restore',
  needs: 'marking.mark',
  audit: 'scan brought back',
});

export const getScanPage = endpoint({
  method: 'get',
  path: '/courses/:courseId/quizzes/:itemId/paper-test/scans/:scanId/page',
  needs: 'marking.see',
  isStream: true,
});

export const getScanCut = endpoint({
  method: 'get',
  path: '/courses/:courseId/quizzes/:itemId/paper-test/scans/:scanId/cut',
  needs: 'marking.see',
  isStream: true,
  query: asks({ question: 'whole' }),
});

export const nameSheet = endpoint({
  method: 'put',
  path: '/courses/:courseId/quizzes/:itemId/paper-test/sheets/:sheetId/owner',
  needs: 'marking.mark',
  body: is<SheetOwner>(),
  audit: 'sheet given its student',
});

export const decideRow = endpoint({
  method: 'put',
  path: '/courses/:courseId/quizzes/:itemId/paper-test/sheets/:sheetId/rows',
  needs: 'marking.mark',
  body: is<RowSaid>(),
  audit: 'row of a sheet decided',
});

export const typeAnswers = endpoint({
  method: 'put',
  path: '/courses/:courseId/quizzes/:itemId/paper-test/sheets/:sheetId/answers',
  needs: 'marking.mark',
  body: is<AnswersSaid>(),
  audit: 'answers of a sheet typed',
});

export const importAnswers = endpoint({
  method: 'post',
  path: '/courses/:courseId/quizzes/:itemId/paper-test/answers',
  needs: 'marking.mark',
  body: is<AnswersTable>(),
  answer: is<AnswersTableDone>(),
  audit: 'answers imported',
});

export const takeBackPaperResults = endpoint({
  method: 'post',
  path: '/courses/:courseId/quizzes/:itemId/paper-test/results/back',
  needs: 'marking.mark',
  movesGrades: true,
  body: is<SheetsWish>(),
  answer: is<{ readonly many: number }>(),
  audit: 'results of sheets taken back',
  undo: { none: 'They are made from the sheets again.' },
});

export const makePaperResults = endpoint({
  method: 'post',
  path: '/courses/:courseId/quizzes/:itemId/paper-test/results',
  needs: 'marking.mark',
  movesGrades: true,
  body: is<SheetsWish>(),
  answer: is<{ readonly many: number }>(),
  audit: 'results made from sheets',
  undo: takeBackPaperResults,
});
