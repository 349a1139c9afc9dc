import { addItem, changeItem, changeTaskTypes, getPlanItem, getWorkColumn, recordGrade, rows, type Db } from '@rosemary/server';
import type { Adding } from './adding.ts';
import { seeded, type Random } from './random.ts';
import type { Enrolled } from './school.ts';

/** The school’s types of task, and what in the courses is of which. */
const TYPES: readonly (readonly [type: string, titles: readonly string[]])[] = [
  ['Pre-test', ['Where you start']],
  ['Post-test', ['Where you are now']],
  [
    'Exercise',
    ['Dress a screwdriver blade', 'Gear ratios', 'Parts of the lever escapement', 'Oil chart', 'Positions and rates', 'Names of the tools'],
  ],
  ['Test', ['Trains and locks', 'Hairspring check', 'Beat and amplitude', 'Beats and parts']],
  ['Essay', ['Mid-term paper', 'Final paper']],
  ['Report', ['Condition report', 'Strip-down log', 'Group restoration report', 'Compare two escapements']],
  ['Practical', ['Bench inspection', 'Oiling practical', 'Spoken explanation', 'Escapement drawing']],
];

async function giveTypes(db: Db, now: number): Promise<void> {
  const { taskTypes } = await changeTaskTypes(db, { taskTypes: TYPES.map(([title]) => ({ id: null, title })) }, now);
  for (const [type, titles] of TYPES) {
    const taskTypeId = taskTypes.find((t) => t.title === type)?.id ?? null;
    const items = await rows<{ id: string; course_id: string }>(
      db,
      'select id, course_id from item where title = any($1) and removed_at is null',
      [titles],
    );
    for (const item of items) {
      const { version } = await getPlanItem(db, item.course_id, item.id, now);
      await changeItem(db, item.course_id, item.id, { version, taskTypeId }, now);
    }
  }
}

interface Observed {
  readonly after: string;
  readonly title: string;
  readonly points: number;
  readonly at: number;
  /** The share somebody earns, before chance; null where they were not there. */
  readonly shareOf: (student: Enrolled) => number | null;
}
const logistic = (x: number): number => 1 / (1 + Math.exp(-x));

/** Something observed in class that counts in no total. */
async function observe(a: Adding, o: Observed, random: Random): Promise<void> {
  const { db, built, teacherId } = a;
  const [place] = await rows<{ unit_id: string; position: number }>(
    db,
    'select ui.unit_id, ui.position from unit_item ui join item i on i.id = ui.item_id where i.course_id = $1 and i.title = $2',
    [built.courseId, o.after],
  );
  const id = await addItem(db, built.courseId, {
    unitId: place?.unit_id ?? '',
    kind: 'activity',
    title: o.title,
    position: (place?.position ?? 0) + 1,
  });
  const { version } = await getPlanItem(db, built.courseId, id, built.calendar.now);
  const change = { possible: o.points * 1000, counts: false, isRequired: false, isDraft: false, estimatedMinutes: 20 };
  await changeItem(db, built.courseId, id, { version, ...change, dueAt: new Date(o.at).toISOString() }, built.calendar.now);
  const columnId = await getWorkColumn(db, id);
  for (const student of built.students) {
    const chance = random.normal() * 0.07;
    const share = o.shareOf(student);
    if (share === null || student.habit === 'withdrawn') continue;
    const raw = Math.round(Math.min(1, Math.max(0, share + chance)) * o.points * 2) * 500;
    await recordGrade(db, {
      ...{ columnId, enrolmentId: student.enrolmentId, kind: 'set', state: 'scored', raw, isReleased: true, source: 'demo', reason: '' },
      ...{ actorId: teacherId, at: o.at + 2 * 3_600_000 },
    });
  }
}

/**
 * What Progress has to find in the running course beside marks and visits: a test at the beginning and the same one at the middle, something that
 * nobody found hard, and the types of task.
 */
export async function addProgress(a: Adding): Promise<void> {
  const { calendar } = a.built;
  const random = seeded(20_261_140);
  const ofAbility = (student: Enrolled, shift: number, slope: number): number => logistic(slope * student.ability + shift);
  const isSilent = (student: Enrolled): boolean => student.habit === 'silent since week 5';
  await observe(
    a,
    {
      ...{ after: 'The bench and its light', title: 'Where you start', points: 20, at: calendar.at(1, 4, '12:00') },
      shareOf: (student) => ofAbility(student, -0.4, 0.6),
    },
    random,
  );
  await observe(
    a,
    {
      ...{ after: 'Tweezers, screwdrivers, loupes', title: 'Names of the tools', points: 10, at: calendar.at(2, 2, '12:00') },
      shareOf: (student) => 0.93 + 0.02 * student.ability,
    },
    random,
  );
  await observe(
    a,
    {
      ...{ after: 'Lock, drop and draw', title: 'Where you are now', points: 20, at: calendar.at(7, 4, '12:00') },
      shareOf: (student) => (isSilent(student) ? null : ofAbility(student, student.habit === 'falling' ? -1.7 : 0.5, 0.6)),
    },
    random,
  );
  await giveTypes(a.db, calendar.now);
}
