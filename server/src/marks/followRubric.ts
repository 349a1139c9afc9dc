import { type RubricCriterion, rubricScore } from '@rosemary/core';
import { findGradeForUpdate, recordGrade } from '../gradebook/index.ts';
import { type Db, rows } from '../platform/database.ts';
import { findRubricInUse } from '../rubric/index.ts';

interface FinishedRow {
  enrolment_id: string;
  choices: Record<string, string>;
  adjusted: number;
  given: Record<string, number>;
}

const scoreOf = (criteria: readonly RubricCriterion[], mark: FinishedRow): number | null => {
  const judged = rubricScore(criteria, mark.choices, mark.given);
  return judged.isComplete ? judged.score : null;
};

/**
 * Changes a rubric that may be in use. The levels that were chosen stay chosen; a finished mark that stands as its rubric made it
 * follows the new points, in the ledger, with its reason. What was overridden, typed in the gradebook, or has no level in a new
 * criterion keeps its score.
 */
export async function changeRubricInUse(
  db: Db,
  itemId: string,
  actorId: string,
  at: number,
  change: () => Promise<void>,
): Promise<{ followed: number; kept: number }> {
  const before = (await findRubricInUse(db, itemId))?.criteria ?? [];
  await change();
  const after = (await findRubricInUse(db, itemId))?.criteria ?? [];
  const finished = await rows<FinishedRow>(
    db,
    `
    select s.enrolment_id, m.choices, m.given, coalesce((m.adjustments -> s.enrolment_id::text ->> 'points')::int, 0) as adjusted from mark m join submission s on s.id = m.submission_id
    where s.item_id = $1 and m.slot = 1 and m.state = 'finished' and m.score is null order by s.enrolment_id`,
    [itemId],
  );
  let [followed, kept] = [0, 0];
  for (const mark of finished) {
    const adjusted = (score: number | null): number | null => (score === null ? null : Math.max(0, score + mark.adjusted));
    const [was, is] = [adjusted(scoreOf(before, mark)), adjusted(scoreOf(after, mark))];
    if (was === is) continue;
    const grade = await findGradeForUpdate(db, itemId, mark.enrolment_id);
    if (grade?.state !== 'scored' || is === null || was === null || grade.raw !== was) {
      kept += 1;
      continue;
    }
    await recordGrade(db, {
      itemId,
      enrolmentId: mark.enrolment_id,
      kind: 'set',
      state: 'scored',
      raw: is,
      isReleased: grade.isReleased,
      source: 'marking',
      reason: 'The points of the rubric changed',
      actorId,
      at,
    });
    followed += 1;
  }
  return { followed, kept };
}
