import type { OwnLeave } from '@rosemary/api';
import { type Leave, leaveOfAll } from '@rosemary/core';
import { type Db, maybe, rows, run } from '../platform/database.ts';
import { AppError, conflict } from '../platform/errors.ts';

interface LeaveRow {
  submission_id: string;
  to_class: Leave['toClass'];
  to_later: boolean;
  version: number;
}

/** What one author said of a work; what holds before they said anything, where there is nothing. */
async function findLeave(db: Db, submissionId: string): Promise<OwnLeave> {
  const row = await maybe<LeaveRow & Record<string, unknown>>(db, 'select * from work_leave where submission_id = $1', [submissionId]);
  return row === null
    ? { version: 0, toClass: 'no', toLater: false }
    : { version: row.version, toClass: row.to_class, toLater: row.to_later };
}

/** The submission by which a student handed in, alone or with others; null where nothing is handed in. */
const findOwnSubmission = (db: Db, itemId: string, enrolmentId: string): Promise<{ id: string } | null> =>
  maybe<{ id: string }>(
    db,
    'select s.id from submission s where s.item_id = $1 and s.enrolment_id = $2 and exists (select 1 from attempt a where a.submission_id = s.id)',
    [itemId, enrolmentId],
  );

/** What a student allows with their own work; null while there is none. */
export async function findOwnLeave(db: Db, itemId: string, enrolmentId: string): Promise<OwnLeave | null> {
  const own = await findOwnSubmission(db, itemId, enrolmentId);
  return own === null ? null : findLeave(db, own.id);
}

/** Says what may be done with one’s own work. What is shown already by a leave that is taken back is hidden with it. */
export async function saveOwnLeave(db: Db, itemId: string, enrolmentId: string, change: OwnLeave, now: number): Promise<void> {
  const own = await findOwnSubmission(db, itemId, enrolmentId);
  if (own === null) throw new AppError('not-now', 'You have handed in nothing here, so there is nothing to show.');
  const changed = await run(
    db,
    `insert into work_leave as l (submission_id, to_class, to_later, said_at) select $1, $2, $3, to_timestamp($4 / 1000.0) where $5 = 0 or exists (select 1 from work_leave o where o.submission_id = $1)
     on conflict (submission_id) do update set to_class = excluded.to_class, to_later = excluded.to_later, said_at = excluded.said_at, version = l.version + 1 where l.version = $5`,
    [own.id, change.toClass, change.toLater, now, change.version],
  );
  if (changed === 0) throw conflict({ ...(await findLeave(db, own.id)) });
  // By the submission of whoever handed in for all of its authors.
  await run(
    db,
    `update shown_work w set hidden_at = to_timestamp($2 / 1000.0), version = w.version + 1
     where w.hidden_at is null and w.leave = 'authors' and w.submission_id in (select lead.submission_id from attempt a join attempt lead on lead.id = coalesce(a.lead_id, a.id) where a.submission_id = $1)
       and ($3 = 'no' or ($3 = 'without name' and w.is_named))`,
    [own.id, now, change.toClass],
  );
}

/** What the authors of a work allow together. */
export async function leaveOf(db: Db, submissionIds: readonly string[]): Promise<Leave> {
  const found = await rows<LeaveRow & Record<string, unknown>>(db, 'select * from work_leave where submission_id = any($1)', [
    submissionIds,
  ]);
  return leaveOfAll(
    submissionIds.map((id) => {
      const row = found.find((r) => r.submission_id === id);
      return row === undefined ? null : { toClass: row.to_class, toLater: row.to_later };
    }),
  );
}
