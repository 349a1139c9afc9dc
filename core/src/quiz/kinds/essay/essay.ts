import type { KeyOf } from '../../question.ts';
import { asksNothingMore, cannotBeGuessed, nothingNear, type KindOfQuestion } from '../kindOfQuestion.ts';
import { rulesOf } from '../tableCells.ts';

/** Written at length; somebody marks it. */
export const essay: KindOfQuestion<KeyOf<'essay'>> = {
  begin: () => ({ kind: 'essay' }),
  asked: asksNothingMore,
  faults: () => [],
  inWords: () => [],
  score: () => ({ share: null, rule: 'Waits for somebody to mark it.' }),
  guessing: cannotBeGuessed,
  near: nothingNear,
  cells: () => ({ answers: [], rules: [] }),
  read: (reading) => {
    rulesOf(reading, {});
    return { key: { kind: 'essay' } };
  },
};
