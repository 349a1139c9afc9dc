import type { Role } from '@rosemary/core';
import { id, Joi, title } from './joi.ts';

export interface ConversationLine {
  readonly id: string;
  readonly title: string;
  /** Whom it is with, oneself left out. */
  readonly people: readonly string[];
  readonly lastAt: string;
  readonly lastWords: string;
  readonly isUnread: boolean;
}
export interface Correspondent {
  readonly personId: string;
  readonly name: string;
  readonly role: Role;
  readonly sectionId: string | null;
}
export interface Messages {
  readonly conversations: readonly ConversationLine[];
  /** Whom one may write to here. */
  readonly people: readonly Correspondent[];
}
export interface Conversation {
  readonly id: string;
  readonly title: string;
  readonly people: readonly string[];
  readonly messages: readonly {
    readonly id: string;
    readonly author: string;
    readonly isOwn: boolean;
    readonly body: string;
    readonly at: string;
  }[];
}
const body = (): Joi.StringSchema => Joi.string().trim().max(8000).required().label('Message');

export interface NewMessage {
  /** Made by the browser, so that sending again after a broken line sends nothing twice. */
  readonly key: string;
  readonly title: string;
  readonly body: string;
  readonly personIds: string[];
}
export const newMessage = Joi.object<NewMessage, true>({
  key: id().required(),
  title: title().required().label('Subject'),
  body: body(),
  personIds: Joi.array()
    .min(1)
    .max(2000)
    .unique()
    .items(id())
    .required()
    .label('To')
    .messages({ 'array.min': 'The message is for nobody yet. Choose somebody.' }),
});
export interface NewReply {
  readonly key: string;
  readonly body: string;
}
export const newReply = Joi.object<NewReply, true>({ key: id().required(), body: body() });

/** What came of a sending, name by name. */
export interface MessageSent {
  readonly rows: readonly { readonly name: string; readonly isMailed: boolean }[];
  readonly messages: Messages;
}
