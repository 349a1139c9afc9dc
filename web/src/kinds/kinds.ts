import type { ItemKind } from '@rosemary/core';
import { activity } from './activity/activity.ts';
import { assignment } from './assignment/assignment.ts';
import { discussion } from './discussion/discussion.ts';
import { file } from './file/file.ts';
import { link } from './link/link.ts';
import { page } from './page/page.ts';
import { quiz } from './quiz/quiz.ts';
import type { ShownKind } from './shownKind.ts';

export const SHOWN_KINDS: { readonly [kind in ItemKind]: ShownKind } = { page, assignment, quiz, discussion, file, link, activity };
