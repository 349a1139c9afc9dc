import { newMessage, newReply, type Messages, type NewMessage, type NewReply } from '@rosemary/api';
import { courseRoute, type MemberContext, type Route } from '../platform/route.ts';
import { announceTalk } from './announceTalk.ts';
import { getConversation, listMessages, replyTo, sendMessage, setConversationRead, type Writer } from './messages.ts';

const BASE = '/courses/:courseId/messages';
const ONE = `${BASE}/:conversationId`;
const writerOf = (c: MemberContext<unknown>): Writer => ({
  courseId: c.courseId,
  personId: c.person.personId,
  member: c.member,
  now: c.now,
});
export const messageRoutes: readonly Route[] = [
  courseRoute('course.see', {
    method: 'get',
    path: BASE,
    // Letters are private: whoever looks at the course as a student sees none of theirs.
    handle: (c): Promise<Messages> => (c.isSeenAs ? Promise.resolve({ conversations: [], people: [] }) : listMessages(c.db, writerOf(c))),
  }),
  courseRoute<NewMessage>('course.see', {
    method: 'post',
    path: BASE,
    isSilent: true,
    body: newMessage,
    handle: async (c) => {
      const sent = await sendMessage(c.db, writerOf(c), c.body);
      await announceTalk(c);
      return sent;
    },
  }),
  courseRoute('course.see', {
    method: 'get',
    path: ONE,
    handle: (c) => getConversation(c.db, writerOf(c), c.params.conversationId ?? ''),
  }),
  courseRoute<NewReply>('course.see', {
    method: 'post',
    path: ONE,
    isSilent: true,
    body: newReply,
    handle: async (c) => {
      const conversation = await replyTo(c.db, writerOf(c), c.params.conversationId ?? '', c.body);
      await announceTalk(c);
      return conversation;
    },
  }),
  courseRoute('course.see', {
    method: 'post',
    path: `${ONE}/read`,
    isSilent: true,
    handle: (c) => setConversationRead(c.db, writerOf(c), c.params.conversationId ?? ''),
  }),
];
