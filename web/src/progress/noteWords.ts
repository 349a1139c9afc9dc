import type { WordNote } from '@rosemary/api';
import { writeDate } from '@rosemary/core';

/** What was done for a student, when and by whom, in one line; a message that was written stands in Messages and is told in full only where asked. */
export function noteWords(note: WordNote, zone: string, isWhole: boolean): string {
  const day = (at: string): string => writeDate(Date.parse(at), zone, true).replace(/ \d{4}$/, '');
  const until = note.untilOn === null ? '' : ` until ${day(`${note.untilOn}T12:00:00Z`)}`;
  const body = note.body === '' || (note.kind === 'wrote' && !isWhole) ? '' : `: ${note.body}`;
  return `${note.kind}${until}, ${day(note.at)}, ${note.by}${body}`;
}
