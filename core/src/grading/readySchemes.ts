import type { SchemeLevel } from './policy.ts';

/** A scheme to begin from: what it is called and its levels, from the highest down to 0. */
export interface ReadyScheme {
  readonly title: string;
  readonly levels: readonly (SchemeLevel & { readonly value: number | null })[];
  /** From which total the course is passed; null where the scheme says nothing of it. */
  readonly passPercent: number | null;
}

const level = (label: string, from: number, value: number | null = null) => ({
  label,
  cutPoint: from * 1000,
  value: value === null ? null : value * 1000,
});

/** Schemes that are ready to be taken and changed. Cut-points and values are thousandths of a percent; every one falls to 0 at its end. */
export const READY_SCHEMES: readonly ReadyScheme[] = [
  { title: 'Letters A to F', levels: [level('A', 87), level('B', 73), level('C', 61), level('D', 50), level('F', 0)], passPercent: 50_000 },
  {
    title: 'Letters with halves',
    levels: [
      ...[level('A', 90), level('A−', 85), level('B+', 80), level('B', 75), level('B−', 70), level('C+', 66)],
      ...[level('C', 62), level('C−', 58), level('D', 50), level('F', 0)],
    ],
    passPercent: 50_000,
  },
  { title: 'Pass or not', levels: [level('Pass', 50, 100), level('Not passed', 0, 0)], passPercent: 50_000 },
  {
    title: 'Bands in words',
    levels: [level('Excellent', 85), level('Good', 70), level('Sound', 55), level('Weak', 40), level('Not yet', 0)],
    passPercent: 40_000,
  },
  {
    title: 'Grade points 0 to 4',
    levels: [level('4.0', 87, 100), level('3.0', 73, 75), level('2.0', 61, 50), level('1.0', 50, 25), level('0.0', 0, 0)],
    passPercent: 50_000,
  },
];
