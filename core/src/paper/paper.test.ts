import fc from 'fast-check';
import { findMarks } from './findMarks.ts';
import { darkPixels, type GreyImage } from './greyImage.ts';
import { keyString, readKeyString } from './keyString.ts';
import { perspective } from './perspective.ts';
import { readRows, setStraight } from './readSheet.ts';
import { readBits, sheetBits } from './sheetCode.ts';
import {
  BUBBLE_RADIUS,
  codeCells,
  columnsThatFit,
  MARK_SIZE,
  MARKS,
  SHEET,
  sheetLayout,
  UP_MARK,
  UP_SIZE,
  type SheetPage,
  type SheetPlace,
} from './sheetLayout.ts';

const wish = { columns: 3, spacing: 'roomy', alternates: false } as const;
const five = (many: number) => Array.from({ length: many }, () => ({ options: 5, isMany: false }));

describe('the strip of a sheet', () => {
  it('says again what was written, whatever that was', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 255 }),
        fc.integer({ min: 0, max: 16383 }),
        fc.integer({ min: 0, max: 7 }),
        (test, sheet, page) => {
          expect(readBits(sheetBits(test, sheet, page))).toEqual({ test, sheet, page });
        },
      ),
    );
  });

  it('is no code once one cell or two are wrong, or all are light or dark', () => {
    const bits = sheetBits(7, 1234, 2);
    for (let a = 0; a < bits.length; a += 1)
      for (let b = a; b < bits.length; b += 1) expect(readBits(bits.map((bit, n) => (n === a || n === b ? !bit : bit)))).toBeNull();
    for (const all of [true, false]) expect(readBits(bits.map(() => all))).toBeNull();
    expect(readBits(bits.slice(1))).toBeNull();
  });

  it('takes no number that does not fit', () => {
    expect(() => sheetBits(256, 1, 0)).toThrow('test 256 does not fit into 8 bits');
    expect(() => sheetBits(1, 1, 8)).toThrow(RangeError);
  });
});

describe('the layout of a sheet', () => {
  it('has each question once, inside the marks, and no circle over another', () => {
    fc.assert(
      fc.property(
        fc.array(fc.record({ options: fc.integer({ min: 0, max: 10 }), isMany: fc.boolean() }), { minLength: 1, maxLength: 120 }),
        fc.integer({ min: 1, max: 4 }),
        fc.constantFrom('roomy' as const, 'tight' as const),
        (questions, columns, spacing) => {
          const pages = sheetLayout({ questions, columns, spacing, alternates: true });
          expect(pages.flatMap((p) => p.rows.map((r) => r.question))).toEqual(questions.map((_, n) => n));
          for (const page of pages) {
            const circles = page.rows.flatMap((r) => r.bubbles);
            for (const [n, c] of circles.entries()) {
              expect(c.x - BUBBLE_RADIUS > 14 && c.x + BUBBLE_RADIUS < 196 && c.y > 48 && c.y + BUBBLE_RADIUS < 279).toBe(true);
              const next = circles[n + 1];
              if (next !== undefined) expect(Math.hypot(c.x - next.x, c.y - next.y)).toBeGreaterThan(2 * BUBBLE_RADIUS);
            }
          }
        },
      ),
      { numRuns: 60 },
    );
  });

  it('makes as many columns as fit, and the letters of every second row go on', () => {
    expect([2, 5, 6, 10].map(columnsThatFit)).toEqual([4, 3, 3, 2]);
    const [page] = sheetLayout({ questions: five(60), columns: 4, spacing: 'tight', alternates: true });
    expect(page?.rows).toHaveLength(60);
    expect(page?.rows[0]?.bubbles.map((b) => b.letter).join('')).toBe('ABCDE');
    expect(page?.rows[1]?.bubbles.map((b) => b.letter).join('')).toBe('FGHIJ');
    expect(sheetLayout({ ...wish, questions: [] })).toEqual([]);
    expect(() => sheetLayout({ ...wish, questions: [{ options: 11, isMany: false }] })).toThrow('A question has 11 options');
  });
});

describe('perspective', () => {
  it('takes corners to corners, and the middle of a parallelogram to its middle', () => {
    const at = perspective({ x: 0, y: 0, width: 2, height: 1 }, [
      { x: 3, y: 1 },
      { x: 23, y: 4 },
      { x: 21, y: 15 },
      { x: 1, y: 11 },
    ]);
    const near = (p: SheetPlace, x: number, y: number): void => {
      expect(p.x).toBeCloseTo(x, 9);
      expect(p.y).toBeCloseTo(y, 9);
    };
    near(at({ x: 0, y: 0 }), 3, 1);
    near(at({ x: 2, y: 0 }), 23, 4);
    near(at({ x: 2, y: 1 }), 21, 15);
    near(at({ x: 0, y: 1 }), 1, 11);
    const flat = perspective({ x: 0, y: 0, width: 2, height: 1 }, [
      { x: 0, y: 0 },
      { x: 20, y: 0 },
      { x: 20, y: 10 },
      { x: 0, y: 10 },
    ]);
    near(flat({ x: 1, y: 0.5 }), 10, 5);
  });
});

/** A sheet drawn point by point as it lies under the glass: `dark` says how black each circle of a row is. */
function draw(
  page: SheetPage,
  code: { test: number; sheet: number },
  dark: (question: number, option: number) => number,
  lie: { width?: number; height?: number; turn?: number; scale?: number; shade?: number } = {},
): GreyImage {
  const { width = 840, height = 1188, turn = 0, scale = 4, shade = 0 } = lie;
  const ink = new Float64Array(width * height);
  const [cos, sin] = [Math.cos(turn), Math.sin(turn)];
  /** Goes through the pixels about a place and puts ink where `inkAt` says so, in millimetres from it. */
  const put = (m: SheetPlace, reach: number, inkAt: (dx: number, dy: number) => number): void => {
    const [u, v] = [m.x - SHEET.width / 2, m.y - SHEET.height / 2];
    const [cx, cy] = [width / 2 + (u * cos - v * sin) * scale, height / 2 + (u * sin + v * cos) * scale];
    const most = Math.ceil(reach * scale * 1.5);
    for (let y = Math.max(0, Math.round(cy) - most); y <= Math.min(height - 1, Math.round(cy) + most); y += 1)
      for (let x = Math.max(0, Math.round(cx) - most); x <= Math.min(width - 1, Math.round(cx) + most); x += 1) {
        const [du, dv] = [(x - cx) / scale, (y - cy) / scale];
        ink[y * width + x] = Math.max(ink[y * width + x] as number, inkAt(du * cos + dv * sin, dv * cos - du * sin));
      }
  };
  const box = (m: SheetPlace, w: number, h: number): void => {
    put(m, Math.max(w, h) / 2, (dx, dy) => (Math.abs(dx) < w / 2 && Math.abs(dy) < h / 2 ? 1 : 0));
  };
  for (const m of MARKS) box(m, MARK_SIZE, MARK_SIZE);
  box(UP_MARK, UP_SIZE, UP_SIZE);
  for (const c of codeCells(code.test, code.sheet, page.page))
    if (c.isDark) box({ x: c.box.x + c.box.width / 2, y: c.box.y + c.box.height / 2 }, c.box.width, c.box.height);
  for (const row of page.rows)
    for (const [n, b] of row.bubbles.entries())
      put(b, BUBBLE_RADIUS + 0.1, (dx, dy) => {
        const r = Math.hypot(dx, dy);
        if (r < BUBBLE_RADIUS - 0.1) return Math.max(dark(row.question, n), r < 0.7 ? 0.12 : 0);
        return r < BUBBLE_RADIUS + 0.1 ? 0.5 : 0;
      });
  const pixels = Uint8Array.from(ink, (value, at) => {
    const light = 250 - (shade * ((at % width) + Math.floor(at / width))) / (width + height);
    return Math.round(light * (1 - 0.92 * value));
  });
  return { width, height, pixels };
}
const [page = { page: 0, rows: [] }] = sheetLayout({ ...wish, questions: five(40) });
const answered = (n: number): number => (n * 7 + 3) % 5;
const clear = (n: number, k: number): number => (k === answered(n) ? 0.8 : 0);
function read(image: GreyImage, of: SheetPage = page) {
  const found = setStraight(image);
  if (!found.ok) throw new Error(found.reason);
  return { code: found.sheet.code, rows: readRows(image, found.sheet, of) };
}

describe('reading a sheet', () => {
  it('is right however it lies: straight, askew, small, shaded, upside down or on its side', () => {
    const lies = [
      {},
      { turn: 0.05 },
      { turn: -0.07, scale: 3.6 },
      { shade: 120, turn: 0.02 },
      { turn: Math.PI + 0.03 },
      { width: 1188, height: 840, turn: Math.PI / 2 - 0.02, scale: 3.8 },
      { width: 1188, height: 840, turn: -Math.PI / 2 },
    ];
    for (const lie of lies) {
      const { code, rows } = read(draw(page, { test: 9, sheet: 321 }, clear, lie));
      expect(code).toEqual({ test: 9, sheet: 321, page: 0 });
      expect(rows.map((r) => r.marked)).toEqual(page.rows.map((r) => [answered(r.question)]));
      expect(rows.filter((r) => r.doubt !== null)).toEqual([]);
    }
  }, 60_000);

  it('reads a soft pencil as it reads a hard one', () => {
    const { rows } = read(draw(page, { test: 9, sheet: 1 }, (n, k) => (k === answered(n) ? 0.34 : 0)));
    expect(rows.every((r) => r.marked[0] === answered(r.question) && r.doubt === null)).toBe(true);
  });

  it('says what it is not sure of, and leaves empty what is empty', () => {
    const { rows } = read(
      draw(page, { test: 9, sheet: 1 }, (n, k) => {
        if (n === 0) return 0;
        if (n === 1) return k === 2 ? 0.18 : 0;
        if (n === 2) return k === 1 || k === 3 ? 0.8 : 0;
        if (n === 3) return k === 4 ? 0.8 : k === 0 ? 0.3 : 0;
        if (n === 4) return k === 4 ? 0.8 : k === 0 ? 0.09 : 0;
        return clear(n, k);
      }),
    );
    expect(rows.slice(0, 5).map((r) => [r.marked, r.doubt])).toEqual([
      [[], null],
      [[2], 'faint'],
      [[1, 3], 'too many'],
      [[4], 'another'],
      [[4], null],
    ]);
  });

  it('takes several circles where several may be filled', () => {
    const [many = page] = sheetLayout({ ...wish, questions: Array.from({ length: 12 }, () => ({ options: 4, isMany: true })) });
    const { rows } = read(
      draw(many, { test: 1, sheet: 2 }, (n, k) => (k <= n % 3 ? 0.7 : 0)),
      many,
    );
    expect(rows.map((r) => r.marked.length)).toEqual(rows.map((r) => (r.question % 3) + 1));
  });

  it('refuses what is no sheet, or a sheet whose strip is covered', () => {
    const blank = { width: 400, height: 560, pixels: new Uint8Array(400 * 560).fill(250) };
    expect(findMarks(blank)).toBeNull();
    expect(setStraight(blank)).toMatchObject({ ok: false, reason: expect.stringContaining('four black squares') });
    const image = draw(page, { test: 9, sheet: 1 }, clear);
    // A hand over the strip.
    image.pixels.fill(30, 36 * 840, 60 * 840);
    const covered = setStraight(image);
    expect(covered.ok).toBe(false);
  });

  it('finds dark places in shade', () => {
    const pixels = Uint8Array.from({ length: 900 }, (_, n) => 60 + 5 * (n % 30));
    pixels[15 * 30 + 15] = 40;
    const dark = darkPixels({ width: 30, height: 30, pixels }, 5, 0.7);
    expect(dark.reduce((sum, v) => sum + v, 0)).toBe(1);
    expect(dark[15 * 30 + 15]).toBe(1);
  });
});

describe('a key as a string', () => {
  const rows = [{ letters: ['A', 'B', 'C'] }, { letters: ['F', 'G', 'H'] }, { letters: [] }];
  it('is read with brackets, dashes, spaces and small letters', () => {
    expect(readKeyString('ba (ac)\n-', null)).toEqual({ ok: true, picked: [[1], [0], [0, 2], []] });
    expect(readKeyString('c, g, -', rows)).toEqual({ ok: true, picked: [[2], [1], []] });
    // The letters A, B, C are understood on a row that has others.
    expect(readKeyString('cb-', rows)).toEqual({ ok: true, picked: [[2], [1], []] });
  });
  it('names what is wrong, and where', () => {
    const reason = (text: string): string => {
      const found = readKeyString(text, rows);
      return found.ok ? '' : found.reason;
    };
    expect(reason('ab')).toContain('2 answers for 3 questions');
    expect(reason('xb-')).toBe('“X” is no answer of question 1, which has A to C.');
    expect(reason('a(bc-')).toContain('2 answers for 3');
    expect(reason('a-(b')).toBe('The bracket at question 3 is not closed.');
    expect(reason('aba')).toContain('Question 3 has nothing to choose from');
  });
  it('is written as it is read', () => {
    fc.assert(
      fc.property(fc.array(fc.uniqueArray(fc.integer({ min: 0, max: 4 })), { minLength: 1, maxLength: 30 }), (picked) => {
        const sorted = picked.map((p) => [...p].sort((a, b) => a - b));
        const letters = sorted.map(() => ({ letters: [...'ABCDE'] }));
        expect(readKeyString(keyString(sorted, letters), letters)).toEqual({ ok: true, picked: sorted });
      }),
    );
  });
});
