import { id, Joi, points } from './joi.ts';
import { LIMITS } from './limits.ts';

/** What follows a result: who reaches or misses so many points joins a group, gets an item opened, or is written to. */
export interface FollowWish {
  /** Of a result, or that all reviews which are theirs to give are given: the points say nothing then. */
  readonly meets: 'reaches' | 'misses' | 'gave reviews';
  readonly points: number;
  readonly action: 'group' | 'open' | 'message';
  readonly groupId: string | null;
  readonly itemId: string | null;
  readonly title: string;
  readonly body: string;
  /** Not for those who have such a result already. */
  readonly isFromNow: boolean;
}
export const followWish = Joi.object<FollowWish, true>({
  meets: Joi.string().valid('reaches', 'misses', 'gave reviews').required().label('When'),
  points: points().required().label('Points'),
  action: Joi.string().valid('group', 'open', 'message').required().label('What follows'),
  groupId: id().allow(null).required().label('Group'),
  itemId: id().allow(null).required().label('Item'),
  title: Joi.string().trim().allow('').max(LIMITS.title).required().label('Subject'),
  body: Joi.string().trim().allow('').max(4000).required().label('Message'),
  isFromNow: Joi.boolean().required(),
});
export interface FollowDone {
  readonly enrolmentId: string;
  readonly name: string;
  readonly at: string;
  readonly problem: string;
  readonly isUndone: boolean;
}
export interface FollowRule {
  readonly id: string;
  readonly meets: FollowWish['meets'];
  readonly points: number;
  readonly action: FollowWish['action'];
  /** The group, the item or the subject of the message. */
  readonly what: string;
  readonly body: string;
  readonly isStopped: boolean;
  readonly done: readonly FollowDone[];
}
export interface FollowUps {
  /** Students review here: it can follow that somebody has given theirs. */
  readonly areReviews: boolean;
  /** Thousandths; null where the item is not worth points. */
  readonly possible: number | null;
  readonly rules: readonly FollowRule[];
  readonly groups: readonly { readonly id: string; readonly title: string }[];
  readonly items: readonly { readonly id: string; readonly title: string }[];
}
