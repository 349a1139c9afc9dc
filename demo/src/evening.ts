import { emptyDocument, FILE_TYPES, paragraphs } from '@rosemary/api';
import {
  addGroupSet,
  askMatching,
  findAssignment,
  findRubric,
  finishMark,
  getMark,
  handIn,
  listGroups,
  makeSubmission,
  rows,
  run,
  runMatching,
  saveAssignment,
  saveDraft,
  saveMark,
  storeFile,
  type Db,
} from '@rosemary/server';
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { addTo, type Adding } from './adding.ts';
import { publish } from './publish.ts';
import { drawEscapement, soundOfBeat } from './media.ts';
import { seeded, type Random } from './random.ts';
import { COPIED, FROM_THE_COLLECTION } from './texts.ts';
import type { Built, Enrolled } from './school.ts';

const MINUTE = 60_000;
const LONG = { acceptsText: true, acceptsFiles: false, attemptsAllowed: null } as const;

interface Wish {
  readonly title: string;
  readonly after: string;
  readonly points: number;
  readonly marking: number;
  readonly due: readonly [number, number, string];
  /** Monday of week 7 where nothing is said. */
  readonly opens?: readonly [number, number, string];
  readonly task: string;
  readonly setting: object;
  readonly category: string;
}

/** One more assignment of this week, as its teacher would set it. */
export async function addWork(a: Adding, wish: Wish): Promise<string> {
  const { db, built } = a;
  const [category] = await rows<{ id: string }>(db, 'select id from category where course_id = $1 and title = $2', [
    built.courseId,
    wish.category,
  ]);
  const id = await addTo(a, wish.after, 'assignment', wish.title, {
    ...{
      isDraft: false,
      categoryId: category?.id ?? null,
      possible: wish.points * 1000,
      releaseMode: 'hand',
      markingMinutes: wish.marking,
      estimatedMinutes: 30,
    },
    dueAt: new Date(built.calendar.at(...wish.due)).toISOString(),
    opensAt: new Date(built.calendar.at(...(wish.opens ?? ([7, 1, '08:00'] as const)))).toISOString(),
  });
  const version = (await findAssignment(db, id))?.version ?? 1;
  const setting = { version, instructions: paragraphs(wish.task), ...LONG, ...wish.setting };
  const { now } = built.calendar;
  await publish(db, built.courseId, id, await saveAssignment(db, built.courseId, id, setting, a.teacherId, now), now);
  return id;
}

/** Who hands in this week: not those who have gone quiet or left. */
export const present = (built: Built): Enrolled[] =>
  built.students.filter((s) => s.habit !== 'withdrawn' && s.habit !== 'silent since week 5');
export const memberOf = (built: Built, student: Enrolled) => ({
  courseId: built.courseId,
  enrolmentId: student.enrolmentId,
  role: 'student' as const,
  isActive: true,
  sectionIds: null,
});

export async function handInText(
  db: Db,
  built: Built,
  student: Enrolled,
  itemId: string,
  lines: readonly string[],
  at: number,
): Promise<void> {
  const member = memberOf(built, student);
  const document = lines.length === 0 ? emptyDocument : paragraphs(...lines);
  const { version } = await saveDraft(db, itemId, member, { document, version: 0 }, at - MINUTE);
  await handIn(db, built.courseId, itemId, member, student.personId, { note: '', key: `evening-${itemId}`, version }, at);
}

async function handInFile(
  db: Db,
  built: Built,
  student: Enrolled,
  itemId: string,
  name: string,
  bytes: Uint8Array,
  at: number,
): Promise<void> {
  const folder = await mkdtemp(join(tmpdir(), 'rosemary-demo-'));
  try {
    const path = join(folder, 'file');
    await writeFile(path, bytes);
    const owner = { courseId: built.courseId, ownerId: student.personId, now: at };
    const file = await storeFile(db, { path, name, types: Object.keys(FILE_TYPES), mostBytes: 10_000_000, ...owner });
    const submission = await makeSubmission(db, itemId, student.enrolmentId);
    await run(db, 'insert into submission_draft_file (submission_id, file_id, position) values ($1, $2, 0)', [submission.id, file.id]);
    const member = memberOf(built, student);
    await handIn(
      db,
      built.courseId,
      itemId,
      member,
      student.personId,
      { note: '', key: `evening-${itemId}`, version: submission.version },
      at,
    );
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

/** What students say of one trace: most see it, some nearly, some something else. */
const ANSWERS = [
  ['The hairspring touches at full amplitude.', 0.34],
  ['the hairspring touches at full amplitude', 0.14],
  ['The hairspring touches at ful amplitude', 0.08],
  ['The roller jewel is loose.', 0.16],
  ['The roller jewel is lose', 0.06],
  ['It knocks.', 0.08],
  ['It is magnetised.', 0.06],
  ['The watch is not in beat.', 0.08],
] as const;
function answerOf(random: Random): string {
  let left = random.next();
  for (const [text, share] of ANSWERS) {
    left -= share;
    if (left < 0) return text;
  }
  return ANSWERS[0][0];
}

const before = (due: number, random: Random): number => due - random.whole(30, 2600) * MINUTE;

async function addShortAnswers(a: Adding, random: Random): Promise<void> {
  const { db, built } = a;
  const due = built.calendar.at(9, 2, '12:00');
  const id = await addWork(a, {
    ...{ title: 'Name the fault', after: 'Condition report', points: 10, marking: 1, due: [9, 2, '12:00'], category: 'Exercises' },
    ...{
      task: 'The trace doubles at high amplitude and is single when the watch is nearly run down. Name the fault in one sentence.',
      setting: {},
    },
  });
  for (const student of present(built))
    if (random.chance(0.94)) await handInText(db, built, student, id, [answerOf(random)], before(due, random));
}

async function addPictures(a: Adding, random: Random): Promise<void> {
  const { db, built } = a;
  const due = built.calendar.at(9, 1, '18:00');
  const id = await addWork(a, {
    ...{ title: 'The lock, photographed', after: 'Name the fault', points: 20, marking: 3, due: [9, 1, '18:00'], category: 'Bench work' },
    task: 'Photograph or draw your lever at the moment of locking, from above. Both stones and the tooth must be seen.',
    setting: { acceptsText: false, acceptsFiles: true, fileTypes: ['picture'], mostFiles: 2 },
  });
  for (const [n, student] of present(built)
    .filter((s) => s.section !== 'Distance')
    .entries())
    if (random.chance(0.85))
      await handInFile(db, built, student, id, `lock-${student.givenName.toLowerCase()}.png`, drawEscapement(n), before(due, random));
}

async function addSounds(a: Adding, random: Random): Promise<void> {
  const { db, built } = a;
  const due = built.calendar.at(9, 2, '18:00');
  const id = await addWork(a, {
    ...{
      title: 'Your movement, heard',
      after: 'The lock, photographed',
      points: 10,
      marking: 2,
      due: [9, 2, '18:00'],
      category: 'Exercises',
    },
    task: 'Record ten seconds of your movement, held to the ear of your telephone, and hand in the sound.',
    setting: { acceptsText: false, acceptsFiles: true, fileTypes: ['sound'], acceptsRecording: true },
  });
  for (const student of present(built).filter((s) => s.section === 'Distance'))
    if (random.chance(0.9)) await handInFile(db, built, student, id, 'beat.wav', soundOfBeat(), before(due, random));
}

const LOG = {
  who: ['one of us', 'two of us', 'we', 'whoever had the tweezers', 'the one with the loupe', 'the quickest of us'],
  did: ['lifted', 'cleaned', 'measured', 'drew', 'turned over', 'put back'],
  part: ['the barrel bridge', 'the click spring', 'the third wheel', 'the lower cap jewel', 'the setting lever', 'the pallet cock'],
  where: ['under the lamp', 'on the mat', 'over white paper', 'by the window', 'behind the door'],
  end: ['and found nothing', 'and agreed', 'and wondered', 'and noted it'],
} as const;
/** A sentence of a bench record. With its hour and its measure no eleven words of it are quite another's. */
function logLine(random: Random): string {
  const of = (part: keyof typeof LOG): string => random.pick<string>(LOG[part]);
  const [hour, minute, size] = [random.whole(18, 21), random.whole(10, 59), random.whole(204, 987)];
  return `At ${hour}.${minute} ${of('who')} ${of('did')} ${of('part')}, ${size} hundredths ${of('where')}, ${of('end')}.`;
}
/** What two groups have in common word for word, and what a third took from elsewhere. */
const TAKEN: Readonly<Record<number, string>> = {
  2: COPIED,
  6: COPIED,
  8: FROM_THE_COLLECTION,
};

/** Work of groups of three: handed in once, some marked, one member given less than the others with its reason. */
async function addGroupWork(a: Adding, random: Random): Promise<string> {
  const { db, built } = a;
  const wish = { title: 'Benches of three', makes: 'dealt', number: 3, withinSections: true } as const;
  const setId = await addGroupSet(db, built.courseId, wish, new Map(), random.next);
  const due = built.calendar.at(9, 1, '12:00');
  const id = await addWork(a, {
    ...{
      title: 'Bench record in threes',
      after: 'Your movement, heard',
      points: 20,
      marking: 6,
      due: [9, 1, '12:00'],
      category: 'Bench work',
    },
    ...{
      task: 'Take one movement apart together and keep one record of it. One of you hands it in for all.',
      setting: { groupSetId: setId },
    },
  });
  const set = (await listGroups(db, built.courseId)).sets.find((s) => s.id === setId);
  let done = 0;
  for (const group of set?.groups ?? []) {
    // In an order of their own: identifiers are drawn anew at each start.
    const members = present(built)
      .filter((s) => group.enrolmentIds.includes(s.enrolmentId))
      .sort((x, y) => x.email.localeCompare(y.email));
    const [first, second] = members;
    if (first === undefined || random.chance(0.1)) continue;
    const lines = Array.from({ length: 4 }, () => `${logLine(random)} ${logLine(random)}`);
    const taken = TAKEN[(set?.groups ?? []).indexOf(group)];
    const all = [`${group.title} at the bench.`, ...lines, ...(taken === undefined ? [] : [taken])];
    await handInText(db, built, first, id, all, before(due, random));
    if (done >= 6) continue;
    const target = { itemId: id, enrolmentId: first.enrolmentId };
    const less =
      done === 0 && second !== undefined
        ? { [second.enrolmentId]: { points: -4000, reason: 'was at the bench for one of the two evenings' } }
        : {};
    const at = built.calendar.at(9, 2, '20:00') + done * 7 * MINUTE;
    const mark = {
      version: (await getMark(db, target)).version,
      choices: {},
      score: random.whole(26, 38) * 500,
      scoreReason: '',
      feedback: null,
      adjustments: less,
    };
    const saved = await saveMark(db, target, mark, built.staff.Ines ?? '', at);
    await finishMark(db, target, { version: saved.version, isAboveConfirmed: false }, built.staff.Ines ?? '', at + 5 * MINUTE);
    done += 1;
  }
  return id;
}

/** Error budgets marked by two without names: most by both, some agreed, some by one, some by nobody yet. */
export async function markInPairs(db: Db, built: Built): Promise<void> {
  const item = built.items.find((i) => i.isPaired === true);
  const assignment = item === undefined ? null : await findAssignment(db, item.id);
  if (item === undefined || assignment === null) return;
  await saveAssignment(
    db,
    built.courseId,
    item.id,
    { version: assignment.version, markers: 2, anonymous: 'release' },
    built.staff.Ines ?? '',
    built.calendar.now,
  );
  const rubric = await findRubric(db, assignment.rubricId);
  const random = seeded(20_261_119);
  const works = await rows<{ enrolment_id: string }>(
    db,
    `select s.enrolment_id from submission s join enrolment e on e.id = s.enrolment_id join person p on p.id = e.person_id
     where s.item_id = $1 and exists (select 1 from attempt a where a.submission_id = s.id) order by p.email`,
    [item.id],
  );
  const judge = (ability: number, severity: number): Record<string, string> =>
    Object.fromEntries(
      (rubric?.criteria ?? []).map((c) => {
        const place = Math.max(0, Math.min(3, Math.round(1.7 + ability - severity + random.normal() * 0.45)));
        return [c.id, c.levels[place]?.id ?? ''];
      }),
    );
  for (const [n, work] of works.entries()) {
    const target = { itemId: item.id, enrolmentId: work.enrolment_id };
    const ability = built.students.find((s) => s.enrolmentId === work.enrolment_id)?.ability ?? 0;
    const at = built.calendar.at(9, 2, '08:30') + n * 9 * MINUTE;
    const give = async (slot: 1 | 2 | 3, marker: string, choices: Record<string, string>, when: number): Promise<void> => {
      const version = (await getMark(db, target, slot)).version;
      const saved = await saveMark(db, target, { version, choices, score: null, scoreReason: '', feedback: null }, marker, when, slot);
      await finishMark(db, target, { version: saved.version, isAboveConfirmed: false }, marker, when + 6 * MINUTE, slot);
    };
    if (n >= works.length - 3) continue;
    const first = judge(ability, 0);
    await give(2, built.staff.Ines ?? '', first, at);
    if (n >= works.length - 6) continue;
    await give(3, built.staff.Teodor ?? '', judge(ability, 0.35), at + 120 * MINUTE);
    if (n < 8) await give(1, built.staff.Ines ?? '', first, at + 300 * MINUTE);
  }
}

/** An evening’s work: short answers, pictures, sounds and work of groups that came in this week, and a look at who wrote like whom. */
export async function addEvening(a: Adding): Promise<void> {
  const random = seeded(20_261_120);
  await addShortAnswers(a, random);
  await addPictures(a, random);
  await addSounds(a, random);
  const records = await addGroupWork(a, random);
  await askMatching(a.db, records, a.teacherId, a.built.calendar.now - 3_600_000);
  await runMatching(a.db, a.built.calendar.now - 3_590_000, null);
}
