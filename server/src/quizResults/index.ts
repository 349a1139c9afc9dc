export { correctQuestion, markAgain } from './corrections.ts';
export { giveScore } from './giveScore.ts';
export { listWhom } from './listWhom.ts';
export { quizResultRoutes } from './routes.ts';
export { getStatistics } from './statistics.ts';
