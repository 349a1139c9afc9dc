export { type DiscussionRow, saveDiscussion } from './saveDiscussion.ts';
export { discussion } from './discussion.ts';
