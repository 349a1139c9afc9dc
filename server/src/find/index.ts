export { findRoutes } from './routes.ts';
