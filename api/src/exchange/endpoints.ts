import { removeItems } from '../plan/endpoints.ts';
import { asks, endpoint, is, LOOKS } from '../contract.ts';
import type { ArchiveDone, PackagePreview } from '../archive.ts';
import type { QtiDone } from '../qti.ts';
import { BANK_SEARCH } from '../bank/bankSearch.ts';

export const getArchive = endpoint({
  method: 'get',
  path: '/courses/:courseId/archive',
  needs: 'plan.edit',
  isStream: true,
});

export const getCartridge = endpoint({
  method: 'get',
  path: '/courses/:courseId/cartridge',
  needs: 'plan.edit',
  isStream: true,
});

export const getCartridgeLosses = endpoint({
  method: 'get',
  path: '/courses/:courseId/cartridge/losses',
  needs: 'plan.edit',
  answer: is<{ readonly losses: readonly string[] }>(),
});

export const previewArchive = endpoint({
  method: 'post',
  path: '/courses/:courseId/archive/preview',
  needs: 'plan.edit',
  isSilent: true,
  takesFile: 'package',
  answer: is<PackagePreview>(),
  audit: LOOKS,
});

export const importArchive = endpoint({
  method: 'post',
  path: '/courses/:courseId/archive',
  needs: 'plan.edit',
  takesFile: 'package',
  movesGrades: true,
  answer: is<ArchiveDone>(),
  audit: 'archive imported',
  undo: removeItems,
});

export const getBankPackage = endpoint({
  method: 'get',
  path: '/courses/:courseId/bank/qti',
  needs: 'course.teach',
  isStream: true,
  query: asks({ ...BANK_SEARCH, version: 'text' }),
});

export const getBankPackageLosses = endpoint({
  method: 'get',
  path: '/courses/:courseId/bank/qti/losses',
  needs: 'course.teach',
  query: asks({ ...BANK_SEARCH, version: 'text' }),
  answer: is<{ readonly losses: readonly string[]; readonly items: number }>(),
});

export const getQuizPackage = endpoint({
  method: 'get',
  path: '/courses/:courseId/quizzes/:itemId/qti',
  needs: 'course.teach',
  isStream: true,
  query: asks({ version: 'text' }),
});

export const getQuizPackageLosses = endpoint({
  method: 'get',
  path: '/courses/:courseId/quizzes/:itemId/qti/losses',
  needs: 'course.teach',
  query: asks({ version: 'text' }),
  answer: is<{ readonly losses: readonly string[]; readonly items: number }>(),
});

export const previewQuestionPackage = endpoint({
  method: 'post',
  path: '/courses/:courseId/bank/qti/preview',
  needs: 'plan.edit',
  isSilent: true,
  takesFile: 'package',
  query: asks({ folder: 'id', unit: 'id' }),
  answer: is<QtiDone>(),
  audit: LOOKS,
});

export const importQuestionPackage = endpoint({
  method: 'post',
  path: '/courses/:courseId/bank/qti',
  needs: 'plan.edit',
  takesFile: 'package',
  query: asks({ folder: 'id', unit: 'id' }),
  answer: is<QtiDone>(),
  audit: 'questions imported',
});
