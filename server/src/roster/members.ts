import type { ArrangementChange } from '@rosemary/api';
import { decimalText } from '@rosemary/core';
import { rows, run, type Db } from '../platform/database.ts';
import { notFound } from '../platform/errors.ts';

/** A new member of a course; null where the person has this part already. */
export async function addMember(
  db: Db,
  courseId: string,
  personId: string,
  role: 'instructor' | 'assistant' | 'student',
  sectionId: string | null,
  more: { readonly isOfRecord?: boolean; readonly startedAt?: number } = {},
): Promise<string | null> {
  const made = await rows<{ id: string }>(
    db,
    'insert into enrolment (course_id, person_id, role, section_id, is_of_record, started_at) values ($1, $2, $3, $4, $5, coalesce(to_timestamp($6 / 1000.0), now())) on conflict do nothing returning id',
    [courseId, personId, role, sectionId, more.isOfRecord ?? false, more.startedAt ?? null],
  );
  return made[0]?.id ?? null;
}

/** The sections an assistant marks. */
export async function giveSections(db: Db, enrolmentId: string, sectionIds: readonly string[]): Promise<void> {
  await run(db, 'insert into assistant_section (enrolment_id, section_id) select $1, unnest($2::uuid[]) on conflict do nothing', [
    enrolmentId,
    sectionIds,
  ]);
}

/** The lasting adjustments of one student, all of them as they shall stand. */
export async function setArrangements(db: Db, enrolmentId: string, arrangements: readonly ArrangementChange[]): Promise<void> {
  await run(db, 'delete from arrangement where enrolment_id = $1', [enrolmentId]);
  await run(
    db,
    `insert into arrangement (enrolment_id, extra_days, time_multiplier, extra_attempts, reason)
    select $1, days, time, attempts, reason from unnest($2::int[], $3::numeric[], $4::int[], $5::text[]) as t(days, time, attempts, reason)`,
    [
      enrolmentId,
      arrangements.map((a) => a.extraDays),
      arrangements.map((a) => decimalText(a.timeMultiplier)),
      arrangements.map((a) => a.extraAttempts),
      arrangements.map((a) => a.reason),
    ],
  );
}

export async function withdrawMember(db: Db, enrolmentId: string, at: number): Promise<void> {
  await run(db, 'update enrolment set withdrawn_at = to_timestamp($2 / 1000.0), version = version + 1 where id = $1', [enrolmentId, at]);
}

/** Makes one instructor the one of their course whom the registrar knows, and no other. */
export async function makeOfRecord(db: Db, enrolmentId: string): Promise<void> {
  const done = await run(
    db,
    `update enrolment e set is_of_record = e.id = $1 from enrolment one
     where one.id = $1 and one.role = 'instructor' and one.withdrawn_at is null and e.course_id = one.course_id and e.role = 'instructor'`,
    [enrolmentId],
  );
  if (done === 0) throw notFound();
}
