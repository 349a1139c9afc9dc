import { pino } from 'pino';

/** For programs that do a job by hand and print figures of their own. */
export const silentLog = pino({ level: 'silent' });
