import { RE2JS } from 're2js';
import type { AcceptedText, TextRules } from './question.ts';

/** Longest pattern, so that compiling one stays quick too. */
export const LONGEST_PATTERN = 400;
export type PatternRead =
  | { readonly ok: true; readonly matches: (text: string) => boolean; readonly steps: number }
  | { readonly ok: false; readonly reason: string };
/** Steps that the patterns of one answer may have together, counted as they are worked through for each letter. */
export const MOST_STEPS = 1_000;
/** Steps times letters that one answer may cost, about 80 milliseconds: an answer longer than that allows fits no pattern. */
const MOST_WORK = 400_000;

const compiled = new Map<string, PatternRead>();
/**
 * A pattern that must fit the whole answer, run in time that grows with the length of the answer and no faster (RE2). What other engines
 * only do by trying back and forth (references to groups, looking ahead) is refused, by name; so is one of more than a thousand steps.
 * Worked example: `colou?r` fits `color` and `colour`, and not `colours`.
 */
export function readPattern(pattern: string, caseMatters: boolean): PatternRead {
  const key = `${caseMatters ? 'A' : 'a'}${pattern}`;
  const known = compiled.get(key);
  if (known !== undefined) return known;
  const read = compile(pattern, caseMatters);
  // Keys of past questions need not stay for ever.
  if (compiled.size > 500) compiled.clear();
  compiled.set(key, read);
  return read;
}

function compile(pattern: string, caseMatters: boolean): PatternRead {
  if (pattern.length > LONGEST_PATTERN) return { ok: false, reason: `A pattern has ${LONGEST_PATTERN} signs at most.` };
  try {
    const made = RE2JS.compile(pattern, caseMatters ? 0 : RE2JS.CASE_INSENSITIVE);
    const steps = made.programSize();
    return steps > MOST_STEPS
      ? { ok: false, reason: `The pattern “${pattern}” takes too long to compare. Repeat fewer parts of it, or fewer times.` }
      : { ok: true, matches: (text) => made.matches(text), steps };
  } catch (error) {
    return { ok: false, reason: `The pattern “${pattern}” cannot be read: ${error instanceof Error ? error.message : 'unknown'}.` };
  }
}

/** A text as it is compared: one form of each letter, no spaces at its ends, case and runs of spaces by the rules. */
export function comparedText(text: string, rules: Pick<TextRules, 'caseMatters' | 'spaceMatters'>): string {
  const form = text.normalize('NFC').trim();
  const spaced = rules.spaceMatters ? form : form.replace(/\s+/gu, ' ');
  return rules.caseMatters ? spaced : spaced.toLocaleLowerCase('en');
}

/** How many steps the patterns among these have together; one that cannot be read has none. Example: `colou?r` has 9. */
export const stepsOf = (rules: Pick<TextRules, 'accepted' | 'caseMatters'>): number =>
  rules.accepted.reduce((all, a) => {
    const read = a.isPattern ? readPattern(a.text, rules.caseMatters) : null;
    return all + (read !== null && read.ok ? read.steps : 0);
  }, 0);

/**
 * Which of the accepted texts an answer is, and the best of them where it is several; null is none. A pattern that cannot be read fits
 * nothing, and none fits an answer so long that comparing would take too long (400 letters and more, by the steps of the patterns). `places` is
 * among how many texts of one answer that work is shared.
 * Worked example: `  Pallet   Fork ` is `pallet fork` unless case or spaces matter.
 */
export function findAccepted(text: string, rules: TextRules, places = 1): AcceptedText | null {
  const given = comparedText(text, rules);
  if (given === '') return null;
  const isShort = given.length * stepsOf(rules) * places <= MOST_WORK;
  const isIt = (accepted: AcceptedText): boolean => {
    if (!accepted.isPattern) return comparedText(accepted.text, rules) === given;
    const pattern = readPattern(accepted.text, rules.caseMatters);
    // Case is the pattern's own affair, so it sees the answer as it was written.
    return pattern.ok && isShort && pattern.matches(comparedText(text, { ...rules, caseMatters: true }));
  };
  return rules.accepted.filter(isIt).reduce<AcceptedText | null>((best, a) => (best === null || a.share > best.share ? a : best), null);
}
