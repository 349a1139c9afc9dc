import { plainText } from '../document/plainText.ts';
import { exactText, type Ratio } from '../exact/ratio.ts';
import type { QuestionKey, Tolerance } from './question.ts';

/** A tolerance as it is read. Example: `± 0.5 %`; none is empty. */
export function toleranceInWords(tolerance: Tolerance): string {
  if (tolerance.kind === 'significant') return `to ${tolerance.figures} significant figures`;
  if (tolerance.kind === 'relative') return Number(tolerance.percent) === 0 ? '' : `± ${tolerance.percent} %`;
  return Number(tolerance.amount) === 0 ? '' : `± ${tolerance.amount}`;
}

const line = (...parts: readonly string[]): string => parts.filter((p) => p !== '').join(' ');

/**
 * What is right, in lines to be read, for whoever may know. `wanted` is the answer that follows from one student's numbers.
 * Worked example: a number 28800 within 1 %: `28800 ± 1 %`; pairs one a line: `lever – locks the train`.
 */
export function keyInWords(key: QuestionKey, wanted: Ratio | undefined): readonly string[] {
  switch (key.kind) {
    case 'single':
    case 'truth':
    case 'several':
      return key.choices.filter((c) => c.share > 0).map((c) => plainText(c.words));
    case 'numeric':
      return key.rules.accepted
        .filter((a) => a.share > 0)
        .map((a) => line(a.value, key.rules.units[0]?.name ?? '', toleranceInWords(a.tolerance)));
    case 'calculated':
      return wanted === undefined
        ? [key.question.formula]
        : [line(exactText(wanted), key.rules.units[0]?.name ?? '', toleranceInWords(key.question.tolerance))];
    case 'short':
      return key.rules.accepted.filter((a) => a.share > 0).map((a) => a.text);
    case 'blanks':
      return key.blanks.map(
        (b, n) =>
          `${n + 1}: ${b.rules.accepted
            .filter((a) => a.share > 0)
            .map((a) => a.text)
            .join(' or ')}`,
      );
    case 'matching':
      return key.pairs.filter((p) => p.left !== '').map((p) => `${p.left} – ${p.right}`);
    case 'ordering':
      return key.order.map((thing, n) => `${n + 1}. ${thing}`);
    default:
      return [];
  }
}
