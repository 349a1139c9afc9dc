import type { BinEntry, CourseHistory, Removed } from '@rosemary/api';
import { listRemovedAnnouncements, listTitlesOfAnnouncements } from '../announcements/index.ts';
import { listRemovedFiles, listTitlesOfFiles } from '../files/index.ts';
import { listRemovedGroupSets, listTitlesOfGroupSets } from '../groups/index.ts';
import { listRemovedObjectives, listTitlesOfObjectives } from '../objectives/index.ts';
import { listRemovedFromPlan, listTitlesOfPlan } from '../plan/index.ts';
import { rows, type Db } from '../platform/database.ts';
import { isoAt } from '../platform/instants.ts';

/** How long what was deleted can be put back from the list. */
export const BIN_DAYS = 30;
const DAY = 86_400_000;
const PAGE = 60;

type ListRemoved = (db: Db, courseId: string, since: number) => Promise<Removed[]>;
type ListTitles = (db: Db, courseId: string, ids: readonly string[]) => Promise<{ id: string; title: string }[]>;
/** Whoever keeps what is deleted lists it here; a kind that nobody lists is missed by a test. */
const REMOVED: readonly ListRemoved[] = [
  listRemovedFromPlan,
  listRemovedAnnouncements,
  listRemovedObjectives,
  listRemovedGroupSets,
  listRemovedFiles,
];
const TITLES: readonly ListTitles[] = [
  listTitlesOfPlan,
  listTitlesOfAnnouncements,
  listTitlesOfObjectives,
  listTitlesOfGroupSets,
  listTitlesOfFiles,
];

const all = async <T>(lists: readonly Promise<readonly T[]>[]): Promise<T[]> => (await Promise.all(lists)).flat();

/** Who acted last on each of these things: for what is deleted, whoever deleted it. */
async function readLastActors(db: Db, courseId: string, ids: readonly string[]): Promise<ReadonlyMap<string, string>> {
  const found = await rows<{ subject: string; name: string }>(
    db,
    `select distinct on (one.id) one.id as subject, p.given_name || ' ' || p.family_name as name
     from unnest($2::uuid[]) as one (id)
     join audit a on a.course_id = $1 and (a.subject = one.id or a.after -> 'itemIds' ? one.id::text or a.after -> 'fileIds' ? one.id::text)
     join person p on p.id = a.actor_id order by one.id, a.at desc, a.id desc`,
    [courseId, ids],
  );
  return new Map(found.map((row) => [row.subject, row.name]));
}

/** What was deleted in a course and can be put back, the latest first. */
export async function listBin(db: Db, courseId: string, now: number): Promise<BinEntry[]> {
  const removed = await all(REMOVED.map((list) => list(db, courseId, now - BIN_DAYS * DAY)));
  const actors = await readLastActors(
    db,
    courseId,
    removed.map((one) => one.id),
  );
  return removed
    .map((one) => ({ ...one, removedAt: isoAt(Date.parse(String(one.removedAt))) ?? '', by: actors.get(one.id) ?? '' }))
    .sort((a, b) => b.removedAt.localeCompare(a.removedAt));
}

/** What was done in a course, the latest first, a page at a time. */
export async function readHistory(db: Db, courseId: string, before: string | null, by: string | null): Promise<CourseHistory> {
  const found = await rows<{ id: string; at: Date; by: string; what: string; subject: string | null }>(
    db,
    `select a.id, a.at, coalesce(p.given_name || ' ' || p.family_name, '') as by, a.action as what, a.subject
     from audit a left join person p on p.id = a.actor_id
     where a.course_id = $1 and ($2::bigint is null or a.id < $2) and ($3::uuid is null or a.actor_id = $3) order by a.id desc limit $4`,
    [courseId, before, by, PAGE + 1],
  );
  const page = found.slice(0, PAGE);
  const ids = [...new Set(page.flatMap((row) => row.subject ?? []))];
  const titles = new Map((await all(TITLES.map((list) => list(db, courseId, ids)))).map((one) => [one.id, one.title]));
  return {
    acts: page.map((row) => ({
      id: row.id,
      at: row.at.toISOString(),
      by: row.by,
      what: row.what,
      title: row.subject === null ? null : (titles.get(row.subject) ?? null),
    })),
    before: found.length > PAGE ? (page.at(-1)?.id ?? null) : null,
  };
}
