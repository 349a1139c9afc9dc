import { readNumber } from '../readNumber.ts';
import type { Draft } from './draft.ts';
import {
  NO_FEEDBACK,
  NOT_MARKED,
  type PastedChoice,
  type PastedFeedback,
  pastedFaults,
  type PastedKey,
  type PastedPair,
  type PastedQuestion,
} from './pastedQuestion.ts';
import {
  answerBehind,
  asksPairs,
  letterOf,
  markOf,
  numberOf,
  PAIR_SIGNS,
  partAt,
  placeOfLetter,
  pointsIn,
  readTruth,
  truthOf,
} from './recognise.ts';
import { cut, isBold, joined, type Rich, tidy, unbold, written } from './rich.ts';

const GAP = /_{2,200}|\.{4,200}|…{2,50}/u;
const BRACKETS = /\[([^[\]]{1,200})\]/g;
const WITHIN = /^(.{1,200}?)\s{0,4}(?:±|\+\/-|\+-)\s{0,4}(\d{1,20}(?:[.,]\d{1,20})?)\s{0,2}(%?)\s{0,2}(\D{0,40})$/;
const LONG_ANSWER_WORDS = 12;
/** `Who wrote it? (Austen)`: a name in brackets behind the question. */
const NAME_BEHIND = /\?(?:\s{0,3}[([]([^()[\]]{1,40})[)\]]|\s{1,4}([^\s?.!]{1,30}(?: [^\s?.!]{1,30}){0,2}))\s{0,2}$/;
/** `Yo ___ profesor. [soy]`: the answer to the only gap. */
const GAP_BEHIND = /\s{0,4}[[(]([^()[\]]{1,60})[\])]\.?$/;
/** `The boiling point is: (b)`: the key stands where the student would write it. */
const LETTER_BEHIND = /\s{1,4}[([]\s{0,2}([A-Ha-h])\s{0,2}[)\]]\s{0,2}$/;

/** A number, with its tolerance and unit, or words that are accepted. */
export function keyOfAnswer(text: string): PastedKey {
  const within = WITHIN.exec(text);
  const [value, amount = '0', percent = '', behind = ''] = within === null ? [text] : within.slice(1);
  // A unit behind the number, or behind the tolerance, is the number's.
  const found = /^([+\-−]?[\d.,\s]{1,60}(?:e[+\-−]?\d{1,4})?)\s{0,4}([^\d\s].{0,40})?$/i.exec((value ?? '').trim());
  const unit = (found?.[2] ?? behind).trim();
  if (found !== null && readNumber(found[1] ?? '', { units: [], isUnitNeeded: false, decimals: null }).ok)
    return {
      kind: 'numeric',
      value: (found[1] ?? '').trim(),
      tolerance: percent === '%' ? { kind: 'relative', percent: amount } : { kind: 'absolute', amount },
      unit: unit === '' ? null : unit,
    };
  return { kind: 'short', accepted: splitAccepted(text) };
}
const splitAccepted = (text: string): string[] =>
  text
    .split(/\s{0,4}[;/|]\s{0,4}|\s{1,4}or\s{1,4}/)
    .map((t) => t.trim())
    .filter((t) => t !== '');

/** The places that letters name, such as `B`, `a, c`, `A and D` or `AC`; null where it is anything else. */
function placesNamed(text: string, many: number): readonly number[] | null {
  const clean = text
    .trim()
    .replace(/[.)\]]+$/, '')
    .replace(/^[([]/, '');
  const together = /^[A-H]{2,6}$/.test(clean) ? [...clean] : clean.split(/\s{0,3}(?:,|&|\+|;|\/|\band\b|\s)\s{0,3}/i);
  const places = together.map((one) => {
    const letter = one.replace(/[()[\].]/g, '').toLowerCase();
    return /^\d{1,2}$/.test(letter) ? Number(letter) - 1 : /^[a-z]$/.test(letter) ? placeOfLetter(letter, false) : -1;
  });
  return places.every((p) => p >= 0 && p < many) ? places : null;
}
const same = (text: string): string =>
  text
    .toLowerCase()
    .replace(/<[^>]{1,6}>/g, '')
    .replace(/[\s.]+/g, ' ')
    .trim();

/** Choices with what was said of them below: by letter, by number, or in their own words. */
function applyAnswers(choices: PastedChoice[], answers: readonly string[], faults: string[]): PastedChoice[] {
  let out = choices;
  for (const answer of answers.filter((a) => a !== '')) {
    // `B. the pallet` names the answer by its letter and says it once more.
    const labelled = letterOf(answer);
    const words = labelled === null || labelled.letter === null ? answer : answer.slice(labelled.from);
    const exact = out.findIndex((c) => same(c.words) === same(words) || same(c.words) === same(answer));
    const labelPlace = labelled === null || labelled.letter === null ? -1 : placeOfLetter(labelled.letter, false);
    const truth = readTruth(answer);
    const places =
      placesNamed(answer, out.length) ??
      (exact >= 0 ? [exact] : labelPlace >= 0 && labelPlace < out.length ? [labelPlace] : null) ??
      (truth !== null && out.some((c) => readTruth(c.words) === truth) ? [out.findIndex((c) => readTruth(c.words) === truth)] : null);
    if (places === null) faults.push(`“${answer.slice(0, 60)}” is none of the answers. Mark the right one.`);
    else out = out.map((c, n) => (places.includes(n) ? { ...c, isRight: true } : c));
  }
  return out;
}

function keyOfChoices(draft: Draft, faults: string[], doubts: string[]): PastedKey {
  const isBulleted = draft.options.every((o) => o.letter === null && o.isStar);
  const read = draft.options.map((o) => {
    const whole = tidy(o.words);
    const marked = markOf(whole.text);
    const words = tidy(cut(whole, marked.from, marked.to));
    return { words, isBold: isBold(words), isRight: o.isRight || marked.isRight || (o.isStar && !isBulleted) };
  });
  let choices: PastedChoice[] = read.map((one) => ({ words: written(unbold(one.words)), isRight: one.isRight }));
  choices = applyAnswers(choices, draft.answers, faults);
  const bold = read.filter((one) => one.isBold).length;
  if (!choices.some((c) => c.isRight) && bold > 0 && bold < read.length) {
    choices = choices.map((c, n) => ({ ...c, isRight: read[n]?.isBold === true }));
    if (bold > 1) doubts.push(`${bold} answers are bold, and were taken as the right ones.`);
  }
  const right = choices.filter((c) => c.isRight).length;
  const isTruth =
    choices.length === 2 &&
    choices
      .map((c) => c.words.toLowerCase())
      .sort()
      .join() === 'false,true';
  const wanted = draft.ownKind ?? draft.kind;
  return { kind: right > 1 || (wanted === 'several' && !isTruth) ? 'several' : isTruth ? 'truth' : 'single', choices };
}

/** Words with gaps: from lines of underscores, with the answers below in their order, or from words in brackets. */
function keyOfGaps(words: string, answers: readonly string[]): PastedKey {
  const pieces = words.split(GAP);
  const many = pieces.length - 1;
  const listed =
    answers.length >= many
      ? answers
      : answers.flatMap((answer) => {
          const parts = answer.split(/\s{0,3}[;,]\s{0,3}/);
          return parts.length === many ? parts : [answer];
        });
  return {
    kind: 'blanks',
    parts: pieces
      .flatMap((piece, n): (string | { answer: string })[] => (n === many ? [piece] : [piece, { answer: (listed[n] ?? '').trim() }]))
      .filter((part) => part !== ''),
  };
}
const keyOfBrackets = (words: string): PastedKey => ({
  kind: 'blanks',
  parts: words
    .split(BRACKETS)
    .map((piece, n) => (n % 2 === 1 ? { answer: piece.trim() } : piece))
    .filter((piece) => piece !== ''),
});

const unlabelled = (text: string): { words: string; label: string | null } => {
  const clean = text.trim();
  const letter = letterOf(clean);
  const number = numberOf(clean);
  if (number !== null && clean.slice(number.from).trim() !== '')
    return { words: clean.slice(number.from).trim(), label: String(number.number) };
  if (letter !== null && letter.letter !== null) return { words: clean.slice(letter.from).trim(), label: letter.letter };
  return { words: clean.replace(/^_{2,}\s*/, ''), label: null };
};
const KEY_PAIR = /(\d{1,2}|[a-z])\s{0,2}[-–—:.=→)]{1,2}>?\s{0,2}\(?([a-z]|\d{1,2})(?![a-z\d])/gi;
/** Which belongs to which, as `1-B, 2-A` says it. */
function labelPairs(answers: readonly string[]): ReadonlyMap<string, string> {
  const found = new Map<string, string>();
  for (const answer of answers)
    for (const m of answer.matchAll(KEY_PAIR)) found.set((m[1] ?? '').toLowerCase(), (m[2] ?? '').toLowerCase());
  return found;
}
function byLabels(lefts: readonly string[], rights: readonly string[], answers: readonly string[], doubts: string[]): PastedPair[] {
  const named = labelPairs(answers);
  const left = lefts.map(unlabelled);
  const right = rights.map(unlabelled);
  if (named.size === 0 && right.some((r) => r.label !== null))
    doubts.push('Nothing says which belongs to which, so each was paired with what stands beside it.');
  return left.map((one, n): PastedPair => {
    const wanted = named.get(one.label ?? String(n + 1));
    const found = wanted === undefined ? right[n] : right.find((r, at) => (r.label ?? 'abcdefghijklmnop'[at]) === wanted);
    return { left: one.words, right: found?.words ?? '' };
  });
}

/** Pairs: two columns parted by the same sign in every line, or two lists with letters. */
function pairsOf(draft: Draft, below: readonly string[], isMatch: boolean, doubts: string[]): PastedPair[] | null {
  const things = draft.things.map((t) => `${t.number}. ${t.words.text}`);
  const options = draft.options.map((o) => `${o.letter ?? ''}. ${o.words.text}`);
  if (isMatch && things.length >= 2 && options.length >= 2) return byLabels(things, options, draft.answers, doubts);
  const rows = things.length >= 2 ? things : options.length >= 2 && isMatch ? options : below;
  const most = isMatch ? PAIR_SIGNS : 1;
  for (let sign = 0; sign < most; sign += 1) {
    const parted = rows.flatMap((row) => {
      const at = partAt(row, sign);
      return at === null ? [] : [{ left: row.slice(0, at.to), right: row.slice(at.from) }];
    });
    const isUsed = parted.length >= 2 ? parted.length * 2 >= rows.length : sign === 0 && parted.length === 1;
    if (isUsed)
      return byLabels(
        parted.map((p) => p.left),
        parted.map((p) => p.right),
        draft.answers,
        doubts,
      );
  }
  return null;
}

interface Head {
  readonly first: Rich;
  readonly below: readonly Rich[];
}
/** The words without what is said in them besides: points, an answer, whether it is true. */
function readHead(draft: Draft): Head {
  const [line = { text: '', marks: '' }, ...below] = draft.head;
  let first = line;
  const behind = answerBehind(first.text);
  if (behind !== null && draft.answers.length === 0 && draft.options.length === 0) {
    draft.answers.push(behind.value);
    first = cut(first, 0, behind.to);
  }
  const letter = draft.options.length > 1 && draft.answers.length === 0 ? LETTER_BEHIND.exec(first.text) : null;
  if (letter !== null && placeOfLetter((letter[1] ?? '').toLowerCase(), false) < draft.options.length) {
    draft.answers.push(letter[1] ?? '');
    first = cut(first, 0, letter.index);
  }
  const named = NAME_BEHIND.exec(first.text);
  const name = named?.[1] ?? named?.[2] ?? '';
  const isBare = draft.options.length + draft.answers.length + draft.things.length === 0;
  if (
    named !== null &&
    isBare &&
    pointsIn(named[0]) === null &&
    readTruth(name) === null &&
    !/^(?:explain|describe|give|why|how)\b/i.test(name)
  ) {
    draft.answers.push(name);
    draft.doubts.push(`“${name}” behind the question was taken as the answer.`);
    first = cut(first, 0, named.index + 1);
  }
  const gapped = isBare && first.text.split(GAP).length === 2 ? GAP_BEHIND.exec(first.text) : null;
  if (gapped !== null && pointsIn(gapped[0]) === null && gapped.index > first.text.search(GAP)) {
    draft.answers.push(gapped[1] ?? '');
    first = cut(first, 0, gapped.index);
  }
  const points = pointsIn(first.text);
  if (points !== null && draft.points === null) {
    draft.points = points.points;
    first = joined([cut(first, 0, points.from), cut(first, points.to)], points.from > 0 && points.to < first.text.length ? ' ' : '');
  }
  const trimmed = { text: first.text.trimEnd(), marks: first.marks.slice(0, first.text.trimEnd().length) };
  const truth = draft.options.length === 0 ? truthOf(trimmed.text) : null;
  if (truth !== null) {
    draft.ownKind ??= 'truth';
    draft.truth = truth.isTrue ?? draft.truth;
    return { first: cut(trimmed, truth.from, truth.to), below };
  }
  return { first: trimmed, below };
}

function feedbackWords(draft: Draft): PastedFeedback {
  const words = (lines: readonly string[]): string => lines.join('\n').trim();
  const { right, wrong, general } = draft.feedback;
  return right.length + wrong.length + general.length === 0
    ? NO_FEEDBACK
    : { right: words(right), wrong: words(wrong), general: words(general) };
}
const truthKey = (isTrue: boolean | null): PastedKey => ({
  kind: 'truth',
  choices: [
    { words: 'True', isRight: isTrue === true },
    { words: 'False', isRight: isTrue === false },
  ],
});

/** The words of a question as they stand on the paper, line by line. */
const wordsOf = (lines: readonly Rich[]): string => {
  const tidied = lines.map(tidy).filter((line) => line.text !== '');
  const isAllBold = tidied.every(isBold);
  return tidied.map((line) => written(isAllBold ? unbold(line) : line)).join('\n');
};

interface Found {
  readonly key: PastedKey;
  readonly words: string;
  readonly feedback?: string;
}
function keyOf(draft: Draft, head: Head, faults: string[], doubts: string[]): Found {
  const lines = [head.first, ...head.below];
  const words = wordsOf(lines);
  const isMatch = draft.ownKind === 'matching' || draft.kind === 'matching' || asksPairs(head.first.text);
  const pairs = pairsOf(
    draft,
    head.below.map((r) => r.text.trim()),
    isMatch,
    doubts,
  );
  if (pairs !== null) {
    const isBelow = draft.things.length < 2 && draft.options.length < 2;
    return {
      key: { kind: 'matching', pairs },
      words: wordsOf(isBelow ? [head.first, ...head.below.filter((r) => !isPaired(r.text, isMatch))] : lines),
    };
  }
  const unmarked = words.replace(/^_{2,200}\s{0,4}/, '');
  if (draft.options.length > 0) {
    const key = keyOfChoices(draft, faults, doubts);
    return { key, words: unmarked };
  }
  if (draft.things.length >= 2) {
    const options = draft.things.map((t) => ({ words: t.words, isRight: false, letter: null, isStar: false }));
    return { key: keyOfChoices({ ...draft, options }, faults, doubts), words: unmarked };
  }
  const wanted = draft.ownKind ?? draft.kind;
  const answers = draft.answers.filter((a) => a !== '');
  const [answer] = answers;
  const said = answer === undefined ? null : readTruth(answer);
  const isTruth =
    wanted === 'truth' || draft.truth !== null || (said !== null && /^(?:t|f|true|false)\.?$/i.test(answer ?? '') && wanted !== 'short');
  if (isTruth) return { key: truthKey(said ?? draft.truth), words: unmarked };
  if (words.replace(GAP, '') !== words && wanted !== 'essay') return { key: keyOfGaps(words, answers), words };
  if (answer === undefined && new RegExp(BRACKETS.source).test(words)) return { key: keyOfBrackets(words), words };
  if (answer === undefined) {
    if (wanted === 'short') return { key: { kind: 'short', accepted: [] }, words };
    if (wanted === 'numeric')
      return { key: { kind: 'numeric', value: '', tolerance: { kind: 'absolute', amount: '0' }, unit: null }, words };
    return { key: { kind: 'essay' }, words };
  }
  const whole = answers.join(' / ');
  const isLong = wanted === 'essay' || answer.split(/\s+/).length > LONG_ANSWER_WORDS;
  // Nobody is scored by a long answer word for word: it is what good work holds.
  return isLong ? { key: { kind: 'essay' }, words, feedback: answers.join('\n') } : { key: keyOfAnswer(whole), words };
}
const isPaired = (text: string, isMatch: boolean): boolean =>
  Array.from({ length: isMatch ? PAIR_SIGNS : 1 }, (_, sign) => sign).some((sign) => partAt(text.trim(), sign) !== null);

/** A question out of the lines that belong to it. */
export function toQuestion(draft: Draft): PastedQuestion {
  const head = readHead(draft);
  const [faults, doubts]: [string[], string[]] = [[], draft.doubts];
  const found = keyOf(draft, head, faults, doubts);
  const feedback = feedbackWords(draft);
  return {
    line: draft.at,
    words: found.words,
    points: draft.points,
    key: found.key,
    feedback:
      found.feedback === undefined ? feedback : { ...feedback, general: [feedback.general, found.feedback].filter(Boolean).join('\n') },
    faults: [...faults, ...pastedFaults(found.key, found.words).filter((fault) => faults.length === 0 || fault !== NOT_MARKED)],
    doubts,
  };
}
