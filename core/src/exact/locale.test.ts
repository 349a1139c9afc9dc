import { clockTime, LOCALE, numberInWords, savedWords } from './locale.ts';

describe('what is written by the locale', () => {
  it('has the day before the month, and thousands in groups', () => {
    expect(new Date(Date.UTC(2026, 10, 3)).toLocaleDateString(LOCALE, { timeZone: 'UTC' })).toBe('03/11/2026');
    expect([numberInWords(0), numberInWords(999), numberInWords(12_500), numberInWords(-1_000)]).toEqual(['0', '999', '12,500', '-1,000']);
  });

  it('says since when something is kept', () => {
    const at = new Date(2026, 10, 17, 14, 2, 11);
    expect([clockTime(at), savedWords(at)]).toEqual(['14:02:11', 'Saved 14:02:11']);
    expect(clockTime(new Date(2026, 10, 17, 0, 0, 5))).toBe('00:00:05');
  });
});
