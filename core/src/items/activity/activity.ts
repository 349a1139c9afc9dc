import { HANDED_IN, type KindOfItem, NO_FAULTS } from '../kindOfItem.ts';

/** Something done in class, with a result and nothing to hand in. */
export const activity: KindOfItem = {
  word: 'class activity',
  reviewed: 'nothing',
  isWork: true,
  marking: 'none',
  hasOwnPoints: true,
  isInClass: true,
  isOnScreen: false,
  hasText: false,
  canStand: false,
  column: 'always',
  doneRules: ['marked', 'score', 'never'],
  typing: 'reading',
  ...HANDED_IN,
  begins: { possible: 10_000, estimatedMinutes: 60, markingMinutes: 0, releaseMode: 'finished', counts: true },
  faults: NO_FAULTS,
};
