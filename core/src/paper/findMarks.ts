import { darkPixels, type GreyImage } from './greyImage.ts';
import type { Quad } from './perspective.ts';
import { MARK_SIZE, MARKS, SHEET, type SheetPlace } from './sheetLayout.ts';

interface Blot {
  readonly middle: SheetPlace;
  readonly area: number;
}
interface Window {
  readonly left: number;
  readonly top: number;
  readonly right: number;
  readonly bottom: number;
}

function cornerOf({ width, pixels }: GreyImage, { left, top, right, bottom }: Window): GreyImage {
  const part = new Uint8Array((right - left) * (bottom - top));
  for (let y = top; y < bottom; y += 1) part.set(pixels.subarray(y * width + left, y * width + right), (y - top) * (right - left));
  return { width: right - left, height: bottom - top, pixels: part };
}

/** Dark pieces in a part of a picture that could be a printed square: about as large, about as wide as high, and filled. */
function squaresIn(image: GreyImage, part: Window, scale: number): Blot[] {
  const found: Blot[] = [];
  const dark = darkPixels(cornerOf(image, part), Math.round(9 * scale), 0.78);
  const full = (MARK_SIZE * scale) ** 2;
  const seen = new Uint8Array((part.right - part.left) * (part.bottom - part.top));
  const across = part.right - part.left;
  const stack: number[] = [];
  for (let start = 0; start < seen.length; start += 1) {
    if (seen[start] === 1 || dark[start] !== 1) continue;
    let [area, sumX, sumY] = [0, 0, 0];
    let [left, right, top, bottom] = [Infinity, -1, Infinity, -1];
    seen[start] = 1;
    stack.push(start);
    while (stack.length > 0) {
      const place = stack.pop() as number;
      const [x, y] = [place % across, Math.floor(place / across)];
      area += 1;
      sumX += x;
      sumY += y;
      [left, right, top, bottom] = [Math.min(left, x), Math.max(right, x), Math.min(top, y), Math.max(bottom, y)];
      for (const [nx, ny] of [
        [x - 1, y],
        [x + 1, y],
        [x, y - 1],
        [x, y + 1],
      ] as const) {
        if (nx < 0 || ny < 0 || nx >= across || ny >= part.bottom - part.top) continue;
        const next = ny * across + nx;
        if (seen[next] === 0 && dark[next] === 1) {
          seen[next] = 1;
          stack.push(next);
        }
      }
    }
    const [w, h] = [right - left + 1, bottom - top + 1];
    // A square that lies askew fills less of the box about it; a letter or a line fills far less.
    if (area > 0.4 * full && area < 1.5 * full && area > 0.55 * w * h && w < 1.45 * h && h < 1.45 * w)
      found.push({ middle: { x: part.left + sumX / area, y: part.top + sumY / area }, area });
  }
  return found.sort((a, b) => b.area - a.area).slice(0, 6);
}

const distance = (a: SheetPlace, b: SheetPlace): number => Math.hypot(a.x - b.x, a.y - b.y);
const LONG = distance(MARKS[0], MARKS[3]);
const SHORT = distance(MARKS[0], MARKS[1]);

/** How far four places are from the corners of a sheet seen a little askew: 0 is a perfect one, above 0.06 is none. */
function misfit(quad: readonly Blot[]): number {
  const [a, b, c, d] = quad.map((q) => q.middle) as unknown as Quad;
  const diagonal = distance(a, c);
  if (diagonal === 0) return 1;
  const parallel = Math.hypot(a.x + c.x - b.x - d.x, a.y + c.y - b.y - d.y) / diagonal;
  const diagonals = Math.abs(diagonal - distance(b, d)) / diagonal;
  const [across, down] = [(distance(a, b) + distance(d, c)) / 2, (distance(a, d) + distance(b, c)) / 2];
  const ratio = Math.abs(Math.max(across, down) / Math.min(across, down) - LONG / SHORT) / 2;
  const areas = quad.map((q) => q.area);
  const sizes = (Math.max(...areas) / Math.min(...areas) - 1) / 20;
  return parallel + diagonals + ratio + sizes;
}
const MOST_MISFIT = 0.12;

/**
 * The four registration squares of an answer sheet in a picture of it: their middles, clockwise from the one nearest the picture’s upper
 * left, however the sheet lies; null where there are none. The sheet fills most of the picture and is turned by less than about 15° from
 * one of the four ways up. Pixels; which corner is which on the sheet is for `readSheet` to find.
 * Worked example: a sheet scanned straight at 150 dots per inch has its first square at about (71, 71).
 */
export function findMarks(image: GreyImage): Quad | null {
  const { width, height } = image;
  const isUpright = height >= width;
  const scale = isUpright ? Math.min(width / SHEET.width, height / SHEET.height) : Math.min(width / SHEET.height, height / SHEET.width);
  const [partX, partY] = [Math.round(width * 0.3), Math.round(height * 0.3)];
  const corners = [
    { left: 0, top: 0, right: partX, bottom: partY },
    { left: width - partX, top: 0, right: width, bottom: partY },
    { left: width - partX, top: height - partY, right: width, bottom: height },
    { left: 0, top: height - partY, right: partX, bottom: height },
  ].map((part) => squaresIn(image, part, scale));
  let best: { readonly quad: readonly Blot[]; readonly misfit: number } | null = null;
  const [first = [], second = [], third = [], fourth = []] = corners;
  for (const a of first)
    for (const b of second)
      for (const c of third)
        for (const d of fourth) {
          const quad = [a, b, c, d];
          const off = misfit(quad);
          if (off < MOST_MISFIT && (best === null || off < best.misfit)) best = { quad, misfit: off };
        }
  return best === null ? null : (best.quad.map((q) => q.middle) as unknown as Quad);
}
