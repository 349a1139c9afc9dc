import type { KeyOf } from '../question.ts';
import { asksNothingMore, cannotBeGuessed, nothingNear, type KindOfQuestion } from './kindOfQuestion.ts';
import { rulesOf } from './tableCells.ts';

/** A kind that has no key: somebody marks what was given. */
export const byPerson = <K extends 'essay' | 'file'>(kind: K): KindOfQuestion<KeyOf<K>> => {
  const key = { kind } as KeyOf<K>;
  return {
    takes: 'work',
    begin: () => key,
    asked: asksNothingMore,
    faults: () => [],
    inWords: () => [],
    score: () => ({ share: null, rule: 'Waits for somebody to mark it.' }),
    guessing: cannotBeGuessed,
    near: nothingNear,
    cells: () => ({ answers: [], rules: [] }),
    read: (reading) => {
      rulesOf(reading, {});
      return { key };
    },
  };
};
