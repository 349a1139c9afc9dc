import { type Db, rows } from '../platform/database.ts';

/** Posts not read yet, by item, for the lists of a course; where one must write first, their number is kept back as they are. */
export async function countUnread(db: Db, courseId: string, personId: string): Promise<ReadonlyMap<string, number>> {
  const found = await rows<{ item_id: string; many: number }>(
    db,
    `
    select p.item_id, count(*)::int as many from post p join item i on i.id = p.item_id
    join discussion d on d.item_id = p.item_id
    where i.course_id = $1 and i.removed_at is null and not i.is_draft and p.author_id <> $2 and p.removed_at is null and p.hidden_at is null
      and (not d.is_post_first or exists (select 1 from enrolment e where e.course_id = $1 and e.person_id = $2 and e.role <> 'student')
           or exists (select 1 from post o where o.item_id = p.item_id and o.author_id = $2 and o.removed_at is null))
      and not exists (select 1 from post_read r where r.post_id = p.id and r.person_id = $2) group by p.item_id`,
    [courseId, personId],
  );
  return new Map(found.map((row) => [row.item_id, row.many]));
}
