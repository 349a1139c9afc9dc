import { ITEM_KINDS, kindOfItem, type ItemKind } from '@rosemary/core';

const asTitle = (word: string): string => word.charAt(0).toUpperCase() + word.slice(1);
export const kindTitle = (kind: ItemKind): string => asTitle(kindOfItem(kind).word);
/** The kinds of item that can be added, with their words. */
export const ADDABLE = ITEM_KINDS.map((kind) => [kind, kindOfItem(kind).word] as const);

interface Look {
  /** Its mark, drawn in a square from -7 to 7. */
  readonly path: string;
  readonly isHollow: boolean;
}
const SHEET: Look = { path: 'M-4 -5h8v10h-8z', isHollow: true };

/** The mark of each kind: a shape of its own, so that no colour is needed to tell them apart. */
export const KIND_LOOKS: { readonly [kind in ItemKind]: Look } = {
  page: { path: 'M-5 -1.5h10v3h-10z', isHollow: false },
  assignment: { path: 'M-4.5 -4.5h9v9h-9z', isHollow: false },
  quiz: { path: 'M-5 0a5 5 0 1 0 10 0a5 5 0 1 0 -10 0z', isHollow: false },
  discussion: { path: 'M-5 4.5h10L0 -5z', isHollow: false },
  file: SHEET,
  link: SHEET,
  activity: { path: 'M0 -5.5L5.5 0L0 5.5L-5.5 0z', isHollow: true },
};
