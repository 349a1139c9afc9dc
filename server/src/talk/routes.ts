import {
  announcementChange,
  discussionChange,
  newPost,
  noticeChoice,
  postChange,
  postsRead,
  type AnnouncementChange,
  type DiscussionChange,
  type NewPost,
  type NoticeChoice,
  type PostChange,
  type PostsRead,
} from '@rosemary/api';
import { writeAudit } from '../platform/audit.ts';
import { maybe } from '../platform/database.ts';
import { AppError } from '../platform/errors.ts';
import { courseRoute, personRoute, publicRoute, type MemberContext, type Route } from '../platform/route.ts';
import { addAnnouncement, changeAnnouncement, listAnnouncements, readAnnouncement, setAnnouncementRemoved } from './announcements.ts';
import { getFeedSecret, makeCalendar, makeFeed } from './calendar.ts';
import { addPost, changePost, getDiscussion, saveDiscussion, setPostsRead } from './discussions.ts';
import { getNotices, listOutbox, setChoice, setSeen } from './notices.ts';
import { announceTalk } from './announceTalk.ts';

const NEWS = '/courses/:courseId/announcements';
const TALK = '/courses/:courseId/discussions/:itemId';

const discussionOf = (c: MemberContext<unknown>) =>
  getDiscussion(c.db, c.courseId, c.params.itemId ?? '', c.member, c.person.personId, c.now);
const newsOf = (c: MemberContext<unknown>) => listAnnouncements(c.db, c.courseId, c.member, c.person.personId, c.now);

function newsRemoval(removes: boolean): Route {
  return courseRoute('plan.edit', {
    method: removes ? 'delete' : 'post',
    path: `${NEWS}/:announcementId${removes ? '' : '/restore'}`,
    handle: async (c) => {
      await setAnnouncementRemoved(c.db, c.courseId, c.params.announcementId ?? '', removes ? c.now : null);
      return newsOf(c);
    },
  });
}

export const talkRoutes: readonly Route[] = [
  courseRoute('course.see', { method: 'get', path: NEWS, handle: newsOf }),
  courseRoute<AnnouncementChange>('plan.edit', {
    method: 'post',
    path: NEWS,
    body: announcementChange,
    handle: async (c) => {
      const id = await addAnnouncement(c.db, c.courseId, c.body, c.person.personId, c.now);
      await writeAudit(c.db, { at: c.now, actorId: c.person.personId, courseId: c.courseId, action: 'announcement written', subject: id });
      await announceTalk(c);
      return { id, ...(await newsOf(c)) };
    },
  }),
  courseRoute<AnnouncementChange>('plan.edit', {
    method: 'put',
    path: `${NEWS}/:announcementId`,
    body: announcementChange,
    handle: async (c) => {
      await changeAnnouncement(c.db, c.courseId, c.params.announcementId ?? '', c.body, c.now);
      await announceTalk(c);
      return newsOf(c);
    },
  }),
  newsRemoval(true),
  newsRemoval(false),
  courseRoute('course.see', {
    method: 'post',
    path: `${NEWS}/:announcementId/read`,
    isSilent: true,
    handle: (c) => readAnnouncement(c.db, c.courseId, c.params.announcementId ?? '', c.member, c.person.personId, c.now),
  }),
  courseRoute('course.see', { method: 'get', path: TALK, handle: discussionOf }),
  courseRoute<DiscussionChange>('plan.edit', {
    method: 'put',
    path: TALK,
    body: discussionChange,
    handle: async (c) => ({ version: await saveDiscussion(c.db, c.courseId, c.params.itemId ?? '', c.body, c.now) }),
  }),
  courseRoute<NewPost>('course.see', {
    method: 'post',
    path: `${TALK}/posts`,
    gives: true,
    body: newPost,
    handle: async (c) => {
      await addPost(c.db, c.courseId, c.params.itemId ?? '', c.member, c.person.personId, c.body, c.now);
      await announceTalk(c);
      return discussionOf(c);
    },
  }),
  courseRoute<PostChange>('course.see', {
    method: 'patch',
    path: `${TALK}/posts/:postId`,
    body: postChange,
    handle: async (c) => {
      await changePost(c.db, c.courseId, c.params.itemId ?? '', c.params.postId ?? '', c.member, c.person.personId, c.body, c.now);
      await announceTalk(c);
      return discussionOf(c);
    },
  }),
  courseRoute<PostsRead>('course.see', {
    method: 'post',
    path: `${TALK}/read`,
    isSilent: true,
    body: postsRead,
    handle: (c) => setPostsRead(c.db, c.courseId, c.params.itemId ?? '', c.member, c.person.personId, c.body.postIds, c.now),
  }),
  courseRoute('course.see', {
    method: 'get',
    path: '/courses/:courseId/calendar',
    handle: (c) => makeCalendar(c.db, [c.member], c.person.personId, c.now),
  }),
  personRoute({
    method: 'get',
    path: '/calendar',
    handle: ({ db, person, now }) =>
      makeCalendar(
        db,
        person.memberships.filter((m) => m.isActive),
        person.personId,
        now,
      ),
  }),
  personRoute({
    method: 'get',
    path: '/calendar-feed',
    handle: async ({ db, person, now }) => ({ secret: await getFeedSecret(db, person.personId, false, now) }),
  }),
  personRoute({
    method: 'post',
    path: '/calendar-feed',
    handle: async ({ db, person, now }) => ({ secret: await getFeedSecret(db, person.personId, true, now) }),
  }),
  publicRoute({
    method: 'get',
    path: '/calendars/:secret',
    answers: 'stream',
    handle: async ({ db, params, response, now }) => {
      const text = await makeFeed(db, params.secret ?? '', now);
      response.set({ 'content-type': 'text/calendar; charset=utf-8', 'cache-control': 'private, no-cache' }).send(text);
    },
  }),
  personRoute({ method: 'get', path: '/notices', handle: ({ db, person }) => getNotices(db, person.personId) }),
  personRoute({
    method: 'post',
    path: '/notices/seen',
    handle: async ({ db, person, now }) => {
      await setSeen(db, person.personId, now);
      return getNotices(db, person.personId);
    },
  }),
  personRoute<NoticeChoice>({
    method: 'put',
    path: '/notices/choices',
    body: noticeChoice,
    handle: async ({ db, person, body }) => {
      await setChoice(db, person.personId, body);
      return getNotices(db, person.personId);
    },
  }),
  personRoute({
    method: 'get',
    path: '/outbox',
    handle: async ({ db, person }) => {
      const school = await maybe<{ is_demo: boolean }>(db, 'select is_demo from school');
      if (school?.is_demo !== true && !person.isAdministrator)
        throw new AppError('refused', 'The outbox is for administrators of the school.');
      return { mails: await listOutbox(db) };
    },
  }),
];
