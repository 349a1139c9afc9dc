import type { AssignmentChange, TextSaved } from '@rosemary/api';
import { checked, findEdited, getPlanItem, takeText } from '../../items/index.ts';
import { listEmbedHosts } from '../../people/index.ts';
import { type Db, maybe, run } from '../../platform/database.ts';
import { AppError, conflict, invalid, notFound } from '../../platform/errors.ts';
import { findAssignment } from './findAssignment.ts';

/** How work is judged is settled once the first of it is: a mark in points has no meaning in words. */
async function requireUnjudged(db: Db, itemId: string): Promise<void> {
  const given = await maybe<{ many: number }>(
    db,
    "select count(*)::int as many from work_grade where item_id = $1 and state in ('scored', 'judged')",
    [itemId],
  );
  if (given !== null && given.many > 0)
    throw invalid(
      'judged',
      `${given.many === 1 ? 'One mark is' : `${given.many} marks are`} given already, in the way it is judged now. Make a copy of the item to judge it in another.`,
    );
}

/** Whose work it is does not change under work that was handed in. */
async function requireSet(db: Db, courseId: string, itemId: string, setId: string | null): Promise<void> {
  const known =
    setId === null ||
    (await maybe(db, 'select 1 as one from group_set where id = $1 and course_id = $2 and removed_at is null', [setId, courseId])) !== null;
  if (!known) throw invalid('groupSetId', 'This set of groups is no longer in the course. Choose another.');
  const begun = await maybe(db, 'select 1 as one from attempt a join submission s on s.id = a.submission_id where s.item_id = $1 limit 1', [
    itemId,
  ]);
  if (begun !== null)
    throw new AppError(
      'not-now',
      'Work is handed in already, so whose work it is stays as it was. Make another assignment for the groups.',
      [{ field: 'groupSetId', text: 'Work is handed in already.' }],
    );
}

/** One or two markers: settled before anybody has begun to mark. */
async function requireUnmarked(db: Db, itemId: string): Promise<void> {
  const begun = await maybe(db, 'select 1 as one from mark m join submission s on s.id = m.submission_id where s.item_id = $1 limit 1', [
    itemId,
  ]);
  if (begun !== null)
    throw new AppError('not-now', 'Marking has begun, so how many mark each work stays as it was.', [
      { field: 'markers', text: 'Marking has begun.' },
    ]);
}

export async function saveAssignment(
  db: Db,
  courseId: string,
  itemId: string,
  change: AssignmentChange,
  personId: string,
  now: number,
): Promise<TextSaved> {
  const item = await getPlanItem(db, courseId, itemId, now);
  const current = await findAssignment(db, itemId);
  if (current === null) throw notFound();
  if (current.version !== change.version) throw conflict({ ...current, instructions: await findEdited(db, itemId, current.instructions) });
  const next = { ...current, ...change };
  if (next.judged !== current.judged) await requireUnjudged(db, itemId);
  if (next.groupSetId !== current.groupSetId) await requireSet(db, courseId, itemId, next.groupSetId);
  let isWorking = false;
  if (change.instructions !== undefined) {
    checked(change.instructions, 'instructions', await listEmbedHosts(db));
    const text = await takeText(db, courseId, item, change.instructions, personId, now);
    isWorking = text === undefined;
    next.instructions = text ?? current.instructions;
  }
  if (next.anonymous === 'date' && next.anonymousUntil === null)
    throw invalid('anonymousUntil', 'Names are hidden until a date, and there is none. Give the date.');
  if (next.markers !== current.markers) await requireUnmarked(db, itemId);
  await run(
    db,
    `update assignment set instructions = $2, accepts_text = $3, accepts_files = $4, file_types = $5, most_files = $6, most_bytes = $7, attempts_allowed = $8,
      accepts_link = $9, accepts_recording = $10, on_paper = $11, judged = $12, counted = $13, group_set_id = $14, allows_withdrawal = $15, anonymous = $16, anonymous_until = $17, markers = $18, version = version + 1 where item_id = $1`,
    [
      ...[
        itemId,
        next.instructions,
        next.acceptsText,
        next.acceptsFiles,
        next.fileTypes,
        next.mostFiles,
        next.mostBytes,
        next.attemptsAllowed,
      ],
      ...[next.acceptsLink, next.acceptsRecording, next.onPaper, next.judged],
      ...[next.counted, next.groupSetId, next.allowsWithdrawal],
      ...[next.anonymous, next.anonymous === 'date' ? next.anonymousUntil : null, next.markers],
    ],
  );
  return { version: current.version + 1, isWorking };
}
