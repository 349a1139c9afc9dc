import { parsePoints, type Thousandths } from '../exact/points.ts';
import { readNumber } from './readNumber.ts';
import type { Tolerance } from './question.ts';

/** A question recognised in a list that was typed or pasted, in plain words, to be looked at before it is made. */
export interface PastedQuestion {
  /** The line it begins on, counted from 1. */
  readonly line: number;
  readonly words: string;
  readonly points: Thousandths | null;
  readonly key: PastedKey;
  /** What is still missing, in words; empty where it could be asked as it is. */
  readonly faults: readonly string[];
}
export type PastedKey =
  | { readonly kind: 'single' | 'several' | 'truth'; readonly choices: readonly { readonly words: string; readonly isRight: boolean }[] }
  | { readonly kind: 'numeric'; readonly value: string; readonly tolerance: Tolerance; readonly unit: string | null }
  | { readonly kind: 'short'; readonly accepted: readonly string[] }
  | { readonly kind: 'blanks'; readonly parts: readonly (string | { readonly answer: string })[] }
  | { readonly kind: 'matching'; readonly pairs: readonly { readonly left: string; readonly right: string }[] }
  | { readonly kind: 'essay' };

interface Line {
  readonly at: number;
  readonly text: string;
}
const NUMBERED = /^\(?(\d{1,3})[.)]\s+(.+)$/;
const LETTERED = /^(?:\(?([a-zA-Z])[.)]|[-–•])\s+(.+)$/;
const ANSWER = /^(?:→|->)\s*(.+)$/;
const PAIR = /^(.+?)\s*(?:↔|<->)\s*(.+)$/;
const POINTS = /\s*\((\d+(?:[.,]\d{1,3})?)\s*(?:p|pt|pts|point|points)\)\s*$/i;
const MARK_BEFORE = /^[*✓✔]\s*/u;
const MARK_AFTER = /\s*(?:[*✓✔]|\((?:right|correct)\))$/iu;
const WITHIN = /^(.+?)\s*(?:±|\+\/-)\s*(\d+(?:[.,]\d+)?)\s*(%?)\s*(\D*)$/;

/** Lines of one question each: a number begins one, or, where nothing is numbered, an empty line before it. */
function parts(text: string): Line[][] {
  const lines = text.split(/\r\n|\r|\n/).map((line, n): Line => ({ at: n + 1, text: line.trim() }));
  const isNumbered = lines.some((l) => NUMBERED.test(l.text));
  const found: Line[][] = [];
  let isNew = true;
  for (const line of lines) {
    if (line.text === '') {
      if (!isNumbered) isNew = true;
      continue;
    }
    if (isNumbered ? NUMBERED.test(line.text) : isNew) found.push([]);
    isNew = false;
    // What stands before the first number is a heading, and no question.
    found.at(-1)?.push(line);
  }
  return found;
}

function choiceOf(text: string): { words: string; isRight: boolean } {
  const words = text.replace(MARK_BEFORE, '').replace(MARK_AFTER, '');
  return { words, isRight: words !== text };
}

function keyOfChoices(lettered: readonly string[]): { key: PastedKey; faults: string[] } {
  const choices = lettered.map(choiceOf);
  const right = choices.filter((c) => c.isRight).length;
  const isTruth =
    choices.length === 2 &&
    choices
      .map((c) => c.words.toLowerCase())
      .sort()
      .join() === 'false,true';
  return {
    key: { kind: right > 1 ? 'several' : isTruth ? 'truth' : 'single', choices },
    faults: [
      ...(right === 0 ? ['No answer is marked as right. Put a * or ✓ before or after it.'] : []),
      ...(choices.length < 2 ? ['There is one answer to choose from. Give another.'] : []),
    ],
  };
}

function keyOfAnswer(text: string): PastedKey {
  const within = WITHIN.exec(text);
  const [value, amount = '0', percent = '', behind = ''] = within === null ? [text] : within.slice(1);
  // A unit behind the number, or behind the tolerance, is the number's.
  const written = /^([+\-−]?[\d.,\s]+(?:e[+\-−]?\d+)?)\s*([^\d\s].*)?$/i.exec((value ?? '').trim());
  const unit = (written?.[2] ?? behind).trim();
  if (written !== null && readNumber(written[1] ?? '', { units: [], isUnitNeeded: false, decimals: null }).ok)
    return {
      kind: 'numeric',
      value: (written[1] ?? '').trim(),
      tolerance: percent === '%' ? { kind: 'relative', percent: amount } : { kind: 'absolute', amount },
      unit: unit === '' ? null : unit,
    };
  return { kind: 'short', accepted: text.split(/\s*[;/]\s*/).filter((t) => t !== '') };
}

function keyOfBlanks(words: string): PastedKey {
  const pieces = words.split(/\[([^[\]]+)\]/).map((piece, n) => (n % 2 === 1 ? { answer: piece.trim() } : piece));
  return { kind: 'blanks', parts: pieces.filter((piece) => piece !== '') };
}

function toQuestion(lines: readonly Line[]): PastedQuestion {
  const first = lines[0]?.text ?? '';
  const head = NUMBERED.exec(first)?.[2] ?? first;
  const points = POINTS.exec(head);
  const read = points === null ? null : parsePoints(points[1] ?? '');
  const rest = lines.slice(1).map((l) => l.text);
  const lettered = rest.flatMap((t) => LETTERED.exec(t)?.[2] ?? []);
  const answers = rest.flatMap((t) => ANSWER.exec(t)?.[1] ?? []);
  const pairs = rest.flatMap((t) => {
    const pair = ANSWER.test(t) ? null : PAIR.exec(t);
    return pair === null ? [] : [{ left: pair[1] ?? '', right: pair[2] ?? '' }];
  });
  const more = rest.filter((t) => !LETTERED.test(t) && !ANSWER.test(t) && !PAIR.test(t));
  const words = [head.replace(POINTS, ''), ...more].join('\n');
  const found: { key: PastedKey; faults: string[] } =
    lettered.length > 0
      ? keyOfChoices(lettered)
      : pairs.length > 0
        ? { key: { kind: 'matching', pairs }, faults: pairs.length < 2 ? ['One pair can only be matched in one way. Give another.'] : [] }
        : answers.length > 0
          ? { key: keyOfAnswer(answers.join(' / ')), faults: [] }
          : { key: /\[[^[\]]+\]/.test(words) ? keyOfBlanks(words) : { kind: 'essay' }, faults: [] };
  return { line: lines[0]?.at ?? 0, words, points: read?.ok === true ? read.value : null, ...found };
}

/**
 * Recognises questions in a list as teachers type them: numbered (`1.` or `1)`), or parted by empty lines. Answers to choose stand on lines
 * of their own with a letter or a dash; a `*` or `✓` before or after one, or `(right)` behind it, makes it right; several right ones make it
 * several choices. `→ 28800 ± 5 %` below gives a number, `→ lock; draw` accepted texts, `lever ↔ locks the train` on each line pairs, and
 * words in [brackets] become blanks. `(2 points)` at the end of the first line are its points. What has none of these is an essay. Nothing
 * that was typed is dropped: what is not understood stays part of the words; what is missing is said.
 * Worked example: `1. Which part locks the wheel? (2 points)`, `a) the pallet *`, `b) the roller` is a single choice worth 2 points.
 */
export const readPasted = (text: string): readonly PastedQuestion[] => parts(text).map(toQuestion);
