import type { AgreedGrade, AgreedView } from '@rosemary/api';
import { type Db, rows } from '../platform/database.ts';

export type AgreedNow = AgreedView & { readonly enrolmentId: string; readonly sectionId: string | null };
/** What holds of every student of a course: the last step, unless it took the agreement back. */
export async function listAgreed(db: Db, courseId: string): Promise<ReadonlyMap<string, AgreedNow>> {
  const found = await rows<AgreedNow & { kind: string; at: Date } & Record<string, unknown>>(
    db,
    `select distinct on (a.enrolment_id) a.enrolment_id as "enrolmentId", a.section_id as "sectionId", a.kind, a.id::text as id, a.at, p.given_name || ' ' || p.family_name as who,
            a.sent_letter as "sentLetter", a.letter, a.percent, a.calculated_letter as "calculatedLetter", a.calculated_percent as "calculatedPercent", a.is_override as "isOverride", a.reason,
            a.last_day::text as "lastDay", a.last_day_from as "lastDayFrom", a.expires_on::text as "expiresOn", a.lapses_to as "lapsesTo"
     from agreed_grade a join person p on p.id = a.actor_id where a.course_id = $1 order by a.enrolment_id, a.id desc`,
    [courseId],
  );
  return new Map(
    found.flatMap(({ kind, at, ...row }): [string, AgreedNow][] =>
      kind === 'agreed' ? [[row.enrolmentId, { ...row, at: (at as Date).toISOString() }]] : [],
    ),
  );
}

export interface AgreedStep extends AgreedGrade {
  readonly enrolmentId: string;
  readonly sectionId: string | null;
  readonly kind: 'agreed' | 'taken back';
}
/** Steps are added, never changed. */
export async function addSteps(db: Db, courseId: string, steps: readonly AgreedStep[], actorId: string, now: number): Promise<void> {
  const column = <K extends keyof AgreedStep>(key: K): AgreedStep[K][] => steps.map((s) => s[key]);
  await rows(
    db,
    `insert into agreed_grade (course_id, enrolment_id, section_id, at, actor_id, kind, sent_letter, letter, percent, calculated_letter, calculated_percent, is_override, reason, last_day, last_day_from, expires_on, lapses_to)
     select $1, t.enrolment, t.section, to_timestamp($2 / 1000.0), $3, t.kind, t.sent, t.letter, t.percent, t.calc_letter, t.calc_percent, t.is_override, t.reason, t.last_day, t.last_day_from, t.expires_on, t.lapses_to
     from unnest($4::uuid[], $5::uuid[], $6::text[], $7::text[], $8::text[], $9::text[], $10::text[], $11::text[], $12::boolean[], $13::text[], $14::date[], $15::text[], $16::date[], $17::text[])
       as t(enrolment, section, kind, sent, letter, percent, calc_letter, calc_percent, is_override, reason, last_day, last_day_from, expires_on, lapses_to)`,
    [
      ...[courseId, now, actorId, column('enrolmentId'), column('sectionId'), column('kind'), column('sentLetter'), column('letter')],
      ...[column('percent'), column('calculatedLetter'), column('calculatedPercent'), column('isOverride'), column('reason')],
      ...[column('lastDay'), column('lastDayFrom'), column('expiresOn'), column('lapsesTo')],
    ],
  );
}
