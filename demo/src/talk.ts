import { paragraphs } from '@rosemary/api';
import {
  addAnnouncement,
  addObjective,
  addPost,
  changeItem,
  getPlanItem,
  align,
  rows,
  run,
  saveDiscussion,
  saveLink,
  type Db,
} from '@rosemary/server';
import { addTo, idOf, type Adding } from './adding.ts';
import { publish } from './publish.ts';
import { writeLetters } from './letters.ts';
import { askForMore } from './again.ts';
import { addMaterial } from './material.ts';
import type { Built } from './school.ts';

const THREADS = [
  {
    title: 'The third wheel would not lift',
    posts: [
      ['I pulled at it for ten minutes before I saw that the bridge was still on. Has anyone else gone by feel too long?', 4, 6, '17:12'],
      ['Twice. I draw each step now before I touch the screw, and it costs a minute.', 4, 6, '20:40'],
      ['Write that down in your log as you said it here. It is the best remark on order I have read this term.', 5, 1, '08:55'],
    ],
  },
  {
    title: 'Keeping screws apart',
    posts: [
      ['My screws are all in one dish and three of them look alike. How do you keep yours?', 5, 2, '18:30'],
      ['A lid with twelve holes, numbered like my drawing.', 5, 2, '21:05'],
      ['I photograph the plate before each screw.', 9, 1, '19:44'],
      ['The lid, since this week. Thank you.', 9, 2, '20:10'],
    ],
  },
] as const;

async function discuss(a: Adding): Promise<void> {
  const { db, built, teacherId } = a;
  const id = await addTo(a, 'Strip-down log', 'discussion', 'What your first strip-down taught you', {
    isDraft: false,
    estimatedMinutes: 30,
  });
  const version = (await rows<{ version: number }>(db, 'select version from discussion where item_id = $1', [id]))[0]?.version ?? 1;
  const prompt = paragraphs(
    'Say one thing that you would do in another order the next time, and what made you see it. Answer somebody whose trouble you know.',
  );
  const at = built.calendar.at(4, 1, '09:00');
  await publish(db, built.courseId, id, await saveDiscussion(db, built.courseId, id, { version, document: prompt }, teacherId, at), at);
  const teacher = (
    await rows<{ id: string }>(db, "select id from enrolment where course_id = $1 and person_id = $2 and role = 'instructor'", [
      built.courseId,
      teacherId,
    ])
  )[0]?.id;
  const talkers = built.students.filter((s) => s.habit === 'steady' || s.habit === 'far ahead').slice(4, 12);
  let next = 0;
  for (const [t, thread] of THREADS.entries()) {
    const threadId = idOf(`thread ${t}`);
    for (const [n, [words, week, day, time]] of thread.posts.entries()) {
      const byTeacher = t === 0 && n === 2;
      const student = talkers[next % talkers.length];
      if (!byTeacher) next += 1;
      if (student === undefined) return;
      const member = {
        courseId: built.courseId,
        enrolmentId: byTeacher ? (teacher ?? '') : student.enrolmentId,
        role: byTeacher ? ('instructor' as const) : ('student' as const),
        isActive: true,
        sectionIds: byTeacher ? null : [],
      };
      const post = {
        id: n === 0 ? threadId : idOf(`post ${t} ${n}`),
        threadId: n === 0 ? null : threadId,
        title: n === 0 ? thread.title : '',
        document: paragraphs(words),
      };
      await addPost(db, built.courseId, id, member, byTeacher ? teacherId : student.personId, post, built.calendar.at(week, day, time));
    }
  }
  // The teacher has read all but those of this week.
  await run(
    db,
    'insert into post_read (post_id, person_id) select id, $2 from post where item_id = $1 and created_at < $3 on conflict do nothing',
    [id, teacherId, new Date(built.calendar.at(9, 1, '00:00'))],
  );
}

async function announceThings(a: Adding): Promise<void> {
  const { db, built, teacherId } = a;
  const { at } = built.calendar;
  const say = (title: string, words: string, publishAt: number, writtenAt: number, sectionIds: string[] = []): Promise<string> =>
    addAnnouncement(
      db,
      built.courseId,
      { version: 0, title, document: paragraphs(words), publishAt: new Date(publishAt).toISOString(), sectionIds, tells: true },
      teacherId,
      writtenAt,
    );
  const evening = (
    await rows<{ id: string }>(db, "select id from section where course_id = $1 and title = 'Evening bench'", [built.courseId])
  )[0]?.id;
  await say(
    'Welcome to the bench',
    'Read the first two pages before you come, and bring a loupe of your own. The rest is here.',
    at(1, 1, '08:00'),
    at(1, 1, '07:50'),
  );
  await say(
    'Week 8 is free',
    'There is no class in week 8. What was due before it stays due before it.',
    at(7, 1, '09:00'),
    at(6, 4, '18:00'),
  );
  if (evening !== undefined)
    await say(
      'The evening bench meets in the long room',
      'The lamps of the small room are being changed. We meet in the long room until they are back.',
      at(9, 1, '12:30'),
      at(9, 1, '12:20'),
      [evening],
    );
  await say(
    'Before the restoring',
    'From next week you may choose a movement to restore. Come and look at them before you do.',
    at(10, 1, '08:00'),
    at(9, 2, '18:30'),
  );
}

/** Most have read what was announced; those who fell silent have not. */
async function readAnnouncements(a: Adding): Promise<void> {
  const { built, db } = a;
  for (const [n, student] of built.students.entries()) {
    if (student.habit === 'silent since week 5' || n % 9 === 8) continue;
    await run(
      db,
      `
      insert into announcement_read (announcement_id, person_id, at)
      select w.id, $2, w.publish_at + interval '1 hour' * (1 + $3 % 20) from announcement w
      where w.course_id = $1 and w.publish_at + interval '1 hour' * (1 + $3 % 20) < $4
        and (not exists (select 1 from announcement_section t where t.announcement_id = w.id)
             or exists (select 1 from announcement_section t join enrolment e on e.section_id = t.section_id where t.announcement_id = w.id and e.id = $5))`,
      [built.courseId, student.personId, n * 7, new Date(built.calendar.now), student.enrolmentId],
    );
  }
}

const OBJECTIVES = [
  ['B', 'Keep a bench and its tools so that nothing is lost or scratched', null],
  ['B1', 'Dress a blade to fit its slot', 'B'],
  ['B2', 'Keep parts in the order they came off', 'B'],
  ['T', 'Count a train and say how fast each arbor turns', null],
  ['T1', 'Find a ratio from teeth and leaves', 'T'],
  ['T2', 'Find the beat from a train', 'T'],
  ['R', 'Report what is seen, apart from what is thought', null],
  ['R1', 'Name each part and its state', 'R'],
  ['R2', 'Say what was measured, how and how often', 'R'],
] as const;
const ALIGNED: readonly (readonly [string, readonly string[]])[] = [
  ['Dress a screwdriver blade', ['B1']],
  ['Inventory of your bench', ['B', 'B2']],
  ['Gear-train worksheet', ['T1']],
  ['Gear ratios', ['T1', 'T2']],
  ['Strip-down log', ['B2', 'R1']],
  ['Condition report', ['R1', 'R2']],
];

async function addObjectives(a: Adding): Promise<void> {
  const { db, built } = a;
  const ids = new Map<string, string>();
  for (const [code, statement, parent] of OBJECTIVES)
    ids.set(
      code,
      await addObjective(db, built.courseId, { code, statement, parentId: parent === null ? null : (ids.get(parent) ?? null) }),
    );
  for (const [title, codes] of ALIGNED) {
    const item = built.items.find((i) => i.title === title);
    if (item !== undefined)
      await align(
        db,
        built.courseId,
        'item',
        item.id,
        codes.map((code) => ids.get(code) ?? ''),
      );
  }
}

/** What people say to each other in the course, and material that is more than words. */
export async function talk(db: Db, built: Built): Promise<void> {
  const a: Adding = { db, built, teacherId: built.staff.Ines ?? '' };
  await addMaterial(a);
  await writeLetters(db, built);
  await askForMore(db, built);
  await addObjectives(a);
  const link = await addTo(a, 'Tweezers, screwdrivers, loupes', 'link', 'The sound of a sharp screwdriver', {
    isDraft: false,
    estimatedMinutes: 10,
  });
  await saveLink(
    db,
    built.courseId,
    link,
    { version: 1, address: 'https://bench.example.org/sounds/screwdriver', note: 'Listen before you dress your own.' },
    built.calendar.now,
  );
  await discuss(a);
  await announceThings(a);
  await readAnnouncements(a);
  // What is older than ten days has been looked at.
  await run(db, "update notice set seen_at = at + interval '1 day' where course_id = $1 and at < $2::timestamptz - interval '10 days'", [
    built.courseId,
    new Date(built.calendar.now),
  ]);
  const trace = built.items.find((i) => i.title === 'Reading a timing trace');
  const hairspring = built.items.find((i) => i.title === 'What a hairspring does');
  if (trace === undefined || hairspring === undefined) return;
  const { version } = await getPlanItem(db, built.courseId, trace.id, built.calendar.now);
  await changeItem(
    db,
    built.courseId,
    trace.id,
    { version, opening: { needs: 'all', rules: [{ kind: 'done', itemId: hairspring.id }] } },
    built.calendar.now,
  );
}
