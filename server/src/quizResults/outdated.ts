import type { OutdatedScores } from '@rosemary/api';
import { titleOf } from '../bank/index.ts';
import { rows, type Db } from '../platform/database.ts';
import { countOutdated } from '../quizTaking/index.ts';

/**
 * Questions whose answers were scored by a rule that holds no longer: pairs with a right side that only distracts, which once counted
 * against whoever had every pair right. What is scored is left as it is until somebody who teaches has it scored again.
 */
export async function listOutdated(db: Db, itemId: string): Promise<OutdatedScores> {
  const found = await rows<{ id: string; title: string; plain: string; attempt_ids: string[] }>(
    db,
    `select q.id, q.title, max(v.plain) as plain, array_agg(distinct t.id) as attempt_ids
     from quiz_attempt t join quiz_score s on s.attempt_id = t.id join question q on q.id = s.question_id
       join question_version v on v.question_id = q.id and v.kind = 'matching' and v.key -> 'pairs' @> '[{"left": ""}]'
     where t.item_id = $1 and t.state = 'handed in' group by q.id order by 2, 3`,
    [itemId],
  );
  const questions: { questionId: string; title: string; answers: number }[] = [];
  for (const q of found) {
    const answers = await countOutdated(db, itemId, q.attempt_ids, q.id);
    if (answers > 0) questions.push({ questionId: q.id, title: titleOf(q.title, q.plain), answers });
  }
  return { questions };
}
