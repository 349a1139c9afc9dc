import { type KindOfItem, MATERIAL, materialOf, NO_FAULTS } from '../kindOfItem.ts';

export const file: KindOfItem = {
  ...MATERIAL,
  word: 'file',
  begins: materialOf(15),
  faults: NO_FAULTS,
};
