export type KeyRead =
  { readonly ok: true; readonly picked: readonly (readonly number[])[] } | { readonly ok: false; readonly reason: string };

/** The rows a string is read for: how many options each has, and by which letters it knows them. */
export interface KeyRow {
  readonly letters: readonly string[];
}

/**
 * A string of answers as one types it, “BDACC…”: a letter for each question, several for one in brackets, a dash or dot for none. Spaces, commas
 * and line breaks are passed over; small letters are letters. Where the letters of a row are others than A, B, C…, those are understood too.
 * Options from 0. What is wrong is named with its place. With `rows` null any letter A to J stands for an option, and there are as many
 * questions as there are answers.
 * Worked example: “ba(AC)-” is [1], [0], [0, 2] and nothing.
 */
export function readKeyString(text: string, rows: readonly KeyRow[] | null): KeyRead {
  const parts =
    text
      .toUpperCase()
      .replace(/[\s,;]+/g, '')
      .match(/\([^)]*\)?|./gs) ?? [];
  if (rows !== null && parts.length !== rows.length)
    return { ok: false, reason: `There are ${parts.length} answers for ${rows.length} questions. Write a dash for one that was left out.` };
  const picked: number[][] = [];
  for (const [n, part] of parts.entries()) {
    if (part.startsWith('(') && !part.endsWith(')')) return { ok: false, reason: `The bracket at question ${n + 1} is not closed.` };
    if (part === '-' || part === '.' || part === '()') {
      picked.push([]);
      continue;
    }
    const letters = [...part.replace(/[()]/g, '')];
    const own = rows?.[n]?.letters ?? [...'ABCDEFGHIJ'];
    const options = letters.map((letter) => {
      const at = own.indexOf(letter);
      return at >= 0 ? at : letter >= 'A' && letter < String.fromCharCode(65 + own.length) ? letter.charCodeAt(0) - 65 : -1;
    });
    const strange = letters[options.indexOf(-1)];
    if (strange !== undefined)
      return {
        ok: false,
        reason:
          own.length === 0
            ? `Question ${n + 1} has nothing to choose from. Write a dash for it.`
            : `“${strange}” is no answer of question ${n + 1}, which has ${own[0] ?? ''} to ${own.at(-1) ?? ''}.`,
      };
    picked.push([...new Set(options)].sort((a, b) => a - b));
  }
  return { ok: true, picked };
}

/** The same the other way: options by the letters of each row, several in brackets, a dash for none. */
export const keyString = (picked: readonly (readonly number[])[], rows: readonly KeyRow[]): string =>
  picked
    .map((options, n) => {
      const letters = options.map((o) => rows[n]?.letters[o] ?? '?').join('');
      return options.length === 0 ? '-' : options.length === 1 ? letters : `(${letters})`;
    })
    .join('');
