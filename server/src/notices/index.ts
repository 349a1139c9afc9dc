export { announceTalk } from './announceTalk.ts';
export { tell } from './notices.ts';
export { noticeRoutes } from './routes.ts';
export { countUnread } from './unread.ts';
export { sendMails, takeNotices } from './take.ts';
