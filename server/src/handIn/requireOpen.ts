import type { AssignmentSetting } from '@rosemary/api';
import type { Membership } from '@rosemary/core';
import { findAssignment } from '../kinds/assignment/index.ts';
import { getVisible, type Visible } from '../opening/index.ts';
import { type Db, maybe } from '../platform/database.ts';
import { AppError, notFound } from '../platform/errors.ts';
import { listAttempts } from './attempts.ts';
import { countRevisions } from './revision.ts';

/** Something can be handed in here. */
export const takesWork = (a: Pick<AssignmentSetting, 'acceptsText' | 'acceptsFiles' | 'acceptsLink' | 'acceptsRecording'>): boolean =>
  a.acceptsText || a.acceptsFiles || a.acceptsLink || a.acceptsRecording;

/** The attempts this student has: the item's, what an arrangement adds, one for each revision asked for; null is without limit. */
export async function attemptsFor(db: Db, itemId: string, enrolmentId: string, allowed: number | null): Promise<number | null> {
  if (allowed === null) return null;
  const given = await maybe<{ extra: number }>(
    db,
    'select coalesce(sum(extra_attempts), 0)::int as extra from arrangement where enrolment_id = $1',
    [enrolmentId],
  );
  return allowed + (given?.extra ?? 0) + (await countRevisions(db, itemId, enrolmentId));
}

/** Why a student cannot hand in now, in words, or null. */
export function whyNot(visible: Visible, attempts: number, allowed: number | null): string | null {
  if (visible.visibility === 'announced')
    return `Not open yet: it ${visible.waitsFor === '' ? 'is opened by your instructor' : visible.waitsFor}.`;
  if (visible.visibility === 'closed') return 'This is closed. Ask your instructor if something kept you from handing in.';
  return allowed !== null && attempts >= allowed
    ? `You have handed in ${attempts === 1 ? 'once' : `${attempts} times`}, which is all this takes.`
    : null;
}

/** Work is open for this student: it may be typed into, added to, handed in. */
export async function requireOpen(
  db: Db,
  courseId: string,
  itemId: string,
  member: Membership,
  now: number,
): Promise<{ visible: Visible; assignment: NonNullable<Awaited<ReturnType<typeof findAssignment>>> }> {
  const visible = await getVisible(db, courseId, itemId, member, now);
  const assignment = await findAssignment(db, itemId);
  if (assignment === null) throw notFound();
  const attempts = await listAttempts(db, itemId, member.enrolmentId);
  const attemptsAllowed = await attemptsFor(db, itemId, member.enrolmentId, assignment.attemptsAllowed);
  const reason = whyNot(visible, attempts.length, attemptsAllowed);
  if (reason !== null) throw new AppError('not-now', reason);
  return { visible, assignment };
}
