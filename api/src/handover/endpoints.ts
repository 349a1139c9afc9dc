import { asks, endpoint, is, LOOKS } from '../contract.ts';
import type {
  AgreeWish,
  ApproveWish,
  FinalChoice,
  FinalSettingChange,
  FinalsView,
  LetterTableChange,
  ReadBack,
  ReopenWish,
  RowHistoryEntry,
  SchoolHandover,
  SchoolHandoverSetting,
  SendAnswer,
  SendWish,
} from '../handover.ts';

export const getFinals = endpoint({
  method: 'get',
  path: '/courses/:courseId/finals',
  needs: 'gradebook.edit',
  answer: is<FinalsView>(),
});

/** Asks the registrar anew what he takes and when. */
export const askRegistrar = endpoint({
  method: 'post',
  path: '/courses/:courseId/finals/registrar',
  needs: 'gradebook.edit',
  isSilent: true,
  isDoneInArchive: true,
  audit: LOOKS,
});

export const agreeFinals = endpoint({
  method: 'post',
  path: '/courses/:courseId/finals/agreed',
  needs: 'gradebook.edit',
  body: is<AgreeWish>(),
  answer: is<FinalsView>(),
  audit: 'final grades agreed',
});

export const takeBackFinals = endpoint({
  method: 'post',
  path: '/courses/:courseId/finals/taken-back',
  needs: 'gradebook.edit',
  body: is<FinalChoice>(),
  answer: is<FinalsView>(),
  audit: 'agreement on final grades taken back',
});

export const sendFinals = endpoint({
  method: 'post',
  path: '/courses/:courseId/finals/sent',
  needs: 'grades.handOver',
  body: is<SendWish>(),
  answer: is<SendAnswer>(),
  audit: 'final grades sent',
});

/** Tries at once what waits or is unknown. */
export const tryFinals = endpoint({
  method: 'post',
  path: '/courses/:courseId/finals/tries',
  needs: 'grades.handOver',
  body: is<FinalChoice>(),
  audit: 'final grades tried again',
});

/** Notes that grades were entered at the registrar by hand. */
export const noteFinals = endpoint({
  method: 'post',
  path: '/courses/:courseId/finals/by-hand',
  needs: 'grades.handOver',
  body: is<FinalChoice>(),
  answer: is<SendAnswer>(),
  audit: 'final grades entered by hand',
});

export const getFinalHistory = endpoint({
  method: 'get',
  path: '/courses/:courseId/finals/:enrolmentId/history',
  needs: 'gradebook.edit',
  answer: is<{ readonly entries: readonly RowHistoryEntry[] }>(),
});

/** Has the registrar asked what he holds of a section. */
export const readBackFinals = endpoint({
  method: 'post',
  path: '/courses/:courseId/finals/sections/:sectionId/read-back',
  needs: 'grades.handOver',
  isSilent: true,
  isDoneInArchive: true,
  audit: LOOKS,
});

export const getReadBack = endpoint({
  method: 'get',
  path: '/courses/:courseId/finals/sections/:sectionId/read-back',
  needs: 'gradebook.edit',
  answer: is<ReadBack>(),
});

/** Stops grades that have not been sent yet. */
export const stopFinals = endpoint({
  method: 'post',
  path: '/courses/:courseId/finals/stopped',
  needs: 'grades.handOver',
  body: is<FinalChoice>(),
  answer: is<FinalsView>(),
  audit: 'final grades stopped before they were sent',
});

/** Agreed grades as a table for the registrar’s form, or as results of OneRoster 1.2. */
export const getFinalsTable = endpoint({
  method: 'get',
  path: '/courses/:courseId/finals/table',
  needs: 'gradebook.edit',
  query: asks({ format: ['csv', 'oneroster'], section: 'id' }, 'format'),
  isStream: true,
});

/** The record of a section as a file. */
export const getFinalRecord = endpoint({
  method: 'get',
  path: '/courses/:courseId/finals/records/:recordId',
  needs: 'gradebook.edit',
  query: asks({ format: ['csv', 'pdf'] }, 'format'),
  isStream: true,
});

export const changeFinalSetting = endpoint({
  method: 'put',
  path: '/courses/:courseId/finals/setting',
  needs: 'policy.edit',
  body: is<FinalSettingChange>(),
  answer: is<FinalsView>(),
  audit: 'what students see of final grades changed',
});

export const reopenGrades = endpoint({
  method: 'post',
  path: '/courses/:courseId/finals/reopened',
  needs: 'grades.handOver',
  body: is<ReopenWish>(),
  answer: is<FinalsView>(),
  audit: 'grades reopened',
});

export const getSchoolHandover = endpoint({
  method: 'get',
  path: '/school/handover',
  needs: 'school.administer',
  answer: is<SchoolHandover>(),
});

export const saveSchoolHandover = endpoint({
  method: 'put',
  path: '/school/handover',
  needs: 'school.administer',
  body: is<SchoolHandoverSetting>(),
  answer: is<SchoolHandover>(),
  audit: 'rules of final grades changed',
});

export const saveLetterTable = endpoint({
  method: 'put',
  path: '/school/handover/letters',
  needs: 'school.administer',
  body: is<LetterTableChange>(),
  answer: is<SchoolHandover>(),
  audit: 'letters of the registrar changed',
});

export const approveFinals = endpoint({
  method: 'post',
  path: '/school/handover/approved',
  needs: 'school.administer',
  body: is<ApproveWish>(),
  answer: is<SchoolHandover>(),
  audit: 'corrections of final grades approved',
});

/** Asks the registrar anew what he takes and when. */
export const askSchoolRegistrar = endpoint({
  method: 'post',
  path: '/school/handover/registrar',
  needs: 'school.administer',
  audit: LOOKS,
});

/** This instructor hands over the grades of their course from now on. */
export const setOfRecord = endpoint({
  method: 'put',
  path: '/school/handover/of-record/:enrolmentId',
  needs: 'school.administer',
  answer: is<SchoolHandover>(),
  audit: 'instructor of record changed',
});

/** Mails every instructor of record who has grades left to hand over. */
export const remindOfFinals = endpoint({
  method: 'post',
  path: '/school/handover/reminders',
  needs: 'school.administer',
  answer: is<{ readonly reminded: number; readonly withoutAnybody: readonly string[] }>(),
  audit: 'instructors reminded of final grades',
});
