/** One mark as it was finished: when, and its share of the points. */
export interface TimedMark {
  readonly at: number;
  readonly share: number;
}
export interface Drift {
  /** Marks in the order they were finished, in up to five parts of about as many. */
  readonly parts: readonly { readonly number: number; readonly mean: number; readonly from: number; readonly to: number }[];
  /** Last part less first, in shares of the points. */
  readonly change: number;
  /** The mean of all. */
  readonly mean: number;
}

const LEAST_IN_PART = 5;

/**
 * Whether a marker grows harder or milder while marking: the mean share of the points in up to five parts of their marks, taken in
 * the order they were finished. Each part has five marks at least; what does not divide evenly makes the first parts one larger.
 * Fewer than ten marks give null: two parts are the least that can be held against each other.
 * Works come in no order of merit, so a steady change is a hint and never a proof. Convention: plain means, no weights.
 * Worked example: five marks of 0.8, then five of 0.6: two parts, change −0.2.
 */
export function markingDrift(marks: readonly TimedMark[]): Drift | null {
  const many = Math.min(5, Math.floor(marks.length / LEAST_IN_PART));
  if (many < 2) return null;
  const ordered = [...marks].sort((a, b) => a.at - b.at);
  const mean = (list: readonly TimedMark[]): number => list.reduce((s, m) => s + m.share, 0) / list.length;
  const [size, over] = [Math.floor(ordered.length / many), ordered.length % many];
  let from = 0;
  const parts = Array.from({ length: many }, (_, n) => {
    const part = ordered.slice(from, from + size + (n < over ? 1 : 0));
    from += part.length;
    return { number: part.length, mean: mean(part), from: (part[0] as TimedMark).at, to: (part.at(-1) as TimedMark).at };
  });
  return { parts, change: (parts.at(-1)?.mean ?? 0) - (parts[0]?.mean ?? 0), mean: mean(ordered) };
}
