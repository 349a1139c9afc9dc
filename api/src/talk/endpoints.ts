import type { TextSaved } from '../plan.ts';
import { endpoint, is, OWN, OWN_WORK, TALK } from '../contract.ts';
import type { Conversation, MessageSent, Messages, NewMessage, NewReply } from '../messages.ts';
import type {
  AnnouncementChange,
  AnnouncementView,
  Announcements,
  CalendarView,
  DiscussionChange,
  DiscussionView,
  NewPost,
  NoticeChoice,
  NoticesView,
  OutboxMail,
  PostChange,
  PostsRead,
} from '../talk.ts';

export const getAnnouncements = endpoint({
  method: 'get',
  path: '/courses/:courseId/announcements',
  needs: 'course.see',
  answer: is<Announcements>(),
});

export const addAnnouncement = endpoint({
  method: 'post',
  path: '/courses/:courseId/announcements',
  needs: 'plan.edit',
  body: is<AnnouncementChange>(),
  answer: is<{ readonly announcements: readonly AnnouncementView[]; readonly canWrite: boolean; readonly id: string }>(),
  audit: 'announcement written',
});

export const changeAnnouncement = endpoint({
  method: 'put',
  path: '/courses/:courseId/announcements/:announcementId',
  needs: 'plan.edit',
  body: is<AnnouncementChange>(),
  answer: is<Announcements>(),
  audit: 'announcement changed',
});

export const removeAnnouncement = endpoint({
  method: 'delete',
  path: '/courses/:courseId/announcements/:announcementId',
  needs: 'plan.edit',
  answer: is<Announcements>(),
  audit: 'announcement deleted',
});

export const restoreAnnouncement = endpoint({
  method: 'post',
  path: '/courses/:courseId/announcements/:announcementId/restore',
  needs: 'plan.edit',
  answer: is<Announcements>(),
  audit: 'announcement brought back',
});

export const readAnnouncement = endpoint({
  method: 'post',
  path: '/courses/:courseId/announcements/:announcementId/read',
  needs: 'course.see',
  isDoneInArchive: true,
  isSilent: true,
  audit: OWN_WORK,
});

export const getDiscussion = endpoint({
  method: 'get',
  path: '/courses/:courseId/discussions/:itemId',
  needs: 'course.see',
  answer: is<DiscussionView>(),
});

export const changeDiscussion = endpoint({
  method: 'put',
  path: '/courses/:courseId/discussions/:itemId',
  needs: 'plan.edit',
  body: is<DiscussionChange>(),
  answer: is<TextSaved>(),
  audit: 'discussion changed',
});

export const addPost = endpoint({
  method: 'post',
  path: '/courses/:courseId/discussions/:itemId/posts',
  needs: 'course.see',
  gives: true,
  body: is<NewPost>(),
  answer: is<DiscussionView>(),
  audit: TALK,
});

export const changePost = endpoint({
  method: 'patch',
  path: '/courses/:courseId/discussions/:itemId/posts/:postId',
  needs: 'course.see',
  body: is<PostChange>(),
  answer: is<DiscussionView>(),
  audit: TALK,
});

export const readPosts = endpoint({
  method: 'post',
  path: '/courses/:courseId/discussions/:itemId/read',
  needs: 'course.see',
  isDoneInArchive: true,
  isSilent: true,
  body: is<PostsRead>(),
  audit: TALK,
});

export const getCourseCalendar = endpoint({
  method: 'get',
  path: '/courses/:courseId/calendar',
  needs: 'course.see',
  answer: is<CalendarView>(),
});

export const getCalendar = endpoint({
  method: 'get',
  path: '/calendar',
  needs: 'person',
  answer: is<CalendarView>(),
});

export const getCalendarFeed = endpoint({
  method: 'get',
  path: '/calendar-feed',
  needs: 'person',
  answer: is<{ readonly secret: string }>(),
});

export const renewCalendarFeed = endpoint({
  method: 'post',
  path: '/calendar-feed',
  needs: 'person',
  answer: is<{ readonly secret: string }>(),
  audit: OWN,
});

export const getCalendarFile = endpoint({
  method: 'get',
  path: '/calendars/:secret',
  needs: 'public',
  isStream: true,
});

export const getNotices = endpoint({
  method: 'get',
  path: '/notices',
  needs: 'person',
  answer: is<NoticesView>(),
});

export const seeNotices = endpoint({
  method: 'post',
  path: '/notices/seen',
  needs: 'person',
  answer: is<NoticesView>(),
  audit: OWN,
});

export const chooseNotices = endpoint({
  method: 'put',
  path: '/notices/choices',
  needs: 'person',
  body: is<NoticeChoice>(),
  answer: is<NoticesView>(),
  audit: OWN,
});

export const getOutbox = endpoint({
  method: 'get',
  path: '/outbox',
  needs: 'person',
  answer: is<{ readonly mails: readonly OutboxMail[] }>(),
});

export const getMessages = endpoint({
  method: 'get',
  path: '/courses/:courseId/messages',
  needs: 'course.see',
  answer: is<Messages>(),
});

export const sendMessage = endpoint({
  method: 'post',
  path: '/courses/:courseId/messages',
  needs: 'course.see',
  isSilent: true,
  body: is<NewMessage>(),
  answer: is<MessageSent>(),
  audit: TALK,
});

export const getConversation = endpoint({
  method: 'get',
  path: '/courses/:courseId/messages/:conversationId',
  needs: 'course.see',
  answer: is<Conversation>(),
});

export const replyToMessage = endpoint({
  method: 'post',
  path: '/courses/:courseId/messages/:conversationId',
  needs: 'course.see',
  isSilent: true,
  body: is<NewReply>(),
  answer: is<Conversation>(),
  audit: TALK,
});

export const readConversation = endpoint({
  method: 'post',
  path: '/courses/:courseId/messages/:conversationId/read',
  needs: 'course.see',
  isDoneInArchive: true,
  isSilent: true,
  audit: TALK,
});
