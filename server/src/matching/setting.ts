import type { MatchSetting, MatchState } from '@rosemary/api';
import { maybe, run, type Db } from '../platform/database.ts';
import { AppError, conflict, notFound } from '../platform/errors.ts';

const USUAL: MatchSetting = {
  version: 0,
  looksAtClass: true,
  looksAtEarlier: true,
  looksAtCollection: false,
  leavesQuotations: true,
  showsStudents: false,
  joinsCollection: false,
};

export async function findMatchSetting(db: Db, itemId: string): Promise<MatchSetting> {
  return (
    (await maybe<MatchSetting & { [column: string]: unknown }>(
      db,
      `select version, looks_at_class as "looksAtClass", looks_at_earlier as "looksAtEarlier", looks_at_collection as "looksAtCollection", leaves_quotations as "leavesQuotations",
         shows_students as "showsStudents", joins_collection as "joinsCollection" from match_setting where item_id = $1`,
      [itemId],
    )) ?? USUAL
  );
}

/** An assignment of this course; only work that is handed in has a text to match. */
export async function requireAssignment(db: Db, courseId: string, itemId: string): Promise<void> {
  const found = await maybe(
    db,
    "select 1 as one from item where id = $1 and course_id = $2 and kind = 'assignment' and removed_at is null",
    [itemId, courseId],
  );
  if (found === null) throw notFound();
}

export async function saveMatchSetting(db: Db, itemId: string, next: MatchSetting): Promise<void> {
  const current = await findMatchSetting(db, itemId);
  if (current.version !== next.version) throw conflict(current);
  if (!next.looksAtClass && !next.looksAtEarlier && !next.looksAtCollection)
    throw new AppError('invalid', 'Texts must be held against something: the class, earlier terms or the collection.', [
      { field: 'looksAtClass', text: 'Choose one at least.' },
    ]);
  await run(
    db,
    `insert into match_setting (item_id, looks_at_class, looks_at_earlier, looks_at_collection, leaves_quotations, shows_students, joins_collection) values ($1, $2, $3, $4, $5, $6, $7)
     on conflict (item_id) do update set looks_at_class = excluded.looks_at_class, looks_at_earlier = excluded.looks_at_earlier, looks_at_collection = excluded.looks_at_collection,
       leaves_quotations = excluded.leaves_quotations, shows_students = excluded.shows_students, joins_collection = excluded.joins_collection, version = match_setting.version + 1`,
    [
      itemId,
      next.looksAtClass,
      next.looksAtEarlier,
      next.looksAtCollection,
      next.leavesQuotations,
      next.showsStudents,
      next.joinsCollection,
    ],
  );
}

export async function getMatchState(db: Db, itemId: string): Promise<MatchState> {
  const last = await maybe<{ asked_at: Date; ended_at: Date | null; works: number; said: string }>(
    db,
    'select asked_at, ended_at, works, said from match_run where item_id = $1 order by asked_at desc limit 1',
    [itemId],
  );
  return {
    setting: await findMatchSetting(db, itemId),
    hasCollection: (process.env.ROSEMARY_COLLECTION_URL ?? '') !== '',
    run:
      last === null
        ? null
        : { askedAt: last.asked_at.toISOString(), endedAt: last.ended_at?.toISOString() ?? null, works: last.works, said: last.said },
  };
}

/** Asks for a run; one that waits already is enough. */
export async function askMatching(db: Db, itemId: string, personId: string, now: number): Promise<void> {
  await run(
    db,
    `insert into match_run (item_id, asked_by, asked_at) select $1, $2, to_timestamp($3 / 1000.0)
     where not exists (select 1 from match_run where item_id = $1 and ended_at is null)`,
    [itemId, personId, now],
  );
}
