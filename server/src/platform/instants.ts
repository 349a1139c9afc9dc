/** Instants as the database, the calculation and the answers each write them; none stays none. */
export const millis = (date: Date | null): number | null => date?.getTime() ?? null;
export const isoOf = (date: Date | null): string | null => date?.toISOString() ?? null;
export const isoAt = (at: number | null): string | null => (at === null ? null : new Date(at).toISOString());
