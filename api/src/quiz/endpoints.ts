import type { InstructionsChange } from '../assignment.ts';
import { asks, endpoint, is, TYPED, BACK, MARKING, OWN_WORK } from '../contract.ts';
import type { CourseFile } from '../files.ts';
import type {
  AnswerKept,
  AnswerSave,
  BeginAttempt,
  LeaveNote,
  PaperChange,
  PaperReview,
  PaperShown,
  QuizChange,
  QuizDetail,
  QuizQuestions,
  QuizSetting,
  Taking,
} from '../quiz.ts';
import type {
  AttemptAct,
  AttemptPaper,
  CorrectableQuestion,
  GivenScore,
  GivenScores,
  NewCorrection,
  OutdatedScores,
  QuestionAnswers,
  QuestionMarkers,
  QuizResults,
  QuizStatistics,
  ScoringAgain,
} from '../quizResults.ts';
import type { QuizShareChange, QuizShareView } from '../quizShare.ts';

export const getQuiz = endpoint({
  method: 'get',
  path: '/courses/:courseId/quizzes/:itemId',
  needs: 'course.teach',
  answer: is<QuizDetail>(),
});

export const changeQuiz = endpoint({
  method: 'put',
  path: '/courses/:courseId/quizzes/:itemId',
  needs: 'plan.edit',
  movesGrades: true,
  body: is<QuizChange>(),
  answer: is<QuizSetting>(),
  audit: 'quiz changed',
  undo: 'itself',
});

export const shareQuiz = endpoint({
  method: 'patch',
  path: '/courses/:courseId/quizzes/:itemId/shares',
  needs: 'plan.edit',
  isSilent: true,
  body: is<QuizShareChange>(),
  answer: is<{ readonly shares: readonly QuizShareView[] }>(),
  audit: 'quiz shared',
});

export const savePaper = endpoint({
  method: 'put',
  path: '/courses/:courseId/quizzes/:itemId/paper',
  needs: 'plan.edit',
  movesGrades: true,
  body: is<PaperChange>(),
  answer: is<QuizDetail>(),
  audit: 'paper of a quiz changed',
  undo: 'itself',
});

export const addQuizQuestions = endpoint({
  method: 'post',
  path: '/courses/:courseId/quizzes/:itemId/questions',
  needs: 'plan.edit',
  movesGrades: true,
  body: is<QuizQuestions>(),
  answer: is<{ readonly made: readonly string[]; readonly quiz: QuizDetail }>(),
  audit: 'questions put into a quiz',
  undo: { none: 'They are removed from the paper again.' },
});

export const getQuizPreview = endpoint({
  method: 'get',
  path: '/courses/:courseId/quizzes/:itemId/preview',
  needs: 'course.teach',
  query: asks({ seed: 'text' }),
  answer: is<PaperShown>(),
});

export const getQuizFile = endpoint({
  method: 'get',
  path: '/courses/:courseId/quizzes/:itemId/files/:fileId',
  needs: 'course.teach',
  isStream: true,
});

export const getQuizResults = endpoint({
  method: 'get',
  path: '/courses/:courseId/quizzes/:itemId/results',
  needs: 'marking.see',
  answer: is<QuizResults>(),
});

export const getResultsTable = endpoint({
  method: 'get',
  path: '/courses/:courseId/quizzes/:itemId/results.csv',
  needs: 'marking.see',
  isStream: true,
});

export const getAttemptPaper = endpoint({
  method: 'get',
  path: '/courses/:courseId/quizzes/:itemId/attempts/:attemptId',
  needs: 'marking.see',
  answer: is<AttemptPaper>(),
});

export const getAttemptFile = endpoint({
  method: 'get',
  path: '/courses/:courseId/quizzes/:itemId/attempts/:attemptId/files/:fileId',
  needs: 'marking.see',
  isStream: true,
  query: asks({ download: 'flag' }),
});

export const changeAttempt = endpoint({
  method: 'post',
  path: '/courses/:courseId/quizzes/:itemId/attempts/:attemptId/acts',
  needs: 'marking.mark',
  movesGrades: true,
  body: is<AttemptAct>(),
  audit: 'attempt changed by staff',
  undo: 'itself',
});

export const giveScore = endpoint({
  method: 'put',
  path: '/courses/:courseId/quizzes/:itemId/attempts/:attemptId/scores/:questionId',
  needs: 'marking.mark',
  gives: true,
  body: is<GivenScore>(),
  answer: is<{ readonly version: number }>(),
  audit: MARKING,
});

export const giveScores = endpoint({
  method: 'put',
  path: '/courses/:courseId/quizzes/:itemId/questions/:questionId/scores',
  needs: 'marking.mark',
  gives: true,
  body: is<GivenScores>(),
  answer: is<GivenScores>(),
  audit: MARKING,
});

export const getQuestionAnswers = endpoint({
  method: 'get',
  path: '/courses/:courseId/quizzes/:itemId/questions/:questionId/answers',
  needs: 'marking.see',
  answer: is<QuestionAnswers>(),
});

export const shareOutQuestion = endpoint({
  method: 'put',
  path: '/courses/:courseId/quizzes/:itemId/questions/:questionId/markers',
  needs: 'marking.release',
  body: is<QuestionMarkers>(),
  audit: 'question shared out',
});

export const getQuizStatistics = endpoint({
  method: 'get',
  path: '/courses/:courseId/quizzes/:itemId/statistics',
  needs: 'marking.see',
  answer: is<QuizStatistics>(),
});

export const getStatisticsTable = endpoint({
  method: 'get',
  path: '/courses/:courseId/quizzes/:itemId/statistics.csv',
  needs: 'marking.see',
  isStream: true,
});

export const getCorrectable = endpoint({
  method: 'get',
  path: '/courses/:courseId/quizzes/:itemId/corrections/:questionId',
  needs: 'course.teach',
  answer: is<CorrectableQuestion>(),
});

export const restoreCorrection = endpoint({
  method: 'post',
  path: '/courses/:courseId/quizzes/:itemId/corrections/:correctionId/restore',
  needs: 'gradebook.edit',
  movesGrades: true,
  audit: 'correction brought back',
  undo: BACK,
});

export const beginAttempt = endpoint({
  method: 'post',
  path: '/courses/:courseId/own/quizzes/:itemId/attempts',
  needs: 'work.own',
  body: is<BeginAttempt>(),
  answer: is<{ readonly attemptId: string }>(),
  audit: OWN_WORK,
});

export const getTaking = endpoint({
  method: 'get',
  path: '/courses/:courseId/own/quizzes/:itemId/attempts/:attemptId',
  needs: 'work.own',
  answer: is<{ readonly taking: Taking }>(),
});

export const getTakingTime = endpoint({
  method: 'get',
  path: '/courses/:courseId/own/quizzes/:itemId/attempts/:attemptId/time',
  needs: 'work.own',
  answer: is<{ readonly now: string; readonly endsAt: string | null; readonly isOpen: boolean }>(),
});

export const saveAnswer = endpoint({
  method: 'put',
  path: '/courses/:courseId/own/quizzes/:itemId/attempts/:attemptId/answers/:questionId',
  needs: 'work.own',
  isSilent: true,
  isOneStatement: true,
  body: is<AnswerSave>(),
  answer: is<AnswerKept | { readonly late: true }>(),
  audit: OWN_WORK,
});

export const addAnswerFile = endpoint({
  method: 'post',
  path: '/courses/:courseId/own/quizzes/:itemId/attempts/:attemptId/files',
  needs: 'work.own',
  isSilent: true,
  isHeavy: true,
  takesFile: 'file',
  answer: is<CourseFile>(),
  audit: OWN_WORK,
});

export const handInAttempt = endpoint({
  method: 'post',
  path: '/courses/:courseId/own/quizzes/:itemId/attempts/:attemptId/hand-in',
  needs: 'work.own',
  gives: true,
  audit: OWN_WORK,
});

export const noteLeave = endpoint({
  method: 'post',
  path: '/courses/:courseId/own/quizzes/:itemId/attempts/:attemptId/leaves',
  needs: 'work.own',
  isSilent: true,
  body: is<LeaveNote>(),
  audit: OWN_WORK,
});

export const getOwnPaper = endpoint({
  method: 'get',
  path: '/courses/:courseId/own/quizzes/:itemId/attempts/:attemptId/review',
  needs: 'work.own',
  answer: is<PaperReview>(),
});

export const getOwnAnswerFile = endpoint({
  method: 'get',
  path: '/courses/:courseId/own/quizzes/:itemId/attempts/:attemptId/files/:fileId',
  needs: 'work.own',
  isStream: true,
});

export const getOwnQuizFile = endpoint({
  method: 'get',
  path: '/courses/:courseId/own/quizzes/:itemId/files/:fileId',
  needs: 'work.own',
  isStream: true,
});

export const takeBackCorrection = endpoint({
  method: 'delete',
  path: '/courses/:courseId/quizzes/:itemId/corrections/:correctionId',
  needs: 'gradebook.edit',
  movesGrades: true,
  audit: 'correction taken back',
  undo: restoreCorrection,
});

export const correctQuestion = endpoint({
  method: 'post',
  path: '/courses/:courseId/quizzes/:itemId/corrections',
  needs: 'gradebook.edit',
  movesGrades: true,
  body: is<NewCorrection>(),
  answer: is<{ readonly id: string; readonly isApplied: boolean }>(),
  audit: 'correction made',
  undo: takeBackCorrection,
});

/** Questions whose answers were scored by a rule that holds no longer. */
export const getOutdatedScores = endpoint({
  method: 'get',
  path: '/courses/:courseId/quizzes/:itemId/outdated-scores',
  needs: 'gradebook.edit',
  answer: is<OutdatedScores>(),
});

export const scoreAgain = endpoint({
  method: 'post',
  path: '/courses/:courseId/quizzes/:itemId/outdated-scores',
  needs: 'gradebook.edit',
  movesGrades: true,
  body: is<ScoringAgain>(),
  answer: is<OutdatedScores>(),
  audit: 'answers scored again',
  undo: { none: 'The rule by which they were scored before is no longer there; a score can be given to each by hand.' },
});

/** The words above a quiz, saved as they are typed. */
export const saveQuizInstructions = endpoint({
  method: 'put',
  path: '/courses/:courseId/quizzes/:itemId/instructions',
  needs: 'plan.edit',
  body: is<InstructionsChange>(),
  answer: is<QuizSetting>(),
  audit: TYPED,
});
