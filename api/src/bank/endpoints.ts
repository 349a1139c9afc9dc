import { asks, endpoint, is, LOOKS, VERSIONS } from '../contract.ts';
import { BANK_SEARCH } from './bankSearch.ts';
import type {
  BankFolderChange,
  BankView,
  NewBankFolder,
  NewQuestion,
  QuestionChange,
  QuestionTable,
  QuestionTableDone,
  QuestionView,
  QuestionsMove,
  Rehearsal,
  StimulusChange,
  StimulusView,
  TryResult,
  TryWish,
} from '../question.ts';
import type { SharedQuizCopy } from '../quizShare.ts';

export const getBank = endpoint({
  method: 'get',
  path: '/courses/:courseId/bank',
  needs: 'course.teach',
  query: asks(BANK_SEARCH),
  answer: is<BankView & { readonly home: string }>(),
});

export const addBankFolder = endpoint({
  method: 'post',
  path: '/courses/:courseId/bank/folders',
  needs: 'plan.edit',
  isSilent: true,
  body: is<NewBankFolder>(),
  answer: is<{ readonly id: string }>(),
  audit: 'bank folder added',
});

export const changeBankFolder = endpoint({
  method: 'patch',
  path: '/courses/:courseId/bank/folders/:folderId',
  needs: 'plan.edit',
  isSilent: true,
  body: is<BankFolderChange>(),
  audit: 'bank folder changed',
});

export const removeBankFolder = endpoint({
  method: 'delete',
  path: '/courses/:courseId/bank/folders/:folderId',
  needs: 'plan.edit',
  isSilent: true,
  audit: 'bank folder deleted',
});

export const restoreBankFolder = endpoint({
  method: 'post',
  path: '/courses/:courseId/bank/folders/:folderId/restore',
  needs: 'plan.edit',
  isSilent: true,
  audit: 'bank folder brought back',
});

export const getQuestionTable = endpoint({
  method: 'get',
  path: '/courses/:courseId/bank/questions.csv',
  needs: 'course.teach',
  isStream: true,
  query: asks(BANK_SEARCH),
});

export const importQuestionTable = endpoint({
  method: 'post',
  path: '/courses/:courseId/bank/table',
  needs: 'plan.edit',
  isSilent: true,
  body: is<QuestionTable>(),
  answer: is<QuestionTableDone>(),
  audit: 'questions imported',
});

export const addQuestion = endpoint({
  method: 'post',
  path: '/courses/:courseId/bank/questions',
  needs: 'plan.edit',
  isSilent: true,
  body: is<NewQuestion>(),
  answer: is<QuestionView>(),
  audit: VERSIONS,
});

export const getQuestion = endpoint({
  method: 'get',
  path: '/courses/:courseId/bank/questions/:questionId',
  needs: 'course.teach',
  answer: is<{
    readonly question: QuestionView;
    readonly uses: { readonly courseId: string; readonly itemId: string; readonly title: string; readonly course: string }[];
  }>(),
});

export const changeQuestion = endpoint({
  method: 'put',
  path: '/courses/:courseId/bank/questions/:questionId',
  needs: 'plan.edit',
  isSilent: true,
  body: is<QuestionChange>(),
  answer: is<{ readonly question: QuestionView; readonly version: number; readonly number: number; readonly isNew: boolean }>(),
  audit: VERSIONS,
});

export const copyQuestion = endpoint({
  method: 'post',
  path: '/courses/:courseId/bank/questions/:questionId/copies',
  needs: 'plan.edit',
  isSilent: true,
  answer: is<QuestionView>(),
  audit: VERSIONS,
});

export const changeQuestions = endpoint({
  method: 'put',
  path: '/courses/:courseId/bank/questions',
  needs: 'plan.edit',
  isSilent: true,
  body: is<QuestionsMove>(),
  audit: 'questions moved or retired',
});

export const tryQuestion = endpoint({
  method: 'post',
  path: '/courses/:courseId/bank/questions/:questionId/try',
  needs: 'course.teach',
  isSilent: true,
  body: is<TryWish>(),
  answer: is<TryResult>(),
  audit: LOOKS,
});

export const rehearseQuestion = endpoint({
  method: 'post',
  path: '/courses/:courseId/bank/questions/:questionId/rehearsal',
  needs: 'course.teach',
  isSilent: true,
  body: is<TryWish>(),
  answer: is<Rehearsal>(),
  audit: LOOKS,
});

export const listStimuli = endpoint({
  method: 'get',
  path: '/courses/:courseId/bank/stimuli',
  needs: 'course.teach',
  answer: is<{ readonly stimuli: readonly StimulusView[] }>(),
});

export const saveStimulus = endpoint({
  method: 'put',
  path: '/courses/:courseId/bank/stimuli',
  needs: 'plan.edit',
  isSilent: true,
  body: is<StimulusChange>(),
  answer: is<StimulusView>(),
  audit: VERSIONS,
});

export const copySharedQuiz = endpoint({
  method: 'post',
  path: '/courses/:courseId/bank/quizzes/:itemId/copies',
  needs: 'plan.edit',
  body: is<SharedQuizCopy>(),
  answer: is<{ readonly itemId: string }>(),
  audit: 'shared quiz copied',
});

export const getQuestionFile = endpoint({
  method: 'get',
  path: '/courses/:courseId/bank/questions/:questionId/files/:fileId',
  needs: 'course.teach',
  isStream: true,
});
