import { parsePoints, type Thousandths } from '../../exact/points.ts';
import type { PastedKind } from './pastedQuestion.ts';

/** How the single lines of a list are recognised. Every expression reads a line once, whatever is typed. */

export type NumberStyle = 'word' | 'dot' | 'bracket' | 'both' | 'colon' | 'dash';
export interface Numbered {
  readonly number: number;
  readonly style: NumberStyle;
  /** Where the words begin. */
  readonly from: number;
  /** A letter before the number, as in `T 3. The lever …`. */
  readonly truth: boolean | null;
}
const TRUTH_BEFORE = /^(?:(true|false|t|f)\s{1,4}|_{2,20}\s{0,4})?/i;
const WORD_NUMBER = /^(?:question|quest|q|item|problem|exercise|no|nr)\.?\s{0,3}#?\s{0,3}(\d{1,3})(?:\s{0,3}[.):\-–—/](?!\d)|\s|$)\s{0,8}/i;
const PLAIN_NUMBER = /^(\(?)(\d{1,3})(\)\.?|\.\)?[-–—]?|:|\s{1,3}[-–—](?=\s))(?!\d)\s{0,8}/;

/** The number that begins a question, or one of several things in it. */
export function numberOf(line: string): Numbered | null {
  const before = TRUTH_BEFORE.exec(line);
  const skipped = before?.[0].length ?? 0;
  const rest = line.slice(skipped);
  const truth = before?.[1] === undefined ? null : before[1].toLowerCase().startsWith('t');
  const word = WORD_NUMBER.exec(rest);
  if (word !== null) return { number: Number(word[1]), style: 'word', from: skipped + word[0].length, truth };
  const plain = PLAIN_NUMBER.exec(rest);
  if (plain === null) return null;
  const [whole = '', open = '', number = '', close = ''] = plain;
  const style: NumberStyle =
    open !== '' ? 'both' : close.startsWith('.') ? 'dot' : close.startsWith(')') ? 'bracket' : close === ':' ? 'colon' : 'dash';
  return { number: Number(number), style, from: skipped + whole.length, truth };
}

export interface Lettered {
  /** The letter as it counts, A first; null for a dash or a box. */
  readonly letter: string | null;
  readonly from: number;
  readonly isRight: boolean;
  /** A star that stands where others have a dash. */
  readonly isStar: boolean;
}
const ROMAN = ['i', 'ii', 'iii', 'iv', 'v', 'vi', 'vii', 'viii'];
const BOX = /^(?:\[\s?([xX✓✔*]?)\s?\]|\((?:\s{1,3}|([*✓✔]))\)|([☐□☑☒✓✔○◯●◉]))\s{0,4}(?=\S)/u;
const LETTER =
  /^([*✓✔✗>=+→]?)\s{0,2}[([]?(viii|vii|vi|iv|iii|ii|VIII|VII|VI|IV|III|II|[A-Za-z])(?:[.):\]]{1,2}[-–—]?|\s{1,2}[-–—](?=\s))\s{0,8}(?=\S)/u;
const DASH = /^([-–—•·▪◦‣*])\s{1,4}(?=\S)/u;
const IS_TICKED = /[xX✓✔*☑☒●◉]/u;

/** A line that is an answer to choose: a letter, a dash, or a box before its words. */
export function letterOf(line: string): Lettered | null {
  const box = BOX.exec(line);
  if (box !== null) {
    const mark = box[1] ?? box[2] ?? box[3] ?? '';
    return { letter: null, from: box[0].length, isRight: IS_TICKED.test(mark), isStar: false };
  }
  const letter = LETTER.exec(line);
  if (letter !== null) {
    const said = (letter[2] ?? '').toLowerCase();
    return { letter: said, from: letter[0].length, isRight: /[*✓✔>=+→]/u.test(letter[1] ?? ''), isStar: false };
  }
  const dash = DASH.exec(line);
  return dash === null ? null : { letter: null, from: dash[0].length, isRight: false, isStar: dash[1] === '*' };
}
/** The place of a letter in its row, 0 for a, A or i; of `i` both readings are asked for. */
export const placeOfLetter = (letter: string, isRoman: boolean): number =>
  isRoman ? ROMAN.indexOf(letter) : letter.length === 1 ? letter.charCodeAt(0) - 97 : -1;

const INLINE = /(^|[\s,;])([*✓✔]?)(\(?)([A-Ha-h])([.)])(?=\s{0,4}\S)/gu;
export interface InLine {
  /** Where the first one begins. */
  readonly at: number;
  readonly answers: readonly { readonly from: number; readonly to: number; readonly isRight: boolean }[];
}
/** Answers that stand one after the other in a line, from A on: at least two. */
export function answersInLine(line: string): InLine | null {
  const found: { begins: number; from: number; isRight: boolean }[] = [];
  let style = '';
  for (const m of line.matchAll(INLINE)) {
    const [whole, space = '', star = '', open = '', letter = '', close = ''] = m;
    const wanted = 'abcdefgh'[found.length];
    const isAlike = found.length === 0 || style === open + close + String(letter === letter.toUpperCase());
    if (letter.toLowerCase() !== wanted || !isAlike) continue;
    style = open + close + String(letter === letter.toUpperCase());
    found.push({ begins: m.index + space.length, from: m.index + whole.length, isRight: star !== '' });
  }
  const answers = found.map((one, n) => ({ from: one.from, to: found[n + 1]?.begins ?? line.length, isRight: one.isRight }));
  const isWhole = answers.length >= 2 && answers.every((a) => line.slice(a.from, a.to).trim() !== '');
  return isWhole ? { at: found[0]?.begins ?? 0, answers } : null;
}

const MARK_BEFORE = /^(?:\[[*✓✔xX]\]|[*✓✔]{1,3})\s{0,4}/u;
const MARK_AFTER =
  /\s{0,8}(?:[*✓✔]{1,3}|[([](?:right|correct|correct answer|answer|ans|key|x|✓|✔|\*)[)\]]|(?:<|←)[-–—=]{0,3}\s{0,3}(?:right|correct|answer|key)?)\s{0,4}$/iu;
export interface Marked {
  readonly from: number;
  readonly to: number;
  readonly isRight: boolean;
}
/** Where the words of an answer begin and end without the sign that makes it right. */
export function markOf(words: string): Marked {
  const before = MARK_BEFORE.exec(words)?.[0].length ?? 0;
  const after = MARK_AFTER.exec(words.slice(before));
  const to = after === null || after.index === 0 ? words.length : before + after.index;
  return { from: before, to, isRight: before > 0 || to < words.length };
}

const ANSWER =
  /^(?:→|->|=>|(?:the\s)?(?:correct\s|right\s|accepted\s|possible\s|acceptable\s)?(?:answers?|ans|key|solution|correct|right)(?:\s(?:is|are|choice|option|key))?\s{0,3}(?:[:=]|\.(?=\s|$)|[-–—](?=\s)))\s{0,8}(.{0,4000})$/iu;
const BARE_ANSWER = /^(?:answer|ans|key)\s{1,3}(?:is\s)?\(?([A-Ha-h]|true|false)\)?\.?$/i;
const MODEL_ANSWER = /^(?:model|sample|suggested|example|expected)\s(?:answer|solution|response)s?\s{0,3}[:=-]\s{0,8}(.{0,4000})$/i;
const ANSWER_BEHIND = /\s{1,8}[([]?(?:(?:correct answer|answer|ans)\.?\s{0,3}[:=]|ans\.)\s{0,3}([^()[\]]{1,300}?)[)\]]?\s{0,4}$/i;
export interface AnswerLine {
  readonly value: string;
  /** Only says what good work holds: nobody is scored by it. */
  readonly isModel: boolean;
  /** `Correct:` and `Right:` may begin a feedback as well. */
  readonly isPraise: boolean;
}
export function answerOf(line: string): AnswerLine | null {
  const model = MODEL_ANSWER.exec(line);
  if (model !== null) return { value: (model[1] ?? '').trim(), isModel: true, isPraise: false };
  const found = ANSWER.exec(line) ?? BARE_ANSWER.exec(line);
  return found === null
    ? null
    : { value: (found[1] ?? '').trim(), isModel: false, isPraise: /^(?:correct|right)\s{0,3}[:=.-]/i.test(line) };
}
/** An answer behind the words in the same line: `… ? (Answer: 4)`. */
export function answerBehind(line: string): { readonly to: number; readonly value: string } | null {
  const found = ANSWER_BEHIND.exec(line);
  return found === null || found.index === 0 ? null : { to: found.index, value: (found[1] ?? '').trim() };
}

const UNIT = '(?:p|pts?|points?|marks?|mks?|credits?)';
const POINTS = [
  new RegExp(`\\s{0,8}[(\\[]\\s{0,2}(\\d{1,4}(?:[.,]\\d{1,3})?)\\s{0,2}${UNIT}\\.?(?:\\seach)?\\s{0,2}[)\\]]`, 'i'),
  new RegExp(`\\s{1,4}[-–—]\\s{1,3}(\\d{1,4}(?:[.,]\\d{1,3})?)\\s{0,2}${UNIT}\\.?$`, 'i'),
  /\s{1,8}\[(\d{1,3}(?:[.,]\d{1,3})?)\]$/,
];
const POINTS_LINE = [
  /^[([]?(?:points?|marks?|score|worth|value)\s{0,3}[:=]\s{0,3}(\d{1,4}(?:[.,]\d{1,3})?)\s{0,2}(?:points?|marks?|pts?)?[)\]]?$/i,
  new RegExp(`^[(\\[]?(\\d{1,4}(?:[.,]\\d{1,3})?)\\s{0,2}${UNIT}\\.?[)\\]]?$`, 'i'),
];
const asPoints = (text: string): Thousandths | null => {
  const read = parsePoints(text);
  return read.ok ? read.value : null;
};
/** Points inside the words, with the stretch that says them. */
export function pointsIn(line: string): { readonly from: number; readonly to: number; readonly points: Thousandths | null } | null {
  for (const pattern of POINTS) {
    const found = pattern.exec(line);
    if (found !== null) return { from: found.index, to: found.index + found[0].length, points: asPoints(found[1] ?? '') };
  }
  return null;
}
export function pointsLine(line: string): Thousandths | null {
  for (const pattern of POINTS_LINE) {
    const found = pattern.exec(line);
    if (found !== null) return asPoints(found[1] ?? '');
  }
  return null;
}

const FEEDBACK =
  /^(?:(?:general|overall|if|when|for)\s)?(?:(correct|right|incorrect|wrong)(?:\sanswers?)?\s)?(?:feedback|explanation|rationale|comments?|reason|why|because|justification|solution notes)\s{0,3}[([]?(?:(?:when|if|for)\s)?(correct|right|incorrect|wrong)?(?:\sanswers?)?[)\]]?\s{0,3}[:=]\s{0,8}(.{0,4000})$/i;
const WRONG = /^(?:if\s)?(?:incorrect|wrong)\s{0,3}[:=]\s{0,8}(.{0,4000})$/i;
export interface FeedbackLine {
  readonly to: 'right' | 'wrong' | 'general';
  readonly words: string;
}
export function feedbackOf(line: string): FeedbackLine | null {
  const wrong = WRONG.exec(line);
  if (wrong !== null) return { to: 'wrong', words: wrong[1] ?? '' };
  const found = FEEDBACK.exec(line);
  if (found === null) return null;
  const whom = (found[1] ?? found[2] ?? '').toLowerCase();
  return { to: whom === '' ? 'general' : /^(?:incorrect|wrong)/.test(whom) ? 'wrong' : 'right', words: found[3] ?? '' };
}

const PAIRS = /\bmatch(?:es|ing)?\b|\bpair\b/i;
/** Whether the words of a question ask for pairs. */
export const asksPairs = (words: string): boolean => PAIRS.test(words);

/** The words by which the trade names the kinds of question. */
const KIND_NAMES: readonly (readonly [RegExp, PastedKind])[] = [
  [/\b(?:multiple[\s-](?:response|answers?|select)|several choices|select all|check all|checkboxes)\b/i, 'several'],
  [/\b(?:multiple[\s-]choice|single[\s-]choice|mcqs?|single answer|best answer)\b/i, 'single'],
  [/\btrue\s{0,2}(?:\/|or|-|–|and)?\s{0,2}false\b|\bt\s{0,2}\/\s{0,2}f\b/i, 'truth'],
  [/\b(?:fill[\s-]in|fill in the|gap[\s-]?fill|completion|complete the sentences?|cloze|missing words?)\b/i, 'blanks'],
  [/\bmatch(?:ing)?\b/i, 'matching'],
  [/\b(?:numerical?|calculations?|calculated)\b/i, 'numeric'],
  [/\b(?:short[\s-]answers?|one[\s-]word)\b/i, 'short'],
  [/\b(?:essays?|long[\s-]answers?|extended|open[\s-](?:ended|response)|free[\s-]response|discussion)\b/i, 'essay'],
];
export const kindNamed = (words: string): PastedKind | null => KIND_NAMES.find(([pattern]) => pattern.test(words))?.[1] ?? null;
const TYPE_LINE = /^(?:type|kind|question type)\s{0,3}[:=]\s{0,4}(.{1,60})$/i;
export const typeLine = (line: string): PastedKind | null => {
  const found = TYPE_LINE.exec(line);
  return found === null ? null : kindNamed(found[1] ?? '');
};
const PART = /^(?:part|section|chapter|unit|topic|test|quiz|exam)\s{1,3}(?:[\divxlc]{1,5}|[a-z])\b.{0,120}$/i;
const LABEL = /^(?:[IVX]{1,4}|[A-H])[.):]\s{1,4}/;
/** A title over the questions that follow, and the kind it says they are. */
export function headingOf(whole: string): { readonly kind: PastedKind | null; readonly isLabelled: boolean } | null {
  if (whole.endsWith('?') || whole.length > 160) return null;
  if (PART.test(whole)) return { kind: kindNamed(whole), isLabelled: false };
  const label = LABEL.exec(whole)?.[0] ?? '';
  const line = whole.slice(label.length);
  // “Match each part with …” asks something; “Matching” is a title.
  if (/^match\s/i.test(line)) return null;
  const kind = kindNamed(line);
  // The name of a kind alone, or with a word or two: no sentence that asks something.
  const isShort = line.split(/\s+/).length <= 6 && !/[_?]/.test(line);
  return kind !== null && isShort ? { kind, isLabelled: label !== '' } : null;
}

const UNNUMBERED = /^(?:question|q)\s{0,2}[:.]\s{1,4}(?=\S)/i;
/** `Question: …` without a number; how long the sign is, 0 where there is none. */
export const unnumberedSign = (line: string): number => UNNUMBERED.exec(line)?.[0].length ?? 0;

const POINTS_BEHIND = /\s{1,8}(?:pts|points|marks|score)\s{0,2}[:=]\s{0,2}(\d{1,4}(?:[.,]\d{1,3})?)$/i;
/** An answer line that goes on with points: `ANS: B   PTS: 2`. */
export function pointsBehind(value: string): { readonly value: string; readonly points: Thousandths | null } {
  const found = POINTS_BEHIND.exec(value);
  return found === null ? { value, points: null } : { value: value.slice(0, found.index).trim(), points: asPoints(found[1] ?? '') };
}

const TRUTH_FIELD =
  /^[([]?\s{0,2}(?:true\s{0,2}(?:\/|or)\s{0,2}false|t\s{0,2}\/\s{0,2}f)\s{0,2}\??\s{0,2}[)\]]?\s{0,2}[:.–—-]?\s{1,4}(?=\S)/i;
const TRUTH_FIELD_END = /\s{1,4}[([]?\s{0,2}(?:true\s{0,2}(?:\/|or)\s{0,2}false|t\s{0,2}\/\s{0,2}f)\s{0,2}\??\s{0,2}[)\]]?\s{0,2}[:.]?$/i;
const TRUTH_END =
  /\s{0,4}(?:[([](true|false|t|f)[)\]]|(?:\t|\s{2,8}|\s[-–—=:]{1,2}\s|_{2,10}\s?)(true|false|t|f)|(?<=[.!?])\s(true|false))\s{0,2}\.?$/i;
const TRUTH_START = /^(?:[([](true|false|t|f)[)\]]\s{1,4}|(true|false|t|f)\s{0,2}[:–—]\s{1,4}|(true|false)\.\s{1,4})(?=\S)/i;
export interface TruthWords {
  readonly from: number;
  readonly to: number;
  /** Null where it only says that the question is of this kind. */
  readonly isTrue: boolean | null;
}
/** A statement that is marked as true or false in its own line, or asks which it is. */
export function truthOf(words: string): TruthWords | null {
  const field = TRUTH_FIELD.exec(words);
  const start = field ?? TRUTH_START.exec(words);
  const from = start?.[0].length ?? 0;
  const rest = words.slice(from);
  const fieldEnd = TRUTH_FIELD_END.exec(rest);
  const end = fieldEnd ?? TRUTH_END.exec(rest);
  if (start === null && end === null) return null;
  const said = [start, end].flatMap((m) => [m?.[1], m?.[2], m?.[3]]).find((s) => s !== undefined);
  return {
    from,
    to: end === null ? words.length : from + end.index,
    isTrue: said === undefined ? null : said.toLowerCase().startsWith('t'),
  };
}
/** `True / False` on a line of its own asks which it is. */
export const asksTruth = (line: string): boolean =>
  /^[([]?\s{0,2}(?:true\s{0,3}(?:\/|or|\||\s)\s{0,3}false|t\s{0,2}\/\s{0,2}f)\s{0,2}\??[)\]]?[.:]?$/i.test(line);
const TRUTHS = /^(true|false|t|f|yes|no|correct|incorrect|right|wrong)\.?$/i;
export const readTruth = (text: string): boolean | null => {
  const found = TRUTHS.exec(text.trim());
  return found === null ? null : /^(?:t|y|c|r)/i.test(found[1] ?? '');
};

/** What stands between the two sides of a pair, the plainest first. */
const BETWEEN = [
  /\s{0,8}(?:↔|<->|⇔)\s{0,8}/u,
  /\s{0,8}(?:→|->|=>)\s{0,8}/u,
  /\t{1,8}\s{0,8}/,
  /\s{1,4}=\s{1,4}/,
  /\s{1,4}\|\s{1,4}/,
  /\s{3,60}/,
  /\s{1,4}[-–—]\s{1,4}/,
  /\s{0,2}:\s{1,4}/,
];
export const PAIR_SIGNS = BETWEEN.length;
/** Where a pair is parted by one of the signs; null where it is not. */
export function partAt(line: string, sign: number): { readonly to: number; readonly from: number } | null {
  const found = BETWEEN[sign]?.exec(line) ?? null;
  return found === null || found.index === 0 || found.index + found[0].length >= line.length
    ? null
    : { to: found.index, from: found.index + found[0].length };
}
