import { asks, endpoint, is, LOOKS } from '../contract.ts';
import type { NewCourse } from '../course.ts';
import type { FirstSteps } from '../firstSteps.ts';
import type { ActivitySetting, TaskTypes, TaskTypesChange } from '../progressSetting.ts';
import type {
  CourseLook,
  EmbedHosts,
  HolidayCountries,
  PublicHolidays,
  JobAgain,
  JobFailure,
  ListsDone,
  ListsPreview,
  NewPerson,
  PersonChange,
  NewTerm,
  School,
  Storage,
  StorageLimits,
  LedgerCheck,
  TermChange,
} from '../school.ts';

/** The school’s types of task, which whoever builds a course chooses from. */
export const listTaskTypes = endpoint({
  method: 'get',
  path: '/task-types',
  needs: 'person',
  answer: is<TaskTypes>(),
});

export const changeTaskTypes = endpoint({
  method: 'put',
  path: '/school/task-types',
  needs: 'school.administer',
  body: is<TaskTypesChange>(),
  answer: is<TaskTypes>(),
  audit: 'types of task changed',
});

/** For how long activity is kept, which everybody may know of whom it is recorded. */
export const getActivitySetting = endpoint({
  method: 'get',
  path: '/activity-setting',
  needs: 'person',
  answer: is<ActivitySetting>(),
});

export const changeActivitySetting = endpoint({
  method: 'put',
  path: '/school/activity',
  needs: 'school.administer',
  body: is<ActivitySetting>(),
  answer: is<ActivitySetting>(),
  audit: 'keeping of activity changed',
});

export const getJobFailures = endpoint({
  method: 'get',
  path: '/school/jobs',
  needs: 'school.administer',
  answer: is<{ readonly failures: readonly JobFailure[] }>(),
});

export const tryJobAgain = endpoint({
  method: 'post',
  path: '/school/jobs/again',
  needs: 'school.administer',
  body: is<JobAgain>(),
  answer: is<{ readonly failures: readonly JobFailure[] }>(),
  audit: 'background work tried again',
});

export const getLedgerChecks = endpoint({
  method: 'get',
  path: '/school/ledger',
  needs: 'school.administer',
  answer: is<{ readonly checks: readonly LedgerCheck[] }>(),
});

/** Replays the ledger now and holds it against the grades that are kept. */
export const checkLedgerNow = endpoint({
  method: 'post',
  path: '/school/ledger',
  needs: 'school.administer',
  answer: is<{ readonly checks: readonly LedgerCheck[] }>(),
  audit: 'ledger compared',
});

export const previewLists = endpoint({
  method: 'post',
  path: '/school/lists/preview',
  needs: 'school.administer',
  takesFile: 'file',
  answer: is<ListsPreview>(),
  audit: LOOKS,
});

export const importLists = endpoint({
  method: 'post',
  path: '/school/lists',
  needs: 'school.administer',
  takesFile: 'file',
  query: asks({ zone: 'text' }),
  answer: is<ListsDone>(),
  audit: 'lists imported',
});

export const listEmbedHosts = endpoint({
  method: 'get',
  path: '/embed-hosts',
  needs: 'person',
  answer: is<{ readonly hosts: readonly string[] }>(),
});

export const changeEmbedHosts = endpoint({
  method: 'put',
  path: '/school/embed-hosts',
  needs: 'school.administer',
  body: is<EmbedHosts>(),
  answer: is<{ readonly hosts: readonly string[] }>(),
  audit: 'sites for embeds changed',
});

export const getStorage = endpoint({
  method: 'get',
  path: '/school/storage',
  needs: 'school.administer',
  answer: is<Storage>(),
});

export const changeStorage = endpoint({
  method: 'put',
  path: '/school/storage',
  needs: 'school.administer',
  body: is<StorageLimits>(),
  answer: is<Storage>(),
  audit: 'limits of storage changed',
});

export const getSchool = endpoint({
  method: 'get',
  path: '/school',
  needs: 'school.administer',
  answer: is<School>(),
});

export const changeTerm = endpoint({
  method: 'put',
  path: '/school/terms/:termId',
  needs: 'school.administer',
  body: is<TermChange>(),
  answer: is<{ readonly id: string; readonly school: School }>(),
  audit: 'term changed',
});

export const addTerm = endpoint({
  method: 'post',
  path: '/school/terms',
  needs: 'school.administer',
  body: is<NewTerm>(),
  answer: is<{ readonly id: string; readonly school: School }>(),
  audit: 'term added',
});

export const addPerson = endpoint({
  method: 'post',
  path: '/school/people',
  needs: 'school.administer',
  body: is<NewPerson>(),
  answer: is<{ readonly id: string; readonly school: School }>(),
  audit: 'person added',
});

export const addCourse = endpoint({
  method: 'post',
  path: '/school/courses',
  needs: 'school.administer',
  body: is<NewCourse>(),
  answer: is<{ readonly id: string; readonly school: School }>(),
  audit: 'course added',
});

/** Deletes any course, with students too; it is closed, and can be put back. */
export const removeSchoolCourse = endpoint({
  method: 'delete',
  path: '/school/courses/:id',
  needs: 'school.administer',
  answer: is<{ readonly school: School }>(),
  audit: 'course deleted',
});

export const restoreSchoolCourse = endpoint({
  method: 'post',
  path: '/school/courses/:id/restore',
  needs: 'school.administer',
  answer: is<{ readonly school: School }>(),
  audit: 'course put back',
});

export const changePerson = endpoint({
  method: 'patch',
  path: '/school/people/:id',
  needs: 'school.administer',
  body: is<PersonChange>(),
  answer: is<{ readonly school: School }>(),
  audit: 'person changed',
});

/** What the school has and lacks until its first students read something. */
export const getSchoolSteps = endpoint({
  method: 'get',
  path: '/school/first-steps',
  needs: 'school.administer',
  answer: is<FirstSteps>(),
});

export const listHolidayCountries = endpoint({
  method: 'get',
  path: '/public-holidays/countries',
  needs: 'school.administer',
  answer: is<HolidayCountries>(),
});

export const listPublicHolidays = endpoint({
  method: 'get',
  path: '/public-holidays',
  needs: 'school.administer',
  query: asks({ country: 'text', from: 'text', to: 'text', region: 'text' }, 'country', 'from', 'to'),
  answer: is<PublicHolidays>(),
});

/** An administrator looks into a course for some hours. Its history says so, and nothing in it can be changed meanwhile. */
export const beginLook = endpoint({
  method: 'post',
  path: '/school/courses/:id/look',
  needs: 'school.administer',
  answer: is<CourseLook>(),
  audit: 'looked into as an administrator',
});

export const endLook = endpoint({
  method: 'delete',
  path: '/school/courses/:id/look',
  needs: 'school.administer',
  audit: 'look of an administrator ended',
});
