export type { Copied } from './copied.ts';
export { copyPart } from './copyPart.ts';
export { columnsOf } from './itemParts.ts';
export { checked, keepItemFiles } from './itemText.ts';
export { findAssignment, findLink, findPage, findShownFile } from './material.ts';
export { audienceSql, getPlanItem, ITEM_SQL, type ItemRow, toItem } from './queries.ts';
