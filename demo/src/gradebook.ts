import { READY_SCHEMES } from '@rosemary/core';
import {
  addGradeColumn,
  applyPolicy,
  getPolicyChange,
  getWorkColumn,
  readFacts,
  recordGrade,
  rows,
  run,
  saveCellWords,
  setCurve,
  writeAudit,
  type Db,
} from '@rosemary/server';
import type { Random } from './random.ts';
import type { Built } from './school.ts';

/** By which clock what is written now is noted by the database: the demo is laid out as if it had always been there. */
export const setNoted = (db: Db, at: number | null): Promise<unknown> =>
  run(db, "select set_config('rosemary.now', $1, false)", [at === null ? '' : String(at)]);

type Policy = Awaited<ReturnType<typeof getPolicyChange>>;
/** A policy that was another until a week, with who changed it: the gradebook of before shows it, and it can be undone. */
async function changePolicyIn(db: Db, built: Built, week: number, before: (policy: Policy) => Policy): Promise<void> {
  const { calendar, courseId, staff } = built;
  const now = await getPolicyChange(db, courseId);
  await setNoted(db, calendar.at(1, 1, '08:00'));
  const was = await applyPolicy(db, courseId, before(now));
  const at = calendar.at(week, 2, '16:40');
  await setNoted(db, at);
  const made = await applyPolicy(db, courseId, { ...now, version: was.after.version });
  await writeAudit(db, { at, actorId: staff.Ines ?? '', courseId, action: 'policy changed', before: made.before, after: made.after });
  await setNoted(db, calendar.at(1, 1, '08:00'));
}

/** What a gradebook has beside marks: a policy that was changed, periods, declared work, columns made in it, a curve, words on results. */
export async function addGradebook(db: Db, foundations: Built, timing: Built, random: Random): Promise<void> {
  await changePolicyIn(db, foundations, 5, (policy) => ({
    ...policy,
    categories: policy.categories.map((c) => ({
      ...c,
      weightPercent: { Exercises: 30_000, 'Bench work': 50_000, Papers: 20_000 }[c.title] ?? c.weightPercent,
    })),
  }));
  const { calendar, courseId, staff, students } = timing;
  const teacher = staff.Ines ?? '';
  const day = (week: number, weekday: number): string => calendar.startsOn.plus({ weeks: week - 1, days: weekday - 1 }).toISODate() ?? '';
  const policy = await getPolicyChange(db, courseId);
  const words = READY_SCHEMES.find((s) => s.title === 'Bands in words');
  await applyPolicy(db, courseId, {
    ...policy,
    categories: policy.categories.map((c) => ({
      ...c,
      dropLowest: 0,
    })),
    periods: [
      { id: null, title: 'First half', weightPercent: 40_000, startsOn: day(1, 1), endsOn: day(8, 7) },
      { id: null, title: 'Second half', weightPercent: 60_000, startsOn: day(9, 1), endsOn: day(15, 7) },
    ],
    levels: words?.levels.map((l) => ({ ...l })) ?? policy.levels,
    passPercent: words?.passPercent ?? null,
  });
  // What a category will hold can be said of a period once the period is here.
  const now = await getPolicyChange(db, courseId);
  const declared = [
    { items: 3, points: 120_000 },
    { items: 3, points: 100_000 },
  ];
  await applyPolicy(db, courseId, {
    ...now,
    categories: now.categories.map((c) =>
      c.title === 'Bench work'
        ? {
            ...c,
            declaredIn: now.periods.flatMap((p, n) =>
              p.id === null ? [] : [{ periodId: p.id, ...(declared[n] ?? { items: 0, points: 0 }) }],
            ),
          }
        : c,
    ),
  });
  const category =
    (await rows<{ id: string }>(db, "select id from category where course_id = $1 and title = 'Bench work'", [courseId]))[0]?.id ?? null;
  const column = {
    categoryId: category,
    newCategory: null,
    audience: [],
    isToldAtOnce: true,
    showsStatistics: true,
    multiplier: 1000,
    periodId: null,
  };
  const inPoints = { studentReads: 'points', ownLevels: null } as const;
  // A talk is told in words of its own, beside its points.
  const inWords = {
    studentReads: 'letter',
    ownLevels: [
      { label: 'carries it', cutPoint: 80_000, value: 90_000 },
      { label: 'clear', cutPoint: 60_000, value: 70_000 },
      { label: 'begun', cutPoint: 0, value: 50_000 },
    ],
  } as const;
  const talk = await addGradeColumn(
    db,
    courseId,
    {
      ...column,
      ...inWords,
      ownLevels: [...inWords.ownLevels],
      title: 'Bench talk',
      possible: 10_000,
      dueAt: new Date(calendar.at(6, 4, '11:00')).toISOString(),
      isExtraCredit: false,
    },
    calendar.now,
  );
  const tidy = await addGradeColumn(
    db,
    courseId,
    {
      ...column,
      ...inPoints,
      title: 'Tidy bench',
      possible: 5000,
      dueAt: new Date(calendar.at(8, 4, '12:00')).toISOString(),
      isExtraCredit: true,
    },
    calendar.now,
  );
  const give = async (itemId: string, most: number, at: number): Promise<void> => {
    const columnId = await getWorkColumn(db, itemId);
    for (const student of students) {
      const raw = Math.round((0.5 + random.next() * 0.5) * most * 2) * 500;
      if (random.chance(0.9))
        await recordGrade(db, {
          columnId,
          enrolmentId: student.enrolmentId,
          kind: 'set',
          state: 'scored',
          raw,
          isReleased: true,
          source: 'demo',
          reason: '',
          actorId: teacher,
          at,
        });
    }
  };
  await give(talk.itemId, 10, calendar.at(6, 4, '12:10'));
  // One talk was begun and not finished, and one student is exempt from it: the check before sending has something to say of each.
  for (const [n, state] of (['unfinished', 'exempt'] as const).entries()) {
    const student = students.at(-1 - n);
    if (student !== undefined)
      await recordGrade(db, {
        ...{ columnId: await getWorkColumn(db, talk.itemId), enrolmentId: student.enrolmentId, kind: 'set', state, raw: null },
        ...{ isReleased: true, source: 'demo', reason: '', actorId: teacher, at: calendar.at(6, 4, '12:15') },
      });
  }
  await give(tidy.itemId, 5, calendar.at(8, 4, '12:30'));
  const facts = await readFacts(db, courseId, { seesVeiled: true });
  const rate = facts.columns.find((c) => c.title === 'A rate in five days');
  if (rate !== undefined) {
    const curve = { kind: 'add', amount: 1500, isCapped: true } as const;
    await setCurve(db, facts, rate.id, { curve });
    const at = calendar.at(8, 2, '10:05');
    await writeAudit(db, {
      at,
      actorId: teacher,
      courseId,
      action: 'curve changed',
      subject: rate.id,
      before: { curve: null },
      after: { curve },
    });
  }
  const talked = facts.columns.find((c) => c.title === 'Bench talk');
  for (const [n, [memo, comment]] of (
    [
      ['', 'Clear and calm. Next time show the pallet stones too.'],
      ['Was ill the week before; gave it a day later.', ''],
    ] as const
  ).entries()) {
    const enrolmentId = students[n]?.enrolmentId;
    if (talked !== undefined && enrolmentId !== undefined)
      await saveCellWords(db, { column: talked, enrolmentId }, { memo, comment, version: 0 }, teacher, calendar.at(6, 4, '12:20'));
  }
}
