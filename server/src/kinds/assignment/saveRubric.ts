import type { RubricChange } from '@rosemary/api';
import { getPlanItem } from '../../items/index.ts';
import { type Db, run } from '../../platform/database.ts';
import { conflict, invalid, notFound } from '../../platform/errors.ts';
import { findRubric, writeRubric } from '../../rubric/index.ts';
import { findAssignment } from './findAssignment.ts';

/** Saves a rubric. Criteria and levels that were used keep their identity; those left out are hidden, so old marks stay readable. */
export async function saveRubric(db: Db, courseId: string, itemId: string, change: RubricChange, now: number): Promise<void> {
  await getPlanItem(db, courseId, itemId, now);
  const assignment = await findAssignment(db, itemId);
  if (assignment === null) throw notFound();
  const current = await findRubric(db, assignment.rubricId);
  if ((current?.version ?? 0) !== change.version) throw conflict(current);
  const isWorthless =
    change.criteria.some((c) => c.form !== 'comment') && change.criteria.every((c) => c.levels.every((l) => l.points === 0));
  if (isWorthless)
    throw invalid('criteria', 'Every level of this rubric has 0 points, so it could give none. Give levels points, or judge it in words.');
  const rubricId = await writeRubric(db, courseId, assignment.rubricId, change.criteria, now);
  if (assignment.rubricId === null) await run(db, 'update assignment set rubric_id = $2 where item_id = $1', [itemId, rubricId]);
}
