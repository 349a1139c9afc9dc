export { dateSheetRoutes } from './routes.ts';
