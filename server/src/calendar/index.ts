export { calendarRoutes } from './routes.ts';
