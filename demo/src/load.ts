import { paragraphs } from '@rosemary/api';
import { maybe, run, saveProgramme, type Db } from '@rosemary/server';
import { DateTime } from 'luxon';
import { live } from './behave.ts';
import { addEvening, markInPairs } from './evening.ts';
import { addGradebook, setNoted } from './gradebook.ts';
import { addHandover } from './handover.ts';
import { FOUNDATIONS, SPRING, TIMING } from './outline.ts';
import { seeded } from './random.ts';
import { addPaperTest } from './paperTest.ts';
import { addPeers } from './peers.ts';
import { addProgress } from './progress.ts';
import { addQuizzes, addSpringQuiz } from './quizzes.ts';
import { talk } from './talk.ts';
import { addTroubles } from './troubles.ts';
import { arrange, buildCourse, calendarAround, makeStaff, makeTerm, ZONE } from './school.ts';

const PROGRAMME = paragraphs(
  'By the end you take a lever movement apart, say what is wrong with it and why, clean and oil it, and bring it back to time, with a record that another watchmaker could work from.',
  'Come to the bench with a loupe of your own, clean hands and patience. If something keeps you from a date, write before it, not after.',
);

export const SEED = 20_261_118;

export async function isSchoolThere(db: Db): Promise<boolean> {
  return (await maybe(db, 'select 1 as one from school')) !== null;
}

/** The Wednesday morning at which the demo stands, in the week of an instant. */
export function demoInstant(real: number): number {
  return DateTime.fromMillis(real, { zone: ZONE }).startOf('week').plus({ days: 2, hours: 10, minutes: 20 }).toMillis();
}

/**
 * Loads the Tallowmere School of Horology around a clock: week 9 of 15, a Wednesday, week 8 a holiday.
 * The same seed and clock give the same school. `real` is the present instant; the school's clock runs on from there.
 */
export async function loadDemo(db: Db, now: number, real: number): Promise<void> {
  await run(db, "insert into school (title, is_demo, clock_offset_seconds) values ('Tallowmere School of Horology', true, $1)", [
    Math.round((now - real) / 1000),
  ]);
  const autumn = calendarAround(now, 9);
  const spring = calendarAround(now - 30 * 7 * 86_400_000, 9);
  // The database notes what is laid out here as if it had been there from the beginning.
  await setNoted(db, spring.at(1, 1, '08:00'));
  const staff = await makeStaff(db);
  const term = await makeTerm(db, 'Autumn', autumn, 8);
  const foundations = await buildCourse(
    db,
    {
      code: 'HOR-110',
      run: 'autumn',
      title: 'Mechanical Watchmaking: Foundations',
      short: 'Foundations',
      termId: term,
      units: FOUNDATIONS,
      sections: [
        ['Morning bench', 18],
        ['Evening bench', 18],
        ['Distance', 13],
      ],
      withNamed: true,
      seedShift: 0,
    },
    staff,
    autumn,
    seeded(SEED),
  );
  await arrange(db, foundations);
  await saveProgramme(db, foundations.courseId, { document: PROGRAMME, version: 0 });
  await live(db, foundations, seeded(SEED + 1));
  await talk(db, foundations);
  await addEvening({ db, built: foundations, teacherId: foundations.staff.Ines ?? '' });
  const timing = await buildCourse(
    db,
    {
      code: 'HOR-205',
      run: 'autumn',
      title: 'Escapements and Timing',
      short: 'Escapements',
      termId: term,
      units: TIMING,
      sections: [
        ['Day', 15],
        ['Weekend', 11],
      ],
      withNamed: false,
      seedShift: 1,
    },
    staff,
    autumn,
    seeded(SEED + 2),
  );
  await live(db, timing, seeded(SEED + 3));
  await markInPairs(db, timing);
  const before = { ...spring, now: spring.at(15, 7, '12:00') };
  const springTerm = await makeTerm(db, 'Spring', spring, null);
  const last = await buildCourse(
    db,
    {
      code: 'HOR-110',
      run: 'spring',
      title: 'Mechanical Watchmaking: Foundations',
      short: 'Foundations, spring',
      termId: springTerm,
      units: SPRING,
      sections: [['Bench', 14]],
      withNamed: false,
      seedShift: 2,
    },
    staff,
    before,
    seeded(SEED + 4),
  );
  await run(
    db,
    "update item set next_note = 'Ask for the two photographs at the start: half of them forgot.' where course_id = $1 and title = 'Condition report'",
    [last.courseId],
  );
  await live(db, { ...last, calendar: { ...before, now: now - 100 * 86_400_000 } }, seeded(SEED + 5));
  const asked = await addSpringQuiz({ db, built: last, teacherId: staff.Ines ?? '' });
  await addQuizzes({ db, built: foundations, teacherId: staff.Ines ?? '' }, asked);
  await addPaperTest({ db, built: foundations, teacherId: staff.Ines ?? '' });
  await addGradebook(db, foundations, timing, seeded(SEED + 6));
  await addHandover(db, last.courseId, staff.Ines ?? '', spring.at(15, 5, '16:00'));
  await addProgress({ db, built: foundations, teacherId: staff.Ines ?? '' });
  await addPeers({ db, built: timing, teacherId: timing.staff.Ines ?? '' });
  await addTroubles({ db, built: timing, teacherId: timing.staff.Ines ?? '' });
  await setNoted(db, null);
}
