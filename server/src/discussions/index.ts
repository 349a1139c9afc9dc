export { addPost } from './discussions.ts';
export { discussionRoutes } from './routes.ts';
