import type { ItemKind } from '@rosemary/core';

/** The kinds of item that can be added, with their words. */
export const ADDABLE: readonly (readonly [ItemKind, string])[] = [
  ['page', 'page'],
  ['assignment', 'assignment'],
  ['quiz', 'quiz'],
  ['file', 'file'],
  ['link', 'link'],
  ['discussion', 'discussion'],
  ['activity', 'class activity'],
];

export const KIND_WORDS: Readonly<Record<ItemKind, string>> = {
  page: 'Page',
  assignment: 'Assignment',
  quiz: 'Quiz',
  discussion: 'Discussion',
  file: 'File',
  link: 'Link',
  activity: 'Class activity',
};
