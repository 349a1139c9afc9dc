import type { QuestionKey } from './question.ts';

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
/** Near a number: a digit more, a decimal comma, a sign, a factor of ten, rounded off. */
function nearNumbers(value: string): string[] {
  const n = Number(value);
  if (!Number.isFinite(n)) return [];
  return [
    value.replace('.', ','),
    `${value}0`,
    `-${value}`,
    String(n * 10),
    String(n / 10),
    String(Math.round(n)),
    String(n * 1.01),
    String(n * 0.99),
  ].filter((t) => t !== value);
}
/** A plain word that a pattern would take, as far as it can be told by leaving its signs out. */
const withoutSigns = (pattern: string): string => pattern.replace(/\\.|\[[^\]]*\]|[()?*+.^$|{}]/g, '');

/**
 * Answers that lie near what a key accepts, to see what it takes of them: each once, at most forty.
 * Worked example: for `lever`: `lver`, `levver`, `lveer`, `levers`, `the lever`, `not lever`, …
 */
export function nearMisses(key: QuestionKey): readonly string[] {
  const texts =
    key.kind === 'short'
      ? key.rules.accepted.flatMap((a) => slips(a.isPattern ? withoutSigns(a.text) : a.text))
      : key.kind === 'numeric'
        ? key.rules.accepted.flatMap((a) => nearNumbers(a.value))
        : [];
  return [...new Set(texts)].slice(0, 40);
}
