import { ZERO } from '../../../exact/ratio.ts';
import { findAccepted } from '../../matchText.ts';
import type { KeyOf } from '../../question.ts';
import { shareRatio as share } from '../../share.ts';
import { asksNothingMore, cannotBeGuessed, given, type KindOfQuestion } from '../kindOfQuestion.ts';
import { accepted, acceptedLine, plainText, textFaults, textRules, texts } from '../texts.ts';

/** Slips of the hand and of the eye for one text: a letter left out, doubled, two exchanged, a word too many, another ending. */
function slips(text: string): string[] {
  const middle = text.length >> 1;
  const made = [
    text.length > 2 ? text.slice(0, middle) + text.slice(middle + 1) : '',
    text.slice(0, middle) + text.charAt(middle) + text.slice(middle),
    text.length > 3 ? text.slice(0, middle) + text.charAt(middle + 1) + text.charAt(middle) + text.slice(middle + 2) : '',
    `${text}s`,
    `the ${text}`,
    `not ${text}`,
    `${text} ${text}`,
    text.toUpperCase(),
    text.replace(/\s+/g, ''),
  ];
  return made.filter((t) => t !== '' && t !== text);
}
/** A plain word that a pattern would take, as far as it can be told by leaving its signs out. */
const withoutSigns = (pattern: string): string => pattern.replace(/\\.|\[[^\]]*\]|[()?*+.^$|{}]/g, '');

export const short: KindOfQuestion<KeyOf<'short'>> = {
  takes: 'text',
  begin: ({ from }) => ({ kind: 'short', rules: from?.kind === 'short' ? from.rules : plainText('') }),
  asked: asksNothingMore,
  faults: (key) => textFaults(key.rules),
  inWords: (key) => key.rules.accepted.filter((a) => a.share > 0).map((a) => a.text),
  score: (key, answer) => {
    if (answer.kind !== 'text') return null;
    const found = findAccepted(answer.text, key.rules);
    return found === null ? given(ZERO, 'Not among the accepted answers.') : given(share(found.share), `Accepted as “${found.text}”.`);
  },
  guessing: cannotBeGuessed,
  near: (key) => key.rules.accepted.flatMap((a) => slips(a.isPattern ? withoutSigns(a.text) : a.text)),
  cells: (key) => ({ answers: key.rules.accepted.map(acceptedLine), rules: textRules(key.rules) }),
  read: (reading) => ({ key: { kind: 'short', rules: { accepted: reading.lines.map(accepted), ...texts(reading) } } }),
};
