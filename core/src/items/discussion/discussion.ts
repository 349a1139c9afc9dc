import { type KindOfItem, NO_FAULTS, WORK_RULES } from '../kindOfItem.ts';

export const discussion: KindOfItem = {
  word: 'discussion',
  reviewed: 'posts',
  isWork: true,
  marking: 'none',
  hasOwnPoints: true,
  isInClass: false,
  isOnScreen: true,
  hasText: true,
  canStand: false,
  column: 'where it counts',
  doneRules: WORK_RULES,
  typing: 'talking',
  handedInState: 'written',
  handedInRule: 'something is written',
  // A discussion is talk first; it counts once its teacher says so.
  begins: { possible: 0, estimatedMinutes: 30, markingMinutes: 0, releaseMode: 'hand', counts: false },
  faults: NO_FAULTS,
};
