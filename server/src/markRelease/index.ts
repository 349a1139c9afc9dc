export { releaseMarks } from './releases.ts';
export { markingReleaseRoutes } from './routes.ts';
