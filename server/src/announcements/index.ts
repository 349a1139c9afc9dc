export { addAnnouncement, listAnnouncements, tellAnnouncements } from './announcements.ts';
export { announcementRoutes } from './routes.ts';
