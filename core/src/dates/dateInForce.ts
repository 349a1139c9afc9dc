import { DateTime } from 'luxon';

export const DATE_NAMES = ['announced', 'opens', 'due', 'closes'] as const;
export type DateName = (typeof DATE_NAMES)[number];

/** Instants in milliseconds since 1970, or null where nothing is said. */
export type ItemDates = { readonly [name in DateName]: number | null };

export interface DateVariant extends ItemDates {
  readonly level: 'person' | 'group' | 'section';
  /** Name of the section, group or person, for the reason. */
  readonly name: string;
}

export interface Arrangement {
  readonly extraDays: number;
  readonly timeMultiplier: number;
  readonly reason: string;
}

export interface DateInForce {
  readonly at: number | null;
  readonly reason: string;
}
export type DatesInForce = { readonly [name in DateName]: DateInForce };

const LATER_IS_KINDER: { readonly [name in DateName]: boolean } = { announced: false, opens: false, due: true, closes: true };

function mostGenerous(name: DateName, variants: readonly DateVariant[]): DateVariant | null {
  return variants.reduce<DateVariant | null>((best, variant) => {
    const at = variant[name];
    if (at === null) return best;
    const bestAt = best?.[name] ?? null;
    if (bestAt === null) return variant;
    return (LATER_IS_KINDER[name] ? at > bestAt : at < bestAt) ? variant : best;
  }, null);
}

function base(name: DateName, item: ItemDates, variants: readonly DateVariant[], termEnd: number | null): DateInForce {
  for (const level of ['person', 'group', 'section'] as const) {
    const variant = mostGenerous(
      name,
      variants.filter((v) => v.level === level),
    );
    if (variant !== null) {
      return { at: variant[name], reason: level === 'person' ? 'set for this student' : `set for ${variant.name}` };
    }
  }
  if (item[name] !== null) return { at: item[name], reason: 'as for everyone' };
  if (name === 'closes' && termEnd !== null) return { at: termEnd, reason: 'no closing date: the end of the term' };
  return { at: null, reason: 'no date' };
}

/**
 * The dates in force for one student and one item, each of announced, opens, due and closes by itself, with the reason.
 *
 * Order: the variant that names the student, else the most generous of the groups', else of the section's, else the
 * item's own, else the term's (closing only). Then arrangements on top: whole days are added to due and closes by the
 * calendar of the course's zone, so that a wall-clock time holds over daylight saving.
 * A closing date never falls before the due date an arrangement has moved.
 * Worked example: due Tue 18:00, the section Distance has Thu 23:59, an arrangement of 2 days: Sat 23:59,
 * `set for Distance, and 2 days by arrangement`.
 */
export function datesInForce(
  item: ItemDates,
  variants: readonly DateVariant[],
  arrangements: readonly Arrangement[],
  zone: string,
  termEnd: number | null,
): DatesInForce {
  const days = arrangements.reduce((sum, a) => sum + a.extraDays, 0);
  const moved = (name: DateName): DateInForce => {
    const found = base(name, item, variants, termEnd);
    if (found.at === null || days === 0 || (name !== 'due' && name !== 'closes')) return found;
    const at = DateTime.fromMillis(found.at, { zone }).plus({ days }).toMillis();
    return { at, reason: `${found.reason}, and ${days === 1 ? '1 day' : `${days} days`} by arrangement` };
  };
  const due = moved('due');
  const closes = moved('closes');
  const isBehind = closes.at !== null && due.at !== null && closes.at < due.at;
  return { announced: moved('announced'), opens: moved('opens'), due, closes: isBehind ? { at: due.at, reason: due.reason } : closes };
}
