import { type Db, run } from '../platform/database.ts';

/** A student who changes section. */
export interface Move {
  readonly id: string;
  readonly enrolmentId: string;
  readonly from: string;
  readonly to: string;
}

/** Puts students into other sections and remembers from where, together as one act. */
export async function recordMoves(db: Db, courseId: string, moves: readonly Move[], actId: string, now: number): Promise<void> {
  const values = [moves.map((m) => m.enrolmentId), moves.map((m) => m.to)];
  await run(
    db,
    `insert into section_move (id, course_id, enrolment_id, from_section_id, to_section_id, act_id, at)
     select t.id, $1, t.enrolment_id, t.from_id, t.to_id, $2, to_timestamp($3 / 1000.0) from unnest($4::uuid[], $5::uuid[], $6::uuid[], $7::uuid[]) as t(id, enrolment_id, from_id, to_id)`,
    [courseId, actId, now, moves.map((m) => m.id), values[0], moves.map((m) => m.from), values[1]],
  );
  await run(
    db,
    'update enrolment e set section_id = t.section_id, version = version + 1 from unnest($1::uuid[], $2::uuid[]) as t(id, section_id) where e.id = t.id',
    values,
  );
}
