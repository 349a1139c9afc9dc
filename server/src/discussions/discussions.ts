import { checkWork, type DiscussionView, type NewPost, pageOf, type PostChange, type PostView, type Thread } from '@rosemary/api';
import { type DocumentNode, type Membership, plainText, wordCount } from '@rosemary/core';
import { makeSubmission } from '../handIn/index.ts';
import { getPlanItem } from '../items/index.ts';
import type { DiscussionRow } from '../kinds/discussion/index.ts';
import { tell } from '../notices/index.ts';
import { getVisible } from '../opening/index.ts';
import { type Db, maybe, rows, run } from '../platform/database.ts';
import { AppError, conflict, invalid, notFound } from '../platform/errors.ts';

interface PostRow {
  id: string;
  thread_id: string | null;
  author_id: string;
  enrolment_id: string;
  role: string;
  author: string;
  title: string;
  document: DocumentNode;
  created_at: Date;
  edited_at: Date | null;
  removed_at: Date | null;
  hidden_at: Date | null;
  is_pinned: boolean;
  is_closed: boolean;
  is_read: boolean;
  version: number;
}

interface Place {
  readonly title: string;
  readonly possible: number;
  /** Why a student cannot write now. */
  readonly whyNot: string | null;
}

/** The discussion as its reader may enter it: a student only while the item lets them. */
async function enter(db: Db, courseId: string, itemId: string, member: Membership, now: number): Promise<Place & { row: DiscussionRow }> {
  const row = await maybe<DiscussionRow>(db, 'select document, is_post_first, is_closed, version from discussion where item_id = $1', [
    itemId,
  ]);
  if (row === null) throw notFound();
  if (member.role !== 'student') {
    const item = await getPlanItem(db, courseId, itemId, now);
    return { row, title: item.title, possible: item.possible, whyNot: null };
  }
  const visible = await getVisible(db, courseId, itemId, member, now);
  if (visible.visibility === 'announced') throw notFound();
  const whyNot =
    visible.visibility === 'closed'
      ? 'This discussion has closed. It can still be read.'
      : row.is_closed
        ? 'Your instructor has closed this discussion. It can still be read.'
        : null;
  return { row, title: visible.item.title, possible: visible.item.possible, whyNot };
}

const listPosts = (db: Db, itemId: string, personId: string): Promise<PostRow[]> =>
  rows<PostRow>(
    db,
    `
    select p.id, p.thread_id, p.author_id, p.enrolment_id, e.role, a.given_name || ' ' || a.family_name as author, p.title, p.document, p.created_at, p.edited_at, p.removed_at, p.hidden_at,
           p.is_pinned, p.is_closed, p.version, (p.author_id = $2 or exists (select 1 from post_read r where r.post_id = p.id and r.person_id = $2)) as is_read
    from post p join person a on a.id = p.author_id join enrolment e on e.id = p.enrolment_id where p.item_id = $1 order by p.created_at, p.id limit 5000`,
    [itemId, personId],
  );

function toPost(row: PostRow, personId: string, canModerate: boolean): PostView {
  const isOwn = row.author_id === personId;
  const state = row.removed_at !== null ? 'taken back' : row.hidden_at !== null ? 'hidden' : 'shown';
  const isSeen = state === 'shown' || (state === 'hidden' && (canModerate || isOwn));
  return {
    id: row.id,
    title: isSeen ? row.title : '',
    document: isSeen ? row.document : null,
    author: row.author,
    isStaff: row.role !== 'student',
    isOwn,
    at: row.created_at.toISOString(),
    isEdited: row.edited_at !== null,
    state,
    isPinned: row.is_pinned,
    isClosed: row.is_closed,
    isUnread: !row.is_read && state === 'shown',
    version: row.version,
  };
}

const latestOf = (thread: Thread): string => thread.replies.at(-1)?.at ?? thread.at;

/** Pinned threads first, then by their latest post. */
function toThreads(posts: readonly PostRow[], personId: string, canModerate: boolean): Thread[] {
  const threads = posts
    .filter((p) => p.thread_id === null)
    .map((head): Thread => {
      const replies = posts.filter((p) => p.thread_id === head.id).map((p) => toPost(p, personId, canModerate));
      const own = toPost(head, personId, canModerate);
      return {
        ...own,
        replies,
        unread: [own, ...replies].filter((p) => p.isUnread).length,
      };
    });
  // A thread taken back with no answers left is gone.
  return threads
    .filter((t) => t.state !== 'taken back' || t.replies.some((r) => r.state !== 'taken back'))
    .sort((a, b) => Number(b.isPinned) - Number(a.isPinned) || latestOf(b).localeCompare(latestOf(a)));
}

function countPeople(posts: readonly PostRow[]): DiscussionView['people'] {
  const people = new Map<string, { enrolmentId: string; name: string; posts: number; words: number }>();
  for (const post of posts) {
    if (post.role !== 'student' || post.removed_at !== null) continue;
    const one = people.get(post.enrolment_id) ?? { enrolmentId: post.enrolment_id, name: post.author, posts: 0, words: 0 };
    people.set(post.enrolment_id, { ...one, posts: one.posts + 1, words: one.words + wordCount(plainText(post.document)) });
  }
  return [...people.values()].sort((a, b) => b.posts - a.posts || a.name.localeCompare(b.name));
}

export async function getDiscussion(
  db: Db,
  courseId: string,
  itemId: string,
  member: Membership,
  personId: string,
  now: number,
): Promise<DiscussionView> {
  const { row, title, possible, whyNot } = await enter(db, courseId, itemId, member, now);
  const isStaff = member.role !== 'student';
  const all = await listPosts(db, itemId, personId);
  const hasWritten = all.some((p) => p.enrolment_id === member.enrolmentId && p.removed_at === null);
  const mustPostFirst = !isStaff && row.is_post_first && !hasWritten && whyNot === null;
  return {
    title,
    possible,
    document: row.document,
    version: row.version,
    isPostFirst: row.is_post_first,
    isClosed: row.is_closed,
    // Before one's own post nothing of the others goes out, their number neither.
    threads: mustPostFirst || (!isStaff && row.is_post_first && !hasWritten) ? [] : toThreads(all, personId, isStaff),
    mustPostFirst,
    whyNot,
    canModerate: isStaff,
    people: isStaff ? countPeople(all) : [],
  };
}

function requireText(document: DocumentNode): void {
  const check = checkWork(document);
  if (!check.ok) throw invalid('document', check.reason);
  if (plainText(document).trim() === '') throw invalid('document', 'There is nothing to post yet. Write something.');
}

/** Writes a post; the same one sent again does nothing twice. Those of the thread who are not its author are told. */
export async function addPost(
  db: Db,
  courseId: string,
  itemId: string,
  member: Membership,
  personId: string,
  post: NewPost,
  now: number,
): Promise<void> {
  const known = await maybe<{ author_id: string; item_id: string }>(db, 'select author_id, item_id from post where id = $1', [post.id]);
  if (known !== null) {
    if (known.author_id !== personId || known.item_id !== itemId) throw notFound();
    return;
  }
  const { row, title, whyNot } = await enter(db, courseId, itemId, member, now);
  if (whyNot !== null) throw new AppError('not-now', whyNot);
  requireText(post.document);
  if (post.threadId === null && post.title === '') throw invalid('title', 'A new thread needs a title. Type one.');
  if (post.threadId !== null) {
    const thread = await maybe<{ is_closed: boolean; thread_id: string | null }>(
      db,
      'select is_closed, thread_id from post where id = $1 and item_id = $2 and removed_at is null and (hidden_at is null or $3)',
      [post.threadId, itemId, member.role !== 'student'],
    );
    if (thread === null || thread.thread_id !== null) throw notFound();
    if (thread.is_closed && member.role === 'student') throw new AppError('not-now', 'This thread is closed. It can still be read.');
    const hasWritten = await maybe(db, 'select 1 as one from post where item_id = $1 and enrolment_id = $2 and removed_at is null', [
      itemId,
      member.enrolmentId,
    ]);
    if (row.is_post_first && member.role === 'student' && hasWritten === null)
      throw new AppError('not-now', 'Write a thread of your own first; then you see and answer the others.');
  }
  await run(
    db,
    `
    insert into post (id, item_id, thread_id, author_id, enrolment_id, title, document, created_at) values ($1, $2, $3, $4, $5, $6, $7, to_timestamp($8 / 1000.0))`,
    [post.id, itemId, post.threadId, personId, member.enrolmentId, post.threadId === null ? post.title : '', post.document, now],
  );
  // By it what they write is known as a work, where others review it.
  if (member.role === 'student') await makeSubmission(db, itemId, member.enrolmentId);
  if (post.threadId !== null) await tellThread(db, courseId, itemId, title, post, personId, now);
}

async function tellThread(
  db: Db,
  courseId: string,
  itemId: string,
  title: string,
  post: NewPost,
  personId: string,
  now: number,
): Promise<void> {
  const people = await rows<{ person_id: string; role: string }>(
    db,
    `
    select distinct p.author_id as person_id, e.role from post p join enrolment e on e.id = p.enrolment_id and e.withdrawn_at is null
    where (p.id = $1 or p.thread_id = $1) and p.removed_at is null and p.author_id <> $2`,
    [post.threadId, personId],
  );
  for (const view of ['study', 'item'] as const)
    await tell(db, {
      courseId,
      personIds: people.filter((p) => (p.role === 'student') === (view === 'study')).map((p) => p.person_id),
      kind: 'reply',
      words: `an answer in “${title}”`,
      body: plainText(post.document),
      path: pageOf(view, { courseId, itemId }, { post: post.id }),
      at: now,
    });
}

interface OwnedPost {
  author_id: string;
  thread_id: string | null;
  version: number;
  removed_at: Date | null;
  hidden_at: Date | null;
}

/** Authors change and take back their own words; staff pin, close and hide. */
export async function changePost(
  db: Db,
  courseId: string,
  itemId: string,
  postId: string,
  member: Membership,
  personId: string,
  change: PostChange,
  now: number,
): Promise<void> {
  const { whyNot } = await enter(db, courseId, itemId, member, now);
  const post = await maybe<OwnedPost>(
    db,
    'select author_id, thread_id, version, removed_at, hidden_at from post where id = $1 and item_id = $2 for update',
    [postId, itemId],
  );
  if (post === null) throw notFound();
  const isOwn = post.author_id === personId;
  const moderates = change.isHidden !== undefined || change.isPinned !== undefined || change.isClosed !== undefined;
  if (moderates && member.role === 'student') throw new AppError('refused', 'Pinning, closing and hiding are for those who teach.');
  if ((change.document !== undefined || change.isTakenBack !== undefined) && !isOwn)
    throw new AppError('refused', 'Only its author changes a post or takes it back.');
  if (whyNot !== null) throw new AppError('not-now', whyNot);
  if (post.version !== change.version) throw conflict({ version: post.version });
  if ((change.isPinned !== undefined || change.isClosed !== undefined) && post.thread_id !== null)
    throw invalid('isPinned', 'Whole threads are pinned or closed, not single answers.');
  if (change.document !== undefined) requireText(change.document);
  const at = (isSet: boolean | undefined, was: Date | null): Date | null => (isSet === undefined ? was : isSet ? new Date(now) : null);
  await run(
    db,
    `
    update post set document = coalesce($2::jsonb, document), edited_at = case when $2::jsonb is null then edited_at else to_timestamp($7 / 1000.0) end,
      removed_at = $3, hidden_at = $4, is_pinned = coalesce($5, is_pinned), is_closed = coalesce($6, is_closed), version = version + 1
    where id = $1`,
    [
      postId,
      change.document === undefined ? null : JSON.stringify(change.document),
      at(change.isTakenBack, post.removed_at),
      at(change.isHidden, post.hidden_at),
      change.isPinned ?? null,
      change.isClosed ?? null,
      now,
    ],
  );
}

export async function setPostsRead(
  db: Db,
  courseId: string,
  itemId: string,
  member: Membership,
  personId: string,
  postIds: readonly string[],
  now: number,
): Promise<void> {
  await enter(db, courseId, itemId, member, now);
  await run(
    db,
    'insert into post_read (post_id, person_id) select p.id, $2 from post p where p.item_id = $1 and p.id = any($3) on conflict do nothing',
    [itemId, personId, postIds],
  );
}
