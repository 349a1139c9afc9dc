import type { RubricView } from '@rosemary/api';
import { type Db, maybe, rows } from '../platform/database.ts';

/** The rubric work is judged by: of what is judged in points alone. */
export async function findRubricInUse(db: Db, itemId: string): Promise<RubricView | null> {
  const row = await maybe<{ rubric_id: string | null }>(db, "select rubric_id from assignment where item_id = $1 and judged = 'points'", [
    itemId,
  ]);
  return findRubric(db, row?.rubric_id ?? null);
}

export async function findRubric(db: Db, rubricId: string | null): Promise<RubricView | null> {
  if (rubricId === null) return null;
  const rubric = await maybe<{ version: number }>(db, 'select version from rubric where id = $1', [rubricId]);
  if (rubric === null) return null;
  const criteria = await rows<RubricView['criteria'][number]>(
    db,
    `
    select c.id, c.title, c.form, coalesce((select json_agg(json_build_object('id', l.id, 'title', l.title, 'descriptor', l.descriptor, 'points', (l.points * 1000)::int, 'least', (l.least * 1000)::int, 'upTo', l.up_to) order by l.position) from rubric_level l where l.criterion_id = c.id and l.removed_at is null), '[]') as levels
    from rubric_criterion c where c.rubric_id = $1 and c.removed_at is null order by c.position`,
    [rubricId],
  );
  return { version: rubric.version, criteria };
}
