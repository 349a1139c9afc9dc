import * as api from '@rosemary/api/endpoints';
import { announcementChange, discussionChange, newPost, noticeChoice, postChange, postsRead } from '@rosemary/api';
import { maybe } from '../platform/database.ts';
import { AppError } from '../platform/errors.ts';
import { implement, type MemberContext, type Route } from '../platform/route.ts';
import { addAnnouncement, changeAnnouncement, listAnnouncements, readAnnouncement, setAnnouncementRemoved } from './announcements.ts';
import { getFeedSecret, makeCalendar, makeFeed } from './calendar.ts';
import { addPost, changePost, getDiscussion, saveDiscussion, setPostsRead } from './discussions.ts';
import { getNotices, listOutbox, setChoice, setSeen } from './notices.ts';
import { announceTalk } from './announceTalk.ts';

const discussionOf = (c: MemberContext<unknown>) =>
  getDiscussion(c.db, c.courseId, c.params.itemId ?? '', c.member, c.person.personId, c.now);
const newsOf = (c: MemberContext<unknown>) => listAnnouncements(c.db, c.courseId, c.member, c.person.personId, c.now);

async function setNews(c: MemberContext<unknown, { readonly announcementId: string }>, removedAt: number | null) {
  await setAnnouncementRemoved(c.db, c.courseId, c.params.announcementId, removedAt);
  return newsOf(c);
}

export const talkRoutes: readonly Route[] = [
  implement(api.getAnnouncements, newsOf),
  implement(api.addAnnouncement, announcementChange, async (c) => {
    const id = await addAnnouncement(c.db, c.courseId, c.body, c.person.personId, c.now);
    await announceTalk(c);
    return { id, ...(await newsOf(c)) };
  }),
  implement(api.changeAnnouncement, announcementChange, async (c) => {
    await changeAnnouncement(c.db, c.courseId, c.params.announcementId, c.body, c.now);
    await announceTalk(c);
    return newsOf(c);
  }),
  implement(api.removeAnnouncement, (c) => setNews(c, c.now)),
  implement(api.restoreAnnouncement, (c) => setNews(c, null)),
  implement(api.readAnnouncement, (c) => readAnnouncement(c.db, c.courseId, c.params.announcementId, c.member, c.person.personId, c.now)),
  implement(api.getDiscussion, discussionOf),
  implement(api.changeDiscussion, discussionChange, async (c) => ({
    version: await saveDiscussion(c.db, c.courseId, c.params.itemId, c.body, c.now),
  })),
  implement(api.addPost, newPost, async (c) => {
    await addPost(c.db, c.courseId, c.params.itemId, c.member, c.person.personId, c.body, c.now);
    await announceTalk(c);
    return discussionOf(c);
  }),
  implement(api.changePost, postChange, async (c) => {
    await changePost(c.db, c.courseId, c.params.itemId, c.params.postId, c.member, c.person.personId, c.body, c.now);
    await announceTalk(c);
    return discussionOf(c);
  }),
  implement(api.readPosts, postsRead, (c) =>
    setPostsRead(c.db, c.courseId, c.params.itemId, c.member, c.person.personId, c.body.postIds, c.now),
  ),
  implement(api.getCourseCalendar, (c) => makeCalendar(c.db, [c.member], c.person.personId, c.now)),
  implement(api.getCalendar, ({ db, person, now }) =>
    makeCalendar(
      db,
      person.memberships.filter((m) => m.isActive),
      person.personId,
      now,
    ),
  ),
  implement(api.getCalendarFeed, async ({ db, person, now }) => ({ secret: await getFeedSecret(db, person.personId, false, now) })),
  implement(api.renewCalendarFeed, async ({ db, person, now }) => ({ secret: await getFeedSecret(db, person.personId, true, now) })),
  implement(api.getCalendarFile, async ({ db, params, response, now }) => {
    const text = await makeFeed(db, params.secret, now);
    response.set({ 'content-type': 'text/calendar; charset=utf-8', 'cache-control': 'private, no-cache' }).send(text);
  }),
  implement(api.getNotices, ({ db, person }) => getNotices(db, person.personId)),
  implement(api.seeNotices, async ({ db, person, now }) => {
    await setSeen(db, person.personId, now);
    return getNotices(db, person.personId);
  }),
  implement(api.chooseNotices, noticeChoice, async ({ db, person, body }) => {
    await setChoice(db, person.personId, body);
    return getNotices(db, person.personId);
  }),
  implement(api.getOutbox, async ({ db, person }) => {
    const school = await maybe<{ is_demo: boolean }>(db, 'select is_demo from school');
    if (school?.is_demo !== true && !person.isAdministrator)
      throw new AppError('refused', 'The outbox is for administrators of the school.');
    return { mails: await listOutbox(db) };
  }),
];
