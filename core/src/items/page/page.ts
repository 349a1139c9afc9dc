import { HANDED_IN, type KindOfItem, READ_RULES } from '../kindOfItem.ts';

export const page: KindOfItem = {
  word: 'page',
  isWork: false,
  marking: 'none',
  hasOwnPoints: true,
  isInClass: false,
  canStand: true,
  column: 'never',
  doneRules: READ_RULES,
  ...HANDED_IN,
  begins: { possible: 0, estimatedMinutes: 30, markingMinutes: 0, releaseMode: 'hand', counts: true },
  faults: ({ title, isEmpty }) => (isEmpty ? [{ weight: 'mend', text: `The page “${title}” is empty.`, place: 'text' }] : []),
};
