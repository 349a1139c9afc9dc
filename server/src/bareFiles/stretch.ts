/** Reads `length` bytes of a file from `at`; fewer at its end. */
export type ReadAt = (at: number, length: number) => Promise<Buffer>;

/** A stretch of a file that says who made it. */
export interface Stretch {
  readonly at: number;
  readonly length: number;
  /** What is put there: zeros, spaces where a reader expects letters, or these bytes; a box may be renamed before it. */
  readonly fill: 0 | 32 | Buffer;
  readonly rename?: { readonly at: number; readonly to: string };
}
