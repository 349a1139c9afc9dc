import type { Draft } from './draft.ts';
import { gather, type Gathered, type Line } from './gather.ts';
import { keyList, type KeyList } from './keyList.ts';
import type { PastedList } from './pastedQuestion.ts';
import { cut, readRich } from './rich.ts';
import { toQuestion } from './toQuestion.ts';

function linesOf(text: string): Line[] {
  return text.split(/\r\n|\r|\n/).map((raw, n): Line => {
    const whole = readRich(raw.replace(/[\u00a0\u2007\u202f]/g, ' ').replace(/[\u200b-\u200d\ufeff]/g, ''));
    const from = whole.text.length - whole.text.trimStart().length;
    const rich = cut(whole, from, Math.max(from, whole.text.trimEnd().length));
    return { at: n + 1, rich, text: rich.text };
  });
}
/** A key at the end is the answer of the question with its number, or in its place where numbers come twice or nowhere. */
function giveKeys(drafts: readonly Draft[], keys: KeyList): void {
  const numbers = drafts.flatMap((d) => d.number ?? []);
  const isByNumber = numbers.length === drafts.length && new Set(numbers).size === drafts.length;
  for (const [n, draft] of drafts.entries()) {
    const key = keys.inOrder === null ? keys.byNumber.get(isByNumber ? (draft.number ?? 0) : n + 1) : keys.inOrder[n];
    if (key !== undefined && draft.answers.length === 0) draft.answers.push(key);
  }
}

/** `1-B, 2-A` below a last question of pairs says which belongs to which in it, and is no key of the list. */
function isOfPairs(last: Draft, many: number, keys: KeyList): boolean {
  const rows = Math.max(last.things.length, last.head.length - 1);
  return keys.lines === 1 && rows >= 2 && rows === keys.byNumber.size && many !== keys.byNumber.size;
}
/** `Answers: A, C` below a last question is its own, where there are not as many letters as questions or others have keys of their own. */
const isOfLast = (drafts: readonly Draft[], keys: KeyList): boolean =>
  keys.inOrder !== null && (keys.inOrder.length !== drafts.length || drafts.slice(0, -1).some((draft) => draft.answers.length > 0));

function withKeys(lines: readonly Line[]): Gathered {
  const keys = keyList(lines.map((line) => line.text));
  if (keys === null) return gather(lines);
  const found = gather(lines.slice(0, lines.length - keys.lines));
  const last = found.drafts.at(-1);
  if (isOfLast(found.drafts, keys)) return gather(lines);
  if (last !== undefined && isOfPairs(last, found.drafts.length, keys))
    last.answers.push(Array.from(keys.byNumber, ([number, letter]) => `${number}-${letter}`).join(', '));
  else giveKeys(found.drafts, keys);
  return found;
}

/**
 * Recognises questions in a list as teachers have them, typed or copied from elsewhere.
 *
 * Convention: a number (`1.`, `1)`, `(1)`, `Q1`, `Question 1:`) begins a question; where nothing is numbered, an empty line before it or the
 * end of the answers above. Answers to choose have a letter, a dash or a box before them (`A.`, `a)`, `(A)`, `[ ]`), a line each or several in one; the
 * key is a star, a tick, `(correct)`, bold words, `Answer: B` below, or a list at the end (`1 B  2 D`). `(T)`, `T/F` and `True or false:` make
 * a statement, `Answer:` with a number or words a number or a short answer, `____` and `[brackets]` blanks, two columns pairs. `[2 marks]`
 * are points, `Feedback:` is feedback. What has none of these is an essay. Titles over questions (“Part B: True or false”) say their kind and
 * are left out. Nothing else that was typed is dropped; what is missing stands in the faults, what could be meant otherwise in the doubts.
 * Worked example: `1. Which part locks the wheel? [2 marks]`, `A. the pallet`, `B. the roller`, `Answer: A` is a single choice worth 2 points.
 *
 * @param text - the list; at most a few thousand lines are looked at as one types
 * @returns its questions in their order, and the lines that belong to none
 */
export function readPasted(text: string): PastedList {
  const lines = linesOf(text);
  const { drafts, leftOut } = withKeys(lines);
  return { questions: drafts.map(toQuestion), leftOut: leftOut.map((line) => ({ line: line.at, words: line.text })) };
}
