import { type Membership, reachesSection } from '@rosemary/core';
import { type Db, maybe, rows, run } from '../platform/database.ts';
import { invalid, notFound } from '../platform/errors.ts';
import { listMarkers } from '../shares/index.ts';

/** Who marks which question of a quiz; a question that is not here is marked by everyone, of the students they reach. */
export type QuestionShares = ReadonlyMap<string, readonly string[]>;

export async function listQuestionShares(db: Db, itemId: string): Promise<QuestionShares> {
  const found = await rows<{ question_id: string; marker_ids: string[] }>(
    db,
    'select question_id, array_agg(marker_id::text) as marker_ids from question_share where item_id = $1 group by question_id',
    [itemId],
  );
  return new Map(found.map((row) => [row.question_id, row.marker_ids]));
}

/** Whether a member of staff marks this answer: an instructor any; an assistant those of questions given to them, in any section, and of questions given to nobody those of their sections. */
export function reachesAnswer(
  by: { readonly member: Membership; readonly personId: string },
  shares: QuestionShares,
  questionId: string,
  sectionId: string | null,
): boolean {
  if (by.member.role === 'instructor') return true;
  const markers = shares.get(questionId);
  return markers === undefined ? reachesSection(by.member, sectionId) : markers.includes(by.personId);
}

/** Gives the answers to one question to these markers; to nobody gives them back to everyone. */
export async function shareQuestion(
  db: Db,
  courseId: string,
  itemId: string,
  questionId: string,
  markerIds: readonly string[],
): Promise<void> {
  const isOfQuiz = await maybe(
    db,
    `select 1 as one from quiz_part p join quiz_section s on s.id = p.section_id where s.item_id = $1 and p.question_id = $2
     union all select 1 from quiz_score c join quiz_attempt t on t.id = c.attempt_id where t.item_id = $1 and c.question_id = $2 limit 1`,
    [itemId, questionId],
  );
  if (isOfQuiz === null) throw notFound();
  const known = new Set((await listMarkers(db, courseId)).map((m) => m.id));
  if (markerIds.some((id) => !known.has(id)))
    throw invalid('markerIds', 'Somebody named does not mark in this course. Choose among those who do.');
  await run(db, 'delete from question_share where item_id = $1 and question_id = $2', [itemId, questionId]);
  await run(db, 'insert into question_share (item_id, question_id, marker_id) select $1, $2, unnest($3::uuid[])', [
    itemId,
    questionId,
    [...new Set(markerIds)],
  ]);
}
