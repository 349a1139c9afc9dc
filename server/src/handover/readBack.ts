import type { ReadBack } from '@rosemary/api';
import { compareHeld } from '@rosemary/core';
import { type Db, maybe, run } from '../platform/database.ts';
import { readFinalFacts } from './finals.ts';
import type { HeldThere } from './registrarClient.ts';

/** Has the registrar asked what he holds of a section. */
export const wantReadBack = (db: Db, sectionId: string, now: number): Promise<number> =>
  run(
    db,
    `insert into handover_read (section_id, wanted_at) values ($1, to_timestamp($2 / 1000.0))
     on conflict (section_id) do update set wanted_at = excluded.wanted_at, read_at = null`,
    [sectionId, now],
  );

/** What the registrar told last of a section, held against what is agreed now. */
export async function readBackOf(db: Db, courseId: string, sectionId: string, now: number): Promise<ReadBack> {
  const read = await maybe<{ wanted_at: Date; read_at: Date | null; held: HeldThere[]; fault: string }>(
    db,
    'select wanted_at, read_at, held, fault from handover_read where section_id = $1',
    [sectionId],
  );
  const nothing = { readAt: null, isAsked: read !== null && read.read_at === null, fault: read?.fault ?? '', held: 0, differences: [] };
  if (read === null || read.read_at === null || read.fault !== '') return nothing;
  const { people, agreed, setting } = await readFinalFacts(db, courseId, null, now);
  const own = people.filter((p) => p.sectionId === sectionId);
  const names = new Map(people.map((p) => [p.key, `${p.familyName}, ${p.givenName}`]));
  const here = own.flatMap((p) => {
    const a = agreed.get(p.enrolmentId);
    return a === undefined ? [] : [{ ...a, studentKey: p.key, letter: a.sentLetter }];
  });
  const taken = new Set<'percent' | 'lastDay' | 'expiresOn' | 'lapsesTo'>();
  if (setting.rules?.takesNumber === true) taken.add('percent');
  if (setting.rules?.takesLastDay === true) taken.add('lastDay');
  if (setting.rules?.takesExpiry === true) taken.add('expiresOn');
  if (setting.rules?.takesLapse === true) taken.add('lapsesTo');
  return {
    readAt: read.read_at.toISOString(),
    isAsked: false,
    fault: '',
    held: read.held.length,
    differences: compareHeld(here, read.held, taken).map((d) => ({ ...d, name: names.get(d.studentKey) ?? d.studentKey })),
  };
}
