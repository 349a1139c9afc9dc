import { type AnnouncementChange, announcementChange } from '@rosemary/api';
import * as api from '@rosemary/api/endpoints';
import { announceTalk } from '../notices/index.ts';
import { implement, type MemberContext, type Route } from '../platform/route.ts';
import { listPresent } from '../roster/index.ts';
import { addAnnouncement, changeAnnouncement, listAnnouncements, readAnnouncement, setAnnouncementRemoved } from './announcements.ts';

const newsOf = (c: MemberContext<unknown>) => listAnnouncements(c.db, c.courseId, c.member, c.person.personId, c.now);

/** Students hear of what is published, and is for their section. */
async function tellReaders(c: MemberContext<AnnouncementChange>): Promise<void> {
  const { publishAt, sectionIds } = c.body;
  const isPublished = publishAt !== null && Date.parse(publishAt) <= c.now;
  if (isPublished && sectionIds.length === 0) return announceTalk(c, { kind: 'everybody' });
  const enrolmentIds = isPublished ? await listPresent(c.db, c.courseId, { studentsOf: sectionIds }) : [];
  return announceTalk(c, { kind: 'staffAnd', enrolmentIds });
}

async function setNews(c: MemberContext<unknown, { readonly announcementId: string }>, removedAt: number | null) {
  await setAnnouncementRemoved(c.db, c.courseId, c.params.announcementId, removedAt);
  return newsOf(c);
}

export const announcementRoutes: readonly Route[] = [
  implement(api.getAnnouncements, newsOf),
  implement(api.addAnnouncement, announcementChange, async (c) => {
    const id = await addAnnouncement(c.db, c.courseId, c.body, c.person.personId, c.now);
    await tellReaders(c);
    return { id, ...(await newsOf(c)) };
  }),
  implement(api.changeAnnouncement, announcementChange, async (c) => {
    await changeAnnouncement(c.db, c.courseId, c.params.announcementId, c.body, c.now);
    await tellReaders(c);
    return newsOf(c);
  }),
  implement(api.removeAnnouncement, (c) => setNews(c, c.now)),
  implement(api.restoreAnnouncement, (c) => setNews(c, null)),
  implement(api.readAnnouncement, (c) => readAnnouncement(c.db, c.courseId, c.params.announcementId, c.member, c.person.personId, c.now)),
];
