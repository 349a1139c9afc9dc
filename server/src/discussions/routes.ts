import { discussionChange, newPost, postChange, postsRead } from '@rosemary/api';
import * as api from '@rosemary/api/endpoints';
import { saveDiscussion } from '../kinds/discussion/index.ts';
import { announceTalk } from '../notices/index.ts';
import { listReaders } from '../opening/index.ts';
import { implement, type MemberContext, type Route } from '../platform/route.ts';
import { addPost, changePost, getDiscussion, setPostsRead } from './discussions.ts';

const discussionOf = (c: MemberContext<unknown>) =>
  getDiscussion(c.db, c.courseId, c.params.itemId ?? '', c.member, c.person.personId, c.now);

/** A discussion that is hidden from a student is not heard of either. */
const tellReaders = async (c: MemberContext<unknown>): Promise<void> =>
  announceTalk(c, { kind: 'staffAnd', enrolmentIds: await listReaders(c.db, c.courseId, c.params.itemId ?? '', c.now) });

export const discussionRoutes: readonly Route[] = [
  implement(api.getDiscussion, discussionOf),
  implement(api.changeDiscussion, discussionChange, (c) =>
    saveDiscussion(c.db, c.courseId, c.params.itemId, c.body, c.person.personId, c.now),
  ),
  implement(api.addPost, newPost, async (c) => {
    await addPost(c.db, c.courseId, c.params.itemId, c.member, c.person.personId, c.body, c.now);
    await tellReaders(c);
    return discussionOf(c);
  }),
  implement(api.changePost, postChange, async (c) => {
    await changePost(c.db, c.courseId, c.params.itemId, c.params.postId, c.member, c.person.personId, c.body, c.now);
    await tellReaders(c);
    return discussionOf(c);
  }),
  implement(api.readPosts, postsRead, (c) =>
    setPostsRead(c.db, c.courseId, c.params.itemId, c.member, c.person.personId, c.body.postIds, c.now),
  ),
];
