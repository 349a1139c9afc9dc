import { type ReviewTime, scoreTimingFault } from '@rosemary/core';
import { findFaulty } from '../../bank/index.ts';
import { maybe } from '../../platform/database.ts';
import { invalid } from '../../platform/errors.ts';
import { listSections, readPools } from './sections.ts';
import type { ServedKind } from '../servedKind.ts';

/** The points of a quiz are those of its questions, and it cannot be opened without a question, or with one that cannot be asked. */
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
  const sections = await listSections(db, before.id);
  const parts = sections.flatMap((s) => s.parts);
  if (parts.length === 0) throw invalid('isDraft', `“${before.title}” has no question yet, so it cannot be opened. Write one first.`);
  const pools = await readPools(db, sections);
  const asked = parts.flatMap((p) => (p.question_id === null ? [] : [{ id: p.question_id, number: p.question_version ?? 1 }]));
  const faulty = await findFaulty(db, [...asked, ...[...pools.values()].flat()]);
  if (faulty !== null)
    throw invalid('isDraft', `“${before.title}” cannot be opened, because of its question “${faulty.title}”. ${faulty.fault}`);
};
