import { type ReviewTime, scoreTimingFault } from '@rosemary/core';
import { maybe } from '../../platform/database.ts';
import { invalid } from '../../platform/errors.ts';
import type { ServedKind } from '../servedKind.ts';

/** The points of a quiz are those of its questions, and without a question it cannot be opened. */
export const checkChange: ServedKind['checkChange'] = async (db, before, change) => {
  if (change.possible !== undefined && change.possible !== before.possible)
    throw invalid('possible', `“${before.title}” has the points of its questions. Change them on its paper.`);
  if (change.releaseMode !== undefined && change.releaseMode !== before.releaseMode) {
    const quiz = await maybe<{ score: ReviewTime['kind']; retry_until: number | null }>(
      db,
      "select review -> 'score' ->> 'kind' as score, (retry_until * 1000)::int as retry_until from quiz where item_id = $1",
      [before.id],
    );
    const timing = quiz === null ? null : scoreTimingFault(change.releaseMode, quiz.score, quiz.retry_until);
    if (timing !== null) throw invalid('releaseMode', timing);
  }
  if (change.isDraft !== false || !before.isDraft) return;
  const part = await maybe(db, 'select 1 as one from quiz_part p join quiz_section s on s.id = p.section_id where s.item_id = $1 limit 1', [
    before.id,
  ]);
  if (part === null) throw invalid('isDraft', `“${before.title}” has no question yet, so it cannot be opened. Write one first.`);
};
