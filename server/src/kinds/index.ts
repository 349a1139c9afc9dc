export { byKind, ITEM_PARTS, servedKind } from './kinds.ts';
export type { Bringing, Copying } from './servedKind.ts';
