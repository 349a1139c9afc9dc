import { exactText } from '../../../exact/ratio.ts';
import { sampleValues } from '../../calculated.ts';
import type { KeyOf, Parameter } from '../../question.ts';
import { cannotBeGuessed, nothingNear, type KindOfQuestion } from '../kindOfQuestion.ts';
import {
  askedNumber,
  inLine,
  numberFaults,
  numberRules,
  ofNumber,
  PLAIN_NUMBER,
  readNumbers,
  toleranceCell,
  toleranceFaults,
  toleranceInWords,
} from '../numbers.ts';
import { fail, tolerance, type Reading } from '../tableCells.ts';

const WHOLE = 100_000;

function readCalculated(r: Reading): KeyOf<'calculated'> {
  const [first = '', ...rest] = r.lines;
  const [, formula = '', near = ''] =
    /^formula:\s*(.*?)\s*\|\s*(.*)$/.exec(first) ??
    fail('answers', first, 'is no formula with its tolerance, such as “formula: a / b | ±1%”.');
  const parameters: Parameter[] = [];
  const conditions: string[] = [];
  for (const line of rest) {
    const condition = /^if\s+(.*)$/.exec(line);
    const [, name = '', from = '', to = '', step = '', decimals = ''] =
      /^(\w+):\s*(\S+) to (\S+) step (\S+), (\d+) decimals?$/.exec(line) ?? [];
    if (condition !== null) conditions.push(condition[1] ?? '');
    else if (name === '')
      fail('answers', line, 'is no drawn number, such as “a: 1 to 10 step 1, 0 decimals”, and no condition after “if”.');
    else parameters.push({ name, from, to, step, decimals: Number(decimals) });
  }
  return { kind: 'calculated', question: { parameters, conditions, formula, tolerance: tolerance(near, first) }, rules: readNumbers(r) };
}

export const calculated: KindOfQuestion<KeyOf<'calculated'>> = {
  takes: 'text',
  begin: () => ({
    kind: 'calculated',
    question: {
      parameters: [{ name: 'a', from: '1', to: '10', step: '1', decimals: 0 }],
      conditions: [],
      formula: '',
      tolerance: { kind: 'relative', percent: '1' },
    },
    rules: PLAIN_NUMBER,
  }),
  asked: (key) => askedNumber(key.rules),
  faults: ({ question, rules }) => {
    const near = toleranceFaults(question.tolerance);
    const { faults } = near.length > 0 ? { faults: [] } : sampleValues(question, 1, 3, rules);
    return [
      ...(question.parameters.length === 0 ? ['There is no number yet that differs from student to student.'] : []),
      ...near,
      ...faults,
      ...numberFaults(rules),
    ];
  },
  inWords: ({ question, rules }, wanted) =>
    wanted === undefined
      ? [question.formula]
      : [inLine(exactText(wanted), rules.units[0]?.name ?? '', toleranceInWords(question.tolerance))],
  score: ({ question, rules }, answer, wanted) => {
    if (answer.kind !== 'text') return null;
    if (wanted === undefined) throw new RangeError('A calculated question is scored with the answer that follows from its values.');
    return ofNumber(rules, [{ value: wanted, tolerance: question.tolerance, share: WHOLE }], answer.text);
  },
  guessing: cannotBeGuessed,
  near: nothingNear,
  cells: ({ question: { parameters, conditions, formula, tolerance: near }, rules }) => ({
    answers: [
      `formula: ${formula} | ${toleranceCell(near)}`,
      ...parameters.map((p) => `${p.name}: ${p.from} to ${p.to} step ${p.step}, ${p.decimals} decimals`),
      ...conditions.map((c) => `if ${c}`),
    ],
    rules: numberRules(rules),
  }),
  read: (reading) => {
    const key = readCalculated(reading);
    const names = new Set(key.question.parameters.map((p) => p.name));
    return { key, placeOf: (inside) => (names.has(inside) ? { type: 'value', attrs: { name: inside } } : null) };
  },
};
