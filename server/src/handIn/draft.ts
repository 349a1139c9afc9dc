import { checkWork, type DocumentChange } from '@rosemary/api';
import type { Membership } from '@rosemary/core';
import { type Db, rows, run } from '../platform/database.ts';
import { conflict, invalid } from '../platform/errors.ts';
import { makeShared } from './submission.ts';

export async function saveDraft(
  db: Db,
  itemId: string,
  member: Membership,
  change: DocumentChange,
  now: number,
): Promise<{ version: number; savedAt: string }> {
  const check = checkWork(change.document);
  if (!check.ok) throw invalid('document', check.reason);
  const submission = await makeShared(db, itemId, member.enrolmentId);
  if (change.version !== submission.version && change.version !== 0)
    throw conflict({ document: submission.draft, version: submission.version });
  if (change.version === 0 && submission.draft !== null) throw conflict({ document: submission.draft, version: submission.version });
  const saved = await rows<{ version: number }>(
    db,
    'update submission set draft = $2, draft_saved_at = to_timestamp($3 / 1000.0), version = $4 where id = any($1) returning version',
    [submission.ids, change.document, now, submission.version + 1],
  );
  return { version: saved[0]?.version ?? 0, savedAt: new Date(now).toISOString() };
}

/** Keeps an address as it is typed; whether it is one is asked when it is handed in. */
export async function saveDraftLink(db: Db, itemId: string, member: Membership, link: string, now: number): Promise<void> {
  const submission = await makeShared(db, itemId, member.enrolmentId);
  await run(
    db,
    'update submission set draft_link = $2, draft_saved_at = case when $4 then to_timestamp($3 / 1000.0) else draft_saved_at end where id = any($1)',
    [submission.ids, link, now, submission.ids.length > 1],
  );
}
