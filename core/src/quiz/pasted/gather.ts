import {
  answerBehind,
  answerOf,
  answersInLine,
  asksPairs,
  asksTruth,
  feedbackOf,
  headingOf,
  letterOf,
  numberOf,
  type Numbered,
  placeOfLetter,
  pointsBehind,
  pointsLine,
  readTruth,
  typeLine,
  unnumberedSign,
} from './recognise.ts';
import { type Draft, isAnswered, newDraft } from './draft.ts';
import type { PastedKind } from './pastedQuestion.ts';
import { cut, joined, type Rich } from './rich.ts';

/** A line with where it stood. */
export interface Line {
  readonly at: number;
  readonly rich: Rich;
  /** Without spaces at its ends; those within it stand. */
  readonly text: string;
}
export interface Gathered {
  readonly drafts: readonly Draft[];
  readonly leftOut: readonly Line[];
}

/** Lines are put to their questions one after the other; what decides is what the last ones were. */
class Gathering {
  readonly drafts: Draft[] = [];
  readonly leftOut: Line[] = [];
  private hint: PastedKind | null = null;
  private isAfterHeading = true;
  private isAfterGap = true;
  private last: 'head' | 'option' | 'feedback' | 'other' = 'other';
  private openFeedback: 'right' | 'wrong' | 'general' | null = null;

  private readonly isNumbered: boolean;
  private readonly style: string;

  constructor(isNumbered: boolean, style: string) {
    this.isNumbered = isNumbered;
    this.style = style;
  }

  private get draft(): Draft | undefined {
    return this.drafts.at(-1);
  }

  gap(): void {
    this.isAfterGap = true;
    this.openFeedback = null;
  }

  heading(line: Line, kind: PastedKind | null): void {
    this.leftOut.push(line);
    this.hint = kind;
    this.isAfterHeading = true;
  }

  /** Whether a number begins the next question, and is not one of several things in this one. */
  private startsNext(found: Numbered): boolean {
    const { draft } = this;
    if (this.style === 'word') return found.style === 'word';
    if (draft === undefined || this.isAfterHeading) return true;
    const thing = draft.things.at(-1);
    const followsThing = thing?.style === found.style && found.number === thing.number + 1;
    if (followsThing) return false;
    const wanted = (draft.number ?? 0) + 1;
    if (found.number === wanted) return true;
    if (found.number === 1) return false;
    return found.style === this.style && found.number > wanted;
  }

  private begin(line: Line, from: number, found: Numbered | null): void {
    const draft = newDraft(line.at, found?.number ?? null, this.hint);
    draft.truth = found?.truth ?? null;
    this.drafts.push(draft);
    this.isAfterHeading = false;
    this.isAfterGap = false;
    this.openFeedback = null;
    this.last = 'head';
    const rest = cut(line.rich, from);
    if (rest.text.trim() !== '') this.head(draft, rest);
  }

  /** Words of the question, with answers that stand behind them in the same line. */
  private head(draft: Draft, whole: Rich): void {
    const behind = answerBehind(whole.text);
    const rich = behind === null ? whole : cut(whole, 0, behind.to);
    const inLine = draft.options.length === 0 ? answersInLine(rich.text) : null;
    if (inLine === null) {
      draft.head.push(whole);
      return;
    }
    if (behind !== null) draft.answers.push(behind.value);
    const words = cut(rich, 0, inLine.at);
    if (words.text.trim() !== '') draft.head.push(words);
    // Signs between the answers, where each but the last ends with the same one, are none of their words.
    const ends = inLine.answers.map((one) => /[;,]\s{0,4}$/.exec(rich.text.slice(one.from, one.to)));
    const isParted = ends.slice(0, -1).every((end) => end !== null);
    for (const [n, one] of inLine.answers.entries()) {
      const to = isParted ? one.to - (ends[n]?.[0].length ?? 0) : one.to;
      draft.options.push({ words: cut(rich, one.from, to), isRight: one.isRight, letter: 'abcdefgh'[n] ?? null, isStar: false });
    }
    this.last = 'option';
  }

  /** A letter that is next in its row, or any after answers have begun. */
  private option(draft: Draft, line: Line): boolean {
    const found = letterOf(line.text);
    if (found === null) return false;
    if (found.letter !== null && draft.options.length === 0) {
      const isFirst = found.letter === 'a' || found.letter === 'i' || placeOfLetter(found.letter, false) === 0;
      if (!isFirst) return false;
    }
    const inLine = found.letter === 'a' ? answersInLine(line.text) : null;
    if (inLine !== null && inLine.at <= 1) {
      this.head(draft, line.rich);
      return true;
    }
    if (
      found.letter === 'a' &&
      draft.options.length >= 2 &&
      draft.options.every((o, n) => o.letter !== null && placeOfLetter(o.letter, true) === n)
    ) {
      // Statements I, II, III that the answers A, B, C speak of are part of what is asked.
      draft.head.push(...draft.options.map((o) => o.line ?? o.words));
      draft.options = [];
    }
    const { letter, isRight, isStar } = found;
    draft.options.push({ words: cut(line.rich, found.from), isRight, letter, isStar, line: line.rich });
    return true;
  }

  line(line: Line): void {
    const { text } = line;
    const found = numberOf(text);
    if (this.isNumbered && found !== null && this.startsNext(found)) {
      this.begin(line, found.from, found);
      return;
    }
    const sign = unnumberedSign(text);
    if (sign > 0) {
      this.begin(line, sign, null);
      return;
    }
    const { draft } = this;
    if (draft === undefined) {
      // What stands before the first number is a title, and no question.
      if (this.isNumbered) this.leftOut.push(line);
      else this.begin(line, 0, null);
      return;
    }
    if (this.belongs(draft, line, found)) {
      this.isAfterGap = false;
      return;
    }
    if (!this.isNumbered && (this.isAfterGap || isAnswered(draft))) {
      this.begin(line, 0, null);
      return;
    }
    this.isAfterGap = false;
    this.more(draft, line);
  }

  /** What is plainly a part of the question that stands above: an answer, a key, points, a feedback. */
  private belongs(draft: Draft, line: Line, found: Numbered | null): boolean {
    const { text } = line;
    const type = typeLine(text);
    if (type !== null) {
      draft.ownKind = type;
      return true;
    }
    if (asksTruth(text) && draft.options.length === 0) {
      draft.ownKind = 'truth';
      return true;
    }
    const points = pointsLine(text);
    if (points !== null) {
      draft.points = points;
      return true;
    }
    const answer = answerOf(text);
    const isPraise = answer?.isPraise === true && draft.options.length > 0 && answer.value.split(/\s+/).length > 2;
    if (answer !== null && !isPraise) {
      if (answer.isModel) this.feedback(draft, 'general', answer.value);
      else {
        const { value, points: behind } = pointsBehind(answer.value);
        draft.answers.push(value);
        draft.points ??= behind;
      }
      this.last = 'other';
      return true;
    }
    const feedback = answer !== null ? ({ to: 'right', words: answer.value } as const) : feedbackOf(text);
    if (feedback !== null) {
      this.feedback(draft, feedback.to, feedback.words);
      return true;
    }
    if (this.option(draft, line)) {
      this.last = 'option';
      this.openFeedback = null;
      return true;
    }
    // True and False on lines of their own are what is chosen from.
    const bare = text.replace(/[*✓✔]/gu, '').trim();
    if (/^(?:true|false|yes|no)$/i.test(bare) && (draft.options.length > 0 || readTruth(bare) !== null)) {
      draft.options.push({ words: line.rich, isRight: false, letter: null, isStar: false });
      this.last = 'option';
      return true;
    }
    if (this.isNumbered && found !== null) {
      draft.things.push({ number: found.number, style: found.style, words: cut(line.rich, found.from) });
      this.last = 'other';
      return true;
    }
    return false;
  }

  private feedback(draft: Draft, to: 'right' | 'wrong' | 'general', words: string): void {
    draft.feedback[to].push(words);
    this.openFeedback = to;
    this.last = 'feedback';
  }

  /** A line that is nothing by itself goes on with what stood before it. */
  private more(draft: Draft, line: Line): void {
    if (this.openFeedback !== null) {
      draft.feedback[this.openFeedback].push(line.text);
      return;
    }
    const waits = draft.answers.at(-1) === '';
    if (waits) {
      draft.answers[draft.answers.length - 1] = line.text;
      return;
    }
    const option = draft.options.at(-1);
    if (this.last === 'option' && option !== undefined && /^\p{Ll}/u.test(line.text)) {
      // A long answer that was broken into lines goes on with a small letter.
      option.words = { text: `${option.words.text} ${line.text}`, marks: `${option.words.marks}0${line.rich.marks}` };
      return;
    }
    if (this.last === 'option' && !asksPairs(draft.head.map((h) => h.text).join(' ')))
      draft.doubts.push(`“${line.text.slice(0, 60)}” stands below the answers; it was taken as part of the question.`);
    this.head(draft, line.rich);
  }
}

/** Whether a line further down begins a question: a title stands right above one. */
function beginsBelow(lines: readonly Line[], n: number, isNumbered: boolean): boolean {
  const next = lines.slice(n + 1).find((line) => line.text !== '');
  if (next === undefined) return false;
  if (headingOf(next.text) !== null) return true;
  return isNumbered ? numberOf(next.text) !== null : letterOf(next.text) === null;
}

const BARE = /^([*✓✔]?)([A-H])\s{1,8}(?=\S)/u;
/** `A Danube`, `B Nile`, `C Thames` below one another, or rows of `o`: signs of answers that only their row tells. */
function withSigns(lines: readonly Line[]): readonly Line[] {
  const out = [...lines];
  const textAt = (n: number): string => lines[n]?.text ?? '';
  const signed = (from: number, many: number, sign: (rich: Rich) => Rich): void => {
    for (const [k, { at, rich }] of lines.slice(from, from + many).entries()) {
      const now = sign(rich);
      out[from + k] = { at, rich: now, text: now.text };
    }
  };
  for (let n = 0; n < lines.length; n += 1) {
    let [letters, dots] = [0, 0];
    while (letters < 8 && BARE.exec(textAt(n + letters))?.[2] === 'ABCDEFGH'[letters]) letters += 1;
    while (/^o\s{1,8}\S/.test(textAt(n + dots))) dots += 1;
    if (dots >= 2) signed(n, dots, (rich) => ({ ...rich, text: `•${rich.text.slice(1)}` }));
    if (letters >= 3)
      signed(n, letters, (rich) => {
        const to = (BARE.exec(rich.text)?.[1] ?? '').length + 1;
        return joined([cut(rich, 0, to), cut(rich, to)], '.');
      });
    n += Math.max(0, letters - 1, dots - 1);
  }
  return out;
}

/** The lines of a list, each put to the question it belongs to. */
export function gather(given: readonly Line[]): Gathered {
  const lines = withSigns(given);
  const numbered = lines.flatMap((line) => numberOf(line.text) ?? []);
  const isNumbered = numbered.length > 0;
  const style = numbered.some((n) => n.style === 'word') ? 'word' : (numbered[0]?.style ?? '');
  const all = new Gathering(isNumbered, style);
  for (const [n, line] of lines.entries()) {
    const heading = line.text === '' ? null : headingOf(line.text);
    if (line.text === '') all.gap();
    else if (
      heading !== null &&
      beginsBelow(lines, n, isNumbered) &&
      numberOf(line.text) === null &&
      (heading.isLabelled || letterOf(line.text) === null)
    )
      all.heading(line, heading.kind);
    else all.line(line);
  }
  return { drafts: all.drafts, leftOut: all.leftOut };
}
