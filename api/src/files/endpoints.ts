import { asks, endpoint, is, LOOKS } from '../contract.ts';
import type { CourseFile, FileChange, FileChoice, FileStore, FolderChange, NewFolder, PastChoice } from '../files.ts';

/** Writes the table that somebody has before them, as it stands on their screen, as a file for a spreadsheet. */
export const writeTableFile = endpoint({
  method: 'post',
  path: '/table-files',
  needs: 'person',
  takesFile: 'file',
  query: asks({ format: ['csv', 'xlsx'] }, 'format'),
  isStream: true,
  isHeavy: true,
  audit: LOOKS,
});

export const addFile = endpoint({
  method: 'post',
  path: '/courses/:courseId/files',
  needs: 'plan.edit',
  takesFile: 'file',
  query: asks({ folder: 'id' }),
  answer: is<CourseFile>(),
  audit: 'file added',
});

export const getFileStore = endpoint({
  method: 'get',
  path: '/courses/:courseId/file-store',
  needs: 'course.teach',
  answer: is<FileStore>(),
});

export const changeFile = endpoint({
  method: 'patch',
  path: '/courses/:courseId/files/:fileId',
  needs: 'plan.edit',
  body: is<FileChange>(),
  answer: is<FileStore>(),
  audit: 'file renamed or moved',
});

export const replaceFile = endpoint({
  method: 'post',
  path: '/courses/:courseId/files/:fileId/content',
  needs: 'plan.edit',
  takesFile: 'file',
  answer: is<FileStore>(),
  audit: 'file replaced',
});

export const showPastFile = endpoint({
  method: 'post',
  path: '/courses/:courseId/files/:fileId/past',
  needs: 'plan.edit',
  body: is<PastChoice>(),
  answer: is<FileStore>(),
  audit: 'earlier file taken again',
});

export const removeFiles = endpoint({
  method: 'post',
  path: '/courses/:courseId/files/removals',
  needs: 'plan.edit',
  body: is<FileChoice>(),
  answer: is<FileStore>(),
  audit: 'files deleted',
});

export const restoreFiles = endpoint({
  method: 'post',
  path: '/courses/:courseId/files/restorals',
  needs: 'plan.edit',
  body: is<FileChoice>(),
  answer: is<FileStore>(),
  audit: 'files brought back',
});

export const addFolder = endpoint({
  method: 'post',
  path: '/courses/:courseId/folders',
  needs: 'plan.edit',
  body: is<NewFolder>(),
  answer: is<{ readonly id: string; readonly store: FileStore }>(),
  audit: 'folder added',
});

export const changeFolder = endpoint({
  method: 'patch',
  path: '/courses/:courseId/folders/:folderId',
  needs: 'plan.edit',
  body: is<FolderChange>(),
  answer: is<FileStore>(),
  audit: 'folder changed',
});

export const removeFolder = endpoint({
  method: 'delete',
  path: '/courses/:courseId/folders/:folderId',
  needs: 'plan.edit',
  answer: is<FileStore>(),
  audit: 'folder deleted',
});

export const restoreFolder = endpoint({
  method: 'post',
  path: '/courses/:courseId/folders/:folderId/restore',
  needs: 'plan.edit',
  answer: is<FileStore>(),
  audit: 'folder brought back',
});

export const getFile = endpoint({
  method: 'get',
  path: '/courses/:courseId/files/:fileId',
  needs: 'course.see',
  isStream: true,
  query: asks({ download: 'flag' }),
});
