import { sheetLayout, type Membership } from '@rosemary/core';
import {
  addKeyOnly,
  addScan,
  changeItem,
  findSignedIn,
  getPlanItem,
  getQuizDetail,
  printedSheets,
  printSheets,
  readStanding,
  rows,
} from '@rosemary/server';
import { fillPage, printPages, scan, type Filled, type Hand } from '@rosemary/standins';
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { addTo, type Adding } from './adding.ts';
import { seeded, type Random } from './random.ts';

const KEY = 'BDACCAEBDACEBADBCEAD';
const TITLE = 'Names of the parts';
const DOTS = 100;
const HANDS: readonly Hand[] = ['full', 'full', 'full', 'soft', 'full', 'tick'];

/** What a student of this ability fills in: mostly the right circle, now and then changed, seldom none. */
function fill(ability: number, random: Random): Filled[] {
  return [...KEY].map((letter, n) => {
    const right = letter.charCodeAt(0) - 65;
    const knows = random.chance(1 / (1 + Math.exp(-(ability + 1.1 - (n % 5) * 0.5))));
    const option = knows ? right : (right + random.whole(1, 4)) % 5;
    if (random.chance(0.02)) return { marked: [] };
    return random.chance(0.05) ? { marked: [option], rubbedOut: [(option + random.whole(1, 4)) % 5] } : { marked: [option] };
  });
}

/** A test of twenty names on paper, taken by the morning bench: its sheets are scanned, and wait to be looked through and brought in. */
export async function addPaperTest(a: Adding): Promise<void> {
  const { db, built, teacherId } = a;
  const { calendar, courseId } = built;
  const random = seeded(20_261_117);
  const actor = await findSignedIn(db, teacherId, Date.now());
  if (actor === null) throw new Error('The teacher of the demo is not there.');
  const [category] = await rows<{ id: string }>(db, "select id from category where course_id = $1 and title = 'Exercises'", [courseId]);
  const due = calendar.at(9, 2, '10:00');
  const itemId = await addTo(a, 'What a hairspring does', 'quiz', TITLE, {
    categoryId: category?.id ?? null,
    estimatedMinutes: 20,
    dueAt: new Date(due).toISOString(),
  });
  const { sections } = await getQuizDetail(db, actor, courseId, itemId, calendar.now);
  const made = calendar.at(8, 4, '18:00');
  const wish = { sectionId: sections[0]?.id ?? '', options: 5, points: 500, key: KEY, objectives: [{ from: 1, to: 10, code: 'T2' }] };
  await addKeyOnly(db, actor, courseId, itemId, wish, made);
  const { version } = await getPlanItem(db, courseId, itemId, made);
  await changeItem(db, courseId, itemId, { version, isDraft: false }, made);
  const enrolments = await rows<{ id: string; email: string; section: string }>(
    db,
    "select e.id, p.email, s.title as section from enrolment e join person p on p.id = e.person_id join section s on s.id = e.section_id where e.course_id = $1 and e.role = 'student' and e.withdrawn_at is null and not e.is_sample order by p.family_name, p.given_name",
    [courseId],
  );
  await printSheets(
    db,
    itemId,
    enrolments.map((e) => e.id),
    2,
    made,
  );
  const member: Membership = { courseId, enrolmentId: '', role: 'instructor', isActive: true, sectionIds: null };
  const { sheets, test } = await readStanding(db, itemId);
  const [page] = sheetLayout({ ...test, questions: [...KEY].map(() => ({ options: 5, isMany: false })) });
  const owned = sheets.filter((s) => s.enrolmentId !== null);
  const book = await printedSheets(db, courseId, itemId, member, TITLE, 'all');
  const spareBook = await printedSheets(db, courseId, itemId, member, TITLE, 'spare');
  const folder = await mkdtemp(join(tmpdir(), 'rosemary-scans-'));
  const at = calendar.at(9, 2, '17:30');
  let number = 0;
  const put = async (bytes: Buffer): Promise<void> => {
    number += 1;
    const path = join(folder, 'scan.jpg');
    await writeFile(path, bytes);
    await addScan({ db, courseId, itemId, personId: teacherId, now: at + number }, { path, name: `scan ${number}.jpg` });
  };
  const taken = built.students.filter((s) => s.section === 'Morning bench' && !['silent since week 5', 'withdrawn'].includes(s.habit));
  try {
    for (const [n, student] of taken.entries()) {
      const who = enrolments.find((e) => e.email === student.email);
      // One had left theirs at home and took a spare sheet.
      const place = n === 5 ? null : owned.findIndex((s) => s.enrolmentId === who?.id);
      const [paper] = await (place === null ? printPages(spareBook, DOTS, [0]) : printPages(book, DOTS, [place]));
      if (paper === undefined || page === undefined) continue;
      const scanning = {
        seed: `demo ${student.email}`,
        hand: HANDS[n % HANDS.length] ?? 'full',
        dots: DOTS,
        trouble: 0.35,
        isUpsideDown: n === 9,
      } as const;
      const filled = fill(student.ability, random).map((row, q) => (n === 3 && q === 6 ? { marked: [1, 4] } : row));
      await put(scan(fillPage(paper, page, new Map(filled.map((row, q) => [q, row])), scanning), scanning));
    }
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}
