import { HANDED_IN, type KindOfItem, NO_FAULTS, WORK_RULES } from '../kindOfItem.ts';

export const quiz: KindOfItem = {
  word: 'quiz',
  reviewed: 'essays',
  isWork: true,
  marking: 'attempts',
  hasOwnPoints: false,
  isInClass: false,
  isOnScreen: true,
  hasText: true,
  canStand: false,
  column: 'always',
  doneRules: WORK_RULES,
  typing: 'reading',
  ...HANDED_IN,
  // It has the points of its questions.
  begins: { possible: 0, estimatedMinutes: 60, markingMinutes: 0, releaseMode: 'finished', counts: true },
  faults: NO_FAULTS,
};
