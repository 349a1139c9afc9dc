import { asks, endpoint, is } from '../contract.ts';
import type {
  AlignedQuestions,
  ClassProgress,
  ProgressDetail,
  ProgressObjectives,
  ProgressReport,
  ProgressRhythm,
  ProgressVisits,
} from '../progress.ts';

/** What the report is made of: who is where, and everybody’s results. */
export const getProgress = endpoint({
  method: 'get',
  path: '/courses/:courseId/progress',
  needs: 'progress.see',
  answer: is<ProgressReport>(),
});

export const getProgressObjectives = endpoint({
  method: 'get',
  path: '/courses/:courseId/progress/objectives',
  needs: 'progress.see',
  answer: is<ProgressObjectives>(),
});

/** The questions of a quiz that are aligned to an objective. */
export const getAlignedQuestions = endpoint({
  method: 'get',
  path: '/courses/:courseId/progress/questions',
  needs: 'progress.see',
  query: asks({ objective: 'id', item: 'id' }, 'objective', 'item'),
  answer: is<AlignedQuestions>(),
});

export const getProgressRhythm = endpoint({
  method: 'get',
  path: '/courses/:courseId/progress/rhythm',
  needs: 'progress.see',
  answer: is<ProgressRhythm>(),
});

/** Visits against results; nothing is told where the school has switched it off. */
export const getProgressVisits = endpoint({
  method: 'get',
  path: '/courses/:courseId/progress/visits',
  needs: 'progress.see',
  answer: is<ProgressVisits>(),
});

/** How far the class of a student is, where its course shows it and there are five at least: a share and no more. */
export const getClassProgress = endpoint({
  method: 'get',
  path: '/courses/:courseId/own/class-progress',
  needs: 'work.own',
  answer: is<ClassProgress>(),
});

export const getProgressOf = endpoint({
  method: 'get',
  path: '/courses/:courseId/progress/people/:enrolmentId',
  needs: 'progress.see',
  answer: is<ProgressDetail>(),
});
