export { qtiRoutes } from './qtiRoutes.ts';
export { exchangeRoutes } from './routes.ts';
