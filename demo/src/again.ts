import { addNote, addStarterRemarks, askRevision, findAssignment, rows, saveAssignment, sayWord, type Db } from '@rosemary/server';
import { idOf } from './adding.ts';
import type { Built } from './school.ts';

/** Other ways for work to come in and to be judged, in what is still to be opened. */
async function setWays(db: Db, { courseId, items, staff, calendar }: Built): Promise<void> {
  for (const [title, change] of [
    ['Cleaning plan', { acceptsLink: true }],
    ['Oil chart', { onPaper: true, judged: 'done' }],
    ['Group restoration report', { acceptsRecording: true }],
  ] as const) {
    const item = items.find((i) => i.title === title);
    const assignment = item === undefined ? null : await findAssignment(db, item.id);
    if (item !== undefined && assignment !== null)
      await saveAssignment(db, courseId, item.id, { ...change, version: assignment.version }, staff.Ines ?? '', calendar.now);
  }
}

/** One log that is to be written once more, with a note in it and a few words about it. */
async function askAgain(db: Db, { courseId, items, staff, calendar }: Built): Promise<void> {
  const item = items.find((i) => i.title === 'Strip-down log');
  if (item === undefined) return;
  const [work] = await rows<{ enrolment_id: string; person_id: string; attempt_id: string; opening: string }>(
    db,
    `
    select s.enrolment_id, e.person_id, a.id as attempt_id, a.document #>> '{content,0,content,0,text}' as opening
    from submission s join attempt a on a.submission_id = s.id join enrolment e on e.id = s.enrolment_id join person p on p.id = e.person_id
    join work_grade g on g.item_id = s.item_id and g.enrolment_id = s.enrolment_id and g.state = 'scored' and g.raw < 45
    where s.item_id = $1 and a.handed_in_at <= $2 and a.document is not null and not e.is_sample and e.withdrawn_at is null
      and not exists (select 1 from arrangement r where r.enrolment_id = e.id) order by p.family_name, p.given_name limit 1`,
    [item.id, item.dueAt === null ? null : new Date(item.dueAt)],
  );
  if (work === undefined) return;
  const teacher = staff.Ines ?? '';
  const target = { itemId: item.id, enrolmentId: work.enrolment_id };
  const words = work.opening.split(' ').slice(0, 4).join(' ');
  await addNote(
    db,
    target,
    {
      ...{ id: idOf('note to write again'), attemptId: work.attempt_id, fileId: null, quote: words },
      ...{ anchor: { kind: 'text', from: 1, to: 1 + words.length }, body: 'In which order? Number the steps as you took them.' },
    },
    teacher,
    calendar.at(9, 1, '17:10'),
  );
  await askRevision(
    db,
    courseId,
    target,
    {
      words:
        'The steps are right and their order is lost. Write the log once more so that another pair of hands could put the movement back.',
      dueAt: new Date(calendar.at(10, 5, '18:00')).toISOString(),
    },
    teacher,
    calendar.at(9, 1, '17:15'),
  );
  const say = (of: string, body: string, isStaff: boolean, at: number) =>
    sayWord(db, courseId, target, { id: idOf(of), body }, { personId: isStaff ? teacher : work.person_id, isStaff }, at);
  await say(
    'asks about the log',
    'Do I take the same movement apart again, or may I write from my photographs?',
    false,
    calendar.at(9, 2, '20:05'),
  );
  await say('answers about the log', 'The photographs are enough if every screw is on one of them.', true, calendar.at(9, 2, '21:30'));
}

export async function askForMore(db: Db, built: Built): Promise<void> {
  await addStarterRemarks(db, built.staff.Ines ?? '', built.calendar.at(1, 1, '08:20'));
  await setWays(db, built);
  await askAgain(db, built);
}
