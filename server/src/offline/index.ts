export { offlineRoutes } from './routes.ts';
