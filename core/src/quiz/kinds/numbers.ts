import { ZERO, type Ratio } from '../../exact/ratio.ts';
import type { AskedQuestion, NumberRules, Tolerance } from '../question.ts';
import { isWithin, readNumber } from '../readNumber.ts';
import { shareRatio as share } from '../share.ts';
import { given, NOTHING, type QuestionScore } from './kindOfQuestion.ts';
import { fail, rulesOf, type Reading } from './tableCells.ts';

/** What the kinds that accept numbers have in common. */
export const PLAIN_NUMBER: Omit<NumberRules, 'accepted'> = { units: [], isUnitNeeded: false, decimals: null, isSignFree: false };
export const isNumber = (text: string): boolean => readNumber(text, { units: [], isUnitNeeded: false, decimals: null }).ok;
export const isBelowZero = (text: string): boolean => isNumber(text) && text.trim().startsWith('-') && Number(text) !== 0;

export function toleranceFaults(tolerance: Tolerance): string[] {
  if (tolerance.kind === 'significant')
    return Number.isInteger(tolerance.figures) && tolerance.figures >= 1 && tolerance.figures <= 15
      ? []
      : [`The tolerance is “${tolerance.figures}” significant figures; give a whole number from 1 to 15.`];
  const text = tolerance.kind === 'absolute' ? tolerance.amount : tolerance.percent;
  if (!isNumber(text)) return [`The tolerance is “${text}”, which is no number. Write one like 0.5, or 0 for none.`];
  return isBelowZero(text) ? [`The tolerance is “${text}”, which is below zero. Give 0 or more.`] : [];
}

export function numberFaults(rules: Omit<NumberRules, 'accepted'>): string[] {
  const names = rules.units.map((u) => u.name.trim());
  return [
    ...rules.units.flatMap((u) =>
      isNumber(u.factor) && !isBelowZero(u.factor) && Number(u.factor.replace(',', '.')) !== 0
        ? []
        : [`One ${u.name} is worth “${u.factor}” of the first unit, which is no number above 0.`],
    ),
    ...(names.some((name, n) => name === '' || names.indexOf(name) !== n) ? ['A unit has no name, or two have the same.'] : []),
  ];
}

export interface Wanted {
  readonly value: Ratio;
  readonly tolerance: Tolerance;
  readonly share: number;
}
export function ofNumber(rules: Omit<NumberRules, 'accepted'>, accepted: readonly Wanted[], text: string): QuestionScore {
  if (text.trim() === '') return NOTHING;
  const read = readNumber(text, rules);
  if (!read.ok) return given(ZERO, read.reason);
  const value = rules.isSignFree ? read.number.value.abs() : read.number.value;
  const near = accepted.filter((a) => isWithin(value, rules.isSignFree ? a.value.abs() : a.value, a.tolerance));
  const best = near.reduce((most, a) => Math.max(most, a.share), -Infinity);
  return near.length === 0 ? given(ZERO, 'Not within the tolerance of any answer.') : given(share(best), 'Within the tolerance.');
}

/** A tolerance as it is read. Example: `± 0.5 %`; none is empty. */
export function toleranceInWords(tolerance: Tolerance): string {
  if (tolerance.kind === 'significant') return `to ${tolerance.figures} significant figures`;
  if (tolerance.kind === 'relative') return Number(tolerance.percent) === 0 ? '' : `± ${tolerance.percent} %`;
  return Number(tolerance.amount) === 0 ? '' : `± ${tolerance.amount}`;
}

export const inLine = (...parts: readonly string[]): string => parts.filter((p) => p !== '').join(' ');

export const toleranceCell = (t: Tolerance): string =>
  t.kind === 'absolute' ? `±${t.amount}` : t.kind === 'relative' ? `±${t.percent}%` : `${t.figures} figures`;

export const numberRules = (r: Omit<NumberRules, 'accepted'>): string[] => [
  ...(r.units.length === 0 ? [] : [`units: ${r.units.map((u) => `${u.name} ${u.factor}`).join(', ')}`]),
  ...(r.isUnitNeeded ? ['unit needed'] : []),
  ...(r.decimals === null ? [] : [`decimals: ${r.decimals}`]),
  ...(r.isSignFree ? ['either sign'] : []),
];
export function readNumbers(r: Reading): Omit<NumberRules, 'accepted'> {
  let rules: Omit<NumberRules, 'accepted'> = { units: [], isUnitNeeded: false, decimals: null, isSignFree: false };
  rulesOf(r, {
    'units:': (value) => {
      const units = value.split(',').map((unit) => {
        const [, name = '', factor = ''] =
          /^\s*(.+?)\s+(\S+)\s*$/.exec(unit) ?? fail('rules', unit, 'is no unit with its factor, such as “mm 0.001”.');
        return { name, factor };
      });
      rules = { ...rules, units };
    },
    'unit needed': () => (rules = { ...rules, isUnitNeeded: true }),
    'decimals:': (value) => (rules = { ...rules, decimals: Number(value) }),
    'either sign': () => (rules = { ...rules, isSignFree: true }),
  });
  return rules;
}

export const askedNumber = (rules: Omit<NumberRules, 'accepted'>): Partial<AskedQuestion> => ({
  units: rules.units.map((u) => u.name),
  isUnitNeeded: rules.isUnitNeeded,
  decimals: rules.decimals,
});
