import type { RubricChange } from '@rosemary/api';
import { decimalText } from '@rosemary/core';
import { type Db, maybe, rows, run } from '../platform/database.ts';
import { invalid } from '../platform/errors.ts';

/** Writes the criteria of a rubric, a new one where there is none. What was used keeps its identity; what is left out is hidden, so old marks stay readable. */
export async function writeRubric(
  db: Db,
  courseId: string,
  held: string | null,
  criteria: RubricChange['criteria'],
  now: number,
): Promise<string> {
  let rubricId = held;
  if (rubricId === null)
    rubricId = (await rows<{ id: string }>(db, 'insert into rubric (course_id) values ($1) returning id', [courseId]))[0]?.id ?? '';
  else await run(db, 'update rubric set version = version + 1 where id = $1', [rubricId]);
  await run(
    db,
    'update rubric_level set removed_at = to_timestamp($2 / 1000.0) where criterion_id in (select id from rubric_criterion where rubric_id = $1) and removed_at is null',
    [rubricId, now],
  );
  await run(db, 'update rubric_criterion set removed_at = to_timestamp($2 / 1000.0) where rubric_id = $1 and removed_at is null', [
    rubricId,
    now,
  ]);
  for (const [position, criterion] of criteria.entries()) {
    const row = await maybe<{ id: string }>(
      db,
      `
      insert into rubric_criterion (id, rubric_id, position, title, form) values (coalesce($1::uuid, gen_random_uuid()), $2, $3, $4, $5)
      on conflict (id) do update set position = excluded.position, title = excluded.title, form = excluded.form, removed_at = null where rubric_criterion.rubric_id = $2 returning id`,
      [criterion.id, rubricId, position, criterion.title, criterion.form ?? 'levels'],
    );
    if (row === null) throw invalid('criteria', `The criterion “${criterion.title}” belongs to another rubric.`);
    for (const [place, level] of criterion.levels.entries()) {
      const kept = await run(
        db,
        `
        insert into rubric_level (id, criterion_id, position, title, descriptor, points, least, up_to) values (coalesce($1::uuid, gen_random_uuid()), $2, $3, $4, $5, $6, $7, $8)
        on conflict (id) do update set position = excluded.position, title = excluded.title, descriptor = excluded.descriptor, points = excluded.points, least = excluded.least, up_to = excluded.up_to, removed_at = null where rubric_level.criterion_id = $2`,
        [
          ...[level.id, row.id, place, level.title, level.descriptor, decimalText(level.points)],
          ...[level.least === undefined || level.least === null ? null : decimalText(level.least), level.upTo ?? null],
        ],
      );
      if (kept === 0) throw invalid('criteria', `A level of “${criterion.title}” belongs to another criterion.`);
    }
  }
  return rubricId;
}
