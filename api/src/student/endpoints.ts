import { asks, endpoint, is, OWN_WORK } from '../contract.ts';
import type { CourseFile } from '../files.ts';
import type { DocumentChange } from '../plan.ts';
import type { NewWorkWord, NoteAnswer, WorkWord } from '../revision.ts';
import type { DraftLink, HandIn, MyGrades, Receipt, StudentCourse, StudentItem, ThisWeek, Tick, Visit } from '../student.ts';
import type { NewUpload, UploadState } from '../uploads.ts';

export const getMyWeek = endpoint({
  method: 'get',
  path: '/this-week',
  needs: 'person',
  answer: is<ThisWeek>(),
});

export const getOwnWeek = endpoint({
  method: 'get',
  path: '/courses/:courseId/own/week',
  needs: 'work.own',
  answer: is<ThisWeek>(),
});

export const getOwnOutline = endpoint({
  method: 'get',
  path: '/courses/:courseId/own/outline',
  needs: 'work.own',
  answer: is<StudentCourse>(),
});

export const getOwnGrades = endpoint({
  method: 'get',
  path: '/courses/:courseId/own/grades',
  needs: 'work.own',
  answer: is<MyGrades>(),
});

export const getOwnItem = endpoint({
  method: 'get',
  path: '/courses/:courseId/own/items/:itemId',
  needs: 'work.own',
  answer: is<StudentItem>(),
});

export const noteVisit = endpoint({
  method: 'post',
  path: '/courses/:courseId/own/items/:itemId/visits',
  needs: 'work.own',
  isDoneInArchive: true,
  isSilent: true,
  body: is<Visit>(),
  audit: OWN_WORK,
});

export const tickItem = endpoint({
  method: 'put',
  path: '/courses/:courseId/own/items/:itemId/tick',
  needs: 'work.own',
  body: is<Tick>(),
  audit: OWN_WORK,
});

export const saveDraft = endpoint({
  method: 'put',
  path: '/courses/:courseId/own/items/:itemId/draft',
  needs: 'work.own',
  isSilent: true,
  body: is<DocumentChange>(),
  answer: is<{ readonly version: number; readonly savedAt: string }>(),
  audit: OWN_WORK,
});

export const saveDraftLink = endpoint({
  method: 'put',
  path: '/courses/:courseId/own/items/:itemId/draft-link',
  needs: 'work.own',
  isSilent: true,
  body: is<DraftLink>(),
  audit: OWN_WORK,
});

export const answerNote = endpoint({
  method: 'put',
  path: '/courses/:courseId/own/items/:itemId/notes/:noteId/answered',
  needs: 'work.own',
  body: is<NoteAnswer>(),
  audit: OWN_WORK,
});

export const sayToMarker = endpoint({
  method: 'post',
  path: '/courses/:courseId/own/items/:itemId/words',
  needs: 'work.own',
  body: is<NewWorkWord>(),
  answer: is<readonly WorkWord[]>(),
  audit: OWN_WORK,
});

export const readMarkersWords = endpoint({
  method: 'post',
  path: '/courses/:courseId/own/items/:itemId/words/read',
  needs: 'work.own',
  isDoneInArchive: true,
  isSilent: true,
  audit: OWN_WORK,
});

export const handIn = endpoint({
  method: 'post',
  path: '/courses/:courseId/own/items/:itemId/hand-in',
  needs: 'work.own',
  gives: true,
  body: is<HandIn>(),
  answer: is<Receipt>(),
  audit: OWN_WORK,
});

export const takeBackHandIn = endpoint({
  method: 'delete',
  path: '/courses/:courseId/own/items/:itemId/hand-in',
  needs: 'work.own',
  gives: true,
  audit: OWN_WORK,
});

export const addWorkFile = endpoint({
  method: 'post',
  path: '/courses/:courseId/own/items/:itemId/files',
  needs: 'work.own',
  isSilent: true,
  takesFile: 'file',
  answer: is<CourseFile>(),
  audit: OWN_WORK,
});

export const beginUpload = endpoint({
  method: 'post',
  path: '/courses/:courseId/own/items/:itemId/uploads',
  needs: 'work.own',
  isSilent: true,
  body: is<NewUpload>(),
  answer: is<UploadState>(),
  audit: OWN_WORK,
});

export const sendUploadPart = endpoint({
  method: 'put',
  path: '/courses/:courseId/own/items/:itemId/uploads/:uploadId/part',
  needs: 'work.own',
  isSilent: true,
  isHeavy: true,
  query: asks({ from: 'whole' }, 'from'),
  answer: is<UploadState>(),
  audit: OWN_WORK,
});

export const finishUpload = endpoint({
  method: 'post',
  path: '/courses/:courseId/own/items/:itemId/uploads/:uploadId/done',
  needs: 'work.own',
  isSilent: true,
  isHeavy: true,
  answer: is<CourseFile>(),
  audit: OWN_WORK,
});

export const removeWorkFile = endpoint({
  method: 'delete',
  path: '/courses/:courseId/own/items/:itemId/files/:fileId',
  needs: 'work.own',
  isSilent: true,
  audit: OWN_WORK,
});

export const restoreWorkFile = endpoint({
  method: 'post',
  path: '/courses/:courseId/own/items/:itemId/files/:fileId/restore',
  needs: 'work.own',
  isSilent: true,
  answer: is<CourseFile>(),
  audit: OWN_WORK,
});

export const listOwnFiles = endpoint({
  method: 'get',
  path: '/courses/:courseId/own/files',
  needs: 'work.own',
  answer: is<{ readonly files: readonly CourseFile[] }>(),
});
