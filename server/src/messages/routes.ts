import { type Messages, newMessage, newReply } from '@rosemary/api';
import * as api from '@rosemary/api/endpoints';
import { announceTalk } from '../notices/index.ts';
import { implement, type MemberContext, type Route } from '../platform/route.ts';
import { listPresent } from '../roster/index.ts';
import { getConversation, listInConversation, listMessages, replyTo, sendMessage, setConversationRead, type Writer } from './messages.ts';

const writerOf = (c: MemberContext<unknown>): Writer => ({
  courseId: c.courseId,
  personId: c.person.personId,
  member: c.member,
  now: c.now,
});

export const messageRoutes: readonly Route[] = [
  implement(api.getMessages, (c): Promise<Messages> =>
    c.isSeenAs ? Promise.resolve({ conversations: [], people: [] }) : listMessages(c.db, writerOf(c)),
  ),
  implement(api.sendMessage, newMessage, async (c) => {
    const sent = await sendMessage(c.db, writerOf(c), c.body);
    await announceTalk(c, {
      kind: 'only',
      enrolmentIds: await listPresent(c.db, c.courseId, { personIds: [...c.body.personIds, c.person.personId] }),
    });
    return sent;
  }),
  implement(api.getConversation, (c) => getConversation(c.db, writerOf(c), c.params.conversationId)),
  implement(api.replyToMessage, newReply, async (c) => {
    const conversation = await replyTo(c.db, writerOf(c), c.params.conversationId, c.body);
    const inIt = await listInConversation(c.db, c.params.conversationId);
    await announceTalk(c, { kind: 'only', enrolmentIds: await listPresent(c.db, c.courseId, { personIds: inIt }) });
    return conversation;
  }),
  implement(api.readConversation, (c) => setConversationRead(c.db, writerOf(c), c.params.conversationId)),
];
