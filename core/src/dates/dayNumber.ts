/** How zones write a day: kept, since making one costs more than using it. */
const writers = new Map<string, Intl.DateTimeFormat>();
function writerOf(zone: string): Intl.DateTimeFormat {
  let writer = writers.get(zone);
  if (writer === undefined) {
    writer = new Intl.DateTimeFormat('en-CA', { timeZone: zone, year: 'numeric', month: '2-digit', day: '2-digit' });
    writers.set(zone, writer);
  }
  return writer;
}

/**
 * Days since 1 March of the year 0, by the Gregorian calendar, of a calendar date `YYYY-MM-DD`; only differences and weekdays of it are
 * used. Worked example: that of 2 March 2026 is one more than that of 1 March 2026.
 */
export function dayNumber(day: string): number {
  const [year = 0, month = 1, date = 1] = day.split('-').map(Number);
  // A year that begins in March has its leap day at its end.
  const [y, m] = month > 2 ? [year, month - 3] : [year - 1, month + 9];
  return 365 * y + Math.floor(y / 4) - Math.floor(y / 100) + Math.floor(y / 400) + Math.floor((153 * m + 2) / 5) + date - 1;
}
/** The day that the wall clock of a zone shows at an instant, as such a number. An unknown zone throws. */
export const dayNumberAt = (at: number, zone: string): number => dayNumber(writerOf(zone).format(at));
