import { MOST_STEPS, readPattern, stepsOf } from '../matchText.ts';
import type { AcceptedText, TextRules } from '../question.ts';
import { percent, quoted, rulesOf, sharedLine, unquoted, type Reading } from './tableCells.ts';

/** What the kinds that accept texts have in common. */
const WHOLE = 100_000;
export const plainText = (...accepted: readonly string[]): TextRules => ({
  accepted: accepted.map((text) => ({ text, isPattern: false, share: WHOLE })),
  caseMatters: false,
  spaceMatters: false,
});

export function acceptedFaults(accepted: readonly AcceptedText[], rules: TextRules): string[] {
  return accepted.flatMap((a) => {
    if (a.text.trim() === '') return ['An accepted answer is empty. Type it, or remove it.'];
    const read = a.isPattern ? readPattern(a.text, rules.caseMatters) : null;
    return read !== null && !read.ok ? [read.reason] : [];
  });
}

export function textFaults(rules: TextRules): string[] {
  return [
    ...(rules.accepted.some((a) => a.share >= WHOLE) ? [] : ['No accepted answer is worth all the points.']),
    ...acceptedFaults(rules.accepted, rules),
    ...(stepsOf(rules) > MOST_STEPS ? ['The patterns take too long to compare together. Remove some, or repeat fewer parts of them.'] : []),
  ];
}

export const acceptedLine = (a: AcceptedText): string => `${percent(a.share)}: ${a.isPattern ? `/${a.text}/` : quoted(a.text)}`;
export const textRules = (r: Pick<TextRules, 'caseMatters' | 'spaceMatters'>): string[] => [
  ...(r.caseMatters ? ['case matters'] : []),
  ...(r.spaceMatters ? ['spaces matter'] : []),
];
export function accepted(line: string): AcceptedText {
  const { share, rest } = sharedLine(line);
  const pattern = /^\/(.*)\/$/s.exec(rest);
  return pattern === null ? { text: unquoted(rest, line), isPattern: false, share } : { text: pattern[1] ?? '', isPattern: true, share };
}
export function texts(r: Pick<Reading, 'rules'> & Reading): Pick<TextRules, 'caseMatters' | 'spaceMatters'> {
  const found = { caseMatters: false, spaceMatters: false };
  rulesOf(r, {
    'case matters': () => (found.caseMatters = true),
    'spaces matter': () => (found.spaceMatters = true),
  });
  return found;
}
