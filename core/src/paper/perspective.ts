import type { SheetPlace } from './sheetLayout.ts';

/** Takes a place of one plane to where it is seen in a picture of it. */
export type Mapping = (place: SheetPlace) => SheetPlace;
export type Quad = readonly [SheetPlace, SheetPlace, SheetPlace, SheetPlace];

/**
 * The projective map that takes a rectangle to a quadrilateral, corner by corner (upper left first, clockwise), as a flat sheet is seen by
 * a camera. Closed form for the unit square after P. Heckbert, “Fundamentals of Texture Mapping and Image Warping” (1989), §2.2.3; a
 * parallelogram gives the affine map. Corners on one line give a map without meaning: callers test their quadrilateral before.
 * Worked example: a rectangle 0…2 × 0…1 onto (0,0) (20,0) (20,10) (0,10) takes (1, 0.5) to (10, 5).
 */
export function perspective(
  from: { readonly x: number; readonly y: number; readonly width: number; readonly height: number },
  to: Quad,
): Mapping {
  const [p0, p1, p2, p3] = to;
  const [dx1, dx2, sx] = [p1.x - p2.x, p3.x - p2.x, p0.x - p1.x + p2.x - p3.x];
  const [dy1, dy2, sy] = [p1.y - p2.y, p3.y - p2.y, p0.y - p1.y + p2.y - p3.y];
  const whole = dx1 * dy2 - dx2 * dy1;
  const g = (sx * dy2 - dx2 * sy) / whole;
  const h = (dx1 * sy - sx * dy1) / whole;
  const [a, b] = [p1.x - p0.x + g * p1.x, p3.x - p0.x + h * p3.x];
  const [d, e] = [p1.y - p0.y + g * p1.y, p3.y - p0.y + h * p3.y];
  return ({ x, y }) => {
    const [u, v] = [(x - from.x) / from.width, (y - from.y) / from.height];
    const w = g * u + h * v + 1;
    return { x: (a * u + b * v + p0.x) / w, y: (d * u + e * v + p0.y) / w };
  };
}
