import type { ItemKind } from '@rosemary/core';

/** The kinds of item that can be added, with their words. */
export const ADDABLE: readonly (readonly [ItemKind, string])[] = [
  ['page', 'page'],
  ['assignment', 'assignment'],
  ['activity', 'class activity'],
];
