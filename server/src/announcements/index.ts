export { addAnnouncement, listAnnouncements, moveAnnouncement, tellAnnouncements } from './announcements.ts';
export { announcementRoutes } from './routes.ts';
export { listRemovedAnnouncements, listTitlesOfAnnouncements } from './removed.ts';
