export { progressRoutes } from './routes.ts';
export { listWordSlips } from './words.ts';
