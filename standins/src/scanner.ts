import { BUBBLE_RADIUS, seeded, SHEET, type Bubble, type SheetPage } from '@rosemary/core';
import { createCanvas, type Canvas, type SKRSContext2D } from '@napi-rs/canvas';
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';

/** How a hand fills a circle. */
export type Hand = 'full' | 'soft' | 'tick' | 'cross';
/** What somebody did with one row: the options they filled, and those they filled and rubbed out. */
export interface Filled {
  readonly marked: readonly number[];
  readonly rubbedOut?: readonly number[];
}
export interface ScanWish {
  readonly seed: string;
  readonly hand: Hand;
  /** Dots per inch of the scan. */
  readonly dots?: number;
  readonly isUpsideDown?: boolean;
  /** How far out of true, from 0 (a new machine) to 1 (a bad copy of a crumpled sheet). */
  readonly trouble?: number;
  readonly type?: 'image/png' | 'image/jpeg';
}

/** The pages of a PDF as a printer puts them on paper: all of them, or those asked for (from 0), in that order. */
export async function printPages(pdf: Uint8Array, dots: number, wanted?: readonly number[]): Promise<Canvas[]> {
  const document = await getDocument({ data: new Uint8Array(pdf), verbosity: 0 }).promise;
  const printed: Canvas[] = [];
  for (const n of wanted ?? Array.from({ length: document.numPages }, (_, k) => k)) {
    const page = await document.getPage(n + 1);
    const viewport = page.getViewport({ scale: dots / 72 });
    const canvas = createCanvas(Math.round(viewport.width), Math.round(viewport.height));
    const context = canvas.getContext('2d');
    context.fillStyle = '#fff';
    context.fillRect(0, 0, canvas.width, canvas.height);
    await page.render({ canvas: null, canvasContext: context as unknown as CanvasRenderingContext2D, viewport }).promise;
    printed.push(canvas);
  }
  await document.destroy();
  return printed;
}

const grey = (dark: number): string => {
  const level = Math.round(255 * (1 - dark));
  return `rgb(${level}, ${level}, ${level})`;
};

/** One circle filled as a pencil does: strokes to and fro that miss the edge a little. */
function fill(context: SKRSContext2D, at: Bubble, scale: number, hand: Hand, random: () => number, isTrace = false): void {
  const [x, y, r] = [at.x * scale, at.y * scale, BUBBLE_RADIUS * scale];
  const dark = isTrace ? 0.08 + 0.08 * random() : hand === 'soft' ? 0.3 + 0.15 * random() : 0.55 + 0.35 * random();
  context.strokeStyle = grey(dark);
  context.lineCap = 'round';
  context.lineWidth = (hand === 'tick' || hand === 'cross' ? 0.55 : 0.5) * scale;
  context.beginPath();
  if (!isTrace && hand === 'tick') {
    context.moveTo(x - 0.9 * r, y);
    context.lineTo(x - 0.2 * r, y + 0.8 * r);
    context.lineTo(x + 1.2 * r, y - 1.1 * r);
  } else if (!isTrace && hand === 'cross') {
    context.moveTo(x - r, y - r);
    context.lineTo(x + r, y + r);
    context.moveTo(x + r, y - r);
    context.lineTo(x - r, y + r);
  } else {
    const strokes = 9;
    for (let n = 0; n <= strokes; n += 1) {
      const v = (n / strokes) * 2 - 1;
      const half = Math.sqrt(Math.max(0, 1 - v * v)) * (0.85 + 0.25 * random());
      context.moveTo(x - half * r, y + v * r * 0.95 + (random() - 0.5) * 0.2 * r);
      context.lineTo(x + half * r, y + v * r * 0.95 + (random() - 0.5) * 0.2 * r);
    }
  }
  context.stroke();
}

/** Pencil on paper: what somebody did on one page. */
export function fillPage(printed: Canvas, page: SheetPage, rows: ReadonlyMap<number, Filled>, wish: ScanWish): Canvas {
  const random = seeded(`${wish.seed} pencil ${page.page}`);
  const paper = createCanvas(printed.width, printed.height);
  const context = paper.getContext('2d');
  context.drawImage(printed, 0, 0);
  const scale = printed.width / SHEET.width;
  for (const row of page.rows) {
    const done = rows.get(row.question);
    for (const n of done?.rubbedOut ?? []) if (row.bubbles[n] !== undefined) fill(context, row.bubbles[n], scale, wish.hand, random, true);
    for (const n of done?.marked ?? []) if (row.bubbles[n] !== undefined) fill(context, row.bubbles[n], scale, wish.hand, random);
  }
  return paper;
}

/** A sheet through the machine: out of true, larger or smaller, shaded, with the dust and the grain of a scan, as a picture file. */
export function scan(paper: Canvas, wish: ScanWish): Buffer {
  const random = seeded(`${wish.seed} machine`);
  const trouble = wish.trouble ?? 0.3;
  const some = (most: number): number => (random() * 2 - 1) * most * trouble;
  const scale = ((wish.dots ?? 150) * (SHEET.width / 25.4)) / paper.width;
  const canvas = createCanvas(Math.round(paper.width * scale), Math.round(paper.height * scale));
  const context = canvas.getContext('2d');
  context.fillStyle = grey(0.03);
  context.fillRect(0, 0, canvas.width, canvas.height);
  const size = 1 + some(0.05);
  context.translate(canvas.width / 2 + some(0.012) * canvas.width, canvas.height / 2 + some(0.008) * canvas.height);
  context.rotate(some(0.06) + (wish.isUpsideDown === true ? Math.PI : 0));
  // A roller that slips makes one way longer than the other, and a slanted feed shears.
  context.transform(1, some(0.01), some(0.01), 1 + some(0.015), 0, 0);
  context.scale(scale * size, scale * size);
  context.drawImage(paper, -paper.width / 2, -paper.height / 2);
  context.resetTransform();
  const picture = context.getImageData(0, 0, canvas.width, canvas.height);
  const [shadeX, shadeY] = [some(50) / canvas.width, some(50) / canvas.height];
  const [grain, contrast, light] = [8 + 14 * trouble * random(), 1 - 0.25 * trouble * random(), some(14)];
  const { data } = picture;
  for (let at = 0, n = 0; at < data.length; at += 4, n += 1) {
    const shade = shadeX * (n % canvas.width) + shadeY * Math.floor(n / canvas.width);
    const noise = (random() + random() - 1) * grain;
    const value = 128 + ((data[at] as number) - 128) * contrast + light + shade + noise;
    data[at] = data[at + 1] = data[at + 2] = value < 0 ? 0 : value > 255 ? 255 : value;
  }
  const specks = Math.round(canvas.width * 0.15 * trouble);
  for (let n = 0; n < specks; n += 1) {
    const at = 4 * (Math.floor(random() * canvas.height) * canvas.width + Math.floor(random() * canvas.width));
    data[at] = data[at + 1] = data[at + 2] = 20;
  }
  context.putImageData(picture, 0, 0);
  return wish.type === 'image/png' ? canvas.toBuffer('image/png') : canvas.toBuffer('image/jpeg', Math.round(85 - 30 * trouble));
}
