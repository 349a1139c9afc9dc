import {
  type Conversation,
  type ConversationLine,
  type Correspondent,
  type Messages,
  type MessageSent,
  type NewMessage,
  type NewReply,
  pageOf,
} from '@rosemary/api';
import type { Membership, Role } from '@rosemary/core';
import { tell } from '../notices/index.ts';
import { type Db, maybe, rows, run } from '../platform/database.ts';
import { invalid, notFound } from '../platform/errors.ts';

const MOST_LINES = 300;

const cut = (text: string): string => (text.length > 140 ? `${text.slice(0, 139)}…` : text);

/** Who writes, where, and when. */
export interface Writer {
  readonly courseId: string;
  readonly personId: string;
  readonly member: Membership;
  readonly now: number;
}

/** Whom one may write to: staff to staff and to the students they teach, a student to staff. */
async function listCorrespondents(db: Db, { courseId, personId, member }: Writer): Promise<Correspondent[]> {
  const found = await rows<{ person_id: string; name: string; role: Role; section_id: string | null }>(
    db,
    `
    select distinct on (e.person_id) e.person_id, p.family_name || ', ' || p.given_name as name, e.role, e.section_id
    from enrolment e join person p on p.id = e.person_id
    where e.course_id = $1 and e.person_id <> $2 and e.withdrawn_at is null and not e.is_sample
      and (e.role <> 'student' or ($3 and ($4::uuid[] is null or e.section_id = any($4))))
    order by e.person_id, e.role`,
    [courseId, personId, member.role !== 'student', member.sectionIds],
  );
  return found
    .map((row) => ({ personId: row.person_id, name: row.name, role: row.role, sectionId: row.section_id }))
    .sort((a, b) => a.name.localeCompare(b.name, 'en'));
}

export async function listMessages(db: Db, writer: Writer): Promise<Messages> {
  const found = await rows<{ id: string; title: string; people: string[]; at: Date; body: string; is_unread: boolean }>(
    db,
    `
    select c.id, c.title, last.at, last.body,
           array(select p.given_name || ' ' || p.family_name from conversation_person o join person p on p.id = o.person_id where o.conversation_id = c.id and o.person_id <> $2 order by p.family_name, p.given_name) as people,
           exists (select 1 from message m where m.conversation_id = c.id and m.author_id <> $2 and (own.read_at is null or m.at > own.read_at)) as is_unread
    from conversation c join conversation_person own on own.conversation_id = c.id and own.person_id = $2
    cross join lateral (select m.at, m.body from message m where m.conversation_id = c.id order by m.at desc, m.id limit 1) last
    where c.course_id = $1 order by last.at desc, c.place limit ${MOST_LINES}`,
    [writer.courseId, writer.personId],
  );
  return {
    conversations: found.map((row): ConversationLine => ({
      id: row.id,
      title: row.title,
      people: row.people,
      lastAt: row.at.toISOString(),
      lastWords: cut(row.body),
      isUnread: row.is_unread,
    })),
    people: await listCorrespondents(db, writer),
  };
}

/** A conversation is seen by those who are in it, and by nobody else, whatever their part in the course. */
async function requireOwn(db: Db, { courseId, personId }: Writer, id: string): Promise<{ title: string }> {
  const found = await maybe<{ title: string }>(
    db,
    'select c.title from conversation c join conversation_person o on o.conversation_id = c.id and o.person_id = $3 where c.id = $1 and c.course_id = $2',
    [id, courseId, personId],
  );
  if (found === null) throw notFound();
  return found;
}

export async function getConversation(db: Db, writer: Writer, id: string): Promise<Conversation> {
  const { title } = await requireOwn(db, writer, id);
  const people = await rows<{ name: string }>(
    db,
    "select p.given_name || ' ' || p.family_name as name from conversation_person o join person p on p.id = o.person_id where o.conversation_id = $1 and o.person_id <> $2 order by p.family_name, p.given_name",
    [id, writer.personId],
  );
  const messages = await rows<{ id: string; author: string; is_own: boolean; body: string; at: Date }>(
    db,
    "select m.id, p.given_name || ' ' || p.family_name as author, m.author_id = $2 as is_own, m.body, m.at from message m join person p on p.id = m.author_id where m.conversation_id = $1 order by m.at, m.id",
    [id, writer.personId],
  );
  return {
    id,
    title,
    people: people.map((p) => p.name),
    messages: messages.map((m) => ({ id: m.id, author: m.author, isOwn: m.is_own, body: m.body, at: m.at.toISOString() })),
  };
}

/** Who is in a conversation. */
export const listInConversation = async (db: Db, conversationId: string): Promise<readonly string[]> =>
  (await rows<{ person_id: string }>(db, 'select person_id from conversation_person where conversation_id = $1', [conversationId])).map(
    (row) => row.person_id,
  );

export async function setConversationRead(db: Db, writer: Writer, id: string): Promise<void> {
  await requireOwn(db, writer, id);
  await run(db, 'update conversation_person set read_at = to_timestamp($3 / 1000.0) where conversation_id = $1 and person_id = $2', [
    id,
    writer.personId,
    writer.now,
  ]);
}

async function tellOf(
  db: Db,
  writer: Writer,
  conversationId: string,
  title: string,
  body: string,
  personIds: readonly string[],
): Promise<void> {
  const path = pageOf('messages', { courseId: writer.courseId }, { of: conversationId });
  await tell(db, { courseId: writer.courseId, personIds, kind: 'message', words: title, body, path, at: writer.now });
}

/**
 * Sends a message. A teacher's to many is a conversation with each of them, which the others do not see; a student's to several
 * of the staff is one with all of them. The key tells a second sending from a second message.
 */
export async function sendMessage(db: Db, writer: Writer, wish: NewMessage): Promise<MessageSent> {
  const known = new Map((await listCorrespondents(db, writer)).map((p) => [p.personId, p]));
  const to = wish.personIds.map((id) => known.get(id));
  const chosen = to.filter((p) => p !== undefined);
  if (chosen.length !== to.length)
    throw invalid(
      'personIds',
      `${to.length - chosen.length} of the ${to.length} chosen cannot be written to here. Choose again; nothing was sent.`,
    );
  const groups = writer.member.role === 'student' ? [chosen] : chosen.map((one) => [one]);
  const made = await rows<{ id: string; place: number }>(
    db,
    'insert into conversation (course_id, title, sending, place) select $1, $2, $3, generate_series(0, $4::int - 1) on conflict (sending, place) do nothing returning id, place',
    [writer.courseId, wish.title, wish.key, groups.length],
  );
  const begun = made.map(({ id, place }) => ({ id, people: (groups[place] ?? []).map((p) => p.personId) }));
  const members = begun.flatMap(({ id, people }) => [...people, writer.personId].map((person) => [id, person] as const));
  await run(
    db,
    'insert into conversation_person (conversation_id, person_id, read_at) select t.conversation, t.person, case when t.person = $3 then to_timestamp($4 / 1000.0) end from unnest($1::uuid[], $2::uuid[]) as t(conversation, person)',
    [members.map(([id]) => id), members.map(([, person]) => person), writer.personId, writer.now],
  );
  await run(
    db,
    'insert into message (id, conversation_id, author_id, body, at) select gen_random_uuid(), unnest($1::uuid[]), $2, $3, to_timestamp($4 / 1000.0)',
    [begun.map((b) => b.id), writer.personId, wish.body, writer.now],
  );
  for (const { id, people } of begun) await tellOf(db, writer, id, wish.title, wish.body, people);
  const unmailed = await rows<{ person_id: string }>(
    db,
    "select person_id from notice_choice where kind = 'message' and not is_mailed and person_id = any($1)",
    [wish.personIds],
  );
  return {
    rows: chosen.map((p) => ({ name: p.name, isMailed: !unmailed.some((u) => u.person_id === p.personId) })),
    messages: await listMessages(db, writer),
  };
}

/** An answer in a conversation; sent again with the same key it stands there once. */
export async function replyTo(db: Db, writer: Writer, id: string, reply: NewReply): Promise<Conversation> {
  const { title } = await requireOwn(db, writer, id);
  const added = await run(
    db,
    'insert into message (id, conversation_id, author_id, body, at) values ($1, $2, $3, $4, to_timestamp($5 / 1000.0)) on conflict (id) do nothing',
    [reply.key, id, writer.personId, reply.body, writer.now],
  );
  if (added > 0) {
    const others = await rows<{ person_id: string }>(
      db,
      `select o.person_id from conversation_person o where o.conversation_id = $1 and o.person_id <> $2
       and exists (select 1 from enrolment e where e.person_id = o.person_id and e.course_id = $3 and e.withdrawn_at is null)`,
      [id, writer.personId, writer.courseId],
    );
    await tellOf(
      db,
      writer,
      id,
      title,
      reply.body,
      others.map((o) => o.person_id),
    );
    await setConversationRead(db, writer, id);
  }
  return getConversation(db, writer, id);
}
