import { type KindOfItem, MATERIAL, materialOf } from '../kindOfItem.ts';

export const page: KindOfItem = {
  ...MATERIAL,
  isOnScreen: true,
  word: 'page',
  begins: materialOf(30),
  faults: ({ title, isEmpty }) => (isEmpty ? [{ weight: 'mend', text: `The page “${title}” is empty.`, place: 'text' }] : []),
};
