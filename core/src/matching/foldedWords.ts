/** A word of a text as it is compared, with its place in the text. */
export interface FoldedWord {
  readonly word: string;
  readonly from: number;
  readonly to: number;
  /** It stands between marks of quotation. */
  readonly isQuoted: boolean;
}

const QUOTATIONS = /“[^”]{1,4000}”|„[^“”]{1,4000}[“”]|«[^»]{1,4000}»|»[^«]{1,4000}«|"[^"]{1,4000}"/gu;
const WORDS = /[\p{L}\p{N}]+(?:['’][\p{L}\p{N}]+)*/gu;

/** A word without case, accents and apostrophes: `L’Écrou` is `lecrou`. */
const fold = (word: string): string =>
  word
    .normalize('NFKD')
    .replace(/[\p{M}'’]/gu, '')
    .toLowerCase();

/**
 * The words of a text, folded to be compared: without case, accents and punctuation; numbers are words. Places are offsets into the
 * text as given. A quotation is what stands between a pair of marks of one kind, within one text; marks that do not pair quote
 * nothing. An empty text has no words. Worked example: `Él said “No.”` is el, said and, quoted, no.
 */
export function foldedWords(text: string): readonly FoldedWord[] {
  const quoted = [...text.matchAll(QUOTATIONS)].map((m) => [m.index, m.index + m[0].length] as const);
  let at = 0;
  return [...text.matchAll(WORDS)].map((m) => {
    while (at < quoted.length && (quoted[at]?.[1] ?? 0) <= m.index) at += 1;
    const quotation = quoted[at];
    return {
      word: fold(m[0]),
      from: m.index,
      to: m.index + m[0].length,
      isQuoted: quotation !== undefined && m.index >= quotation[0],
    };
  });
}
