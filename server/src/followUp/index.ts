export { followResults } from './follow.ts';
export { followUpRoutes } from './routes.ts';
