export { bankRoutes } from './routes.ts';
export { searchBank } from './search.ts';
