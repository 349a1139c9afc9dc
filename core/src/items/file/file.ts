import { HANDED_IN, type KindOfItem, NO_FAULTS, READ_RULES } from '../kindOfItem.ts';

export const file: KindOfItem = {
  word: 'file',
  isWork: false,
  marking: 'none',
  hasOwnPoints: true,
  isInClass: false,
  canStand: true,
  column: 'never',
  doneRules: READ_RULES,
  ...HANDED_IN,
  begins: { possible: 0, estimatedMinutes: 15, markingMinutes: 0, releaseMode: 'hand', counts: true },
  faults: NO_FAULTS,
};
