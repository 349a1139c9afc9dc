import { randomUUID } from 'node:crypto';
import { alignCopies } from '../objectives/index.ts';
import { type Db, rows, run } from '../platform/database.ts';

/** Copies rubrics, one copy for each that is named, into a course. Answers the names of the copies in the same order. */
export async function copyRubrics(db: Db, courseId: string, rubricIds: readonly string[]): Promise<readonly string[]> {
  const rubrics = rubricIds.map((rubric_id) => ({ rubric_id, newId: randomUUID() }));
  await run(
    db,
    'insert into rubric (id, course_id, title) select t.new_id, $1, r.title from unnest($2::uuid[], $3::uuid[]) as t(old_id, new_id) join rubric r on r.id = t.old_id',
    [courseId, rubrics.map((r) => r.rubric_id), rubrics.map((r) => r.newId)],
  );
  const criteria = (
    await rows<{ id: string; rubric_id: string }>(
      db,
      'select id, rubric_id from rubric_criterion where rubric_id = any($1) and removed_at is null',
      [rubrics.map((r) => r.rubric_id)],
    )
  ).flatMap((c) =>
    rubrics.filter((r) => r.rubric_id === c.rubric_id).map((r) => ({ oldId: c.id, newId: randomUUID(), rubricId: r.newId })),
  );
  await run(
    db,
    `insert into rubric_criterion (id, rubric_id, position, title, form)
    select t.new_id, t.rubric_id, c.position, c.title, c.form from unnest($1::uuid[], $2::uuid[], $3::uuid[]) as t(old_id, new_id, rubric_id) join rubric_criterion c on c.id = t.old_id`,
    [criteria.map((c) => c.oldId), criteria.map((c) => c.newId), criteria.map((c) => c.rubricId)],
  );
  await run(
    db,
    `insert into rubric_level (criterion_id, position, title, descriptor, points, least, up_to)
    select t.new_id, l.position, l.title, l.descriptor, l.points, l.least, l.up_to from unnest($1::uuid[], $2::uuid[]) as t(old_id, new_id) join rubric_level l on l.criterion_id = t.old_id and l.removed_at is null`,
    [criteria.map((c) => c.oldId), criteria.map((c) => c.newId)],
  );
  await alignCopies(db, courseId, criteria);
  return rubrics.map((r) => r.newId);
}
