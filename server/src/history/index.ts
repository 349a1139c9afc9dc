export { historyRoutes } from './routes.ts';
