export { drawReviewers, givePeerResults } from './jobs.ts';
export { peerRoutes } from './routes.ts';
