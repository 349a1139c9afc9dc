import { ZERO, type Ratio } from '../exact/ratio.ts';
import { classShare } from './share.ts';
import { shareOfSteps } from './steps.ts';

/** Items that are looked at together: a unit, or one item. `places` are theirs in the signs of a student. */
export interface ItemsTogether {
  readonly id: string;
  readonly places: readonly number[];
}
export interface FarOfOne {
  readonly all: Ratio | null;
  /** In the order of the parts that were asked for. */
  readonly parts: readonly (Ratio | null)[];
}
export interface HowFar {
  readonly people: readonly FarOfOne[];
  /** The mean over the students, in all and of each part. */
  readonly class: FarOfOne;
  /** The places of those who have the greatest share; none while nobody has done anything. */
  readonly furthest: readonly number[];
  /** How many have a share: what the mean of the class is made of. */
  readonly counted: number;
}

const greatest = (shares: readonly (Ratio | null)[]): Ratio =>
  shares.reduce<Ratio>((most, share) => (share !== null && share.compare(most) > 0 ? share : most), ZERO);

/**
 * How far each student is in all and in some parts, the class as the mean over its students, and who is furthest. Students without anything open
 * have no share and are in no mean.
 * Worked example: the signs `11` and `10` over two items by items: shares 1 and 1/2, the class 3/4, furthest the first.
 */
export function howFar(
  people: readonly { readonly steps: string }[],
  all: readonly number[],
  parts: readonly ItemsTogether[],
  minutes: readonly number[],
  by: 'items' | 'minutes',
): HowFar {
  const ones = people.map(({ steps }): FarOfOne => ({
    all: shareOfSteps(steps, all, minutes, by),
    parts: parts.map((part) => shareOfSteps(steps, part.places, minutes, by)),
  }));
  const most = greatest(ones.map((one) => one.all));
  return {
    people: ones,
    class: {
      all: classShare(ones.map((one) => one.all)),
      parts: parts.map((_, n) => classShare(ones.map((one) => one.parts[n] ?? null))),
    },
    furthest: most.equals(0) ? [] : ones.flatMap((one, place) => (one.all?.equals(most) === true ? [place] : [])),
    counted: ones.filter((one) => one.all !== null).length,
  };
}
