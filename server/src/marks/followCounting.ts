import { countedScore, countedWords, type Counting } from '@rosemary/core';
import { getWorkColumn, type GradeWrite, listGradesForUpdate, recordGrades } from '../gradebook/index.ts';
import { type Db, rows } from '../platform/database.ts';

interface MarkedRow {
  enrolment_id: string;
  attempts: { number: number; score: number }[];
}

/** Another attempt counts from now on: the marks of everybody with several marked attempts follow, in the ledger with the reason. */
export async function followCounting(db: Db, itemId: string, rule: Counting, actorId: string, at: number): Promise<number> {
  const found = await rows<MarkedRow>(
    db,
    `select s.enrolment_id, json_agg(json_build_object('number', a.number, 'score', (m.raw * 1000)::int) order by a.number) as attempts
     from attempt_mark m join attempt a on a.id = m.attempt_id join submission s on s.id = a.submission_id where s.item_id = $1
     group by s.enrolment_id having count(*) > 1 order by s.enrolment_id`,
    [itemId],
  );
  const columnId = await getWorkColumn(db, itemId);
  const grades = await listGradesForUpdate(
    db,
    columnId,
    found.map((row) => row.enrolment_id),
  );
  const writes = found.flatMap(({ enrolment_id: enrolmentId, attempts }): GradeWrite[] => {
    const counted = countedScore(rule, attempts);
    const grade = grades.get(enrolmentId);
    if (counted === null || grade?.state !== 'scored' || grade.raw === counted.score) return [];
    const now = { kind: 'set', state: 'scored', raw: counted.score, isReleased: grade.isReleased, source: 'marking' } as const;
    return [{ columnId, enrolmentId, ...now, reason: `Now ${countedWords(rule, attempts.length)} counts`, actorId, at }];
  });
  await recordGrades(db, writes);
  return writes.length;
}
