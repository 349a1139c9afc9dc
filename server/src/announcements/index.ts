export { addAnnouncement, listAnnouncements, moveAnnouncement, setAnnouncementRemoved, tellAnnouncements } from './announcements.ts';
export { announcementRoutes } from './routes.ts';
export { listRemovedAnnouncements, listTitlesOfAnnouncements } from './removed.ts';
