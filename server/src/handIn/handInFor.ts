import type { CourseFile, HandInFor, Work } from '@rosemary/api';
import { plainText, wordCount } from '@rosemary/core';
import type { Target } from '../anonymity/index.ts';
import { fileView, storeFile } from '../files/index.ts';
import { findAssignment } from '../kinds/assignment/index.ts';
import { type Db, maybe } from '../platform/database.ts';
import { invalid, notFound } from '../platform/errors.ts';
import { addAttempts } from './addAttempts.ts';
import { addToDraft, findSubmission, listDraftFiles, makeShared, type SharedDraft } from './submission.ts';

/** What a student has begun: staff see it, plainly as not handed in. */
export async function findDraft(db: Db, target: Target): Promise<Work['draft']> {
  const submission = await findSubmission(db, target.itemId, target.enrolmentId);
  if (submission === null) return null;
  const files = (await listDraftFiles(db, submission.id)).map(fileView);
  const isEmpty = plainText(submission.draft).trim() === '' && files.length === 0 && submission.draft_link === '';
  if (isEmpty) return null;
  return {
    document: submission.draft,
    files,
    link: submission.draft_link,
    savedAt: submission.draft_saved_at?.toISOString() ?? null,
  };
}

/** A file that came by other means, laid to the student's draft by staff. */
export async function addDraftFile(
  db: Db,
  courseId: string,
  itemId: string,
  draft: SharedDraft,
  file: { path: string; name: string },
  ownerId: string,
  now: number,
): Promise<CourseFile> {
  const assignment = await findAssignment(db, itemId);
  if (assignment === null) throw notFound();
  const present = await listDraftFiles(db, draft.id);
  if (present.length >= 50) throw invalid('file', 'A hand-in holds fifty files. Put them into one archive instead.');
  const stored = await storeFile(db, {
    ...file,
    courseId,
    ownerId,
    // What comes by other means is not held to the kinds a student is asked for.
    types: ['pdf', 'picture', 'word', 'text', 'sound', 'video'],
    mostBytes: Math.max(assignment.mostBytes, 20_971_520),
    now,
  });
  await addToDraft(db, draft, stored.id, present.length, now);
  return stored;
}

/** Hands in for a student whose work came by other means, at the time it came; how it came stands with it. */
export async function handInFor(db: Db, target: Target, body: HandInFor, personId: string, now: number): Promise<void> {
  const submission = await makeShared(db, target.itemId, target.enrolmentId);
  const known = await maybe(db, 'select 1 as one from attempt where submission_id = $1 and idempotency_key = $2', [
    submission.id,
    body.key,
  ]);
  if (known !== null) return;
  const at = Date.parse(body.handedInAt);
  if (at > now) throw invalid('handedInAt', 'Work cannot have come in the future. Choose when it came.');
  const last = await maybe<{ at: Date }>(db, 'select max(handed_in_at) as at from attempt where submission_id = $1', [submission.id]);
  if (last?.at && at < last.at.getTime()) throw invalid('handedInAt', 'There is a later attempt already. Choose a time after it.');
  const document = body.takesDraft ? submission.draft : null;
  const others = submission.ids.filter((id) => id !== submission.id);
  await addAttempts(db, [submission.id, ...others], {
    document,
    words: wordCount(plainText(document)),
    note: body.note,
    link: body.takesDraft ? submission.draft_link : '',
    key: body.key,
    handedInBy: personId,
    at,
  });
}
