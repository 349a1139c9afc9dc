import type { DocumentNode } from '@rosemary/core';
import { document, id, instant, Joi, title, version } from './joi.ts';

export interface AnnouncementView {
  readonly id: string;
  readonly title: string;
  readonly document: DocumentNode;
  readonly author: string;
  readonly publishAt: string;
  /** Still to come; only staff see it until then. */
  readonly isScheduled: boolean;
  readonly sections: readonly { readonly id: string; readonly title: string }[];
  readonly tells: boolean;
  readonly isRead: boolean;
  /** How many of those it is for have opened it; null for students. */
  readonly readers: { readonly read: number; readonly of: number } | null;
  readonly version: number;
}
export interface Announcements {
  readonly announcements: readonly AnnouncementView[];
  readonly canWrite: boolean;
}
export interface AnnouncementChange {
  readonly version: number;
  readonly title: string;
  readonly document: DocumentNode;
  /** Null is at once. */
  readonly publishAt: string | null;
  readonly sectionIds: string[];
  readonly tells: boolean;
}
export const announcementChange = Joi.object<AnnouncementChange, true>({
  version: version(),
  title: title().required().label('Title'),
  document: document().required().label('Text'),
  publishAt: instant().required().label('Published'),
  sectionIds: Joi.array().max(60).unique().items(id()).required().label('Sections'),
  tells: Joi.boolean().required(),
});

export interface PostView {
  readonly id: string;
  readonly title: string;
  /** Null where it is not for this reader's eyes: taken back by its author, or hidden. */
  readonly document: DocumentNode | null;
  readonly author: string;
  readonly isStaff: boolean;
  readonly isOwn: boolean;
  readonly at: string;
  readonly isEdited: boolean;
  readonly state: 'shown' | 'hidden' | 'taken back';
  readonly isPinned: boolean;
  readonly isClosed: boolean;
  readonly isUnread: boolean;
  readonly version: number;
}
export interface Thread extends PostView {
  readonly replies: readonly PostView[];
  readonly unread: number;
}
export interface DiscussionView {
  readonly title: string;
  readonly document: DocumentNode;
  readonly version: number;
  readonly isPostFirst: boolean;
  readonly isClosed: boolean;
  readonly threads: readonly Thread[];
  /** Others' posts are shown once one has written: true until then. */
  readonly mustPostFirst: boolean;
  /** Why nothing can be written now; null where it can. */
  readonly whyNot: string | null;
  readonly canModerate: boolean;
  readonly possible: number;
  /** Who has written how much; empty for students. */
  readonly people: readonly { readonly enrolmentId: string; readonly name: string; readonly posts: number; readonly words: number }[];
}
export interface DiscussionChange {
  readonly version: number;
  readonly document?: DocumentNode;
  readonly isPostFirst?: boolean;
  readonly isClosed?: boolean;
}
export const discussionChange = Joi.object<DiscussionChange, true>({
  version: version(),
  document: document(),
  isPostFirst: Joi.boolean(),
  isClosed: Joi.boolean(),
});
/** The identifier is made by the writer, so that a post sent twice is there once. */
export interface NewPost {
  readonly id: string;
  readonly threadId: string | null;
  readonly title: string;
  readonly document: DocumentNode;
}
export const newPost = Joi.object<NewPost, true>({
  id: id().required(),
  threadId: id().allow(null).required(),
  title: Joi.string().trim().allow('').max(160).required().label('Title'),
  document: document().required().label('Text'),
});
export interface PostChange {
  readonly version: number;
  readonly document?: DocumentNode;
  readonly isTakenBack?: boolean;
  readonly isHidden?: boolean;
  readonly isPinned?: boolean;
  readonly isClosed?: boolean;
}
export const postChange = Joi.object<PostChange, true>({
  version: version(),
  document: document().label('Text'),
  isTakenBack: Joi.boolean(),
  isHidden: Joi.boolean(),
  isPinned: Joi.boolean(),
  isClosed: Joi.boolean(),
});
export interface PostsRead {
  readonly postIds: string[];
}
export const postsRead = Joi.object<PostsRead, true>({ postIds: Joi.array().max(2000).items(id()).required() });

export const NOTICE_KINDS = ['announcement', 'reply', 'returned', 'review', 'message'] as const;
export type NoticeKind = (typeof NOTICE_KINDS)[number];
export interface NoticeView {
  readonly id: string;
  readonly kind: NoticeKind;
  readonly words: string;
  readonly course: string;
  readonly path: string;
  readonly at: string;
  readonly isSeen: boolean;
}
export interface NoticeChoice {
  readonly kind: NoticeKind;
  readonly isShown: boolean;
  readonly isMailed: boolean;
}
export interface NoticesView {
  readonly notices: readonly NoticeView[];
  readonly unseen: number;
  readonly choices: readonly NoticeChoice[];
}
export const noticeChoice = Joi.object<NoticeChoice, true>({
  kind: Joi.string()
    .valid(...NOTICE_KINDS)
    .required(),
  isShown: Joi.boolean().required(),
  isMailed: Joi.boolean().required(),
});
export interface OutboxMail {
  readonly id: string;
  readonly to: string;
  readonly subject: string;
  readonly body: string;
  readonly at: string;
}

/** A thing with a time in a calendar. */
export interface CalendarEntry {
  readonly id: string;
  readonly courseId: string;
  readonly course: string;
  readonly kind: 'due' | 'opens' | 'closes' | 'holiday' | 'announcement';
  readonly title: string;
  readonly at: string;
  /** For what lasts whole days: its last one; null for an instant. */
  readonly until: string | null;
  readonly path: string;
  /** Whose date it is, where it is not everyone's. */
  readonly reason: string;
  /** The sections it is for; null is all of them. To a student everything in the calendar is theirs. */
  readonly sectionIds: readonly string[] | null;
}
export interface CalendarView {
  readonly entries: readonly CalendarEntry[];
  readonly timeZone: string;
  readonly now: string;
}
