import type { FinalShown, FormColumn } from '@rosemary/api';
import type { LetterTable, RegistrarRules } from '@rosemary/core';
import { type Db, maybe, run } from '../platform/database.ts';
import { conflict, notFound } from '../platform/errors.ts';

/** What the school and the registrar say of final grades. */
export interface HandoverSetting {
  readonly rules: RegistrarRules | null;
  readonly opensAt: number | null;
  readonly closesAt: number | null;
  readonly askedAt: number | null;
  readonly fault: string;
  readonly withdrawnLetter: string | null;
  readonly auditingLetter: string | null;
  readonly needsApproval: boolean;
  readonly version: number;
  readonly form: FormColumn[];
}
const millis = (column: string): string => `(extract(epoch from ${column}) * 1000)::float8`;
export async function getHandoverSetting(db: Db): Promise<HandoverSetting> {
  const found = await maybe<HandoverSetting & Record<string, unknown>>(
    db,
    `select rules, ${millis('window_opens_at')} as "opensAt", ${millis('window_closes_at')} as "closesAt", ${millis('asked_at')} as "askedAt", fault,
            withdrawn_letter as "withdrawnLetter", auditing_letter as "auditingLetter", needs_approval as "needsApproval", version, form from handover_setting`,
  );
  if (found === null) throw notFound();
  return found;
}

/** The school’s table for a scheme, which is known by its letters; empty where none was set. */
export async function findLetterTable(db: Db, labels: readonly string[]): Promise<LetterTable> {
  const found = await maybe<{ letters: LetterTable }>(db, 'select letters from letter_table where labels = $1', [labels]);
  return found?.letters ?? {};
}

export interface FinalSetting {
  readonly shows: FinalShown;
  readonly shownFrom: string | null;
  readonly closedAt: string | null;
  readonly version: number;
}
export async function getFinalSetting(db: Db, courseId: string): Promise<FinalSetting> {
  const found = await maybe<{ shows: FinalShown; shown_from: Date | null; closed_at: Date | null; version: number }>(
    db,
    'select shows, shown_from, closed_at, version from final_setting where course_id = $1',
    [courseId],
  );
  if (found === null) return { shows: 'none', shownFrom: null, closedAt: null, version: 0 };
  return {
    shows: found.shows,
    shownFrom: found.shown_from?.toISOString() ?? null,
    closedAt: found.closed_at?.toISOString() ?? null,
    version: found.version,
  };
}

export async function changeFinalSetting(
  db: Db,
  courseId: string,
  change: { readonly version: number; readonly shows: FinalShown; readonly shownFrom: string | null },
): Promise<void> {
  const now = await getFinalSetting(db, courseId);
  if (now.version !== change.version) throw conflict(now);
  await run(
    db,
    `insert into final_setting (course_id, shows, shown_from) values ($1, $2, $3)
     on conflict (course_id) do update set shows = excluded.shows, shown_from = excluded.shown_from, version = final_setting.version + 1`,
    [courseId, change.shows, change.shownFrom],
  );
}

/** Grades are closed once everything is handed over, and opened again with a reason (null). */
export const setClosed = (db: Db, courseId: string, at: number | null): Promise<number> =>
  run(
    db,
    `insert into final_setting (course_id, closed_at) values ($1, to_timestamp($2 / 1000.0))
     on conflict (course_id) do update set closed_at = excluded.closed_at, version = final_setting.version + 1`,
    [courseId, at],
  );

/** Has the registrar asked soon, also for his lists of the course; the course hears when he has answered. */
export async function wantRegistrar(db: Db, courseId: string | null, now: number): Promise<void> {
  await run(
    db,
    `update handover_setting set wanted_at = to_timestamp($1 / 1000.0),
       wanted_for = case when $2::uuid is null then wanted_for else array_append(array_remove(wanted_for, $2::uuid), $2::uuid) end`,
    [now, courseId],
  );
  await run(
    db,
    `insert into handover_read (section_id, wanted_at) select id, to_timestamp($2 / 1000.0) from section where course_id = $1 and removed_at is null
     on conflict (section_id) do update set wanted_at = excluded.wanted_at, read_at = null`,
    [courseId, now],
  );
}
