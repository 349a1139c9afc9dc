export { addPost, saveDiscussion } from './discussions.ts';
export { discussionRoutes } from './routes.ts';
