import { kindOfItem, type ItemKind } from '@rosemary/core';
import { pageOf, type PageParams } from './pages.ts';

/** Where what students did in an item is looked at: a quiz has its results, everything else its works, or the work of one student. */
export const markingPageOf = (kind: ItemKind, params: PageParams<'work'>): string =>
  pageOf(kindOfItem(kind).marking === 'attempts' ? 'quizResults' : 'work', params);
