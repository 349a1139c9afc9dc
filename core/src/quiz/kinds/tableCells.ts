import type { DocumentNode } from '../../document/plainText.ts';
import { fromCell, type FileAt } from '../documentCell.ts';
import type { QuestionKind, QuestionKey, QuestionPicture, Tolerance } from '../question.ts';
import { KIND_WORDS } from '../drawInWords.ts';

/** Thousandths of a percent as a number: 33333 is 33.333. */
export const percent = (share: number): string => String(share / 1000);
/** Text in quotes where it could be taken for something else. */
export const quoted = (text: string): string => (text === '' || /^["/\s<>]|\s$|[\r\n]|=/.test(text) ? JSON.stringify(text) : text);
/** What a cell does not say in a way that is understood: thrown here alone, and caught where a row is read. */
export class Unread extends Error {}
export const fail = (column: string, text: string, mend: string): never => {
  throw new Unread(`${column}: “${text.length > 60 ? `${text.slice(0, 59)}…` : text}” ${mend}`);
};

export const DECIMAL = /^-?\d+(\.\d+)?$/;
export function shareOf(text: string, line: string): number {
  if (!DECIMAL.test(text)) fail('answers', line, 'does not begin with what it gives in percent, such as “100: ”.');
  const share = Math.round(Number(text) * 1000);
  if (Math.abs(share) > 100_000) fail('answers', line, 'gives more than 100 percent.');
  return share;
}
/** A line as what it gives and what it is. */
export function sharedLine(line: string): { share: number; rest: string } {
  const at = line.indexOf(':');
  if (at < 0) fail('answers', line, 'has no colon after what it gives, as in “100: lever”.');
  return { share: shareOf(line.slice(0, at).trim(), line), rest: line.slice(at + 1).trim() };
}
export function unquoted(text: string, line: string): string {
  if (!text.startsWith('"')) return text;
  try {
    const read: unknown = JSON.parse(text);
    if (typeof read === 'string') return read;
  } catch {
    // Said below.
  }
  return fail('answers', line, 'has a quotation mark that is not closed.');
}
export function tolerance(text: string, line: string): Tolerance {
  const figures = /^(\d+) figures$/.exec(text);
  if (figures !== null) return { kind: 'significant', figures: Number(figures[1]) };
  const amount = /^±\s*([\d.eE+-]+)\s*(%?)$/.exec(text);
  if (amount === null) return fail('answers', line, 'has no tolerance that is understood: write ±0.5, ±2% or 3 figures.');
  const [, value = '', isShare = ''] = amount;
  return isShare === '' ? { kind: 'absolute', amount: value } : { kind: 'relative', percent: value };
}

export interface Reading {
  readonly kind: QuestionKind;
  readonly lines: readonly string[];
  readonly rules: readonly string[];
  readonly newId: () => string;
  readonly fileAt: FileAt;
  readonly problems: string[];
}
export const noPlace = (): null => null;
export function documentOf(r: Reading, text: string, placeOf: (inside: string) => DocumentNode | null = noPlace): DocumentNode {
  const read = fromCell(text, placeOf, r.fileAt);
  r.problems.push(...read.problems);
  return read.document;
}
/** Takes the rules that are known out of the cell; one that is left over is named. */
export function rulesOf(r: Reading, known: Readonly<Record<string, (value: string) => void>>): void {
  for (const rule of r.rules) {
    const [name = '', ...rest] = rule.split(':');
    const take = known[rule] ?? known[`${name.trim()}:`];
    if (take === undefined) fail('rules', rule, `is no rule of ${KIND_WORDS[r.kind]}.`);
    else take(rest.join(':').trim());
  }
}

/** What a row says of the key, and what its places in the words and its picture are. */
export interface KeyRead {
  readonly key: QuestionKey;
  readonly placeOf?: (inside: string) => DocumentNode | null;
  readonly picture?: QuestionPicture | null;
}
export interface KeyCells {
  readonly answers: readonly string[];
  readonly rules: readonly string[];
}
