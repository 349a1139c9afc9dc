import { nodesOfType, plainText } from '../document/plainText.ts';
import { exactText, ONE, ZERO } from '../exact/ratio.ts';
import type { QuestionContent } from './askQuestion.ts';
import { sampleValues } from './calculated.ts';
import { readPattern } from './matchText.ts';
import type { AcceptedText, Choice, NumberRules, QuestionKey, Region, TextRules, Tolerance } from './question.ts';
import { readNumber } from './readNumber.ts';
import { shareRatio } from './share.ts';

const WHOLE = 100_000;
const isNumber = (text: string): boolean => readNumber(text, { units: [], isUnitNeeded: false, decimals: null }).ok;
const isBelowZero = (text: string): boolean => isNumber(text) && text.trim().startsWith('-') && Number(text) !== 0;

function toleranceFaults(tolerance: Tolerance): string[] {
  if (tolerance.kind === 'significant')
    return Number.isInteger(tolerance.figures) && tolerance.figures >= 1 && tolerance.figures <= 15
      ? []
      : [`The tolerance is “${tolerance.figures}” significant figures; give a whole number from 1 to 15.`];
  const text = tolerance.kind === 'absolute' ? tolerance.amount : tolerance.percent;
  if (!isNumber(text)) return [`The tolerance is “${text}”, which is no number. Write one like 0.5, or 0 for none.`];
  return isBelowZero(text) ? [`The tolerance is “${text}”, which is below zero. Give 0 or more.`] : [];
}

function numberFaults(rules: Omit<NumberRules, 'accepted'>): string[] {
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

function acceptedFaults(accepted: readonly AcceptedText[], rules: TextRules): string[] {
  return accepted.flatMap((a) => {
    if (a.text.trim() === '') return ['An accepted answer is empty. Type it, or take it away.'];
    const read = a.isPattern ? readPattern(a.text, rules.caseMatters) : null;
    return read !== null && !read.ok ? [read.reason] : [];
  });
}

function textFaults(rules: TextRules): string[] {
  return [
    ...(rules.accepted.some((a) => a.share >= WHOLE) ? [] : ['No accepted answer is worth all the points.']),
    ...acceptedFaults(rules.accepted, rules),
  ];
}

function choiceFaults(choices: readonly Choice[], isSeveral: boolean): string[] {
  const right = choices.filter((c) => c.share > 0);
  return [
    ...(choices.length < 2 ? ['There are fewer than two answers to choose from. Give another.'] : []),
    ...(choices.some(
      (c) =>
        plainText(c.words).trim() === '' &&
        nodesOfType(c.words, 'picture').length === 0 &&
        nodesOfType(c.words, 'formulaInline').length === 0,
    )
      ? ['An answer to choose is empty. Type it, or take it away.']
      : []),
    ...(right.length === 0 && !isSeveral ? ['No answer is marked as right.'] : []),
    ...(!isSeveral && right.length > 0 && !choices.some((c) => c.share >= WHOLE) ? ['No answer is worth all the points.'] : []),
  ];
}

/** Where each answer has its own value, the right ones together must be able to earn all the points. */
function valueFaults(choices: readonly Choice[]): string[] {
  const most = choices.filter((c) => c.share > 0).reduce((total, c) => total.add(shareRatio(c.share)), ZERO);
  return most.compare(ZERO) > 0 && most.compare(ONE) < 0
    ? [`The right answers together are worth ${exactText(most.mul(100))} %, so nobody can earn all the points. Bring them to 100 %.`]
    : [];
}

function blankFaults(content: QuestionContent, key: Extract<QuestionKey, { kind: 'blanks' }>): string[] {
  const inText = nodesOfType(content.words, 'blank').map((n) => String(n.attrs?.id ?? ''));
  const sum = key.blanks.reduce((total, b) => total.add(shareRatio(b.weight)), ZERO);
  return [
    ...(key.blanks.length === 0 ? ['There is no blank yet. Choose words of the text and make them a blank.'] : []),
    ...(key.blanks.length > 0 && !sum.equals(ONE)
      ? [`The weights of the blanks add up to ${exactText(sum.mul(100))} %, and must to 100 %.`]
      : []),
    ...(key.blanks.some((b) => !inText.includes(b.id)) ? ['A blank is no longer in the text. Put it back, or take it away.'] : []),
    ...key.blanks.flatMap((b) => textFaults(b.rules)),
  ];
}

function regionFaults(regions: readonly { readonly region: Region; readonly share: number }[]): string[] {
  const isInPicture = (r: Region): boolean =>
    (r.shape === 'rectangle' ? [r.from, r.to] : r.shape === 'ellipse' ? [r.centre] : r.corners).every(
      (s) => s.x >= 0 && s.x <= 1 && s.y >= 0 && s.y <= 1,
    );
  return [
    ...(regions.some((r) => r.share >= WHOLE) ? [] : ['No place in the picture is worth all the points. Draw one.']),
    ...(regions.every((r) => isInPicture(r.region)) ? [] : ['A place reaches beyond the picture.']),
    ...(regions.some((r) => r.region.shape === 'polygon' && r.region.corners.length < 3)
      ? ['A place with corners has three at least.']
      : []),
  ];
}

function faultsOfKind(content: QuestionContent): string[] {
  const { key } = content;
  switch (key.kind) {
    case 'single':
    case 'truth':
      return choiceFaults(key.choices, false);
    case 'several':
      return [...choiceFaults(key.choices, true), ...(key.rule === 'own values' ? valueFaults(key.choices) : [])];
    case 'numeric':
      return [
        ...(key.rules.accepted.some((a) => a.share >= WHOLE) ? [] : ['No accepted number is worth all the points.']),
        ...key.rules.accepted.flatMap((a) => (isNumber(a.value) ? toleranceFaults(a.tolerance) : [`“${a.value}” is no number.`])),
        ...numberFaults(key.rules),
      ];
    case 'calculated': {
      const tolerance = toleranceFaults(key.question.tolerance);
      const { faults } = tolerance.length > 0 ? { faults: [] } : sampleValues(key.question, 1, 3, key.rules);
      return [
        ...(key.question.parameters.length === 0 ? ['There is no number yet that differs from student to student.'] : []),
        ...tolerance,
        ...faults,
        ...numberFaults(key.rules),
      ];
    }
    case 'short':
      return textFaults(key.rules);
    case 'blanks':
      return blankFaults(content, key);
    case 'matching':
      return [
        ...(key.pairs.filter((p) => p.left !== '').length < 2 ? ['There are fewer than two pairs. Give another.'] : []),
        ...(key.pairs.some((p) => p.right.trim() === '') ? ['A pair has no right side. Type it, or take the pair away.'] : []),
        ...(new Set(key.pairs.map((p) => p.left).filter((l) => l !== '')).size < key.pairs.filter((p) => p.left !== '').length
          ? ['Two pairs have the same left side.']
          : []),
      ];
    case 'ordering':
      return [
        ...(key.order.length < 2 ? ['There are fewer than two things to put in order. Give another.'] : []),
        ...(key.order.some((t) => t.trim() === '') || new Set(key.order).size < key.order.length
          ? ['A thing to put in order is empty, or there twice.']
          : []),
      ];
    case 'hotspot':
      return [...(content.picture === null ? ['There is no picture yet.'] : []), ...regionFaults(key.regions)];
    default:
      return [];
  }
}

/**
 * What keeps a question from being asked as it is, in words that name the value and the mend; empty where nothing does.
 * Worked example: blanks weighted 50 and 49 %: “The weights of the blanks add up to 99 %, and must to 100 %.”
 */
export function keyFaults(content: QuestionContent): readonly string[] {
  const hasWords =
    plainText(content.words).trim() !== '' ||
    nodesOfType(content.words, 'picture').length > 0 ||
    nodesOfType(content.words, 'blank').length > 0;
  return [...new Set([...(hasWords ? [] : ['Nothing is asked yet. Type the question.']), ...faultsOfKind(content)])];
}
