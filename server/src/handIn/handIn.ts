import { type HandIn, isWebAddress, pageOf, type Receipt } from '@rosemary/api';
import { type Membership, plainText, wordCount } from '@rosemary/core';
import { getItemLate, latenessText } from '../gradebook/index.ts';
import { tell } from '../notices/index.ts';
import { getVisible, type Visible } from '../opening/index.ts';
import { type Db, maybe, rows } from '../platform/database.ts';
import { conflict, invalid, notFound } from '../platform/errors.ts';
import { addAttempts } from './addAttempts.ts';
import { listAttempts } from './attempts.ts';
import { requireOpen } from './requireOpen.ts';
import { listDraftFiles, makeShared } from './submission.ts';

/**
 * Hands in what the draft holds. The key makes a repeated request do nothing twice; an empty hand-in is refused.
 * The draft stays as the start of a next attempt; its files go with the attempt. In group work any member hands in for all of them,
 * and the others are told.
 */
export async function handIn(
  db: Db,
  courseId: string,
  itemId: string,
  member: Membership,
  personId: string,
  body: HandIn,
  now: number,
): Promise<Receipt> {
  const submission = await makeShared(db, itemId, member.enrolmentId);
  const known = await maybe<{ number: number }>(db, 'select number from attempt where submission_id = $1 and idempotency_key = $2', [
    submission.id,
    body.key,
  ]);
  if (known !== null) return getReceipt(db, courseId, await getVisible(db, courseId, itemId, member, now), member, known.number);
  const { assignment, visible } = await requireOpen(db, courseId, itemId, member, now);
  if (body.version !== submission.version) throw conflict({ document: submission.draft, version: submission.version });
  const document = assignment.acceptsText ? submission.draft : null;
  const words = wordCount(plainText(document));
  const files = await listDraftFiles(db, submission.id);
  const link = assignment.acceptsLink ? submission.draft_link : '';
  if (words === 0 && files.length === 0 && link === '') {
    const ways = [
      assignment.acceptsText ? 'write something' : '',
      assignment.acceptsFiles ? 'add a file' : '',
      assignment.acceptsRecording ? 'record something' : '',
      assignment.acceptsLink ? 'give an address' : '',
    ].filter((way) => way !== '');
    const need = ways.join(' or ');
    throw invalid('document', `There is nothing to hand in yet. ${need.charAt(0).toUpperCase()}${need.slice(1)} first.`);
  }
  if (link !== '' && !isWebAddress(link))
    throw invalid('link', `“${link.slice(0, 80)}” is no address of the web. It begins with https:// or http://.`);
  const others = submission.ids.filter((id) => id !== submission.id);
  const number = await addAttempts(db, [submission.id, ...others], {
    document,
    words,
    note: body.note,
    link,
    key: body.key,
    handedInBy: personId,
    at: now,
  });
  await tellGroup(db, courseId, visible.item, submission.group, personId, now);
  return getReceipt(db, courseId, visible, member, number);
}

/** The others of a group hear that it is handed in, and by whom; the receipt stands with the item. */
async function tellGroup(
  db: Db,
  courseId: string,
  item: { readonly id: string; readonly title: string },
  group: readonly string[],
  by: string,
  at: number,
): Promise<void> {
  const others = await rows<{ person_id: string; by: string }>(
    db,
    "select e.person_id, b.given_name || ' ' || b.family_name as by from enrolment e join person b on b.id = $2 where e.id = any($1) and e.person_id <> $2 and not e.is_sample",
    [group, by],
  );
  const name = others[0]?.by;
  if (name === undefined) return;
  await tell(db, {
    courseId,
    personIds: others.map((o) => o.person_id),
    kind: 'returned',
    words: `${name} handed in “${item.title}” for your group`,
    body: 'The receipt stands with the item.',
    path: pageOf('study', { courseId, itemId: item.id }),
    at,
  });
}

async function getReceipt(db: Db, courseId: string, visible: Visible, member: Membership, number: number): Promise<Receipt> {
  const attempt = (await listAttempts(db, visible.item.id, member.enrolmentId)).find((a) => a.number === number);
  if (attempt === undefined) throw notFound();
  const late = await getItemLate(db, courseId, visible.item.id);
  return {
    number,
    handedInAt: attempt.handedInAt,
    contentHash: attempt.contentHash,
    wordCount: attempt.wordCount,
    files: attempt.files,
    lateText: latenessText({ late }, visible.dates, Date.parse(attempt.handedInAt)),
    note: attempt.note,
    link: attempt.link,
  };
}
