export { fileReachRoutes } from './routes.ts';
