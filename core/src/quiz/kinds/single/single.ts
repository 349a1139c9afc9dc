import { nothingNear, type KindOfQuestion } from '../kindOfQuestion.ts';
import type { KeyOf } from '../../question.ts';
import { askedChoices, choice, choiceFaults, choiceLines, guessedChoice, readChoices, scoreOne, rightChoices } from '../choices.ts';
import { rulesOf } from '../tableCells.ts';

export const single: KindOfQuestion<KeyOf<'single'>> = {
  begin: ({ newId, held }) => ({
    kind: 'single',
    choices: held ?? [choice(newId(), '', true), choice(newId(), '', false), choice(newId(), '', false), choice(newId(), '', false)],
    hasDontKnow: false,
  }),
  asked: (key, asking) => askedChoices(key, asking, asking.isShuffled),
  faults: (key) => choiceFaults(key.choices, false),
  inWords: (key) => rightChoices(key.choices),
  score: scoreOne,
  guessing: (key, least) => guessedChoice(key.choices, least),
  near: nothingNear,
  cells: (key) => ({ answers: choiceLines(key.choices), rules: key.hasDontKnow ? ['I do not know'] : [] }),
  read: (reading) => {
    let hasDontKnow = false;
    rulesOf(reading, { 'I do not know': () => (hasDontKnow = true) });
    return { key: { kind: 'single', choices: readChoices(reading), hasDontKnow } };
  },
};
