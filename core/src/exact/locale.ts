/**
 * How dates, times and numbers are written, everywhere: in pages, mails and reports alike. English with the day before the month, since
 * the dates that people type are read in that order too.
 */
export const LOCALE = 'en-GB';

/**
 * A whole number as it is read: groups of thousands by commas.
 * Worked example: `numberInWords(12500)` is `12,500`.
 */
export const numberInWords = (value: number): string => value.toLocaleString(LOCALE);

/**
 * A time of day on this person's clock, to the second: `14:02:11`. The instant is a Date, in the zone of the machine.
 * Worked example: `clockTime(new Date(2026, 10, 17, 14, 2, 11))` is `14:02:11`.
 */
export const clockTime = (at: Date): string => at.toLocaleTimeString(LOCALE);

/**
 * That something is kept, and since when: the one way in which every page says it.
 * Worked example: `savedWords(new Date(2026, 10, 17, 14, 2, 11))` is `Saved 14:02:11`.
 */
export const savedWords = (at: Date): string => `Saved ${clockTime(at)}`;
