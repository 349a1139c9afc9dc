import { DateTime } from 'luxon';
import { plusDays } from './wallTime.ts';
import { FOR_EVERYONE } from './words.ts';

export const DATE_NAMES = ['announced', 'opens', 'due', 'closes'] as const;
export type DateName = (typeof DATE_NAMES)[number];

/** Instants in milliseconds since 1970, or null where nothing is said. */
export type ItemDates = { readonly [name in DateName]: number | null };

export interface DateVariant extends ItemDates {
  readonly level: 'revision' | 'person' | 'group' | 'section';
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

/** The dates of a unit an item stands in: nothing in it is told, opens or stays open beyond them. */
export interface UnitDates {
  readonly title: string;
  readonly announced: number | null;
  readonly opens: number | null;
  readonly closes: number | null;
}

/** What holds an item beside its own dates: its units, and an opening by hand. */
export interface DateBounds {
  readonly units: readonly UnitDates[];
  /** Until when it is opened by hand for this student. */
  readonly openUntil: number | null;
}
export const UNBOUND: DateBounds = { units: [], openUntil: null };

const LATER_IS_KINDER: { readonly [name in DateName]: boolean } = { announced: false, opens: false, due: true, closes: true };

const FOR_ONE = 'set for this student';

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
  for (const level of ['revision', 'person', 'group', 'section'] as const) {
    const variant = mostGenerous(
      name,
      variants.filter((v) => v.level === level),
    );
    if (variant !== null) {
      return {
        at: variant[name],
        reason: level === 'revision' ? `${FOR_ONE}, to revise it` : level === 'person' ? FOR_ONE : `set for ${variant.name}`,
      };
    }
  }
  if (item[name] !== null) return { at: item[name], reason: FOR_EVERYONE };
  if (name === 'closes' && termEnd !== null) return { at: termEnd, reason: 'no closing date: the end of the term' };
  return { at: null, reason: 'no date' };
}

/**
 * What is set for one student alone holds against the unit; everything else is told and opens no earlier, and closes no later,
 * than the kindest of its units. Days of an arrangement count for a unit's closing as for an item's.
 */
function withUnits(
  name: 'announced' | 'opens' | 'closes',
  found: DateInForce,
  units: readonly UnitDates[],
  later: (at: number) => number,
): DateInForce {
  if (units.length === 0 || found.reason.startsWith(FOR_ONE)) return found;
  const isLatest = name === 'closes';
  const kindest = units.reduce((best, unit) => {
    const [a, b] = [unit[name], best[name]];
    if (a === null || b === null) return a === null ? unit : best;
    return (isLatest ? a > b : a < b) ? unit : best;
  });
  if (kindest[name] === null) return found;
  const bound = isLatest ? later(kindest[name]) : kindest[name];
  const isHeld = found.at === null || (isLatest ? bound < found.at : bound > found.at);
  return isHeld ? { at: bound, reason: `with the unit “${kindest.title}”` } : found;
}

function startedLater(unit: UnitDates, plus: (at: number) => number): UnitDates {
  const moved = (at: number | null): number | null => (at === null ? null : plus(at));
  return { title: unit.title, announced: moved(unit.announced), opens: moved(unit.opens), closes: moved(unit.closes) };
}

/**
 * In a course counted from each student's start: how many days after the first day of its term this student began, by the
 * calendar of the zone. Worked example: term from 21 September, started on 5 October at 09:00: 14.
 */
export function daysAfterStart(termStartsOn: string, startedAt: number, zone: string): number {
  const first = DateTime.fromISO(termStartsOn, { zone }).startOf('day');
  const own = DateTime.fromMillis(startedAt, { zone }).startOf('day');
  return Math.round(own.diff(first, 'days').days);
}

/**
 * The dates in force for one student and one item, each of announced, opens, due and closes by itself, with the reason.
 *
 * Order: a revision asked of the student, else the variant that names the student, else the most generous of the groups', else of the section's, else the
 * item's own, else the term's (closing only). Then arrangements on top: whole days are added to due and closes by the
 * calendar of the course's zone, so that a wall-clock time holds over daylight saving.
 * A closing date never falls before the due date an arrangement has moved.
 * Units hold what stands in them (of several units, the kindest): announced and opens are no earlier, closes is no later, unless
 * set for this student alone. An opening by hand keeps it open until its time at least.
 * `startDays` moves all but what is set for this student alone, in a course counted from each student's start (no term end then).
 * Worked example: due Tue 18:00, the section Distance has Thu 23:59, an arrangement of 2 days: Sat 23:59,
 * `set for Distance, and 2 days by arrangement`.
 */
export function datesInForce(
  item: ItemDates,
  variants: readonly DateVariant[],
  arrangements: readonly Arrangement[],
  zone: string,
  termEnd: number | null,
  bounds: DateBounds = UNBOUND,
  startDays = 0,
): DatesInForce {
  const days = arrangements.reduce((sum, a) => sum + a.extraDays, 0);
  const plus = (at: number, by: number): number => (by === 0 ? at : plusDays(at, by, zone));
  const later = (at: number): number => plus(at, days);
  const units = startDays === 0 ? bounds.units : bounds.units.map((unit) => startedLater(unit, (at) => plus(at, startDays)));
  const moved = (name: DateName): DateInForce => {
    const set = base(name, item, variants, termEnd);
    const isCounted = startDays !== 0 && set.at !== null && !set.reason.startsWith(FOR_ONE);
    const found = isCounted ? { at: plus(set.at, startDays), reason: `${set.reason}, counted from this student’s start` } : set;
    if (found.at === null || days === 0 || (name !== 'due' && name !== 'closes')) return found;
    return { at: later(found.at), reason: `${found.reason}, and ${days === 1 ? '1 day' : `${days} days`} by arrangement` };
  };
  const due = moved('due');
  const own = moved('closes');
  const isBehind = own.at !== null && due.at !== null && own.at < due.at;
  const closing = withUnits('closes', isBehind ? { at: due.at, reason: due.reason } : own, units, later);
  const isHeldOpen = bounds.openUntil !== null && closing.at !== null && closing.at < bounds.openUntil;
  return {
    announced: withUnits('announced', moved('announced'), units, later),
    opens: withUnits('opens', moved('opens'), units, later),
    due,
    closes: isHeldOpen ? { at: bounds.openUntil, reason: 'opened by hand until then' } : closing,
  };
}
