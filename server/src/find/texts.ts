import { rows, type Db } from '../platform/database.ts';

export interface TextHit {
  readonly id: string;
  readonly title: string;
  readonly kind: string;
  readonly course_id: string;
  readonly course: string;
  readonly around: string;
}

/**
 * The words typed as a query of word beginnings, all of which must be there; null where nothing could be asked.
 * Only letters and digits get into it, so that no sign of the query language can.
 */
export function toQuery(letters: string): string | null {
  const words = letters.split(/[^\p{L}\p{N}]+/u).filter((word) => word.length > 1);
  return words.length === 0
    ? null
    : words
        .slice(0, 8)
        .map((word) => `${word}:*`)
        .join(' & ');
}

/** Of a word that stands everywhere so many places are looked at, in no order; more letters find more exactly. */
const MOST_LOOKED_AT = 300;

// `offset 0` keeps the planner from going through a whole course item by item, also while it does not know yet how many items
// came in a moment ago: the words are looked up first, and each place found is held against the courses alone.
/** Items in whose text the words stand (for those who write it, with what is not published), with a little of what stands around them. */
export async function listTextHits(
  db: Db,
  query: string,
  courseIds: readonly string[],
  withDrafts: boolean,
  most: number,
): Promise<TextHit[]> {
  return rows<TextHit>(
    db,
    `
    with asked as (select to_tsquery('simple', $1) as query),
    hit as (
      (select i.id, p.document from (select item_id, document from page where search @@ (select query from asked) offset 0) p cross join lateral (select id from item where id = p.item_id and course_id = any($2) and ($3 or not is_draft) and removed_at is null offset 0) i where not ($3 and exists (select 1 from working_copy w where w.item_id = i.id)) limit $5)
      union all
      (select i.id, a.instructions from (select item_id, instructions from assignment where search @@ (select query from asked) offset 0) a cross join lateral (select id from item where id = a.item_id and course_id = any($2) and ($3 or not is_draft) and removed_at is null offset 0) i where not ($3 and exists (select 1 from working_copy w where w.item_id = i.id)) limit $5)
      union all
      (select i.id, w.document from (select item_id, document from working_copy where $3 and search @@ (select query from asked) offset 0) w cross join lateral (select id from item where id = w.item_id and course_id = any($2) and removed_at is null offset 0) i limit $5)),
    found as (
      select i.id, i.title, i.kind, i.course_id, coalesce(nullif(c.short_title, ''), c.title) as course, hit.document
      from hit join item i on i.id = hit.id join course c on c.id = i.course_id
      where exists (select 1 from (select unit_id from unit_item where item_id = i.id offset 0) ui join unit u on u.id = ui.unit_id and u.removed_at is null)
      order by i.title limit $4)
    select id, title, kind, course_id, course,
           ts_headline('simple', (select string_agg(t #>> '{}', ' ') from jsonb_path_query(document, 'strict $.**.text') t), (select query from asked), 'StartSel="", StopSel="", MaxWords=14, MinWords=7') as around
    from found`,
    [query, courseIds, withDrafts, most, MOST_LOOKED_AT],
  );
}
