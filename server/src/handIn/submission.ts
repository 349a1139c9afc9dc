import type { OwnGroup } from '@rosemary/api';
import type { DocumentNode } from '@rosemary/core';
import { FILE_COLUMNS, type FileRow } from '../files/index.ts';
import { type Db, maybe, rows, run } from '../platform/database.ts';
import { notFound } from '../platform/errors.ts';
import { listGroup } from './mates.ts';

export interface DraftRow {
  id: string;
  enrolment_id: string;
  draft: DocumentNode | null;
  draft_saved_at: Date | null;
  version: number;
  draft_link: string;
}

/** A draft with the submissions that hold it: one's own, or one of each member of the group. */
export interface SharedDraft extends DraftRow {
  readonly ids: readonly string[];
  readonly group: readonly string[];
}

const COLUMNS = 'id, enrolment_id, draft, draft_saved_at, version, draft_link';

/** A group has one draft: that of its members which was saved last. */
const heldBy = (found: readonly DraftRow[]): DraftRow | undefined =>
  found.reduce<DraftRow | undefined>(
    (held, row) => (held === undefined || (row.draft_saved_at?.getTime() ?? 0) > (held.draft_saved_at?.getTime() ?? 0) ? row : held),
    undefined,
  );

export async function findSubmission(db: Db, itemId: string, enrolmentId: string): Promise<DraftRow | null> {
  const group = await listGroup(db, itemId, enrolmentId);
  const found = await rows<DraftRow>(db, `select ${COLUMNS} from submission where item_id = $1 and enrolment_id = any($2) order by id`, [
    itemId,
    group,
  ]);
  return heldBy(found) ?? null;
}

/** The submission of one student for an item, made if it is not there, locked until the transaction ends. */
export async function makeSubmission(db: Db, itemId: string, enrolmentId: string): Promise<DraftRow> {
  await run(db, 'insert into submission (item_id, enrolment_id) values ($1, $2) on conflict do nothing', [itemId, enrolmentId]);
  const row = await maybe<DraftRow>(db, `select ${COLUMNS} from submission where item_id = $1 and enrolment_id = $2 for update`, [
    itemId,
    enrolmentId,
  ]);
  if (row === null) throw notFound();
  return row;
}

/** The draft a student works on, locked; in group work the one draft of the group, laid into the submission of each member. */
export async function makeShared(db: Db, itemId: string, enrolmentId: string): Promise<SharedDraft> {
  const group = await listGroup(db, itemId, enrolmentId);
  if (group.length === 1) {
    const own = await makeSubmission(db, itemId, enrolmentId);
    return { ...own, ids: [own.id], group };
  }
  // In one order for everybody, so that two members who save at once wait for one another and never for both.
  await run(db, 'insert into submission (item_id, enrolment_id) select $1, unnest($2::uuid[]) on conflict do nothing', [itemId, group]);
  const found = await rows<DraftRow>(
    db,
    `select ${COLUMNS} from submission where item_id = $1 and enrolment_id = any($2) order by id for update`,
    [itemId, group],
  );
  const held = heldBy(found);
  if (held === undefined) throw notFound();
  const others = found.filter((row) => row.id !== held.id).map((row) => row.id);
  await run(
    db,
    'insert into replaced_draft (submission_id, draft, saved_at) select id, draft, draft_saved_at from submission where id = any($1) and draft is not null and draft is distinct from $2',
    [others, held.draft],
  );
  await run(
    db,
    'update submission set draft = $2, draft_link = $3, version = $4, draft_saved_at = $5 where id = any($1) and (version <> $4 or draft_saved_at is distinct from $5 or draft_link <> $3)',
    [others, held.draft, held.draft_link, held.version, held.draft_saved_at],
  );
  await run(
    db,
    `delete from submission_draft_file d where d.submission_id = any($1) and not exists (select 1 from submission_draft_file h where h.submission_id = $2 and h.file_id = d.file_id)`,
    [others, held.id],
  );
  await run(
    db,
    `insert into submission_draft_file (submission_id, file_id, position)
     select o.id, d.file_id, d.position from submission_draft_file d, unnest($1::uuid[]) as o(id) where d.submission_id = $2 on conflict do nothing`,
    [others, held.id],
  );
  const own = found.find((row) => row.enrolment_id === enrolmentId) ?? held;
  return { ...held, id: own.id, enrolment_id: enrolmentId, ids: found.map((row) => row.id), group };
}

/** What a student wrote of their own before the group's draft took its place, the latest; null where there is nothing else than the draft. */
export async function findOwnDraft(db: Db, itemId: string, enrolmentId: string): Promise<OwnGroup['ownDraft']> {
  const held = await findSubmission(db, itemId, enrolmentId);
  const row = await maybe<{ draft: DocumentNode; saved_at: Date | null }>(
    db,
    `select d.draft, d.saved_at from (
       select s.id as submission_id, s.draft, s.draft_saved_at as saved_at, 9223372036854775807 as place from submission s
       union all select r.submission_id, r.draft, r.saved_at, r.id from replaced_draft r) d join submission own on own.id = d.submission_id
     where own.item_id = $1 and own.enrolment_id = $2 and d.draft is not null and d.draft is distinct from $3 order by d.place desc limit 1`,
    [itemId, enrolmentId, held?.draft ?? null],
  );
  return row === null ? null : { document: row.draft, savedAt: row.saved_at?.toISOString() ?? null };
}

export async function listDraftFiles(db: Db, submissionId: string): Promise<FileRow[]> {
  return rows<FileRow>(
    db,
    `select ${FILE_COLUMNS} from submission_draft_file d join file f on f.id = d.file_id join file_blob b on b.sha256 = f.sha256 where d.submission_id = $1 order by d.position, f.created_at`,
    [submissionId],
  );
}

/** Lays a file to a draft, in every submission that holds it, and marks the draft as changed. */
export async function addToDraft(db: Db, shared: Pick<SharedDraft, 'ids'>, fileId: string, position: number, now: number): Promise<number> {
  const added = await run(
    db,
    'insert into submission_draft_file (submission_id, file_id, position) select unnest($1::uuid[]), $2, $3 on conflict do nothing',
    [shared.ids, fileId, position],
  );
  await touchDraft(db, shared, now);
  return added;
}

export async function takeFromDraft(db: Db, shared: Pick<SharedDraft, 'ids'>, fileId: string, now: number): Promise<number> {
  const taken = await run(db, 'delete from submission_draft_file where submission_id = any($1) and file_id = $2', [shared.ids, fileId]);
  await touchDraft(db, shared, now);
  return taken;
}

/** Files and address count as a change of the draft too, where several hold it. */
async function touchDraft(db: Db, shared: Pick<SharedDraft, 'ids'>, now: number): Promise<void> {
  if (shared.ids.length > 1)
    await run(db, 'update submission set draft_saved_at = to_timestamp($2 / 1000.0) where id = any($1)', [shared.ids, now]);
}
