import { ON_THE_WAY_MS, termEnd } from '@rosemary/core';
import { getTerm, makeDatesFor } from '../gradebook/facts.ts';
import { rows, run, type Db } from '../platform/database.ts';
import { readReach } from '../release/reach.ts';
import { closeAttempt, endsOf } from './attempts.ts';
import { getQuiz } from './quizzes.ts';

interface OpenRow {
  id: string;
  item_id: string;
  course_id: string;
  enrolment_id: string;
  section_id: string | null;
  begun_at: Date;
  added_minutes: number;
  ends_at: Date | null;
  multiplier: string;
  announced_at: Date | null;
  opens_at: Date | null;
  due_at: Date | null;
  closes_at: Date | null;
}
const millis = (at: Date | null): number | null => at?.getTime() ?? null;

/** Ends of open attempts follow dates, limits and arrangements that were changed since they began. */
async function followEnds(db: Db): Promise<OpenRow[]> {
  const open = await rows<OpenRow>(
    db,
    `select t.id, t.item_id, i.course_id, t.enrolment_id, e.section_id, t.begun_at, t.added_minutes, t.ends_at, i.announced_at, i.opens_at, i.due_at, i.closes_at,
       coalesce((select max(a.time_multiplier) from arrangement a where a.enrolment_id = t.enrolment_id), 1)::text as multiplier
     from quiz_attempt t join item i on i.id = t.item_id join enrolment e on e.id = t.enrolment_id where t.state = 'open' order by t.id for update of t skip locked`,
  );
  const followed: OpenRow[] = [];
  for (const courseId of new Set(open.map((o) => o.course_id))) {
    const { zone, term } = await getTerm(db, courseId);
    const datesFor = await makeDatesFor(db, courseId, zone, termEnd(term, zone), await readReach(db, courseId));
    for (const row of open.filter((o) => o.course_id === courseId)) {
      const dated = {
        id: row.item_id,
        announcedAt: millis(row.announced_at),
        opensAt: millis(row.opens_at),
        dueAt: millis(row.due_at),
        closesAt: millis(row.closes_at),
      };
      const { closes } = datesFor(dated, { enrolmentId: row.enrolment_id, sectionId: row.section_id });
      const { end } = endsOf(row, await getQuiz(db, row.item_id), Number(row.multiplier), closes.at);
      if (end !== millis(row.ends_at))
        await run(db, 'update quiz_attempt set ends_at = to_timestamp($2 / 1000.0) where id = $1', [row.id, end]);
      followed.push({ ...row, ends_at: end === null ? null : new Date(end) });
    }
  }
  return followed;
}

/** Hands in every attempt whose time is over, whether its browser is there or not: as of the end of its time. */
export async function handInOver(db: Db, now: number): Promise<number> {
  const open = await followEnds(db);
  const over = open.filter((o) => o.ends_at !== null && now > o.ends_at.getTime() + ON_THE_WAY_MS);
  for (const row of over) await closeAttempt(db, row.course_id, row, 'time', row.ends_at?.getTime() ?? now, null);
  return over.length;
}
