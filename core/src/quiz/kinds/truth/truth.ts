import { nothingNear, type KindOfQuestion } from '../kindOfQuestion.ts';
import type { KeyOf } from '../../question.ts';
import { askedChoices, choice, choiceFaults, choiceLines, guessedChoice, readChoices, scoreOne, rightChoices } from '../choices.ts';
import { rulesOf } from '../tableCells.ts';

export const truth: KindOfQuestion<KeyOf<'truth'>> = {
  begin: ({ newId }) => ({
    kind: 'truth',
    choices: [choice(newId(), 'True', true), choice(newId(), 'False', false)],
    hasDontKnow: false,
  }),
  asked: (key, asking) => askedChoices(key, asking, false),
  faults: (key) => choiceFaults(key.choices, false),
  inWords: (key) => rightChoices(key.choices),
  score: scoreOne,
  guessing: (key, least) => guessedChoice(key.choices, least),
  near: nothingNear,
  cells: (key) => ({ answers: choiceLines(key.choices), rules: key.hasDontKnow ? ['I do not know'] : [] }),
  read: (reading) => {
    let hasDontKnow = false;
    rulesOf(reading, { 'I do not know': () => (hasDontKnow = true) });
    return { key: { kind: 'truth', choices: readChoices(reading), hasDontKnow } };
  },
};
