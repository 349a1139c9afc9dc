import { type RubricCriterion, rubricScore } from '@rosemary/core';
import { getWorkColumn, type GradeWrite, listGradesForUpdate, recordGrades } from '../gradebook/index.ts';
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
  const adjusted = (score: number | null, mark: FinishedRow): number | null => (score === null ? null : Math.max(0, score + mark.adjusted));
  const moved = finished
    .map((mark) => ({
      enrolmentId: mark.enrolment_id,
      was: adjusted(scoreOf(before, mark), mark),
      is: adjusted(scoreOf(after, mark), mark),
    }))
    .filter(({ was, is }) => was !== is);
  const columnId = await getWorkColumn(db, itemId);
  const grades = await listGradesForUpdate(
    db,
    columnId,
    moved.map((mark) => mark.enrolmentId),
  );
  const writes = moved.flatMap(({ enrolmentId, was, is }): GradeWrite[] => {
    const grade = grades.get(enrolmentId);
    if (grade?.state !== 'scored' || is === null || was === null || grade.raw !== was) return [];
    const now = { kind: 'set', state: 'scored', raw: is, isReleased: grade.isReleased, source: 'marking' } as const;
    return [{ columnId, enrolmentId, ...now, reason: 'The points of the rubric changed', actorId, at }];
  });
  await recordGrades(db, writes);
  return { followed: writes.length, kept: moved.length - writes.length };
}
