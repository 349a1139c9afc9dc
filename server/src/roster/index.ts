export { listPresent } from './present.ts';
export { addMember, giveSections, setArrangements, makeOfRecord, withdrawMember } from './members.ts';
export { rosterRoutes } from './routes.ts';
export { addSampleStudent } from './sampleStudent.ts';
export { type Move, recordMoves } from './moves.ts';
