/** Every address there is, each with what it needs, takes, answers and does. */
export * from './bank/endpoints.ts';
export * from './course/endpoints.ts';
export * from './desk/endpoints.ts';
export * from './exchange/endpoints.ts';
export * from './files/endpoints.ts';
export * from './find/endpoints.ts';
export * from './followUp/endpoints.ts';
export * from './giving/endpoints.ts';
export * from './gradebook/endpoints.ts';
export * from './groups/endpoints.ts';
export * from './handover/endpoints.ts';
export * from './history/endpoints.ts';
export * from './marking/endpoints.ts';
export * from './matching/endpoints.ts';
export * from './objectives/endpoints.ts';
export * from './paperTest/endpoints.ts';
export * from './peer/endpoints.ts';
export * from './people/endpoints.ts';
export * from './plan/endpoints.ts';
export * from './progress/endpoints.ts';
export * from './quiz/endpoints.ts';
export * from './release/endpoints.ts';
export * from './roster/endpoints.ts';
export * from './school/endpoints.ts';
export * from './student/endpoints.ts';
export * from './talk/endpoints.ts';
export { addressOf, changesCourse, onlyLooks, urlOf } from './contract.ts';
export type {
  AnswerOf,
  AskedKind,
  BodyOf,
  Endpoint,
  GradeMoving,
  NotAudited,
  Nothing,
  ParamsOf,
  PathOf,
  QueryOf,
  Reading,
  Writing,
} from './contract.ts';
