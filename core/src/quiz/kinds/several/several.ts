import { ONE, ratio, ZERO, type Ratio, exactText } from '../../../exact/ratio.ts';
import { shareRatio as share } from '../../share.ts';
import type { Choice, KeyOf } from '../../question.ts';
import { askedChoices, choice, choiceFaults, choiceLines, readChoices, rightChoices } from '../choices.ts';
import { cannotBeGuessed, given, nothingNear, type KindOfQuestion, type QuestionScore } from '../kindOfQuestion.ts';
import { rulesOf } from '../tableCells.ts';

const sum = (parts: readonly Ratio[]): Ratio => parts.reduce((total, part) => total.add(part), ZERO);

/** Where each answer has its own value, the right ones together must be able to earn all the points. */
function valueFaults(choices: readonly Choice[]): string[] {
  const most = choices.filter((c) => c.share > 0).reduce((total, c) => total.add(share(c.share)), ZERO);
  return most.compare(ZERO) > 0 && most.compare(ONE) < 0
    ? [`The right answers together are worth ${exactText(most.mul(100))} %, so nobody can earn all the points. Bring them to 100 %.`]
    : [];
}

function ofChoices(key: KeyOf<'several'>, ids: readonly string[]): QuestionScore {
  const picked = key.choices.filter((c) => ids.includes(c.id));
  if (key.rule === 'own values') return given(sum(picked.map((c) => share(c.share))), 'The values of the answers picked, added.');
  const right = key.choices.filter((c) => c.share > 0).length;
  const rightPicks = picked.filter((c) => c.share > 0).length;
  const wrongPicks = picked.length - rightPicks;
  if (right === 0) return given(picked.length === 0 ? ONE : ZERO, 'No answer is right, so none is to be picked.');
  if (key.rule === 'all or nothing')
    return given(
      rightPicks === right && wrongPicks === 0 ? ONE : ZERO,
      `${rightPicks} of ${right} right and ${wrongPicks} wrong; all or nothing.`,
    );
  return given(ratio(rightPicks - wrongPicks, right), `${rightPicks} right less ${wrongPicks} wrong, of ${right}.`);
}

export const several: KindOfQuestion<KeyOf<'several'>> = {
  takes: 'choices',
  begin: ({ newId, held }) => ({
    kind: 'several',
    choices: held ?? [choice(newId(), '', true), choice(newId(), '', true), choice(newId(), '', false), choice(newId(), '', false)],
    rule: 'less wrong',
    hasDontKnow: false,
  }),
  asked: (key, asking) => askedChoices(key, asking, asking.isShuffled),
  faults: (key) => [...choiceFaults(key.choices, true), ...(key.rule === 'own values' ? valueFaults(key.choices) : [])],
  inWords: (key) => rightChoices(key.choices),
  score: (key, answer) => (answer.kind === 'choices' ? ofChoices(key, answer.ids) : null),
  guessing: cannotBeGuessed,
  near: nothingNear,
  cells: (key) => ({ answers: choiceLines(key.choices), rules: [key.rule, ...(key.hasDontKnow ? ['I do not know'] : [])] }),
  read: (reading) => {
    let [rule, hasDontKnow]: [KeyOf<'several'>['rule'], boolean] = ['less wrong', false];
    rulesOf(reading, {
      'I do not know': () => (hasDontKnow = true),
      'less wrong': () => undefined,
      'all or nothing': () => (rule = 'all or nothing'),
      'own values': () => (rule = 'own values'),
    });
    return { key: { kind: 'several', choices: readChoices(reading), rule, hasDontKnow } };
  },
};
