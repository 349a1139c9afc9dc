export { schoolRoutes } from './routes.ts';
