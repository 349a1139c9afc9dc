import { asks, endpoint, is, LEDGER, LOOKS, OWN, TYPED } from '../contract.ts';
import { removeItem } from '../plan/endpoints.ts';
import type {
  ActUndone,
  BlockChange,
  BlockSaved,
  BookDifferences,
  BookRow,
  CellChange,
  CellSaved,
  Gradebook,
  CellWords,
  ColumnHistory,
  ColumnPlace,
  ColumnView,
  CurveChange,
  EventReason,
  HistoryEntry,
  NewColumn,
  ReadTable,
  UndoAct,
  UndoEvent,
  WorkingView,
} from '../gradebook.ts';
import type { KeptChange } from '../keptRubrics.ts';
import type { KeptScheme, NewKeptScheme } from '../keptSchemes.ts';
import type { PolicyChange, PolicyPast, PolicyView } from '../policy.ts';

export const getGradebook = endpoint({
  method: 'get',
  path: '/courses/:courseId/gradebook',
  needs: 'gradebook.see',
  query: asks({ asOf: 'text' }),
  answer: is<Gradebook>(),
});

export const changeCell = endpoint({
  method: 'put',
  path: '/courses/:courseId/gradebook/cells',
  needs: 'gradebook.edit',
  gives: true,
  body: is<CellChange>(),
  answer: is<CellSaved>(),
  audit: LEDGER,
});

export const undoCell = endpoint({
  method: 'post',
  path: '/courses/:courseId/gradebook/undo',
  needs: 'gradebook.edit',
  gives: true,
  body: is<UndoEvent>(),
  answer: is<CellSaved>(),
  audit: LEDGER,
});

/** Writes what stood in a cell after one of its earlier changes. */
export const putCellBack = endpoint({
  method: 'post',
  path: '/courses/:courseId/gradebook/put-back',
  needs: 'gradebook.edit',
  gives: true,
  body: is<UndoEvent>(),
  answer: is<CellSaved>(),
  audit: LEDGER,
});

export const saveEventReason = endpoint({
  method: 'put',
  path: '/courses/:courseId/gradebook/reasons',
  needs: 'gradebook.edit',
  body: is<EventReason>(),
  audit: { none: 'It stands beside the change that it is about.' },
});

export const undoBlock = endpoint({
  method: 'post',
  path: '/courses/:courseId/gradebook/block/undo',
  needs: 'gradebook.edit',
  gives: true,
  body: is<UndoAct>(),
  answer: is<ActUndone>(),
  audit: LEDGER,
});

/** Many cells at once; what that would do to everybody's totals is seen first. */
export const changeBlock = endpoint({
  method: 'put',
  path: '/courses/:courseId/gradebook/block',
  needs: 'gradebook.edit',
  movesGrades: true,
  body: is<BlockChange>(),
  answer: is<BlockSaved>(),
  audit: LEDGER,
  undo: undoBlock,
});

export const getClassWorking = endpoint({
  method: 'get',
  path: '/courses/:courseId/gradebook/class',
  needs: 'gradebook.see',
  query: asks({ of: 'text', section: 'id' }),
  answer: is<WorkingView>(),
});

export const getWorking = endpoint({
  method: 'get',
  path: '/courses/:courseId/gradebook/working/:enrolmentId',
  needs: 'gradebook.see',
  query: asks({ of: 'text', asOf: 'text' }),
  answer: is<WorkingView>(),
});

export const getCellHistory = endpoint({
  method: 'get',
  path: '/courses/:courseId/gradebook/history/:columnId/:enrolmentId',
  needs: 'gradebook.see',
  answer: is<readonly HistoryEntry[]>(),
});

export const getPolicy = endpoint({
  method: 'get',
  path: '/courses/:courseId/policy',
  needs: 'policy.edit',
  answer: is<PolicyView>(),
});

export const getPolicyHistory = endpoint({
  method: 'get',
  path: '/courses/:courseId/policy/history',
  needs: 'policy.edit',
  answer: is<{ readonly changes: readonly PolicyPast[] }>(),
});

export const changePolicy = endpoint({
  method: 'put',
  path: '/courses/:courseId/policy',
  needs: 'policy.edit',
  movesGrades: true,
  body: is<PolicyChange>(),
  answer: is<{ readonly before: PolicyChange; readonly after: PolicyChange }>(),
  audit: 'policy changed',
  undo: 'itself',
});

/** One student's row, as it stands in the gradebook. */
export const getGradebookRow = endpoint({
  method: 'get',
  path: '/courses/:courseId/gradebook/rows/:enrolmentId',
  needs: 'gradebook.see',
  answer: is<BookRow>(),
});

/** A column for what is done in class. Floor and reach of everybody may move by it, so its ripple is seen first. */
export const addGradeColumn = endpoint({
  method: 'post',
  path: '/courses/:courseId/gradebook/columns',
  needs: 'plan.edit',
  movesGrades: true,
  body: is<NewColumn>(),
  answer: is<{ readonly itemId: string }>(),
  audit: 'column added',
  undo: removeItem,
});

/** A class activity that stood in the gradebook alone becomes an item of the Plan; its results stay. */
export const placeGradeColumn = endpoint({
  method: 'post',
  path: '/courses/:courseId/gradebook/columns/:itemId/place',
  needs: 'plan.edit',
  movesGrades: true,
  body: is<ColumnPlace>(),
  audit: 'column put into the Plan',
  undo: { none: 'It is deleted in the Plan like any item, and its results come back with it.' },
});

/** A column opened: its statistics, its curve, who is missing. */
export const getGradeColumn = endpoint({
  method: 'get',
  path: '/courses/:courseId/gradebook/columns/:columnId',
  needs: 'gradebook.see',
  query: asks({ section: 'id' }),
  answer: is<ColumnView>(),
});

/** A curve on a column. What was given stays; what becomes of it is worked out anew, so its ripple is seen first. */
export const setCurve = endpoint({
  method: 'put',
  path: '/courses/:courseId/gradebook/columns/:columnId/curve',
  needs: 'policy.edit',
  movesGrades: true,
  body: is<CurveChange>(),
  answer: is<{ readonly before: CurveChange }>(),
  audit: 'curve changed',
  undo: 'itself',
});

export const getCellWords = endpoint({
  method: 'get',
  path: '/courses/:courseId/gradebook/words/:columnId/:enrolmentId',
  needs: 'gradebook.see',
  answer: is<CellWords>(),
});

export const saveCellWords = endpoint({
  method: 'put',
  path: '/courses/:courseId/gradebook/words/:columnId/:enrolmentId',
  needs: 'gradebook.edit',
  body: is<CellWords>(),
  answer: is<{ readonly version: number }>(),
  audit: TYPED,
});

/** Which results, totals and letters differ between two instants, and which act made each another. */
export const getDifferences = endpoint({
  method: 'get',
  path: '/courses/:courseId/gradebook/differences',
  needs: 'gradebook.see',
  query: asks({ from: 'text', to: 'text' }, 'from'),
  answer: is<BookDifferences>(),
  isHeavy: true,
});

/** The gradebook as a table: of the columns and students named, or whole with what is needed to import it again. */
export const getGradebookTable = endpoint({
  method: 'get',
  path: '/courses/:courseId/gradebook/table',
  needs: 'gradebook.edit',
  query: asks({ format: ['csv', 'xlsx'], whole: 'flag', section: 'id', columns: 'text', students: 'text' }, 'format'),
  isStream: true,
  isHeavy: true,
});

/** Results of the course as the files of OneRoster 1.2, in one zip. */
export const getOneRosterResults = endpoint({
  method: 'get',
  path: '/courses/:courseId/gradebook/oneroster',
  needs: 'gradebook.edit',
  query: asks({ section: 'id' }),
  isStream: true,
  isHeavy: true,
});

/** The last changes in a column, whoever’s result it was. */
export const getColumnHistory = endpoint({
  method: 'get',
  path: '/courses/:courseId/gradebook/columns/:columnId/history',
  needs: 'gradebook.see',
  answer: is<ColumnHistory>(),
});

/** Reads a table of results; nothing of it is written. */
export const readGradebookTable = endpoint({
  method: 'post',
  path: '/courses/:courseId/gradebook/table/read',
  needs: 'gradebook.edit',
  isSilent: true,
  takesFile: 'file',
  answer: is<ReadTable>(),
  audit: LOOKS,
});

export const listKeptSchemes = endpoint({
  method: 'get',
  path: '/kept-schemes',
  needs: 'person',
  answer: is<readonly KeptScheme[]>(),
});

export const keepScheme = endpoint({
  method: 'post',
  path: '/kept-schemes',
  needs: 'person',
  body: is<NewKeptScheme>(),
  answer: is<readonly KeptScheme[]>(),
  audit: OWN,
});

export const changeKeptScheme = endpoint({
  method: 'patch',
  path: '/kept-schemes/:schemeId',
  needs: 'person',
  body: is<KeptChange>(),
  answer: is<readonly KeptScheme[]>(),
  audit: OWN,
});

export const removeKeptScheme = endpoint({
  method: 'delete',
  path: '/kept-schemes/:schemeId',
  needs: 'person',
  answer: is<readonly KeptScheme[]>(),
  audit: OWN,
});

export const restoreKeptScheme = endpoint({
  method: 'post',
  path: '/kept-schemes/:schemeId/restore',
  needs: 'person',
  answer: is<readonly KeptScheme[]>(),
  audit: OWN,
});
