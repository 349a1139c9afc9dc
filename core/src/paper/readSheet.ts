import { quantile } from '../statistics/quantile.ts';
import { findMarks } from './findMarks.ts';
import { greyAt, type GreyImage } from './greyImage.ts';
import { perspective, type Mapping, type Quad } from './perspective.ts';
import { readBits, type SheetCode } from './sheetCode.ts';
import {
  BUBBLE_RADIUS,
  CODE_PLACES,
  MARKS,
  UP_MARK,
  type Box,
  type Bubble,
  type SheetPlace,
  type SheetPage,
  type SheetRow,
} from './sheetLayout.ts';

/** Why a person must look at a row: a mark too faint to be sure of, one mark too many, or traces of another. */
export type Doubt = 'faint' | 'too many' | 'another';
export interface RowReading {
  readonly question: number;
  /** Which options are marked, from 0. */
  readonly marked: readonly number[];
  readonly doubt: Doubt | null;
  /** How dark each circle is: 0 as those left empty, 1 as the black of the print. */
  readonly darkness: readonly number[];
}
export interface SetStraight {
  readonly code: SheetCode;
  /** From millimetres on the sheet to pixels of the picture. */
  readonly at: Mapping;
  readonly black: number;
}

const FRAME: Box = { x: MARKS[0].x, y: MARKS[0].y, width: MARKS[2].x - MARKS[0].x, height: MARKS[2].y - MARKS[0].y };

/** The mean grey within a small square of the sheet. */
function meanAt(image: GreyImage, at: Mapping, place: SheetPlace, half: number): number {
  let sum = 0;
  const steps = 6;
  for (let j = 0; j <= steps; j += 1)
    for (let i = 0; i <= steps; i += 1) {
      const p = at({ x: place.x + (i / steps - 0.5) * 2 * half, y: place.y + (j / steps - 0.5) * 2 * half });
      sum += greyAt(image, p.x, p.y);
    }
  return sum / (steps + 1) ** 2;
}

/**
 * Finds how the sheet lies in the picture and which it is: by the four squares, the one beside the first, and the strip whose check must
 * hold. Any of the four ways up. Null where there are no squares; a sheet whose strip cannot be read has `code` null in `why`.
 */
export function setStraight(
  image: GreyImage,
): { readonly ok: true; readonly sheet: SetStraight } | { readonly ok: false; readonly reason: string } {
  const found = findMarks(image);
  if (found === null)
    return { ok: false, reason: 'The four black squares of an answer sheet are not to be seen. Scan the whole page, flat.' };
  for (let turn = 0; turn < 4; turn += 1) {
    const quad = [0, 1, 2, 3].map((n) => found[(n + turn) % 4]) as unknown as Quad;
    const at = perspective(FRAME, quad);
    const black = Math.min(...MARKS.map((m) => meanAt(image, at, m, 1.6)));
    const white = meanAt(image, at, { x: UP_MARK.x + 8, y: UP_MARK.y }, 1.5);
    const middle = (black + white) / 2;
    if (meanAt(image, at, UP_MARK, 1) > middle) continue;
    const code = readBits(CODE_PLACES.map((p) => meanAt(image, at, p, 0.8) < middle));
    if (code !== null) return { ok: true, sheet: { code, at, black } };
  }
  return {
    ok: false,
    reason: 'The strip that says which sheet this is cannot be read: it is torn, written over, or no answer sheet of ours.',
  };
}

/** How much of a circle is filled: its dark beside the paper about it, of the difference between paper and print. */
function darknessOf(image: GreyImage, at: Mapping, bubble: Bubble, black: number): number {
  const inside: number[] = [];
  const around: number[] = [];
  const reach = 1.62;
  const steps = 12;
  for (let j = -steps; j <= steps; j += 1)
    for (let i = -steps; i <= steps; i += 1) {
      const [dx, dy] = [(i / steps) * reach, (j / steps) * reach];
      const r = Math.hypot(dx, dy);
      if (r > reach || (r > 0.78 && r < 1.3)) continue;
      const p = at({ x: bubble.x + dx * BUBBLE_RADIUS, y: bubble.y + dy * BUBBLE_RADIUS });
      (r <= 0.78 ? inside : around).push(greyAt(image, p.x, p.y));
    }
  // What is written beyond a circle must not pass for the paper.
  const white = quantile(around, 0.8) ?? 255;
  const mean = inside.reduce((sum, v) => sum + v, 0) / inside.length;
  return Math.min(1, Math.max(0, (white - mean) / Math.max(20, white - black)));
}

/** What a row of circles says, where a mark is at least `strong` and a trace at least `faint`. */
function decide(row: SheetRow, darkness: readonly number[], strong: number, faint: number): RowReading {
  const order = darkness.map((_, n) => n).sort((a, b) => (darkness[b] as number) - (darkness[a] as number));
  const marks = order.filter((n) => (darkness[n] as number) >= strong).sort((a, b) => a - b);
  const traces = order.filter((n) => (darkness[n] as number) >= faint && (darkness[n] as number) < strong);
  const base = { question: row.question, darkness };
  if (marks.length === 0) return { ...base, marked: traces.slice(0, 1), doubt: traces.length === 0 ? null : 'faint' };
  if (row.isMany) return { ...base, marked: marks, doubt: traces.length === 0 ? null : 'another' };
  const [first = 0, second] = order;
  if (marks.length > 1) {
    const isRubbedOut = (darkness[second ?? 0] as number) < 0.5 * (darkness[first] as number);
    return { ...base, marked: isRubbedOut ? [first] : marks, doubt: isRubbedOut ? 'another' : 'too many' };
  }
  // A trace far weaker than the mark beside it is what is left after rubbing out.
  const isTrace = traces.some((n) => (darkness[n] as number) > 0.35 * (darkness[first] as number));
  return { ...base, marked: marks, doubt: isTrace ? 'another' : null };
}

/** How dark this hand fills a circle, from the rows where one stands out from all others; a few tell nothing. */
function handOf(darkness: readonly (readonly number[])[]): number {
  const clear = darkness.flatMap((row) => {
    const [first = 0, second = 0] = [...row].sort((a, b) => b - a);
    return first > 0.1 && second < 0.4 * first ? [first] : [];
  });
  return clear.length < 5 ? USUAL_HAND : (quantile(clear, 0.5) ?? USUAL_HAND);
}
const USUAL_HAND = 0.6;
const within = (value: number, least: number, most: number): number => Math.min(most, Math.max(least, value));

/**
 * Reads the circles of one page that was set straight. What counts as a mark is measured on the page itself: circles left empty (their letter
 * and outline are not nothing) are the lower third, and a mark is judged beside the marks this hand makes, so that a soft pencil and a hard one
 * are read alike. Options from 0; whatever is not clear carries its doubt, with what it most likely says.
 * Worked example: darkness 0.02 0.81 0.03 0.01 is option 1 without a doubt; 0.02 0.16 0.03 0.01 is option 1, “faint”.
 */
export function readRows(image: GreyImage, sheet: SetStraight, page: SheetPage): readonly RowReading[] {
  const raw = page.rows.map((row) => row.bubbles.map((b) => darknessOf(image, sheet.at, b, sheet.black)));
  const empty = quantile(raw.flat(), 0.3) ?? 0;
  const darkness = raw.map((row) => row.map((v) => Math.max(0, (v - empty) / (1 - empty))));
  const hand = handOf(darkness);
  const strong = within(0.45 * hand, 0.14, 0.4);
  const faint = within(0.15 * hand, 0.07, 0.15);
  return page.rows.flatMap((row, n) => (row.bubbles.length === 0 ? [] : [decide(row, darkness[n] as number[], strong, faint)]));
}
