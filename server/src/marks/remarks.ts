import type { NewRemark, RemarkChange, RemarkView } from '@rosemary/api';
import { decimalText, STARTER_REMARKS } from '@rosemary/core';
import { randomUUID } from 'node:crypto';
import { type Db, maybe, rows, run } from '../platform/database.ts';
import { conflict, invalid, notFound } from '../platform/errors.ts';

interface RemarkRow {
  id: string;
  body: string;
  criterion: string;
  shortcut: string;
  points: number | null;
  uses: number;
  version: number;
}

/** One's own remarks, with how many notes each stands in. */
export async function listRemarks(db: Db, ownerId: string): Promise<RemarkView[]> {
  return rows<RemarkRow>(
    db,
    `
    select r.id, r.body, r.criterion, r.shortcut, (r.points * 1000)::int as points, r.version, (select count(*)::int from margin_note n where n.remark_id = r.id and n.removed_at is null) as uses
    from remark r where r.owner_id = $1 and r.removed_at is null order by r.created_at, r.id`,
    [ownerId],
  );
}

async function requireFree(db: Db, ownerId: string, shortcut: string, exceptId: string): Promise<void> {
  if (shortcut === '') return;
  const taken = await maybe<{ body: string }>(
    db,
    'select body from remark where owner_id = $1 and shortcut = $2 and removed_at is null and id <> $3',
    [ownerId, shortcut, exceptId],
  );
  if (taken !== null)
    throw invalid('shortcut', `“${shortcut}” calls another remark already: “${taken.body.slice(0, 60)}”. Choose other letters.`);
}

/** Thousandths as the decimal the table keeps; less than nothing too. */
const worthText = (points: number | null | undefined): string | null =>
  points === null || points === undefined ? null : `${points < 0 ? '-' : ''}${decimalText(Math.abs(points))}`;

export async function addRemark(db: Db, ownerId: string, remark: NewRemark, now: number): Promise<void> {
  await requireFree(db, ownerId, remark.shortcut, remark.id);
  await run(
    db,
    'insert into remark (id, owner_id, body, criterion, shortcut, created_at, points) values ($1, $2, $3, $4, $5, to_timestamp($6 / 1000.0), $7) on conflict (id) do nothing',
    [remark.id, ownerId, remark.body, remark.criterion, remark.shortcut, now, worthText(remark.points)],
  );
}

/** The remarks to begin with, each where its letters are still free. */
export async function addStarterRemarks(db: Db, ownerId: string, now: number): Promise<void> {
  const here = await listRemarks(db, ownerId);
  // A moment apart, so that they keep their order.
  for (const [n, starter] of STARTER_REMARKS.entries())
    if (!here.some((r) => r.shortcut === starter.shortcut || r.body === starter.body))
      await addRemark(db, ownerId, { id: randomUUID(), criterion: '', ...starter }, now + n);
}

export async function changeRemark(db: Db, ownerId: string, remarkId: string, change: RemarkChange): Promise<void> {
  const current = (await listRemarks(db, ownerId)).find((r) => r.id === remarkId);
  if (current === undefined) throw notFound();
  if (current.version !== change.version) throw conflict(current);
  const next = { ...current, ...change };
  await requireFree(db, ownerId, next.shortcut, remarkId);
  await run(db, 'update remark set body = $2, criterion = $3, shortcut = $4, points = $5, version = version + 1 where id = $1', [
    remarkId,
    next.body,
    next.criterion,
    next.shortcut,
    worthText(next.points),
  ]);
}

/** Takes a remark out of the list, or brings it back; the notes it stands in stay as they are. */
export async function setRemarkRemoved(db: Db, ownerId: string, remarkId: string, removedAt: number | null): Promise<void> {
  const own = await maybe<{ shortcut: string }>(db, 'select shortcut from remark where id = $1 and owner_id = $2', [remarkId, ownerId]);
  if (own === null) throw notFound();
  if (removedAt === null) await requireFree(db, ownerId, own.shortcut, remarkId);
  await run(db, 'update remark set removed_at = to_timestamp($2 / 1000.0) where id = $1', [remarkId, removedAt]);
}
