/** A list of keys that stands behind the questions: `1 B  2 D`, a line each or several in one. */
export interface KeyList {
  /** How many lines from the end it takes up. */
  readonly lines: number;
  /** By the number of the question; where no numbers stand, by place. */
  readonly byNumber: ReadonlyMap<number, string>;
  readonly inOrder: readonly string[] | null;
}
const HEADER =
  /^(?:the\s)?(?:correct\sanswers?|answers?(?:\skeys?)?|keys?|solutions?|key to (?:the )?(?:test|quiz|questions))\s{0,3}[:.]?\s{0,4}/i;
const TOKEN =
  /^(?:q(?:uestion)?\.?\s{0,2})?(\d{1,3})\s{0,2}[.):=–—-]{0,2}\s{0,3}\(?([A-Ha-h](?:\s{0,2}(?:,|&|\+|and)\s{0,2}[A-Ha-h](?![a-z]))*|[A-H]{2,4}|true|false|[TtFf])\)?\.?(?=$|[\s,;|])[\s,;|]{0,8}/i;
const LETTERS = /^[([]?([A-Ha-h]|true|false|[TtFf])[)\]]?\.?(?:[\s,;|]{1,8}|$)/i;
const WORDS = /^(?:q(?:uestion)?\.?\s{0,2})?(\d{1,3})\s{0,2}[.):=–—-]\s{0,4}(.{1,400})$/i;

/** Every pair of number and letter in a line that holds nothing else; null where it holds something else. */
export function keyPairs(line: string): readonly (readonly [number, string])[] | null {
  const found: (readonly [number, string])[] = [];
  let rest = line.trim();
  while (rest !== '') {
    const token = TOKEN.exec(rest);
    if (token === null) return null;
    found.push([Number(token[1]), token[2] ?? '']);
    rest = rest.slice(token[0].length);
  }
  return found.length === 0 ? null : found;
}
function lettersAlone(line: string): readonly string[] | null {
  const found: string[] = [];
  let rest = line.trim();
  while (rest !== '') {
    const token = LETTERS.exec(rest);
    if (token === null) return null;
    found.push(token[1] ?? '');
    rest = rest.slice(token[0].length);
  }
  return found.length === 0 ? null : found;
}

/** `1. goes 2. are` in one line: a piece for each number, where the numbers rise. */
function piecesOf(line: string): readonly string[] {
  const pieces = line.split(/\s{1,8}(?=\d{1,3}[.):]\s)/);
  const numbers = pieces.map((piece) => Number(WORDS.exec(piece)?.[1] ?? Number.NaN));
  return pieces.length > 1 && numbers.every((n, at) => (at === 0 ? n > 0 : n > (numbers[at - 1] ?? 0))) ? pieces : [line];
}

/** What stands below a header such as “Answer key”; null where it is something else. */
function underHeader(lines: readonly string[]): Omit<KeyList, 'lines'> | null {
  const byNumber = new Map<number, string>();
  const all = lines.flatMap((line) => (line.trim() === '' ? [] : keyPairs(line) === null ? piecesOf(line.trim()) : [line.trim()]));
  const inOrder = all.map(lettersAlone);
  const letters = inOrder.flatMap((one) => one ?? []);
  if (letters.length > 1 && inOrder.every((one) => one !== null)) return { byNumber, inOrder: letters };
  for (const line of all) {
    const pairs = keyPairs(line);
    const words = WORDS.exec(line);
    if (pairs !== null) for (const [number, letter] of pairs) byNumber.set(number, letter);
    else if (words !== null) byNumber.set(Number(words[1]), (words[2] ?? '').trim());
    else return null;
  }
  return byNumber.size === 0 ? null : { byNumber, inOrder: null };
}

/**
 * The keys at the end of a list of questions: behind a line such as “Answers:”, or lines of nothing but numbers with letters.
 *
 * @param lines - the list, a line each, without styles
 * @returns the keys and how many lines they take up; null where the list ends in something else
 * @example keyList(['1. Which?', 'A. this', 'B. that', 'Key: 1 B']) // one line, 1 → B
 */
export function keyList(lines: readonly string[]): KeyList | null {
  for (let n = lines.length - 1; n > 0; n -= 1) {
    const line = (lines[n] ?? '').trim();
    const header = HEADER.exec(line);
    if (header === null) continue;
    const behind = line.slice(header[0].length);
    // `Answer: B` below the last question is that question’s own.
    const isLetters = /^(?:answers|keys?|answer key)/i.test(line) && lettersAlone(behind) !== null;
    if (behind !== '' && keyPairs(behind) === null && piecesOf(behind).length < 2 && !isLetters) continue;
    const found = underHeader([behind, ...lines.slice(n + 1)]);
    if (found !== null) return { ...found, lines: lines.length - n };
  }
  let from = lines.length;
  const byNumber = new Map<number, string>();
  while (from > 1) {
    const line = (lines[from - 1] ?? '').trim();
    const pairs = line === '' ? [] : keyPairs(line);
    if (pairs === null) break;
    for (const [number, letter] of pairs) byNumber.set(number, letter);
    from -= 1;
  }
  return byNumber.size < 2 ? null : { byNumber, inOrder: null, lines: lines.length - from };
}
