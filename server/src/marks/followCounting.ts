import { countedScore, countedWords, type Counting } from '@rosemary/core';
import { findGradeForUpdate, recordGrade } from '../gradebook/index.ts';
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
  let followed = 0;
  for (const { enrolment_id: enrolmentId, attempts } of found) {
    const counted = countedScore(rule, attempts);
    const grade = await findGradeForUpdate(db, itemId, enrolmentId);
    if (counted === null || grade?.state !== 'scored' || grade.raw === counted.score) continue;
    await recordGrade(db, {
      ...{ itemId, enrolmentId, kind: 'set', state: 'scored', raw: counted.score, isReleased: grade.isReleased, source: 'marking' },
      ...{ reason: `Now ${countedWords(rule, attempts.length)} counts`, actorId, at },
    });
    followed += 1;
  }
  return followed;
}
