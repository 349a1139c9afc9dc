import { setReleased } from '../marks/index.ts';
import { listToldNow } from '../opening/index.ts';
import { type Db, rows } from '../platform/database.ts';
import { jobOf } from '../platform/jobs.ts';

interface Due {
  readonly id: string;
  readonly course_id: string;
  readonly release_mode: string;
  readonly actor_id: string;
  readonly enrolments: string[];
}

/** Items with finished marks whose release date has come, and quizzes whose score may be seen by now. What a teacher took back from a student stays back. */
const listDue = (db: Db, now: number): Promise<Due[]> =>
  rows<Due>(
    db,
    `
    select i.id, i.course_id, i.release_mode, (select e.person_id from enrolment e where e.course_id = i.course_id and e.role = 'instructor' order by e.is_of_record desc limit 1) as actor_id, array_agg(g.enrolment_id) as enrolments
    from item i join work_grade g on g.item_id = i.id and not g.is_released and g.state is not null join grade_event v on v.id = g.last_event_id and v.kind <> 'withhold'
    left join quiz z on z.item_id = i.id
    where ((i.release_mode = 'date' and i.release_at <= to_timestamp($1 / 1000.0)) or (i.release_mode = 'finished' and (z.review -> 'score' ->> 'kind' in ('closed', 'window')
        or exists (select 1 from quiz_attempt t where t.item_id = i.id and t.kept ? 'review'))))
      and i.removed_at is null and not i.is_draft group by i.id`,
    [now],
  );

async function releaseItem(db: Db, item: Due, now: number): Promise<void> {
  const told = item.release_mode === 'date' ? null : await listToldNow(db, item.course_id, item.id, item.enrolments, now);
  const enrolments = told === null ? item.enrolments : item.enrolments.filter((id) => told.has(id));
  if (enrolments.length > 0) await setReleased(db, item.id, enrolments, true, item.actor_id, now, 'job');
}

/** Releases the finished marks of every item whose time for it has come. Doing it twice does nothing twice. */
export const releaseMarks = jobOf<Due>({ name: 'release-marks', due: listDue, one: releaseItem });
