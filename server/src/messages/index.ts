export { replyTo, sendMessage } from './messages.ts';
export { messageRoutes } from './routes.ts';
export { unsend } from './unsend.ts';
