import type { ItemStatistics } from './itemStatistics.ts';

/** Below so many attempts figures of single questions are hints at best. */
export const ENOUGH_ATTEMPTS = 30;
const percent = (share: number): string => `${Math.round(100 * share)} %`;
const pickedBy = (o: ItemStatistics['options'][number]): number => o.upper + o.middle + o.lower;

/**
 * What the figures of a question give to think about, in words, the most pressing first; below thirty attempts only that they are few.
 * `letterOf` gives an answer's letter as it was read. The rules: more of the best third picked a wrong answer than the right one; the
 * correlation with the rest is below 0, or below 0.1 where the question is neither too easy nor too hard; share right above 95 % or below
 * 20 %; an answer that fewer than 2 % picked.
 * Worked example: upper third 3 on A (the key) and 11 on B: “Most of the best students chose B, which the key calls wrong: is the key right?”
 */
export function itemFlags(item: Omit<ItemStatistics, 'from'>, letterOf: (optionId: string) => string): readonly string[] {
  if (item.attempts < ENOUGH_ATTEMPTS)
    return [
      `${item.attempts === 1 ? 'One attempt is' : `${item.attempts} attempts are`} too few to judge a question by; thirty are a beginning.`,
    ];
  const flags: string[] = [];
  const right = item.options.filter((o) => o.isRight);
  const best = Math.max(0, ...right.map((o) => o.upper));
  const taken = item.options.filter((o) => !o.isRight && o.upper > best).sort((a, b) => b.upper - a.upper)[0];
  if (right.length > 0 && taken !== undefined)
    flags.push(`Most of the best students chose ${letterOf(taken.id)}, which the key calls wrong: is the key right?`);
  const { shareRight, itemRest } = item;
  if (itemRest !== null && itemRest < 0) flags.push('Those who did well in the rest did worse here.');
  else if (itemRest !== null && itemRest < 0.1 && shareRight !== null && shareRight >= 0.2 && shareRight <= 0.95)
    flags.push('Right or wrong here goes with nothing in the rest: it tells little about anybody.');
  if (shareRight !== null && shareRight > 0.95)
    flags.push(`Nearly everybody is right (${percent(shareRight)}): it parts nobody from anybody.`);
  else if (shareRight !== null && shareRight < 0.2) flags.push(`Few are right (${percent(shareRight)}).`);
  const unused = item.options.filter((o) => !o.isRight && pickedBy(o) < 0.02 * item.attempts).map((o) => letterOf(o.id));
  if (unused.length > 0) flags.push(`${unused.join(', ')} ${unused.length === 1 ? 'is' : 'are'} picked by hardly anybody.`);
  return flags;
}
