import type { OwnFinal, TotalsText } from '@rosemary/api';
import { type Db, maybe } from '../platform/database.ts';
import { getFinalSetting } from './setting.ts';

/** The final grade of a student as they see it: the agreed one, or what is calculated from what they know; null where it is not shown (yet). */
export async function readOwnFinal(
  db: Db,
  courseId: string,
  enrolmentId: string,
  own: Pick<TotalsText, 'soFar' | 'letter'>,
  now: number,
): Promise<OwnFinal | null> {
  const { shows, shownFrom } = await getFinalSetting(db, courseId);
  if (shows === 'none' || (shownFrom !== null && Date.parse(shownFrom) > now)) return null;
  const teacher = await maybe<{ id: string }>(
    db,
    "select person_id as id from enrolment where course_id = $1 and role = 'instructor' and is_of_record and withdrawn_at is null limit 1",
    [courseId],
  );
  const askId = teacher?.id ?? null;
  const nothing = { expiresOn: null, lapsesTo: null, askId };
  if (shows === 'calculated')
    return own.soFar === null ? null : { kind: 'calculated', letter: own.letter, percent: own.soFar, at: null, ...nothing };
  const agreed = await maybe<{
    kind: string;
    letter: string;
    percent: string | null;
    at: Date;
    expires_on: string | null;
    lapses_to: string | null;
  }>(
    db,
    'select kind, sent_letter as letter, percent, at, expires_on::text, lapses_to from agreed_grade where enrolment_id = $1 order by id desc limit 1',
    [enrolmentId],
  );
  if (agreed === null || agreed.kind !== 'agreed') return null;
  return {
    kind: 'agreed',
    letter: agreed.letter,
    percent: agreed.percent,
    at: agreed.at.toISOString(),
    expiresOn: agreed.expires_on,
    lapsesTo: agreed.lapses_to,
    askId,
  };
}
