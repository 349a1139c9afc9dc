/** A place on the sheet: units from its left and its top. */
export interface Spot {
  readonly x: number;
  readonly y: number;
}
/** A box or an oval with words in it, or words alone. Left, top, width and height in units of the sheet. */
export interface Solid {
  readonly id: string;
  readonly kind: 'box' | 'oval' | 'words';
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
  readonly words: string;
  readonly tone: number;
}
/** A line from place to place; an end that holds a solid goes where that goes. */
export interface Line {
  readonly id: string;
  readonly kind: 'line' | 'arrow';
  readonly start: Spot;
  readonly end: Spot;
  readonly startsAt: string | null;
  readonly endsAt: string | null;
  readonly words: string;
  readonly tone: number;
}
/** What was drawn by hand, place after place. */
export interface Stroke {
  readonly id: string;
  readonly kind: 'pen';
  readonly places: readonly Spot[];
  readonly tone: number;
}
export type Shape = Solid | Line | Stroke;
export type ShapeKind = Shape['kind'];
/** Shapes in the order they are drawn: the last lies on top. */
export interface Drawing {
  readonly width: number;
  readonly height: number;
  readonly shapes: readonly Shape[];
}

export const DRAWING_LIMITS = { shapes: 200, words: 200, places: 2000, tones: 5 } as const;
export const EMPTY_DRAWING: Drawing = { width: 800, height: 500, shapes: [] };

export const isSolid = (shape: Shape): shape is Solid => shape.kind === 'box' || shape.kind === 'oval' || shape.kind === 'words';
export const isLine = (shape: Shape): shape is Line => shape.kind === 'line' || shape.kind === 'arrow';

const SMALLEST = 20;
const within = (value: number, least: number, most: number): number => Math.min(Math.max(value, least), most);
const middleOf = (solid: Solid): Spot => ({ x: solid.x + solid.width / 2, y: solid.y + solid.height / 2 });

/** Where the way from the middle of a solid towards a place leaves it. */
function border(solid: Solid, towards: Spot): Spot {
  const middle = middleOf(solid);
  const [dx, dy] = [towards.x - middle.x, towards.y - middle.y];
  if (dx === 0 && dy === 0) return middle;
  const [halfWidth, halfHeight] = [solid.width / 2, solid.height / 2];
  const share =
    solid.kind === 'oval'
      ? 1 / Math.hypot(dx / halfWidth, dy / halfHeight)
      : Math.min(dx === 0 ? Infinity : halfWidth / Math.abs(dx), dy === 0 ? Infinity : halfHeight / Math.abs(dy));
  return { x: middle.x + dx * share, y: middle.y + dy * share };
}

/**
 * Where a line begins and ends as drawn: an end that holds a solid stops at its border, on the way to the other end.
 * Units of the sheet. A solid that is gone counts as none.
 * Worked example: a line from a box of 100 × 40 at 0, 0 to the place 200, 20 begins at 100, 20.
 */
export function lineEnds(drawing: Drawing, line: Line): { readonly start: Spot; readonly end: Spot } {
  const held = (id: string | null): Solid | null => drawing.shapes.filter(isSolid).find((s) => s.id === id) ?? null;
  const [from, to] = [held(line.startsAt), held(line.endsAt)];
  const [aimStart, aimEnd] = [from === null ? line.start : middleOf(from), to === null ? line.end : middleOf(to)];
  return { start: from === null ? line.start : border(from, aimEnd), end: to === null ? line.end : border(to, aimStart) };
}

/**
 * The three places of an arrow's head: one side, the point, the other side; each side `size` long and 27° off the way it points.
 * Worked example: an arrow pointing right to 100, 0 with size 10 has its sides at about x = 91, y = ±4.5.
 */
export function arrowHead(start: Spot, end: Spot, size = 12): readonly [Spot, Spot, Spot] {
  const way = Math.atan2(end.y - start.y, end.x - start.x);
  const side = (turn: number): Spot => ({ x: end.x - size * Math.cos(way + turn), y: end.y - size * Math.sin(way + turn) });
  return [side(0.47), end, side(-0.47)];
}

/** The solid that lies on top at a place, or null. Example: two boxes over each other give the later one. */
export function solidAt(drawing: Drawing, place: Spot): Solid | null {
  const hit = drawing.shapes
    .filter(isSolid)
    .filter((s) => place.x >= s.x && place.x <= s.x + s.width && place.y >= s.y && place.y <= s.y + s.height);
  return hit.at(-1) ?? null;
}

const shifted = (place: Spot, dx: number, dy: number, drawing: Drawing): Spot => ({
  x: within(place.x + dx, 0, drawing.width),
  y: within(place.y + dy, 0, drawing.height),
});

/**
 * A shape moved by so many units, never off the sheet. A line lets go of what its ends held.
 * Worked example: a box of 100 wide at x = 690 on a sheet of 800, moved by 50, stands at 700.
 */
export function moveShape(drawing: Drawing, shape: Shape, dx: number, dy: number): Shape {
  if (isSolid(shape))
    return {
      ...shape,
      x: within(shape.x + dx, 0, drawing.width - shape.width),
      y: within(shape.y + dy, 0, drawing.height - shape.height),
    };
  if (isLine(shape)) {
    const { start, end } = lineEnds(drawing, shape);
    return { ...shape, start: shifted(start, dx, dy, drawing), end: shifted(end, dx, dy, drawing), startsAt: null, endsAt: null };
  }
  return { ...shape, places: shape.places.map((p) => shifted(p, dx, dy, drawing)) };
}

/**
 * A solid made larger or smaller at its right and lower side, at least 20 units and never off the sheet; of a line its end moves.
 * What is drawn by hand keeps its size. Worked example: a box of 30 × 30 made smaller by 50 is 20 × 20.
 */
export function resizeShape(drawing: Drawing, shape: Shape, dx: number, dy: number): Shape {
  if (isSolid(shape))
    return {
      ...shape,
      width: within(shape.width + dx, SMALLEST, drawing.width - shape.x),
      height: within(shape.height + dy, SMALLEST, drawing.height - shape.y),
    };
  if (isLine(shape)) return { ...shape, end: shifted(lineEnds(drawing, shape).end, dx, dy, drawing), endsAt: null };
  return shape;
}

/**
 * The part of the sheet that is drawn on, with some air around it: what a picture of the drawing shows. Of an empty sheet the
 * whole. Worked example: a box of 100 × 40 at 50, 50 with 20 of air is 140 × 80 at 30, 30.
 */
export function extentOf(
  drawing: Drawing,
  air = 20,
): { readonly x: number; readonly y: number; readonly width: number; readonly height: number } {
  const spots = drawing.shapes.flatMap((s): readonly Spot[] => {
    if (isSolid(s)) return [s, { x: s.x + s.width, y: s.y + s.height }];
    return isLine(s) ? Object.values(lineEnds(drawing, s)) : s.places;
  });
  if (spots.length === 0) return { x: 0, y: 0, width: drawing.width, height: drawing.height };
  const [left, top] = [Math.min(...spots.map((p) => p.x)) - air, Math.min(...spots.map((p) => p.y)) - air];
  const [right, low] = [Math.max(...spots.map((p) => p.x)) + air, Math.max(...spots.map((p) => p.y)) + air];
  const [x, y] = [Math.max(0, Math.floor(left)), Math.max(0, Math.floor(top))];
  return { x, y, width: Math.min(drawing.width, Math.ceil(right)) - x, height: Math.min(drawing.height, Math.ceil(low)) - y };
}

/** The drawing without a shape; lines that held it stay where they were drawn. Example: without its only box, an arrow stays. */
export function withoutShape(drawing: Drawing, id: string): Drawing {
  const shapes = drawing.shapes
    .filter((s) => s.id !== id)
    .map((s) => {
      if (!isLine(s) || (s.startsAt !== id && s.endsAt !== id)) return s;
      return {
        ...s,
        ...lineEnds(drawing, s),
        startsAt: s.startsAt === id ? null : s.startsAt,
        endsAt: s.endsAt === id ? null : s.endsAt,
      };
    });
  return { ...drawing, shapes };
}

/**
 * Words laid in lines no wider than `width`, by a measure of the caller's; line ends that were typed stay, and a word wider than
 * the line stands alone. Worked example: `a bb ccc` at width 4 and one unit a letter gives `a bb`, `ccc`.
 */
export function wrapWords(text: string, width: number, measure: (line: string) => number): readonly string[] {
  return text.split('\n').flatMap((typed) => {
    const lines: string[] = [];
    for (const word of typed.split(' ')) {
      const last = lines.at(-1);
      if (last !== undefined && measure(`${last} ${word}`) <= width) lines[lines.length - 1] = `${last} ${word}`;
      else lines.push(word);
    }
    return lines;
  });
}

const isSpot = (value: unknown): value is Spot =>
  typeof value === 'object' && value !== null && Number.isFinite((value as Spot).x) && Number.isFinite((value as Spot).y);

function isShape(value: unknown): value is Shape {
  if (typeof value !== 'object' || value === null) return false;
  const shape = value as Record<string, unknown>;
  if (typeof shape.id !== 'string' || !Number.isInteger(shape.tone) || Number(shape.tone) < 0 || Number(shape.tone) >= DRAWING_LIMITS.tones)
    return false;
  if (shape.kind === 'pen')
    return Array.isArray(shape.places) && shape.places.length <= DRAWING_LIMITS.places && shape.places.every(isSpot);
  if (typeof shape.words !== 'string' || shape.words.length > DRAWING_LIMITS.words) return false;
  if (shape.kind === 'line' || shape.kind === 'arrow')
    return isSpot(shape.start) && isSpot(shape.end) && [shape.startsAt, shape.endsAt].every((e) => e === null || typeof e === 'string');
  return (
    ['box', 'oval', 'words'].includes(String(shape.kind)) &&
    [shape.x, shape.y, shape.width, shape.height].every((n) => typeof n === 'number' && Number.isFinite(n))
  );
}

/**
 * A drawing read from the text it was kept as; null where the text is none. Worked example: `{"width":800,"height":500,"shapes":[]}`
 * is an empty sheet, and `[]` is null.
 */
export function readDrawing(text: string): Drawing | null {
  try {
    const value = JSON.parse(text) as Partial<Drawing> | null;
    const isSheet = [value?.width, value?.height].every((n) => Number.isInteger(n) && Number(n) >= 100 && Number(n) <= 4000);
    const shapes: unknown = value?.shapes;
    if (!isSheet || !Array.isArray(shapes) || shapes.length > DRAWING_LIMITS.shapes || !shapes.every(isShape)) return null;
    return value as Drawing;
  } catch {
    return null;
  }
}
