/** What is aligned to one objective in one piece of work: points of questions, of criteria, or of the whole work. */
export interface AlignedPart {
  readonly itemId: string;
  readonly how: 'questions' | 'criteria' | 'whole';
  /** How many questions or criteria; 1 for the whole. */
  readonly pieces: number;
  /** For each student who has a result here: their place in the class, points earned and possible. */
  readonly results: readonly (readonly [place: number, earned: number, possible: number])[];
}

/**
 * The share of points each student earned over some aligned parts: Σ earned / Σ possible of what they have results in, null for who has none or
 * could earn nothing. `people` is how many are in the class.
 * Worked example: 3 of 4 points in one part and 1 of 4 in another are a share of 0.5.
 */
export function alignedShares(parts: readonly AlignedPart[], people: number): readonly (number | null)[] {
  const sums = Array.from({ length: people }, () => ({ earned: 0, possible: 0 }));
  for (const part of parts) {
    for (const [place, earned, possible] of part.results) {
      const sum = sums[place];
      if (sum === undefined) continue;
      sum.earned += earned;
      sum.possible += possible;
    }
  }
  return sums.map((s) => (s.possible > 0 ? s.earned / s.possible : null));
}

export type Attainment = 'with merit' | 'reached' | 'not yet';
/** Whether an objective is reached, by the shares from which a course says so. Example: 0.7 with 0.6 and 0.85 is `reached`. */
export function attainmentOf(share: number, reached: number, merit: number): Attainment {
  if (share >= merit) return 'with merit';
  return share >= reached ? 'reached' : 'not yet';
}

/**
 * How parts are counted, in words. Example: questions of two quizzes and one criterion: `share of the points of 7 questions and 1 criterion, from 3 pieces
 * of work`.
 */
export function howCounted(parts: readonly AlignedPart[]): string {
  const count = (how: AlignedPart['how']): number => parts.filter((p) => p.how === how).reduce((sum, p) => sum + p.pieces, 0);
  const named = (number: number, one: string, many: string): string[] => (number === 0 ? [] : [`${number} ${number === 1 ? one : many}`]);
  const of = [
    ...named(count('questions'), 'question', 'questions'),
    ...named(count('criteria'), 'criterion', 'criteria'),
    ...named(count('whole'), 'whole piece of work', 'whole pieces of work'),
  ];
  if (of.length === 0) return 'nothing with results is aligned to it';
  const works = new Set(parts.map((p) => p.itemId)).size;
  const list = of.length === 1 ? of[0] : `${of.slice(0, -1).join(', ')} and ${of.at(-1) ?? ''}`;
  return `share of the points of ${list ?? ''}, from ${works} ${works === 1 ? 'piece' : 'pieces'} of work`;
}
