import { activity } from './activity/activity.ts';
import { assignment } from './assignment/assignment.ts';
import { discussion } from './discussion/discussion.ts';
import { file } from './file/file.ts';
import type { KindOfItem } from './kindOfItem.ts';
import { link } from './link/link.ts';
import { page } from './page/page.ts';
import { quiz } from './quiz/quiz.ts';

/** Every kind of item there is, in the order in which they are offered. A new one is a folder and a line here; the compiler names the rest. */
export const KINDS_OF_ITEM = { page, assignment, quiz, file, link, discussion, activity } satisfies { readonly [kind: string]: KindOfItem };

export type ItemKind = keyof typeof KINDS_OF_ITEM;
export const ITEM_KINDS = Object.keys(KINDS_OF_ITEM) as readonly ItemKind[];

/** A kind by its name. Example: `kindOfItem('activity').word` is `class activity`. */
export const kindOfItem = (kind: ItemKind): KindOfItem => KINDS_OF_ITEM[kind];

/** The kinds that something is true of. Example: those that may stand outside the units: page, file and link. */
export const kindsThat = (test: (kind: KindOfItem) => boolean): readonly ItemKind[] => ITEM_KINDS.filter((kind) => test(kindOfItem(kind)));
