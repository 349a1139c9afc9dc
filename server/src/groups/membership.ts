import { maybe, run, type Db } from '../platform/database.ts';

/** Puts a student into a group of a set, out of the one they were in; answers that one. */
export async function moveToGroup(db: Db, enrolmentId: string, setId: string, groupId: string): Promise<string | null> {
  const before = await maybe<{ group_id: string }>(
    db,
    'delete from group_member where enrolment_id = $1 and group_id in (select id from course_group where set_id = $2) returning group_id',
    [enrolmentId, setId],
  );
  await run(db, 'insert into group_member (group_id, enrolment_id) values ($1, $2)', [groupId, enrolmentId]);
  return before?.group_id ?? null;
}

/** Takes a student out of a group, back into the one they were in before. Whoever is no longer in it stays where they are. */
export async function leaveGroup(db: Db, enrolmentId: string, groupId: string, backTo: string | null): Promise<void> {
  const left = await run(db, 'delete from group_member where enrolment_id = $1 and group_id = $2', [enrolmentId, groupId]);
  if (left > 0 && backTo !== null)
    await run(
      db,
      'insert into group_member (group_id, enrolment_id) select id, $2 from course_group where id = $1 on conflict do nothing',
      [backTo, enrolmentId],
    );
}
