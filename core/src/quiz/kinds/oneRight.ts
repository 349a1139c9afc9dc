import type { Choice, KeyOf } from '../question.ts';
import { askedChoices, choiceFaults, choiceLines, guessedChoice, readChoices, rightChoices, scoreOne } from './choices.ts';
import { nothingNear, type Beginning, type KindOfQuestion } from './kindOfQuestion.ts';
import { rulesOf } from './tableCells.ts';

/** A kind of which one answer is picked. `isFixed` answers stand in their order, whatever the quiz mixes. */
export function oneRight<K extends 'single' | 'truth'>(
  kind: K,
  begin: (beginning: Beginning) => readonly Choice[],
  isFixed: boolean,
): KindOfQuestion<KeyOf<K>> {
  const keyOf = (choices: readonly Choice[], hasDontKnow: boolean): KeyOf<K> => ({ kind, choices, hasDontKnow }) as KeyOf<K>;
  return {
    takes: 'choice',
    begin: (beginning) => keyOf(begin(beginning), false),
    asked: (key, asking) => askedChoices(key, asking, asking.isShuffled && !isFixed),
    faults: (key) => choiceFaults(key.choices, false),
    inWords: (key) => rightChoices(key.choices),
    score: scoreOne,
    guessing: (key, least) => guessedChoice(key.choices, least),
    near: nothingNear,
    cells: (key) => ({ answers: choiceLines(key.choices), rules: key.hasDontKnow ? ['I do not know'] : [] }),
    read: (reading) => {
      let hasDontKnow = false;
      rulesOf(reading, { 'I do not know': () => (hasDontKnow = true) });
      return { key: keyOf(readChoices(reading), hasDontKnow) };
    },
  };
}
