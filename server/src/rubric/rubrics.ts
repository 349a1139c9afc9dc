import type { RubricView } from '@rosemary/api';
import { type Db, maybe, rows } from '../platform/database.ts';

/** The rubric work is judged by: of what is judged in points alone. */
export async function findRubricInUse(db: Db, itemId: string): Promise<RubricView | null> {
  const row = await maybe<{ rubric_id: string | null }>(db, "select rubric_id from assignment where item_id = $1 and judged = 'points'", [
    itemId,
  ]);
  return findRubric(db, row?.rubric_id ?? null);
}

export const findRubric = async (db: Db, rubricId: string | null): Promise<RubricView | null> =>
  rubricId === null ? null : ((await findRubrics(db, [rubricId])).get(rubricId) ?? null);

/** Several rubrics in one reading, by identifier. */
export async function findRubrics(db: Db, rubricIds: readonly string[]): Promise<ReadonlyMap<string, RubricView>> {
  const rubrics = await rows<{ id: string; version: number }>(db, 'select id, version from rubric where id = any($1)', [rubricIds]);
  const criteria = await rows<RubricView['criteria'][number] & { rubric_id: string }>(
    db,
    `
    select c.rubric_id, c.id, c.title, c.form, coalesce((select json_agg(json_build_object('id', l.id, 'title', l.title, 'descriptor', l.descriptor, 'points', (l.points * 1000)::int, 'least', (l.least * 1000)::int, 'upTo', l.up_to) order by l.position) from rubric_level l where l.criterion_id = c.id and l.removed_at is null), '[]') as levels
    from rubric_criterion c where c.rubric_id = any($1) and c.removed_at is null order by c.position`,
    [rubricIds],
  );
  return new Map(
    rubrics.map(({ id, version }) => [
      id,
      { version, criteria: criteria.flatMap(({ rubric_id: of, ...criterion }) => (of === id ? [criterion] : [])) },
    ]),
  );
}
