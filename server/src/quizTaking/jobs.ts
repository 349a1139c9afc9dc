import { ON_THE_WAY_MS, termEnd } from '@rosemary/core';
import { datedOf, makeDatesFor, readReach } from '../opening/index.ts';
import { type Db, maybe, rows, run } from '../platform/database.ts';
import { jobOf } from '../platform/jobs.ts';
import { getTerm } from '../term/index.ts';
import { type AttemptRow, endsOf } from './attemptRows.ts';
import { closeAttempt } from './closeAttempt.ts';
import { millis } from '../platform/instants.ts';

interface OpenRow extends Pick<
  AttemptRow,
  'id' | 'item_id' | 'enrolment_id' | 'begun_at' | 'added_minutes' | 'limit_minutes' | 'at_end' | 'kept'
> {
  course_id: string;
  section_id: string | null;
  ends_at: Date | null;
  multiplier: string;
  announced_at: Date | null;
  opens_at: Date | null;
  due_at: Date | null;
  closes_at: Date | null;
}

/** An open attempt whose end differs from the one that is kept, or is over. */
interface Ending {
  readonly id: string;
  readonly courseId: string;
  readonly end: number | null;
}

/** Open attempts that are over, or whose end moved with dates and arrangements that were changed since they began. */
async function listEndings(db: Db, now: number): Promise<Ending[]> {
  const open = await rows<OpenRow>(
    db,
    `select t.id, t.item_id, i.course_id, t.enrolment_id, e.section_id, t.begun_at, t.added_minutes, t.limit_minutes, t.at_end, t.kept, t.ends_at, i.announced_at, i.opens_at, i.due_at, i.closes_at,
       coalesce((select max(a.time_multiplier) from arrangement a where a.enrolment_id = t.enrolment_id), 1)::text as multiplier
     from quiz_attempt t join item i on i.id = t.item_id join enrolment e on e.id = t.enrolment_id where t.state = 'open' order by t.id`,
  );
  const endings: Ending[] = [];
  for (const courseId of new Set(open.map((o) => o.course_id))) {
    const { zone, term } = await getTerm(db, courseId);
    const datesFor = await makeDatesFor(db, courseId, zone, termEnd(term, zone), await readReach(db, courseId));
    for (const row of open.filter((o) => o.course_id === courseId)) {
      const dated = datedOf(row.item_id, row);
      const { closes } = datesFor(dated, { enrolmentId: row.enrolment_id, sectionId: row.section_id });
      const { end } = endsOf(row, Number(row.multiplier), closes.at);
      const isOver = end !== null && now > end + ON_THE_WAY_MS;
      if (isOver || end !== millis(row.ends_at)) endings.push({ id: row.id, courseId, end });
    }
  }
  return endings;
}

async function endOne(db: Db, { id, courseId, end }: Ending, now: number): Promise<void> {
  // Held for this one attempt alone, and no longer than it takes: answers that are being saved wait for nobody else's.
  const attempt = await maybe<AttemptRow>(
    db,
    "select id, item_id, enrolment_id, begun_at, added_minutes from quiz_attempt where id = $1 and state = 'open' for no key update",
    [id],
  );
  if (attempt === null) return;
  await run(db, 'update quiz_attempt set ends_at = to_timestamp($2 / 1000.0) where id = $1', [id, end]);
  if (end !== null && now > end + ON_THE_WAY_MS) await closeAttempt(db, courseId, attempt, 'time', end, null);
}

/** Hands in every attempt whose time is over, whether its browser is there or not: as of the end of its time. */
export const handInQuizzes = jobOf<Ending>({
  name: 'hand-in-quizzes',
  due: listEndings,
  one: endOne,
});
