import type { HolidayCountries, PublicHolidays } from '@rosemary/api';
import { DateTime } from 'luxon';
import { invalid } from '../platform/errors.ts';

/** The calendar of every country is large: it is read once somebody asks for one. */
const calendar = async () => (await import('date-holidays')).default;

const byName = (names: Record<string, string>): { code: string; name: string }[] =>
  Object.entries(names)
    .map(([code, name]) => ({ code, name }))
    .sort((a, b) => a.name.localeCompare(b.name));

export async function listHolidayCountries(): Promise<HolidayCountries> {
  const Holidays = await calendar();
  return { countries: byName(new Holidays().getCountries('en')) };
}

const MOST_DAYS = 400;

function readDay(field: 'from' | 'to', text: string): DateTime {
  const day = DateTime.fromISO(text, { zone: 'utc' });
  if (!/^\d{4}-\d{2}-\d{2}$/.test(text) || !day.isValid) throw invalid(field, `“${text}” is not a day. Write it like 2026-09-21.`);
  return day;
}

/** The public holidays of a country, or of a part of it, that touch the days between two; neighbouring days of one holiday are one. */
export async function listPublicHolidays(country: string, region: string | undefined, from: string, to: string): Promise<PublicHolidays> {
  const [first, last] = [readDay('from', from), readDay('to', to)];
  if (last < first) throw invalid('to', `The last day, ${to}, is before the first, ${from}.`);
  if (last.diff(first, 'days').days > MOST_DAYS) throw invalid('to', `From ${from} to ${to} is more than ${MOST_DAYS} days.`);
  const Holidays = await calendar();
  const found = new Holidays();
  if (!(country in found.getCountries('en'))) throw invalid('country', `The holidays of “${country}” are not known here.`);
  const regions = (found.getStates(country, 'en') as Record<string, string> | undefined) ?? {};
  if (region !== undefined && !(region in regions))
    throw invalid('region', `“${region}” is no part of this country with holidays of its own.`);
  if (region === undefined) found.init(country);
  else found.init(country, region);
  // Days are those of the place, as its own calendar writes them.
  const years = Array.from({ length: last.year - first.year + 1 }, (_, n) => first.year + n);
  const days = years
    .flatMap((year) => found.getHolidays(year, 'en'))
    .filter((one) => one.type === 'public')
    .map((one) => {
      const startsOn = one.date.slice(0, 10);
      const length = Math.max(1, Math.round((one.end.getTime() - one.start.getTime()) / 86_400_000));
      return {
        title: one.name.slice(0, 80),
        startsOn,
        endsOn:
          DateTime.fromISO(startsOn)
            .plus({ days: length - 1 })
            .toISODate() ?? startsOn,
      };
    })
    .filter((one) => one.endsOn >= from && one.startsOn <= to)
    .sort((a, b) => a.startsOn.localeCompare(b.startsOn));
  return { holidays: days, regions: byName(regions) };
}
