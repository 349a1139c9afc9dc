export { matchingRoutes } from './matchingRoutes.ts';
export { listReached, reach, type Reached } from './reached.ts';
export { markingRoutes } from './routes.ts';
export { shareRoutes } from './shareRoutes.ts';
export { makeStack, stateOf } from './stack.ts';
export { wordsAsDocument } from './together.ts';
export { togetherRoutes } from './togetherRoutes.ts';
export { countToMark, listWaiting, type Waiting } from './waiting.ts';
export { listWorkGroups, listWorks, type MarkedWork, worksOf } from './works.ts';
