import type { KeyOf } from '../../question.ts';
import { decimalRatio } from '../../readNumber.ts';
import { cannotBeGuessed, type KindOfQuestion } from '../kindOfQuestion.ts';
import {
  askedNumber,
  inLine,
  isNumber,
  numberFaults,
  numberRules,
  ofNumber,
  PLAIN_NUMBER,
  readNumbers,
  toleranceCell,
  toleranceFaults,
  toleranceInWords,
} from '../numbers.ts';
import { fail, percent, sharedLine, tolerance } from '../tableCells.ts';

const WHOLE = 100_000;

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
export const numeric: KindOfQuestion<KeyOf<'numeric'>> = {
  takes: 'text',
  begin: () => ({
    kind: 'numeric',
    rules: { ...PLAIN_NUMBER, accepted: [{ value: '', tolerance: { kind: 'absolute', amount: '0' }, share: WHOLE }] },
  }),
  asked: (key) => askedNumber(key.rules),
  faults: ({ rules }) => [
    ...(rules.accepted.some((a) => a.share >= WHOLE) ? [] : ['No accepted number is worth all the points.']),
    ...rules.accepted.flatMap((a) => (isNumber(a.value) ? toleranceFaults(a.tolerance) : [`“${a.value}” is no number.`])),
    ...numberFaults(rules),
  ],
  inWords: ({ rules }) =>
    rules.accepted.filter((a) => a.share > 0).map((a) => inLine(a.value, rules.units[0]?.name ?? '', toleranceInWords(a.tolerance))),
  score: ({ rules }, answer) =>
    answer.kind === 'text'
      ? ofNumber(
          rules,
          rules.accepted.map((a) => ({ ...a, value: decimalRatio(a.value) })),
          answer.text,
        )
      : null,
  guessing: cannotBeGuessed,
  near: ({ rules }) => rules.accepted.flatMap((a) => nearNumbers(a.value)),
  cells: ({ rules }) => ({
    answers: rules.accepted.map((a) => `${percent(a.share)}: ${a.value} ${toleranceCell(a.tolerance)}`),
    rules: numberRules(rules),
  }),
  read: (reading) => {
    const accepted = reading.lines.map((line) => {
      const { share, rest } = sharedLine(line);
      const [, value = '', near = ''] = /^(\S+)\s*(.*)$/.exec(rest) ?? fail('answers', line, 'has no number.');
      return { value, share, tolerance: near === '' ? ({ kind: 'absolute', amount: '0' } as const) : tolerance(near, line) };
    });
    return { key: { kind: 'numeric', rules: { ...readNumbers(reading), accepted } } };
  },
};
