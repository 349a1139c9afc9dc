import type { CourseFacts, WorkColumn, FactPerson } from '../gradebook/index.ts';
import { type Db, rows } from '../platform/database.ts';
import { type Pairs, pairsOf } from '../platform/pairs.ts';

export interface WorkRow {
  readonly item_id: string;
  readonly enrolment_id: string;
  readonly word_count: number;
  readonly number: number;
  readonly files: number;
  readonly notes: number;
  readonly mark_state: 'draft' | 'finished' | null;
  readonly finished_at: Date | null;
  /** When the reviews of other students gave its result, where they did. */
  readonly reviewed_at: Date | null;
  readonly marker: string | null;
  readonly revision_of: number | null;
  readonly has_new_words: boolean;
  readonly has_draft: boolean;
  /** What those who handed in together share; null where nothing is handed in. */
  readonly lead: string | null;
  readonly pair_begun: number;
  readonly pair_finished: number;
  readonly heading: string | null;
  readonly original_id: string | null;
  readonly original: string | null;
}

/** What is known of the works of a course, or of one item, or of some students only, besides grades and dates. */
export async function listWorks(
  db: Db,
  courseId: string,
  itemId: string | null,
  readerId: string | null = null,
  enrolmentIds: readonly string[] | null = null,
): Promise<Pairs<WorkRow>> {
  const found = await rows<WorkRow>(
    db,
    `
    select s.item_id, s.enrolment_id, coalesce(a.word_count, 0) as word_count, coalesce(a.number, 0) as number, a.lead,
           (select count(*)::int from attempt_file f where f.attempt_id = a.id) as files,
           (select count(*)::int from margin_note n join attempt a2 on n.attempt_id = coalesce(a2.lead_id, a2.id) where a2.submission_id = s.id and n.removed_at is null) as notes,
           (select max(r.attempt_number) from revision r where r.submission_id = s.id and r.ended_at is null) as revision_of,
           exists (select 1 from work_word w left join work_word_read wr on wr.submission_id = s.id and wr.person_id = $3 where w.submission_id = s.id and not w.is_staff and $3::uuid is not null and (wr.read_at is null or w.at > wr.read_at)) as has_new_words,
           a.id is null and (s.draft is not null or s.draft_link <> '' or exists (select 1 from submission_draft_file d where d.submission_id = s.id)) as has_draft,
           coalesce(pair.begun, 0)::int as pair_begun, coalesce(pair.finished, 0)::int as pair_finished,
           jsonb_path_query_first(a.document, '$.content[*] ? (@.type == "heading").content[*].text') #>> '{}' as heading, original.id as original_id, original.name as original,
           m.state as mark_state, m.finished_at,
           case when ps.item_id is not null then (select ev.at from grade_column k join grade g on g.column_id = k.id and g.enrolment_id = s.enrolment_id join grade_event ev on ev.id = g.last_event_id
             where k.item_id = s.item_id and k.role = 'work' and ev.source = 'reviews') end as reviewed_at, p.given_name || ' ' || p.family_name as marker
    from submission s join item i on i.id = s.item_id left join peer_setting ps on ps.item_id = s.item_id and ps.results_out_at is not null
    left join lateral (select id, document, word_count, number, coalesce(lead_id, id) as lead from attempt where submission_id = s.id order by number desc limit 1) a on true
    left join lateral (select count(*) as begun, count(*) filter (where state = 'finished') as finished from mark where submission_id = s.id and slot > 1) pair on true
    left join lateral (select f.id, f.name from attempt_file af join file f on f.id = af.file_id where af.attempt_id = a.id order by af.position limit 1) original on true
    left join mark m on m.submission_id = s.id and m.slot = 1 left join person p on p.id = m.marker_id
    where i.course_id = $1 and ($2::uuid is null or i.id = $2) and ($4::uuid[] is null or s.enrolment_id = any($4))`,
    [courseId, itemId, readerId, enrolmentIds],
  );
  return pairsOf(
    found,
    (row) => row.item_id,
    (row) => row.enrolment_id,
    (row) => row,
  );
}

/** Which group of its item's set each student is in, of the items of a course that groups work on. */
export async function listWorkGroups(
  db: Db,
  courseId: string,
  itemId: string | null,
  enrolmentIds: readonly string[] | null = null,
): Promise<Pairs<{ id: string; title: string }>> {
  const found = await rows<{ item_id: string; enrolment_id: string; id: string; title: string }>(
    db,
    `select a.item_id, m.enrolment_id, g.id, g.title from assignment a join item i on i.id = a.item_id join course_group g on g.set_id = a.group_set_id join group_member m on m.group_id = g.id
     where i.course_id = $1 and ($2::uuid is null or i.id = $2) and ($3::uuid[] is null or m.enrolment_id = any($3))`,
    [courseId, itemId, enrolmentIds],
  );
  return pairsOf(
    found,
    (row) => row.item_id,
    (row) => row.enrolment_id,
    (row) => ({ id: row.id, title: row.title }),
  );
}

/** One work to be marked: one student's, or one of several together, of whom the first stands for all. */
export interface MarkedWork {
  readonly person: FactPerson;
  readonly mates: readonly FactPerson[];
  readonly group: string;
  readonly row: WorkRow | undefined;
  /** Any of them said something that the reader has not read. */
  readonly hasNewWords: boolean;
}

/** The works of an item: those who handed in together are one, and those of a group who have handed in nothing are one. */
export function worksOf(
  facts: CourseFacts,
  column: WorkColumn,
  works: Pairs<WorkRow>,
  groups: Pairs<{ id: string; title: string }>,
): readonly MarkedWork[] {
  const people = facts.people.filter(
    (person) => facts.reach.isFor(column.itemId, person) || facts.handIns.get(column.itemId, person.enrolmentId) !== undefined,
  );
  const byKey = new Map<string, { mates: FactPerson[]; group: string }>();
  for (const person of people) {
    const group = groups.get(column.itemId, person.enrolmentId);
    const key = works.get(column.itemId, person.enrolmentId)?.lead ?? (group === undefined ? person.enrolmentId : `group ${group.id}`);
    const known = byKey.get(key);
    if (known === undefined) byKey.set(key, { mates: [person], group: group?.title ?? '' });
    else known.mates.push(person);
  }
  return [...byKey.values()].flatMap(({ mates, group }) => {
    // Whoever is exempt does not stand for the others.
    const person = mates.find((m) => facts.grades.get(column.id, m.enrolmentId)?.state !== 'exempt') ?? mates[0];
    if (person === undefined) return [];
    const hasNewWords = mates.some((m) => works.get(column.itemId, m.enrolmentId)?.has_new_words === true);
    return [{ person, mates, group, row: works.get(column.itemId, person.enrolmentId), hasNewWords }];
  });
}
