import { type KindOfItem, MATERIAL, materialOf, NO_FAULTS } from '../kindOfItem.ts';

export const link: KindOfItem = {
  ...MATERIAL,
  word: 'link',
  begins: materialOf(15),
  faults: NO_FAULTS,
};
