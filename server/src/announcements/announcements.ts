import { type AnnouncementChange, type Announcements, type AnnouncementView, checkDocument, pageOf } from '@rosemary/api';
import { type DocumentNode, type Membership, plainText } from '@rosemary/core';
import { tell } from '../notices/index.ts';
import { type Db, maybe, rows, run } from '../platform/database.ts';
import { AppError, conflict, invalid, notFound } from '../platform/errors.ts';
import { jobOf } from '../platform/jobs.ts';

/**
 * Whether an announcement `a` is for the student of the enrolment `e`: for all, for their section, or for one they came from: they were in
 * it when it was said or later, or it was joined to theirs.
 */
const IS_FOR = `(not exists (select 1 from announcement_section t where t.announcement_id = a.id)
  or e.section_id in (select t.section_id from announcement_section t where t.announcement_id = a.id)
  or exists (select 1 from section_move m join announcement_section t on t.announcement_id = a.id and t.section_id = m.from_section_id
             where m.enrolment_id = e.id and (m.at >= a.publish_at or exists (select 1 from section_joining j where j.act_id = m.act_id and j.parted_at is null))))`;

interface Row {
  id: string;
  title: string;
  document: DocumentNode;
  author: string;
  publish_at: Date;
  tells: boolean;
  told_at: Date | null;
  version: number;
  sections: { id: string; title: string }[];
  is_read: boolean;
  reads: number;
  readers: number;
}

/** What a course was told: students what is published and for their section, staff also what is still to come. */
export async function listAnnouncements(
  db: Db,
  courseId: string,
  member: Membership,
  personId: string,
  now: number,
): Promise<Announcements> {
  const isStaff = member.role !== 'student';
  const found = await rows<Row>(
    db,
    `
    select a.id, a.title, a.document, p.given_name || ' ' || p.family_name as author, a.publish_at, a.tells, a.told_at, a.version,
           coalesce((select json_agg(json_build_object('id', s.id, 'title', s.title) order by s.position) from announcement_section t join section s on s.id = t.section_id where t.announcement_id = a.id), '[]') as sections,
           exists (select 1 from announcement_read r where r.announcement_id = a.id and r.person_id = $2) as is_read,
           (select count(*)::int from announcement_read r join enrolment e on e.person_id = r.person_id and e.course_id = a.course_id and e.role = 'student' and not e.is_sample and e.withdrawn_at is null and ${IS_FOR} where r.announcement_id = a.id) as reads,
           (select count(*)::int from enrolment e where e.course_id = a.course_id and e.role = 'student' and not e.is_sample and e.withdrawn_at is null
              and ${IS_FOR}) as readers
    from announcement a join person p on p.id = a.author_id
    where a.course_id = $1 and a.removed_at is null
      and ($3 or (a.publish_at <= to_timestamp($4 / 1000.0)
           and exists (select 1 from enrolment e where e.id = $5 and ${IS_FOR})))
    order by a.publish_at desc, a.id limit 300`,
    [courseId, personId, isStaff, now, member.enrolmentId],
  );
  return {
    canWrite: member.role === 'instructor',
    announcements: found.map((row): AnnouncementView => ({
      id: row.id,
      title: row.title,
      document: row.document,
      author: row.author,
      publishAt: row.publish_at.toISOString(),
      isScheduled: row.publish_at.getTime() > now,
      sections: row.sections,
      tells: row.tells,
      isRead: row.is_read,
      readers: isStaff ? { read: row.reads, of: row.readers } : null,
      version: row.version,
    })),
  };
}

async function setSections(db: Db, courseId: string, id: string, sectionIds: readonly string[]): Promise<void> {
  await run(db, 'delete from announcement_section where announcement_id = $1', [id]);
  const kept = await run(
    db,
    'insert into announcement_section (announcement_id, section_id) select $1, s.id from section s where s.course_id = $2 and s.id = any($3)',
    [id, courseId, sectionIds],
  );
  if (kept !== sectionIds.length) throw invalid('sectionIds', 'A section named here is not in this course. Choose again.');
}

function requireText(change: AnnouncementChange): void {
  const check = checkDocument(change.document);
  if (!check.ok) throw invalid('document', check.reason);
  if (plainText(change.document).trim() === '') throw invalid('document', 'The announcement says nothing yet. Write something.');
}

export async function addAnnouncement(
  db: Db,
  courseId: string,
  change: AnnouncementChange,
  personId: string,
  now: number,
): Promise<string> {
  requireText(change);
  const made = await rows<{ id: string }>(
    db,
    `
    insert into announcement (course_id, author_id, title, document, publish_at, tells, created_at)
    values ($1, $2, $3, $4, coalesce($5::timestamptz, to_timestamp($7 / 1000.0)), $6, to_timestamp($7 / 1000.0)) returning id`,
    [courseId, personId, change.title, change.document, change.publishAt, change.tells, now],
  );
  const id = made[0]?.id ?? '';
  await setSections(db, courseId, id, change.sectionIds);
  await tellOne(db, id, now);
  return id;
}

export async function changeAnnouncement(db: Db, courseId: string, id: string, change: AnnouncementChange, now: number): Promise<void> {
  requireText(change);
  const current = await maybe<{ title: string; document: DocumentNode; version: number }>(
    db,
    'select title, document, version from announcement where id = $1 and course_id = $2 and removed_at is null for update',
    [id, courseId],
  );
  if (current === null) throw notFound();
  if (current.version !== change.version) throw conflict(current);
  await run(
    db,
    'update announcement set title = $2, document = $3, publish_at = coalesce($4::timestamptz, least(publish_at, to_timestamp($6 / 1000.0))), tells = $5, version = version + 1 where id = $1',
    [id, change.title, change.document, change.publishAt, change.tells, now],
  );
  await setSections(db, courseId, id, change.sectionIds);
  await tellOne(db, id, now);
}

interface Moved {
  readonly id: string;
  readonly version: number;
  readonly publishAt: string;
}
/** Another time for an announcement that is still to come; gives back what takes it back. What was published stays as it was said. */
export async function moveAnnouncement(db: Db, courseId: string, { id, version, publishAt }: Moved, now: number): Promise<Moved> {
  const current = await maybe<{ title: string; publish_at: Date; version: number }>(
    db,
    'select title, publish_at, version from announcement where id = $1 and course_id = $2 and removed_at is null for update',
    [id, courseId],
  );
  if (current === null) throw notFound();
  if (current.version !== version) throw conflict(current);
  if (current.publish_at.getTime() <= now) throw new AppError('not-now', `“${current.title}” is published already, so its date stays.`);
  await run(db, 'update announcement set publish_at = $2, version = version + 1 where id = $1', [id, publishAt]);
  return { id, version: version + 1, publishAt: current.publish_at.toISOString() };
}

export async function setAnnouncementRemoved(db: Db, courseId: string, id: string, removedAt: number | null): Promise<void> {
  const changed = await run(
    db,
    'update announcement set removed_at = to_timestamp($3 / 1000.0), version = version + 1 where id = $1 and course_id = $2',
    [id, courseId, removedAt],
  );
  if (changed === 0) throw notFound();
}

/** Whoever can see an announcement may say that they have read it. */
export async function readAnnouncement(
  db: Db,
  courseId: string,
  id: string,
  member: Membership,
  personId: string,
  now: number,
): Promise<void> {
  const { announcements } = await listAnnouncements(db, courseId, member, personId, now);
  if (!announcements.some((a) => a.id === id)) throw notFound();
  await run(
    db,
    'insert into announcement_read (announcement_id, person_id, at) values ($1, $2, to_timestamp($3 / 1000.0)) on conflict do nothing',
    [id, personId, now],
  );
}

/** Tells of an announcement whose time has come: once, however often it is asked. */
async function tellOne(db: Db, announcementId: string, now: number): Promise<void> {
  const one = await maybe<{ id: string; course_id: string; title: string; document: DocumentNode; author_id: string; at: Date }>(
    db,
    `
    update announcement a set told_at = to_timestamp($1 / 1000.0)
    where a.id in (select w.id from announcement w join course c on c.id = w.course_id and c.is_open
                   where w.id = $2 and w.told_at is null and w.removed_at is null and w.tells and w.publish_at <= to_timestamp($1 / 1000.0) for update of w)
    returning a.id, a.course_id, a.title, a.document, a.author_id, greatest(a.publish_at, a.created_at) as at`,
    [now, announcementId],
  );
  if (one === null) return;
  const people = await rows<{ person_id: string }>(
    db,
    `
      select e.person_id from enrolment e join announcement a on a.id = $2
      where e.course_id = $1 and e.withdrawn_at is null and not e.is_sample and e.person_id <> $3 and (e.role <> 'student' or ${IS_FOR})`,
    [one.course_id, one.id, one.author_id],
  );
  await tell(db, {
    courseId: one.course_id,
    personIds: people.map((p) => p.person_id),
    kind: 'announcement',
    words: one.title,
    body: plainText(one.document),
    path: pageOf('announcements', { courseId: one.course_id }, { of: one.id }),
    at: one.at.getTime(),
  });
}

/** Tells of every announcement whose time has come. */
export const tellAnnouncements = jobOf<{ id: string }>({
  name: 'tell-announcements',
  due: (db, now) =>
    rows(
      db,
      'select w.id from announcement w join course c on c.id = w.course_id and c.is_open where w.told_at is null and w.removed_at is null and w.tells and w.publish_at <= to_timestamp($1 / 1000.0) order by w.publish_at',
      [now],
    ),
  one: (db, { id }, now) => tellOne(db, id, now),
});
