import { asks, endpoint, is } from '../contract.ts';
import type { StudentStory } from '../story.ts';
import type { NewWordNote, WordNotesRemoval, WordRulesChange, Words, WordsWriting } from '../words.ts';
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

/** The whole story of one student in one course, for those who teach it. */
export const getStudentStory = endpoint({
  method: 'get',
  path: '/courses/:courseId/students/:enrolmentId/story',
  needs: 'progress.see',
  answer: is<StudentStory>(),
});

/** A student’s own story, of what they were given back. */
export const getOwnStory = endpoint({
  method: 'get',
  path: '/courses/:courseId/own/story',
  needs: 'work.own',
  answer: is<StudentStory>(),
});

/** Who needs a word, by the rules of the course. */
export const getWords = endpoint({
  method: 'get',
  path: '/courses/:courseId/words',
  needs: 'progress.see',
  answer: is<Words>(),
});

export const changeWordRules = endpoint({
  method: 'put',
  path: '/courses/:courseId/words/rules',
  needs: 'plan.edit',
  body: is<WordRulesChange>(),
  answer: is<Words>(),
  audit: 'rules of who needs a word changed',
  isSilent: true,
});

/** Notes what was done for some students, or sets them aside until a day. Staff alone read it. */
export const addWordNotes = endpoint({
  method: 'post',
  path: '/courses/:courseId/words/notes',
  needs: 'progress.see',
  body: is<NewWordNote>(),
  answer: is<Words & { readonly noteIds: readonly string[] }>(),
  audit: 'word with students noted',
  isSilent: true,
});

export const removeWordNotes = endpoint({
  method: 'post',
  path: '/courses/:courseId/words/notes/removals',
  needs: 'progress.see',
  body: is<WordNotesRemoval>(),
  answer: is<Words>(),
  audit: 'note of a word taken back',
  isSilent: true,
});

/** Writes to some students, each in a conversation of their own, and notes it. */
export const writeWords = endpoint({
  method: 'post',
  path: '/courses/:courseId/words/messages',
  needs: 'progress.see',
  body: is<WordsWriting>(),
  answer: is<Words>(),
  audit: 'message sent',
  isSilent: true,
});

/** Everything recorded in the course as statements of the Experience API 1.0.3. */
export const getStatements = endpoint({
  method: 'get',
  path: '/courses/:courseId/progress/statements',
  needs: 'progress.see',
  isStream: true,
  isHeavy: true,
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
