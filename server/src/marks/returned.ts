import { pageOf } from '@rosemary/api';
import { tell } from '../notices/index.ts';
import { type Db, rows } from '../platform/database.ts';
import { announceReturned } from '../platform/events.ts';

/** Tells students that something of theirs came back: at once in what they look at, and as a notice. */
export async function tellReturned(db: Db, courseId: string, itemId: string, enrolmentIds: readonly string[], at: number): Promise<void> {
  await announceReturned(db, courseId, itemId, enrolmentIds);
  const people = await rows<{ person_id: string; title: string }>(
    db,
    'select e.person_id, i.title from enrolment e join item i on i.id = $2 where e.id = any($1) and not e.is_sample',
    [enrolmentIds, itemId],
  );
  const title = people[0]?.title;
  if (title === undefined) return;
  await tell(db, {
    courseId,
    personIds: people.map((p) => p.person_id),
    kind: 'returned',
    words: `“${title}” came back`,
    body: 'Open it to read what was said of it.',
    path: pageOf('study', { courseId, itemId }),
    at,
  });
}
