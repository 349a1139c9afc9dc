import { formatPoints, pointsInWords } from '../exact/points.ts';
import { minutesInWords } from '../dates/words.ts';

/** What is asked for an item: minutes of a student, and points in thousandths. */
export interface Asked {
  readonly id: string;
  readonly minutes: number;
  readonly points: number;
  /** Students are not asked for it: it is switched off, or for staff only. */
  readonly isOff: boolean;
}
export interface Amount {
  readonly minutes: number;
  readonly points: number;
}

/**
 * How much items ask of a student, and how much they would if everything were on. An item that stands in several places counts once, and is
 * on where it is on in one of them. Minutes are whole, points are thousandths. Worked example: 60 minutes and 20 points that are on, beside
 * 30 minutes and 10 points that are off, are 60 of 90 minutes and 20 of 30 points.
 */
export function amountOf(items: readonly Asked[]): { readonly on: Amount; readonly all: Amount } {
  const byId = new Map<string, Asked>();
  for (const item of items) {
    const known = byId.get(item.id);
    if (known === undefined || known.isOff) byId.set(item.id, item);
  }
  const sum = (some: readonly Asked[]): Amount => ({
    minutes: some.reduce((total, i) => total + i.minutes, 0),
    points: some.reduce((total, i) => total + i.points, 0),
  });
  const every = [...byId.values()];
  return { on: sum(every.filter((i) => !i.isOff)), all: sum(every) };
}

/** An amount as it is read: `4 h 20 · 80 points`; with something off `3 h 10 of 4 h 20 · 60 of 80 points`; without points only the time. */
export function amountInWords({ on, all }: { readonly on: Amount; readonly all: Amount }): string {
  const time = on.minutes === all.minutes ? minutesInWords(all.minutes) : `${minutesInWords(on.minutes)} of ${minutesInWords(all.minutes)}`;
  if (all.points === 0) return time;
  return `${time} · ${on.points === all.points ? pointsInWords(all.points) : `${formatPoints(on.points)} of ${pointsInWords(all.points)}`}`;
}
