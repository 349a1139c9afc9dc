export { givingRoutes } from './routes.ts';
