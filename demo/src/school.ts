import { emptyDocument, paragraphs } from '@rosemary/api';
import {
  setArrangements,
  addCourse,
  addItem,
  addMember,
  addPerson,
  addTerm,
  addUnit,
  applyPolicy,
  changeItem,
  getPlanItem,
  getPolicyChange,
  giveSections,
  hashPassword,
  rows,
  run,
  saveAssignment,
  savePage,
  saveRubric,
  saveVariants,
  type Db,
} from '@rosemary/server';
import { DateTime } from 'luxon';
import { DEMO_PASSWORD, inventStudents, STAFF, type DemoStudent } from './people.ts';
import { RUBRIC, type DemoItem, type DemoUnit } from './outline.ts';
import { publish } from './publish.ts';
import type { Random } from './random.ts';
import { TASKS, writePage } from './texts.ts';
import { LOCALE } from '@rosemary/core';

export const ZONE = 'Europe/Lisbon';

export interface Calendar {
  readonly startsOn: DateTime;
  readonly now: number;
  readonly at: (week: number, weekday: number, time: string) => number;
}

/** A calendar whose week `week` holds the Wednesday given. */
export function calendarAround(now: number, week: number): Calendar {
  const startsOn = DateTime.fromMillis(now, { zone: ZONE })
    .startOf('week')
    .minus({ weeks: week - 1 });
  return {
    startsOn,
    now,
    at: (w, weekday, time) => {
      const [hour = 0, minute = 0] = time.split(':').map(Number);
      return startsOn
        .plus({ weeks: w - 1, days: weekday - 1 })
        .set({ hour, minute })
        .toMillis();
    },
  };
}

export interface Enrolled extends DemoStudent {
  readonly enrolmentId: string;
  readonly personId: string;
  readonly section: string;
}
export interface BuiltItem extends DemoItem {
  readonly id: string;
  readonly dueAt: number | null;
  readonly opensAt: number;
}
export interface Built {
  readonly courseId: string;
  readonly items: readonly BuiltItem[];
  readonly students: readonly Enrolled[];
  readonly staff: Readonly<Record<string, string>>;
  readonly calendar: Calendar;
}

export async function makeStaff(db: Db): Promise<Record<string, string>> {
  const hash = await hashPassword(DEMO_PASSWORD);
  const ids: Record<string, string> = {};
  for (const person of STAFF)
    ids[person.givenName] = await addPerson(db, { ...person, password: DEMO_PASSWORD }, person.role === 'administrator', hash);
  ids.hash = hash;
  return ids;
}

export async function makeTerm(db: Db, title: string, calendar: Calendar, breakWeek: number | null): Promise<string> {
  const day = (week: number, weekday: number): string =>
    calendar.startsOn.plus({ weeks: week - 1, days: weekday - 1 }).toISODate() as string;
  return addTerm(db, {
    title,
    startsOn: day(1, 1),
    endsOn: day(15, 7),
    meetingDays: [2, 4],
    holidays: breakWeek === null ? [] : [{ title: 'break', startsOn: day(breakWeek, 1), endsOn: day(breakWeek, 7) }],
  });
}

async function setPolicy(db: Db, courseId: string): Promise<Map<string, string>> {
  const policy = await getPolicyChange(db, courseId);
  const part = (title: string, weight: number, method: 'points' | 'share', dropLowest: number): (typeof policy)['categories'][number] => ({
    id: null,
    title,
    weightPercent: weight * 1000,
    method,
    dropLowest,
    keepBest: 0,
    dropHighest: 0,
    isExtraCredit: false,
    isCapped: false,
    late: null,
    declaredItems: 0,
    declaredPoints: 0,
    declaredIn: [],
  });
  await applyPolicy(db, courseId, {
    ...policy,
    lateRatePercent: 5000,
    lateCapPercent: 50_000,
    lateGraceMinutes: 5,
    categories: [part('Exercises', 20, 'share', 1), part('Bench work', 50, 'points', 1), part('Papers', 30, 'points', 0)],
  });
  return new Map(
    (await rows<{ id: string; title: string }>(db, 'select id, title from category where course_id = $1', [courseId])).map((c) => [
      c.title,
      c.id,
    ]),
  );
}

const inWords = (at: number): string => DateTime.fromMillis(at, { zone: ZONE }).setLocale(LOCALE).toFormat('cccc d LLLL');

async function buildItem(
  db: Db,
  courseId: string,
  unitId: string,
  item: DemoItem,
  position: number,
  categories: ReadonlyMap<string, string>,
  calendar: Calendar,
  random: Random,
  teacherId: string,
): Promise<BuiltItem> {
  const id = await addItem(db, courseId, { unitId, kind: item.kind, title: item.title, position });
  const { version } = await getPlanItem(db, courseId, id, calendar.now);
  const dueAt = item.due === undefined ? null : calendar.at(...item.due);
  const opensAt = item.opens === undefined ? calendar.at(1, 1, '08:00') : calendar.at(...item.opens);
  const iso = (at: number | null): string | null => (at === null ? null : new Date(at).toISOString());
  await changeItem(
    db,
    courseId,
    id,
    {
      version,
      isDraft: item.isDraft ?? false,
      categoryId: categories.get(item.category ?? '') ?? null,
      possible: (item.points ?? 0) * 1000,
      ...(item.kind === 'assignment' ? { releaseMode: 'hand' as const } : {}),
      dueAt: iso(dueAt),
      opensAt: item.opens === undefined ? null : iso(opensAt),
      estimatedMinutes: item.minutes,
      markingMinutes: item.marking ?? 0,
    },
    calendar.now,
  );
  if (item.kind === 'page') {
    const at = calendar.at(1, 1, '07:30');
    const document = item.isDraft === true ? emptyDocument : writePage(item.title, random);
    await publish(db, courseId, id, await savePage(db, courseId, id, { document, version: 1 }, teacherId, at), at);
  }
  if (item.kind === 'assignment') {
    const saved = await saveAssignment(
      db,
      courseId,
      id,
      {
        version: 1,
        instructions: paragraphs(
          TASKS[item.take ?? 'text'] ?? '',
          ...(item.says === undefined || dueAt === null ? [] : [item.says.replace('{due}', inWords(dueAt))]),
        ),
        acceptsText: item.take !== 'pdf',
        acceptsFiles: item.take !== 'text',
        fileTypes: ['pdf', 'picture'],
        attemptsAllowed: null,
      },
      teacherId,
      calendar.now,
    );
    await publish(db, courseId, id, saved, calendar.now);
    if (item.rubric === true) {
      await saveRubric(
        db,
        courseId,
        id,
        {
          version: 0,
          criteria: RUBRIC.map(([title, levels]) => ({
            id: null,
            title,
            levels: levels.map(([points, descriptor], n) => ({ id: null, title: String(n + 1), descriptor, points: points * 1000 })),
          })),
        },
        calendar.now,
      );
    }
  }
  return { ...item, id, dueAt, opensAt };
}

export interface CoursePlan {
  readonly code: string;
  readonly run: string;
  readonly title: string;
  readonly short: string;
  readonly termId: string;
  readonly units: readonly DemoUnit[];
  readonly sections: readonly (readonly [string, number])[];
  readonly withNamed: boolean;
  readonly seedShift: number;
}

async function enrol(
  db: Db,
  courseId: string,
  plan: CoursePlan,
  staff: Readonly<Record<string, string>>,
  random: Random,
): Promise<Enrolled[]> {
  const sections = await rows<{ id: string; title: string }>(db, 'select id, title from section where course_id = $1 order by position', [
    courseId,
  ]);
  const students = inventStudents(
    random,
    plan.sections.reduce((sum, [, many]) => sum + many, 0),
    plan.withNamed,
  );
  const seats = plan.sections.flatMap(([title, many]) => Array.from({ length: many }, () => title));
  const enrolled: Enrolled[] = [];
  for (const [n, student] of students.entries()) {
    const section = seats[(n * 7) % seats.length] as string;
    const personId = await addPerson(db, { ...student, password: DEMO_PASSWORD }, false, staff.hash);
    const enrolmentId = await addMember(db, courseId, personId, 'student', sections.find((s) => s.title === section)?.id ?? null);
    enrolled.push({ ...student, personId, enrolmentId: enrolmentId ?? '', section });
  }
  const assistants = [
    ['Teodor', sections.slice(0, 2)],
    ['Maribel', sections.slice(2)],
  ] as const;
  for (const [name, own] of assistants) {
    const id = await addMember(db, courseId, staff[name] ?? '', 'assistant', null);
    if (id !== null)
      await giveSections(
        db,
        id,
        (own.length > 0 ? own : sections).map((s) => s.id),
      );
  }
  return enrolled;
}

/** Builds a course as its teacher would, through the functions the application uses. */
export async function buildCourse(
  db: Db,
  plan: CoursePlan,
  staff: Readonly<Record<string, string>>,
  calendar: Calendar,
  random: Random,
): Promise<Built> {
  const courseId = await addCourse(
    db,
    { ...plan, timeZone: ZONE, instructorId: staff.Ines ?? '', sections: plan.sections.map(([title]) => title) },
    true,
  );
  await run(db, 'update course set short_title = $2 where id = $1', [courseId, plan.short]);
  const categories = await setPolicy(db, courseId);
  const items: BuiltItem[] = [];
  for (const unit of plan.units) {
    const unitId = await addUnit(db, courseId, unit.title);
    for (const [position, item] of unit.items.entries())
      items.push(await buildItem(db, courseId, unitId, item, position, categories, calendar, random, staff.Ines ?? ''));
  }
  const students = await enrol(db, courseId, plan, staff, random);
  return { courseId, items, students, staff, calendar };
}

/** Other dates for Distance, and two lasting arrangements. */
export async function arrange(db: Db, built: Built): Promise<void> {
  const report = built.items.find((item) => item.title === 'Condition report');
  const distance = (
    await rows<{ id: string }>(db, "select id from section where course_id = $1 and title = 'Distance'", [built.courseId])
  )[0];
  if (report !== undefined && distance !== undefined) {
    await saveVariants(
      db,
      built.courseId,
      report.id,
      {
        variants: [
          {
            sectionId: distance.id,
            enrolmentId: null,
            opensAt: null,
            dueAt: new Date(built.calendar.at(9, 4, '23:59')).toISOString(),
            closesAt: null,
          },
        ],
      },
      built.calendar.now,
    );
  }
  const of = (name: string): string => built.students.find((s) => s.familyName === name)?.enrolmentId ?? '';
  await setArrangements(db, of('Garrick'), [
    { extraDays: 2, timeMultiplier: 1250, extraAttempts: 0, reason: 'extra time agreed with the school' },
  ]);
  await setArrangements(db, of('Oyelaran'), [{ extraDays: 1, timeMultiplier: 1000, extraAttempts: 0, reason: 'works night shifts' }]);
}
