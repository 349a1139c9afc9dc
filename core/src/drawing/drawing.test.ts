import fc from 'fast-check';
import {
  arrowHead,
  extentOf,
  EMPTY_DRAWING,
  lineEnds,
  moveShape,
  readDrawing,
  resizeShape,
  solidAt,
  withoutShape,
  wrapWords,
  type Drawing,
  type Line,
  type Solid,
} from './drawing.ts';

const box = (more: Partial<Solid> = {}): Solid => ({
  ...{ id: 'a', kind: 'box', x: 0, y: 0, width: 100, height: 40, words: '', tone: 0 },
  ...more,
});
const arrow = (more: Partial<Line> = {}): Line => ({
  ...{ id: 'l', kind: 'arrow', start: { x: 0, y: 0 }, end: { x: 200, y: 20 }, startsAt: null, endsAt: null, words: '', tone: 0 },
  ...more,
});
const sheet = (...shapes: Drawing['shapes'][number][]): Drawing => ({ ...EMPTY_DRAWING, shapes });

describe('the ends of a line', () => {
  it('stop at the border of what they hold, on the way to the other end', () => {
    expect(lineEnds(sheet(box()), arrow({ startsAt: 'a' }))).toEqual({ start: { x: 100, y: 20 }, end: { x: 200, y: 20 } });
    const above = box({ id: 'b', y: 300 });
    expect(lineEnds(sheet(box(), above), arrow({ startsAt: 'a', endsAt: 'b' }))).toEqual({
      start: { x: 50, y: 40 },
      end: { x: 50, y: 300 },
    });
  });
  it('meet an oval on its curve', () => {
    const oval = box({ kind: 'oval', width: 100, height: 100 });
    const { start } = lineEnds(sheet(oval), arrow({ startsAt: 'a', end: { x: 150, y: 150 } }));
    expect(Math.hypot(start.x - 50, start.y - 50)).toBeCloseTo(50);
    expect(start.x).toBeCloseTo(start.y);
  });
  it('follow what they hold, and stay where they are when it is removed', () => {
    const line = arrow({ startsAt: 'a' });
    const moved = sheet(moveShape(sheet(box()), box(), 100, 100), line);
    expect(lineEnds(moved, line).start).not.toEqual(lineEnds(sheet(box(), line), line).start);
    const left = withoutShape(moved, 'a');
    expect(left.shapes).toHaveLength(1);
    expect(left.shapes[0]).toMatchObject({ startsAt: null, ...lineEnds(moved, line) });
  });
  it('of two solids in one place are no place of nowhere', () => {
    const { start, end } = lineEnds(sheet(box(), box({ id: 'b' })), arrow({ startsAt: 'a', endsAt: 'b' }));
    expect([start, end]).toEqual([
      { x: 50, y: 20 },
      { x: 50, y: 20 },
    ]);
  });
  it('carry a head that points the way the line goes', () => {
    const [one, point, other] = arrowHead({ x: 0, y: 0 }, { x: 100, y: 0 }, 10);
    expect(point).toEqual({ x: 100, y: 0 });
    expect(one.x).toBeCloseTo(91.08, 1);
    expect(one.y).toBeCloseTo(-other.y);
    expect(Math.abs(one.y)).toBeCloseTo(4.53, 1);
  });
});

describe('moving and sizing', () => {
  const far = fc.integer({ min: -2000, max: 2000 });
  it('never leaves the sheet and never makes a shape too small to take hold of', () => {
    fc.assert(
      fc.property(far, far, far, far, (dx, dy, wide, high) => {
        const d = sheet(box());
        const moved = resizeShape(d, moveShape(d, box(), dx, dy), wide, high) as Solid;
        expect(Math.min(moved.x, moved.y)).toBeGreaterThanOrEqual(0);
        expect(moved.x + moved.width).toBeLessThanOrEqual(d.width);
        expect(moved.y + moved.height).toBeLessThanOrEqual(d.height);
        expect(Math.min(moved.width, moved.height)).toBeGreaterThanOrEqual(20);
        const line = moveShape(d, arrow(), dx, dy) as Line;
        expect(Math.min(line.start.x, line.start.y, line.end.x, line.end.y)).toBeGreaterThanOrEqual(0);
      }),
    );
  });
  it('of a line lets go of what it held; of a stroke moves every place', () => {
    expect(moveShape(sheet(box()), arrow({ startsAt: 'a' }), 10, 0)).toMatchObject({ startsAt: null, start: { x: 110, y: 20 } });
    const stroke = { id: 'p', kind: 'pen', places: [{ x: 1, y: 2 }], tone: 1 } as const;
    expect(moveShape(sheet(), stroke, 5, 5)).toMatchObject({ places: [{ x: 6, y: 7 }] });
    expect(resizeShape(sheet(), stroke, 5, 5)).toBe(stroke);
  });
  it('finds the solid on top', () => {
    const d = sheet(box(), box({ id: 'b', x: 50 }));
    expect(solidAt(d, { x: 60, y: 10 })?.id).toBe('b');
    expect(solidAt(d, { x: 10, y: 10 })?.id).toBe('a');
    expect(solidAt(d, { x: 400, y: 10 })).toBeNull();
  });
});

describe('what of the sheet is drawn on', () => {
  it.each([
    [sheet(box({ x: 50, y: 50 })), { x: 30, y: 30, width: 140, height: 80 }],
    [sheet(box(), arrow()), { x: 0, y: 0, width: 220, height: 60 }],
    [sheet(), { x: 0, y: 0, width: 800, height: 500 }],
  ])('%#', (drawn, part) => expect(extentOf(drawn)).toEqual(part));
});

describe('words in a shape', () => {
  const measure = (line: string): number => line.length;
  it.each([
    ['a bb ccc', 4, ['a bb', 'ccc']],
    ['a\nb', 9, ['a', 'b']],
    ['wheel', 3, ['wheel']],
    ['', 3, ['']],
  ])('%p at %p', (text, width, lines) => expect(wrapWords(text, width, measure)).toEqual(lines));
});

describe('a drawing that was kept', () => {
  it('is read as it was', () => {
    const d = sheet(box(), arrow(), { id: 'p', kind: 'pen', places: [{ x: 1, y: 2 }], tone: 4 });
    expect(readDrawing(JSON.stringify(d))).toEqual(d);
  });
  it.each([
    ['nothing', ''],
    ['no sheet', '[]'],
    ['null', 'null'],
    ['an unknown shape', JSON.stringify(sheet({ ...box(), kind: 'star' as 'box' }))],
    ['a place that is none', JSON.stringify(sheet(arrow({ end: { x: 'x' as unknown as number, y: 1 } })))],
    ['a tone there is not', JSON.stringify(sheet(box({ tone: 9 })))],
    ['words too long', JSON.stringify(sheet(box({ words: 'x'.repeat(201) })))],
    ['a sheet of no size', JSON.stringify({ width: 0, height: 1, shapes: [] })],
  ])('is refused: %s', (_what, text) => expect(readDrawing(text)).toBeNull());
});
