import { foldedWords, type FoldedWord } from './foldedWords.ts';
import { fingerprints, type Fingerprint, type Net } from './winnowing.ts';

/** A text made ready to be compared: its words, and its fingerprints. */
export interface PreparedText {
  readonly id: string;
  readonly words: readonly FoldedWord[];
  readonly folded: readonly string[];
  readonly prints: readonly Fingerprint[];
}

/**
 * Makes a text ready to be compared: its words folded (`foldedWords`), and the fingerprints of their runs by `net`. A text of fewer
 * than k words has no fingerprints, so it matches nothing. Worked example: `So, so!` has two words, and none for k = 3.
 */
export function prepareText(id: string, text: string, net: Net): PreparedText {
  const words = foldedWords(text);
  const folded = words.map((w) => w.word);
  return { id, words, folded, prints: fingerprints(folded, net) };
}

/** Words in a row that stand in both texts; from and to are places of words, to is behind the last. */
export interface SharedRun {
  readonly from: number;
  readonly to: number;
  readonly sourceFrom: number;
}
export interface SourceMatch {
  readonly sourceId: string;
  readonly runs: readonly SharedRun[];
  readonly words: number;
}

/** Where each fingerprint of many texts stands. */
export class PrintIndex {
  readonly #places = new Map<number, number[]>();
  readonly #texts: PreparedText[] = [];

  add(text: PreparedText): void {
    const n = this.#texts.push(text) - 1;
    for (const print of text.prints) {
      const places = this.#places.get(print.hash);
      if (places === undefined) this.#places.set(print.hash, [n, print.at]);
      else places.push(n, print.at);
    }
  }

  get texts(): readonly PreparedText[] {
    return this.#texts;
  }

  /** Text and place, one after the other. */
  placesOf(hash: number): readonly number[] {
    return this.#places.get(hash) ?? [];
  }
}

/** The longest run of equal words around one equal place. */
function grow(a: readonly string[], b: readonly string[], at: number, other: number): SharedRun | null {
  if (a[at] !== b[other]) return null;
  let [from, sourceFrom] = [at, other];
  while (from > 0 && sourceFrom > 0 && a[from - 1] === b[sourceFrom - 1]) [from, sourceFrom] = [from - 1, sourceFrom - 1];
  let to = at + 1;
  for (let n = other + 1; to < a.length && n < b.length && a[to] === b[n]; n += 1) to += 1;
  return { from, to, sourceFrom };
}

/**
 * What a text shares with each text of an index but itself: every run of `w + k − 1` words in a row or more, as far as the words are
 * equal. Shorter runs are found by chance alone, so they are not told. A run is compared word by word, so equal hashes of unequal
 * words count nothing. Where runs of one source overlap in the text, each is kept: `words` counts every word once.
 * Sources with the most shared words first; of equal ones by id.
 * Worked example: `the wheel turns the pinion slowly` and `so the wheel turns the pinion again` share one run of five words, for
 * k = 3 and w = 3.
 */
export function findMatches(text: PreparedText, index: PrintIndex, net: Net): readonly SourceMatch[] {
  const runs = new Map<number, SharedRun[]>();
  // On one diagonal of a source a place inside a run that is known leads to that run again.
  const reached = new Map<string, number>();
  for (const print of text.prints) {
    const places = index.placesOf(print.hash);
    for (let n = 0; n < places.length; n += 2) {
      const [source, at] = [places[n] as number, places[n + 1] as number];
      const other = index.texts[source] as PreparedText;
      if (other.id === text.id) continue;
      const diagonal = `${source} ${print.at - at}`;
      if ((reached.get(diagonal) ?? -1) > print.at) continue;
      const run = grow(text.folded, other.folded, print.at, at);
      if (run === null || run.to - run.from < net.w + net.k - 1) continue;
      reached.set(diagonal, run.to);
      const list = runs.get(source);
      if (list === undefined) runs.set(source, [run]);
      else list.push(run);
    }
  }
  return [...runs]
    .map(([source, list]): SourceMatch => {
      const ordered = list.sort((a, b) => a.from - b.from || b.to - a.to);
      return { sourceId: (index.texts[source] as PreparedText).id, runs: ordered, words: coveredWords(ordered, text.words.length).size };
    })
    .sort((a, b) => b.words - a.words || a.sourceId.localeCompare(b.sourceId));
}

function coveredWords(runs: readonly { readonly from: number; readonly to: number }[], many: number): Set<number> {
  const covered = new Set<number>();
  for (const run of runs) for (let n = run.from; n < Math.min(run.to, many); n += 1) covered.add(n);
  return covered;
}

/** How much of a text stands elsewhere, in words. */
export interface Coverage {
  /** Words that count: all but quotations and the task's own. */
  readonly counted: number;
  readonly matched: number;
  /** Words left out. */
  readonly quoted: number;
  readonly ofTask: number;
}

/** Which words of a text do not count: quotations if so wished, and what stands in the task in the same runs. */
function leftOut(
  text: PreparedText,
  task: readonly SourceMatch[],
  leavesQuotations: boolean,
): { isLeft: (n: number) => boolean; ofTask: Set<number> } {
  const ofTask = coveredWords(
    task.flatMap((m) => m.runs),
    text.words.length,
  );
  return { isLeft: (n) => ofTask.has(n) || (leavesQuotations && text.words[n]?.isQuoted === true), ofTask };
}

/**
 * Matches without those that are only quotation or task: a run stays where enough of its words count, as many as a run must have to be
 * found at all. What stands around the task's words in two works alike (“I say yes”) is no evidence by itself.
 * Worked example: a run of 25 words, 21 of them the task's, goes for k = 5 and w = 7: four are left.
 */
export function countedMatches(
  text: PreparedText,
  matches: readonly SourceMatch[],
  task: readonly SourceMatch[],
  leavesQuotations: boolean,
  net: Net,
): readonly SourceMatch[] {
  const { isLeft } = leftOut(text, task, leavesQuotations);
  const isEnough = (run: SharedRun): boolean => {
    let many = 0;
    for (let n = run.from; n < run.to; n += 1) if (!isLeft(n)) many += 1;
    return many >= net.w + net.k - 1;
  };
  return matches.flatMap((match) => {
    const runs = match.runs.filter(isEnough);
    return runs.length === 0 ? [] : [{ ...match, runs, words: coveredWords(runs, text.words.length).size }];
  });
}

/**
 * How many of the words that count stand in a source too, of matches as `countedMatches` leaves them. Quotations are left out if so
 * wished, and always what stands in the task in the same runs (`task`: what the text shares with the task). The percentage to be
 * shown is matched of counted; where nothing counts there is none.
 * Worked example: 100 words, 10 quoted, 20 of the task, 35 of the other 70 in a source: 35 of 70, 50 %.
 */
export function coverageOf(
  text: PreparedText,
  matches: readonly SourceMatch[],
  task: readonly SourceMatch[],
  leavesQuotations: boolean,
): Coverage {
  const many = text.words.length;
  const { isLeft, ofTask } = leftOut(text, task, leavesQuotations);
  const matched = coveredWords(
    matches.flatMap((m) => m.runs),
    many,
  );
  let [counted, hits, quoted] = [0, 0, 0];
  for (let n = 0; n < many; n += 1) {
    if (isLeft(n)) {
      if (!ofTask.has(n)) quoted += 1;
      continue;
    }
    counted += 1;
    if (matched.has(n)) hits += 1;
  }
  return { counted, matched: hits, quoted, ofTask: ofTask.size };
}
