import { sameWallTime } from '@rosemary/core';
import type { Source } from './packageRead.ts';

/** Fields of an archive that hold an instant. */
const INSTANTS = new Set(['announcedAt', 'opensAt', 'dueAt', 'closesAt', 'releaseAt', 'anonymousUntil', 'at', 'from', 'to']);
const INSTANT = /^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}(:\d{2}(\.\d+)?)?Z$/;

function moved(value: unknown, name: string, at: (text: string) => string): unknown {
  if (typeof value === 'string') return INSTANTS.has(name) && INSTANT.test(value) ? at(value) : value;
  if (Array.isArray(value)) return value.map((one) => moved(one, '', at));
  if (typeof value !== 'object' || value === null) return value;
  return Object.fromEntries(Object.entries(value).map(([key, inner]) => [key, moved(inner, key, at)]));
}

/**
 * The items and units of an archive with their dates at the same time of day in another zone: what was due at 18:00 where it was made is due
 * at 18:00 where it is taken. An archive that does not say its zone keeps its instants.
 */
export function inZone(archive: Source['archive'], zone: string): Source['archive'] {
  const from = archive.course.timeZone;
  if (from === null || from === zone) return archive;
  const at = (text: string): string => new Date(sameWallTime(Date.parse(text), from, zone)).toISOString();
  return {
    ...archive,
    items: moved(archive.items, '', at) as typeof archive.items,
    units: moved(archive.units, '', at) as typeof archive.units,
  };
}
