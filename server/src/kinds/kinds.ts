import { type ItemKind, kindOfItem } from '@rosemary/core';
import { COMMON_PARTS, type PartsOfItem } from '../items/index.ts';
import { activity } from './activity/index.ts';
import { assignment } from './assignment/index.ts';
import { discussion } from './discussion/index.ts';
import { file } from './file/index.ts';
import { link } from './link/index.ts';
import { page } from './page/index.ts';
import { quiz } from './quiz/index.ts';
import type { ServedKind } from './servedKind.ts';
import { withPeers } from './withPeers.ts';

const OWN: { readonly [kind in ItemKind]: ServedKind } = { page, assignment, quiz, discussion, file, link, activity };
const KINDS = Object.fromEntries(
  (Object.keys(OWN) as ItemKind[]).map((kind) => [kind, kindOfItem(kind).reviewed === 'nothing' ? OWN[kind] : withPeers(OWN[kind])]),
) as { readonly [kind in ItemKind]: ServedKind };

export const servedKind = (kind: ItemKind): ServedKind => KINDS[kind];

/** Everything an item of any kind consists of. */
export const ITEM_PARTS: PartsOfItem = Object.assign({}, COMMON_PARTS, ...Object.values(KINDS).map((kind) => kind.parts)) as PartsOfItem;

/** Things sorted by the kind they are of, with what serves it. */
export const byKind = <T extends { readonly kind: ItemKind }>(all: readonly T[]): readonly (readonly [ServedKind, readonly T[]])[] =>
  (Object.keys(KINDS) as ItemKind[]).flatMap((kind) => {
    const own = all.filter((one) => one.kind === kind);
    return own.length === 0 ? [] : [[KINDS[kind], own] as const];
  });
