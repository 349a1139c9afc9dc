import { asks, endpoint, is, LEDGER } from '../contract.ts';
import type {
  BookRow,
  CellChange,
  CellSaved,
  Gradebook,
  HistoryEntry,
  PolicyChange,
  PolicyPast,
  PolicyView,
  UndoEvent,
  WorkingView,
} from '../gradebook.ts';

export const getGradebook = endpoint({
  method: 'get',
  path: '/courses/:courseId/gradebook',
  needs: 'gradebook.see',
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
  query: asks({ of: 'text' }),
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
