import { type NewWorkWord, pageOf, type WorkWord } from '@rosemary/api';
import { type Target, workId } from '../anonymity/index.ts';
import { listMates, makeSubmission } from '../handIn/index.ts';
import { tell } from '../notices/index.ts';
import { type Db, rows, run } from '../platform/database.ts';

/** What was said about a work, in order, in group work by and to any of the group; what came since this person last looked is new. */
export async function listWords(db: Db, target: Target, personId: string): Promise<WorkWord[]> {
  const found = await rows<{ id: string; author: string; is_staff: boolean; is_own: boolean; is_new: boolean; body: string; at: Date }>(
    db,
    `
    select w.id, p.given_name || ' ' || p.family_name as author, w.is_staff, w.author_id = $3 as is_own, w.author_id <> $3 and (r.read_at is null or w.at > r.read_at) as is_new, w.body, w.at
    from work_word w join submission s on s.id = w.submission_id join person p on p.id = w.author_id
    left join work_word_read r on r.submission_id = s.id and r.person_id = $3
    where s.item_id = $1 and s.enrolment_id = any($2) order by w.at, w.id`,
    [target.itemId, await listMates(db, target.itemId, target.enrolmentId), personId],
  );
  return found.map((row) => ({
    id: row.id,
    author: row.author,
    isStaff: row.is_staff,
    isOwn: row.is_own,
    isNew: row.is_new,
    body: row.body,
    at: row.at.toISOString(),
  }));
}

export async function setWordsRead(db: Db, target: Target, personId: string, now: number): Promise<void> {
  await run(
    db,
    `insert into work_word_read (submission_id, person_id, read_at) select id, $3, to_timestamp($4 / 1000.0) from submission where item_id = $1 and enrolment_id = any($2)
    on conflict (submission_id, person_id) do update set read_at = excluded.read_at`,
    [target.itemId, await listMates(db, target.itemId, target.enrolmentId), personId, now],
  );
}

/** Says something about a work. A student's words go to whoever marked it or spoke before, else to those who teach the course. */
export async function sayWord(
  db: Db,
  courseId: string,
  target: Target,
  word: NewWorkWord,
  author: { personId: string; isStaff: boolean },
  now: number,
): Promise<WorkWord[]> {
  const submission = await makeSubmission(db, target.itemId, target.enrolmentId);
  const isNew = await run(
    db,
    'insert into work_word (id, submission_id, author_id, is_staff, body, at) values ($1, $2, $3, $4, $5, to_timestamp($6 / 1000.0)) on conflict (id) do nothing',
    [word.id, submission.id, author.personId, author.isStaff, word.body, now],
  );
  if (isNew === 1) {
    const told = await rows<{ person_id: string; path: string }>(
      db,
      author.isStaff
        ? "select person_id, 'study' as path from enrolment where id = any($1) and not is_sample and $2::uuid is not null and $3::uuid is not null"
        : `with known as (select m.marker_id as person_id from mark m where m.submission_id = $3 union select w.author_id from work_word w where w.submission_id = $3 and w.is_staff)
           select person_id, 'marking' as path from known union
           select e.person_id, 'marking' from enrolment e where e.course_id = $2 and e.role = 'instructor' and e.withdrawn_at is null and not exists (select 1 from known) and $1::uuid[] is not null`,
      [await listMates(db, target.itemId, target.enrolmentId), courseId, submission.id],
    );
    const title = (await rows<{ title: string }>(db, 'select title from item where id = $1', [target.itemId]))[0]?.title ?? '';
    for (const way of ['study', 'marking'])
      await tell(db, {
        courseId,
        personIds: told.filter((t) => t.path === way && t.person_id !== author.personId).map((t) => t.person_id),
        kind: 'message',
        words: `Something was said about “${title}”`,
        body: word.body,
        path:
          way === 'study'
            ? pageOf('study', { courseId, itemId: target.itemId })
            : pageOf('work', { courseId, itemId: target.itemId, enrolmentId: await workId(db, target, now) }),
        at: now,
      });
  }
  return listWords(db, target, author.personId);
}
