import { maybe, run, type Db } from '../platform/database.ts';
import { AppError, notFound } from '../platform/errors.ts';

/** A student goes into a group of a set that is open for it, or out of the one they are in. Two at once for the last place: one gets it. */
export async function chooseGroup(
  db: Db,
  courseId: string,
  setId: string,
  enrolmentId: string,
  groupId: string | null,
  now: number,
): Promise<void> {
  const set = await maybe<{ sign_up_until: Date | null; most_members: number | null }>(
    db,
    'select sign_up_until, most_members from group_set where id = $1 and course_id = $2 and removed_at is null for update',
    [setId, courseId],
  );
  if (set === null) throw notFound();
  if (set.sign_up_until === null || now >= set.sign_up_until.getTime())
    throw new AppError('not-now', 'Groups can no longer be chosen here. Ask your instructor.');
  if (groupId !== null && (await maybe(db, 'select 1 as one from course_group where id = $1 and set_id = $2', [groupId, setId])) === null)
    throw notFound();
  const begun = await maybe(
    db,
    'select 1 as one from attempt a join submission s on s.id = a.submission_id join assignment asg on asg.item_id = s.item_id where asg.group_set_id = $1 and s.enrolment_id = $2 limit 1',
    [setId, enrolmentId],
  );
  if (begun !== null) throw new AppError('not-now', 'Your group has handed in already, so you stay in it. Ask your instructor.');
  await run(db, 'delete from group_member where enrolment_id = $1 and group_id in (select id from course_group where set_id = $2)', [
    enrolmentId,
    setId,
  ]);
  if (groupId === null) return;
  const full = await maybe<{ many: number }>(
    db,
    'select count(*)::int as many from group_member m join enrolment e on e.id = m.enrolment_id and e.withdrawn_at is null where m.group_id = $1',
    [groupId],
  );
  if (set.most_members !== null && (full?.many ?? 0) >= set.most_members)
    throw new AppError('not-now', 'This group is full. Choose another.');
  await run(db, 'insert into group_member (group_id, enrolment_id) values ($1, $2)', [groupId, enrolmentId]);
}
