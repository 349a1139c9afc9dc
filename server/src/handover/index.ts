export { type AgreedStep, addSteps, listAgreed } from './agreed.ts';
export { readFinalFacts, type FinalFacts } from './finals.ts';
export { handOverGrades } from './job.ts';
export { readOwnFinal } from './ownFinal.ts';
export { type HandoverStanding, readHandoverStanding } from './school.ts';
export { settleRecords } from './record.ts';
export { addRows, settleRows } from './rows.ts';
export { handoverRoutes } from './routes.ts';
