import { maybe, type Db } from './database.ts';

/** The one clock of the server: milliseconds since 1970. */
export interface Clock {
  readonly now: () => number;
}

export const fixedClock = (iso: string): Clock => ({ now: () => Date.parse(iso) });

/** The real clock moved by the school's offset, so that a demo school always stands in its week 9. */
export async function schoolClock(db: Db): Promise<Clock> {
  const school = await maybe<{ clock_offset_seconds: string }>(db, 'select clock_offset_seconds from school');
  const offset = Number(school?.clock_offset_seconds ?? 0) * 1000;
  return { now: () => Date.now() + offset };
}
