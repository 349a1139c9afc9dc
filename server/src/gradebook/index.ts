export { checkLedger, compareLedger, listLedgerChecks } from './checkLedger.ts';
export { readTotals, scoreText } from './book.ts';
export { changeCell } from './cellChange.ts';
export { calculate, cellFor, findWorkColumn, handInOf, isWorkColumn, toGraded } from './cells.ts';
export { listComments, saveCellWords, setCurve } from './openColumn.ts';
export {
  addColumns,
  changeColumn,
  COLUMN_FIELDS,
  type ColumnFields,
  COLUMN_PARTS,
  copyColumns,
  findReviewingColumn,
  getWorkColumn,
  saveColumnLate,
  setColumns,
  setPeriod,
  setReviewingColumn,
} from './columns.ts';
export type { CourseFacts, FactColumn, FactPerson, WorkColumn } from './factTypes.ts';
export { listMovers } from './differences.ts';
export { readFacts } from './facts.ts';
export { datesView, latenessText } from './lateness.ts';
export {
  findGradeBefore,
  findGradeForUpdate,
  type GradeWrite,
  listGradesForUpdate,
  lockGrades,
  recordGrade,
  recordGrades,
} from './ledger.ts';
export { applyPolicy, checkLevels, getPolicyChange } from './policy.ts';
export { addCategory } from './savePolicy.ts';
export { lateJson } from './policyRows.ts';
export { getItemLate, getPolicy, listSchemes } from './readPolicy.ts';
export { rehearse } from './rehearse.ts';
export { gradebookRoutes } from './routes.ts';
export { keptSchemeRoutes } from './keptSchemes.ts';
export { readStandings } from './standings.ts';
export { atText, workingOf } from './workings.ts';
export { carryCategories } from './carryCategories.ts';
export { replaceCategories, startPolicy } from './startPolicy.ts';
