import { rows, run, type Db } from '../platform/database.ts';

/** A new member of a course; null where the person has this part already. */
export async function addMember(
  db: Db,
  courseId: string,
  personId: string,
  role: 'instructor' | 'assistant' | 'student',
  sectionId: string | null,
): Promise<string | null> {
  const made = await rows<{ id: string }>(
    db,
    'insert into enrolment (course_id, person_id, role, section_id) values ($1, $2, $3, $4) on conflict do nothing returning id',
    [courseId, personId, role, sectionId],
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

/** A lasting adjustment for one student. */
export async function addArrangement(
  db: Db,
  enrolmentId: string,
  extraDays: number,
  timeMultiplier: string,
  reason: string,
): Promise<void> {
  await run(db, 'insert into arrangement (enrolment_id, extra_days, time_multiplier, reason) values ($1, $2, $3, $4)', [
    enrolmentId,
    extraDays,
    timeMultiplier,
    reason,
  ]);
}

export async function withdrawMember(db: Db, enrolmentId: string, at: number): Promise<void> {
  await run(db, 'update enrolment set withdrawn_at = to_timestamp($2 / 1000.0), version = version + 1 where id = $1', [enrolmentId, at]);
}
