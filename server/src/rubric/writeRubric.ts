import { randomUUID } from 'node:crypto';
import type { RubricChange } from '@rosemary/api';
import { decimalText } from '@rosemary/core';
import { type Db, rows, run } from '../platform/database.ts';
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
  const put = criteria.map((c, position) => ({ ...c, position, id: c.id ?? randomUUID() }));
  const kept = await rows<{ id: string }>(
    db,
    `insert into rubric_criterion (id, rubric_id, position, title, form)
     select t.id, $1, t.position, t.title, t.form from unnest($2::uuid[], $3::int[], $4::text[], $5::text[]) as t(id, position, title, form)
     on conflict (id) do update set position = excluded.position, title = excluded.title, form = excluded.form, removed_at = null where rubric_criterion.rubric_id = $1 returning id`,
    [rubricId, put.map((c) => c.id), put.map((c) => c.position), put.map((c) => c.title), put.map((c) => c.form ?? 'levels')],
  );
  const foreign = put.find((c) => !kept.some((k) => k.id === c.id));
  if (foreign !== undefined) throw invalid('criteria', `The criterion “${foreign.title}” belongs to another rubric.`);
  const levels = put.flatMap((criterion) =>
    criterion.levels.map((level, position) => ({ ...level, criterion, position, id: level.id ?? randomUUID() })),
  );
  const keptLevels = await rows<{ id: string }>(
    db,
    `insert into rubric_level (id, criterion_id, position, title, descriptor, points, least, up_to)
     select * from unnest($1::uuid[], $2::uuid[], $3::int[], $4::text[], $5::text[], $6::numeric[], $7::numeric[], $8::int[]) as t(id, criterion, position, title, descriptor, points, least, up_to)
     on conflict (id) do update set position = excluded.position, title = excluded.title, descriptor = excluded.descriptor, points = excluded.points, least = excluded.least, up_to = excluded.up_to, removed_at = null
     where rubric_level.criterion_id = excluded.criterion_id returning id`,
    [
      levels.map((l) => l.id),
      levels.map((l) => l.criterion.id),
      levels.map((l) => l.position),
      levels.map((l) => l.title),
      levels.map((l) => l.descriptor),
      levels.map((l) => decimalText(l.points)),
      levels.map((l) => (l.least === undefined || l.least === null ? null : decimalText(l.least))),
      levels.map((l) => l.upTo ?? null),
    ],
  );
  const strayed = levels.find((l) => !keptLevels.some((k) => k.id === l.id));
  if (strayed !== undefined) throw invalid('criteria', `A level of “${strayed.criterion.title}” belongs to another criterion.`);
  return rubricId;
}
