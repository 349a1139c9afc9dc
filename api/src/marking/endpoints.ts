import { asks, endpoint, is, BACK, LOOKS, MARKING, OWN } from '../contract.ts';
import type { FairnessView } from '../fairness.ts';
import type { CourseFile } from '../files.ts';
import type { KeptRubric, KeptChange, NewKeptRubric } from '../keptRubrics.ts';
import type { Finish, FinishUndo, MarkChange, MarkView, MarkingList, Release, ReleasePreview, Stack, Work } from '../marking.ts';
import type { NewNote, NoteChange, NoteView } from '../notes.ts';
import type { SheetDone, SheetPreview } from '../offline.ts';
import type { NewRemark, RemarkChange, RemarkView } from '../remarks.ts';
import type { HandInFor, NewWorkWord, RevisionAsk, WorkWord } from '../revision.ts';
import type { NewShares, ShareDraw, SharesView } from '../shares.ts';
import type { AnswerList, MarkTogether, MarkedTogether } from '../together.ts';

export const releaseMarks = endpoint({
  method: 'post',
  path: '/courses/:courseId/marking/:itemId/release',
  needs: 'marking.release',
  gives: true,
  body: is<Release>(),
  answer: is<{ readonly many: number }>(),
  audit: 'marks released',
});

export const withholdMarks = endpoint({
  method: 'post',
  path: '/courses/:courseId/marking/:itemId/withhold',
  needs: 'marking.release',
  gives: true,
  body: is<Release>(),
  answer: is<{ readonly many: number }>(),
  audit: 'marks withheld',
});

export const previewRelease = endpoint({
  method: 'post',
  path: '/courses/:courseId/marking/:itemId/release/preview',
  needs: 'marking.release',
  isSilent: true,
  body: is<Release>(),
  answer: is<ReleasePreview>(),
  audit: LOOKS,
});

export const getShares = endpoint({
  method: 'get',
  path: '/courses/:courseId/marking/:itemId/shares',
  needs: 'marking.release',
  answer: is<SharesView>(),
});

export const drawShares = endpoint({
  method: 'post',
  path: '/courses/:courseId/marking/:itemId/shares/draw',
  needs: 'marking.release',
  isSilent: true,
  body: is<ShareDraw>(),
  answer: is<NewShares>(),
  audit: LOOKS,
});

export const saveShares = endpoint({
  method: 'put',
  path: '/courses/:courseId/marking/:itemId/shares',
  needs: 'marking.release',
  body: is<NewShares>(),
  answer: is<SharesView>(),
  audit: 'works shared out',
});

export const getAnswers = endpoint({
  method: 'get',
  path: '/courses/:courseId/marking/:itemId/answers',
  needs: 'marking.see',
  answer: is<AnswerList>(),
});

export const markTogether = endpoint({
  method: 'post',
  path: '/courses/:courseId/marking/:itemId/together',
  needs: 'marking.mark',
  gives: true,
  body: is<MarkTogether>(),
  answer: is<MarkedTogether>(),
  audit: MARKING,
});

export const getFairness = endpoint({
  method: 'get',
  path: '/courses/:courseId/marking/:itemId/fairness',
  needs: 'marking.release',
  answer: is<FairnessView>(),
});

export const getWorksArchive = endpoint({
  method: 'get',
  path: '/courses/:courseId/marking/:itemId/works.zip',
  needs: 'marking.see',
  isStream: true,
});

export const previewScoreSheet = endpoint({
  method: 'post',
  path: '/courses/:courseId/marking/:itemId/sheet/preview',
  needs: 'marking.mark',
  isSilent: true,
  takesFile: 'package',
  answer: is<SheetPreview>(),
  audit: LOOKS,
});

export const importScoreSheet = endpoint({
  method: 'post',
  path: '/courses/:courseId/marking/:itemId/sheet',
  needs: 'marking.mark',
  takesFile: 'package',
  gives: true,
  answer: is<SheetDone>(),
  audit: 'scores imported',
});

export const getWorkOnPaper = endpoint({
  method: 'get',
  path: '/courses/:courseId/marking/:itemId/:enrolmentId/copy',
  needs: 'marking.see',
  isStream: true,
});

export const getOwnWorkOnPaper = endpoint({
  method: 'get',
  path: '/courses/:courseId/own/items/:itemId/copy',
  needs: 'work.own',
  isStream: true,
});

export const getMarkingList = endpoint({
  method: 'get',
  path: '/courses/:courseId/marking',
  needs: 'marking.see',
  answer: is<MarkingList>(),
});

export const getStack = endpoint({
  method: 'get',
  path: '/courses/:courseId/marking/:itemId',
  needs: 'marking.see',
  answer: is<Stack>(),
});

export const getWork = endpoint({
  method: 'get',
  path: '/courses/:courseId/marking/:itemId/:enrolmentId',
  needs: 'marking.see',
  answer: is<Work>(),
});

export const saveMark = endpoint({
  method: 'put',
  path: '/courses/:courseId/marking/:itemId/:enrolmentId/mark',
  needs: 'marking.mark',
  body: is<MarkChange>(),
  answer: is<MarkView>(),
  audit: MARKING,
});

export const finishMark = endpoint({
  method: 'post',
  path: '/courses/:courseId/marking/:itemId/:enrolmentId/finish',
  needs: 'marking.mark',
  gives: true,
  body: is<Finish>(),
  answer: is<Work>(),
  audit: MARKING,
});

export const undoFinish = endpoint({
  method: 'post',
  path: '/courses/:courseId/marking/:itemId/:enrolmentId/finish/undo',
  needs: 'marking.mark',
  gives: true,
  body: is<FinishUndo>(),
  answer: is<Work>(),
  audit: MARKING,
});

export const addNote = endpoint({
  method: 'post',
  path: '/courses/:courseId/marking/:itemId/:enrolmentId/notes',
  needs: 'marking.mark',
  body: is<NewNote>(),
  answer: is<readonly NoteView[]>(),
  audit: MARKING,
});

export const changeNote = endpoint({
  method: 'patch',
  path: '/courses/:courseId/marking/:itemId/:enrolmentId/notes/:noteId',
  needs: 'marking.mark',
  body: is<NoteChange>(),
  answer: is<readonly NoteView[]>(),
  audit: MARKING,
});

export const restoreRevision = endpoint({
  method: 'post',
  path: '/courses/:courseId/marking/:itemId/:enrolmentId/revision/:revisionId/restore',
  needs: 'marking.mark',
  movesGrades: true,
  answer: is<Work>(),
  audit: MARKING,
  undo: BACK,
});

export const sayToStudent = endpoint({
  method: 'post',
  path: '/courses/:courseId/marking/:itemId/:enrolmentId/words',
  needs: 'marking.mark',
  body: is<NewWorkWord>(),
  answer: is<readonly WorkWord[]>(),
  audit: MARKING,
});

export const readStudentsWords = endpoint({
  method: 'post',
  path: '/courses/:courseId/marking/:itemId/:enrolmentId/words/read',
  needs: 'marking.see',
  isDoneInArchive: true,
  isSilent: true,
  audit: MARKING,
});

export const handInFor = endpoint({
  method: 'post',
  path: '/courses/:courseId/marking/:itemId/:enrolmentId/hand-in',
  needs: 'marking.mark',
  gives: true,
  body: is<HandInFor>(),
  answer: is<Work>(),
  audit: MARKING,
});

export const addFileFor = endpoint({
  method: 'post',
  path: '/courses/:courseId/marking/:itemId/:enrolmentId/files',
  needs: 'marking.mark',
  isSilent: true,
  takesFile: 'file',
  answer: is<CourseFile>(),
  audit: MARKING,
});

export const addFeedbackFile = endpoint({
  method: 'post',
  path: '/courses/:courseId/marking/:itemId/:enrolmentId/feedback-files',
  needs: 'marking.mark',
  takesFile: 'file',
  answer: is<readonly CourseFile[]>(),
  audit: MARKING,
});

export const removeFeedbackFile = endpoint({
  method: 'delete',
  path: '/courses/:courseId/marking/:itemId/:enrolmentId/feedback-files/:fileId',
  needs: 'marking.mark',
  answer: is<readonly CourseFile[]>(),
  audit: MARKING,
});

export const restoreFeedbackFile = endpoint({
  method: 'post',
  path: '/courses/:courseId/marking/:itemId/:enrolmentId/feedback-files/:fileId/restore',
  needs: 'marking.mark',
  answer: is<readonly CourseFile[]>(),
  audit: MARKING,
});

export const getWorkFile = endpoint({
  method: 'get',
  path: '/courses/:courseId/marking/:itemId/:enrolmentId/files/:fileId',
  needs: 'marking.see',
  isStream: true,
  query: asks({ download: 'flag' }),
});

export const removeNote = endpoint({
  method: 'delete',
  path: '/courses/:courseId/marking/:itemId/:enrolmentId/notes/:noteId',
  needs: 'marking.mark',
  answer: is<readonly NoteView[]>(),
  audit: MARKING,
});

export const restoreNote = endpoint({
  method: 'post',
  path: '/courses/:courseId/marking/:itemId/:enrolmentId/notes/:noteId/restore',
  needs: 'marking.mark',
  answer: is<readonly NoteView[]>(),
  audit: MARKING,
});

export const listKeptRubrics = endpoint({
  method: 'get',
  path: '/kept-rubrics',
  needs: 'person',
  answer: is<readonly KeptRubric[]>(),
});

export const keepRubric = endpoint({
  method: 'post',
  path: '/kept-rubrics',
  needs: 'person',
  body: is<NewKeptRubric>(),
  answer: is<readonly KeptRubric[]>(),
  audit: OWN,
});

export const changeKeptRubric = endpoint({
  method: 'patch',
  path: '/kept-rubrics/:rubricId',
  needs: 'person',
  body: is<KeptChange>(),
  answer: is<readonly KeptRubric[]>(),
  audit: OWN,
});

export const removeKeptRubric = endpoint({
  method: 'delete',
  path: '/kept-rubrics/:rubricId',
  needs: 'person',
  answer: is<readonly KeptRubric[]>(),
  audit: OWN,
});

export const restoreKeptRubric = endpoint({
  method: 'post',
  path: '/kept-rubrics/:rubricId/restore',
  needs: 'person',
  answer: is<readonly KeptRubric[]>(),
  audit: OWN,
});

export const listRemarks = endpoint({
  method: 'get',
  path: '/remarks',
  needs: 'person',
  answer: is<readonly RemarkView[]>(),
});

export const addRemark = endpoint({
  method: 'post',
  path: '/remarks',
  needs: 'person',
  body: is<NewRemark>(),
  answer: is<readonly RemarkView[]>(),
  audit: OWN,
});

export const takeStarterRemarks = endpoint({
  method: 'post',
  path: '/remarks/starter',
  needs: 'person',
  answer: is<readonly RemarkView[]>(),
  audit: OWN,
});

export const changeRemark = endpoint({
  method: 'patch',
  path: '/remarks/:remarkId',
  needs: 'person',
  body: is<RemarkChange>(),
  answer: is<readonly RemarkView[]>(),
  audit: OWN,
});

export const removeRemark = endpoint({
  method: 'delete',
  path: '/remarks/:remarkId',
  needs: 'person',
  answer: is<readonly RemarkView[]>(),
  audit: OWN,
});

export const restoreRemark = endpoint({
  method: 'post',
  path: '/remarks/:remarkId/restore',
  needs: 'person',
  answer: is<readonly RemarkView[]>(),
  audit: OWN,
});

export const endRevision = endpoint({
  method: 'delete',
  path: '/courses/:courseId/marking/:itemId/:enrolmentId/revision/:revisionId',
  needs: 'marking.mark',
  movesGrades: true,
  answer: is<Work>(),
  audit: MARKING,
  undo: restoreRevision,
});

export const askRevision = endpoint({
  method: 'post',
  path: '/courses/:courseId/marking/:itemId/:enrolmentId/revision',
  needs: 'marking.mark',
  movesGrades: true,
  body: is<RevisionAsk>(),
  answer: is<Work>(),
  audit: MARKING,
  undo: endRevision,
});
