export type { Copied } from './copied.ts';
export { copyParts } from './copyPart.ts';
export { columnsOf, COMMON_PARTS, OWN_KEY, type PartsOfItem, VERSION } from './itemParts.ts';
export { checked, keepItemFiles } from './itemText.ts';
export { audienceSql, getPlanItem, ITEM_SQL, type ItemRow, toItem } from './queries.ts';
export { rewrite } from './rewrite.ts';
export { carryItemFiles, listItemFiles, setItemFiles } from './itemFiles.ts';
export {
  dropWorkingCopy,
  findEdited,
  findWorkingCopy,
  isReadByStudents,
  type KeptText,
  listTextsToCopy,
  putWorkingCopy,
  settleCopiedFiles,
  takeText,
  textIn,
  type WorkingCopy,
} from './workingCopy.ts';
export { type PutFirst, putBeforeNote, putBeforeText } from './putFirst.ts';
