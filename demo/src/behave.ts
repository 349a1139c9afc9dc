import { FILE_TYPES, paragraphs, checkDocument } from '@rosemary/api';
import {
  addNote,
  addVisit,
  changeCell,
  findAssignment,
  findRubric,
  finishMark,
  getMark,
  getWorkColumn,
  handIn,
  saveDraft,
  saveMark,
  setReleased,
  storeFile,
  makeSubmission,
  withdrawMember,
  run,
  rows,
  type Db,
} from '@rosemary/server';
import { DateTime } from 'luxon';
import { createHash } from 'node:crypto';
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { drawPaper, type Paper } from './papers.ts';
import type { Random } from './random.ts';
import { type Built, type BuiltItem, type Enrolled, ZONE } from './school.ts';
import { FEEDBACK, NOTE_TEXTS, writeWork } from './texts.ts';

const MINUTE = 60_000;
const HOUR = 60 * MINUTE;
const DAY = 24 * HOUR;

/** A share of full marks from ability and chance, bent by habit and time. */
function shareOf(student: Enrolled, item: BuiltItem, random: Random): number {
  const week = item.due?.[0] ?? 1;
  const bend = student.habit === 'falling' && week >= 6 ? -2.2 : student.habit === 'far ahead' ? 0.3 : 0;
  const logit = 1.15 + 0.85 * (student.ability + bend) + random.normal() * 0.35;
  return 1 / (1 + Math.exp(-logit));
}

/** When a piece comes in, or null where it does not come (yet). */
function handInTime(student: Enrolled, item: BuiltItem, now: number, random: Random): number | null {
  if (item.dueAt === null) return null;
  const week = item.due?.[0] ?? 1;
  if (student.habit === 'silent since week 5' && week >= 5) return null;
  if (student.habit === 'withdrawn' && week >= 4) return null;
  if (random.chance(student.ability < -0.5 ? 0.14 : 0.03)) return null;
  const late = student.habit === 'late' ? random.chance(0.6) : random.chance(0.04);
  const at = late
    ? item.dueAt + random.whole(20, 2400) * MINUTE
    : waking(item.dueAt - random.whole(20, 3600) * MINUTE * (student.habit === 'far ahead' ? 2 : 1), Math.min(item.dueAt, now));
  return at > now || at < item.opensAt ? (at > now ? null : item.opensAt + DAY) : at;
}

async function attach(db: Db, built: Built, student: Enrolled, item: BuiltItem, paper: Paper, at: number): Promise<string> {
  const folder = await mkdtemp(join(tmpdir(), 'rosemary-demo-'));
  try {
    const path = join(folder, 'paper');
    await writeFile(path, paper.bytes);
    const file = await storeFile(db, {
      path,
      name: `${item.title.toLowerCase().replace(/\W+/g, '-')}.pdf`,
      courseId: built.courseId,
      ownerId: student.personId,
      types: Object.keys(FILE_TYPES),
      mostBytes: 10_000_000,
      now: at,
    });
    const submission = await makeSubmission(db, item.id, student.enrolmentId);
    await run(db, 'insert into submission_draft_file (submission_id, file_id, position) values ($1, $2, 0)', [submission.id, file.id]);
    return file.id;
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

interface Came {
  readonly at: number;
  readonly paper: Paper | null;
  readonly fileId: string | null;
}

async function handInWork(db: Db, built: Built, student: Enrolled, item: BuiltItem, at: number, random: Random): Promise<Came> {
  const member = {
    courseId: built.courseId,
    enrolmentId: student.enrolmentId,
    role: 'student' as const,
    isActive: true,
    sectionIds: await sectionIdsOf(db, student),
  };
  await addVisit(db, item.id, student.enrolmentId, {
    doing: 'writing',
    at: waking(at - random.whole(20, 200) * 60_000, at),
    seconds: random.whole(300, 3000),
  });
  let version = 1;
  if (item.take !== 'pdf')
    ({ version } = await saveDraft(
      db,
      item.id,
      member,
      { document: writeWork(random, student.ability, item.title), version: 0 },
      at - 60_000,
    ));
  const paper =
    item.take === 'text'
      ? null
      : await drawPaper(item.title, `${student.givenName} ${student.familyName}`, [
          'Escape wheel of fifteen teeth, drawn at ten to one',
          `Lock measured at ${random.whole(9, 16)} degrees, drop even on both stones`,
          'Draw holds the lever to the banking',
          'Drawn from the movement on my bench',
        ]);
  const fileId = paper === null ? null : await attach(db, built, student, item, paper, at);
  await handIn(db, built.courseId, item.id, member, student.personId, { note: '', key: `demo-${item.id}`, version }, at);
  return { at, paper, fileId };
}

async function sectionIdsOf(db: Db, student: Enrolled): Promise<string[]> {
  return (await rows<{ section_id: string }>(db, 'select section_id from enrolment where id = $1', [student.enrolmentId])).map(
    (r) => r.section_id,
  );
}

/** A stable identifier from words, so that the same seed gives the same notes. */
function idOf(words: string): string {
  const hex = createHash('sha256').update(words).digest('hex');
  return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-4${hex.slice(13, 16)}-8${hex.slice(17, 20)}-${hex.slice(20, 32)}`;
}

async function noteWork(
  db: Db,
  student: Enrolled,
  item: BuiltItem,
  came: Came,
  markerId: string,
  at: number,
  random: Random,
): Promise<void> {
  const attempt = (
    await rows<{ id: string; document: unknown }>(
      db,
      'select a.id, a.document from attempt a join submission s on s.id = a.submission_id where s.item_id = $1 and s.enrolment_id = $2',
      [item.id, student.enrolmentId],
    )
  )[0];
  if (attempt === undefined) return;
  const target = { itemId: item.id, enrolmentId: student.enrolmentId };
  if (came.paper !== null && came.fileId !== null) {
    await addNote(
      db,
      target,
      {
        id: idOf(`pdf ${item.id} ${student.email}`),
        attemptId: attempt.id,
        fileId: came.fileId,
        anchor: { kind: 'pdf', page: 1, boxes: came.paper.boxes.map((b) => ({ ...b })) },
        quote: came.paper.quote,
        body: 'Say which tooth you counted from.',
      },
      markerId,
      at,
    );
    return;
  }
  const check = checkDocument(attempt.document);
  if (!check.ok) return;
  const places: { from: number; to: number; quote: string }[] = [];
  check.node.descendants((node, pos) => {
    if (node.type.name !== 'paragraph') return;
    const sentence = /^[^.]*\. ([^.]{20,90})\./.exec(node.textContent);
    if (sentence?.[1] !== undefined) {
      const start = node.textContent.indexOf(sentence[1]);
      places.push({ from: pos + 1 + start, to: pos + 1 + start + sentence[1].length, quote: sentence[1] });
    }
  });
  for (const [n, place] of places.slice(0, 2).entries()) {
    await addNote(
      db,
      target,
      {
        id: idOf(`text ${n} ${item.id} ${student.email}`),
        attemptId: attempt.id,
        fileId: null,
        anchor: { kind: 'text', from: place.from, to: place.to },
        quote: place.quote,
        body: random.pick(NOTE_TEXTS),
      },
      markerId,
      at + n,
    );
  }
}

async function markWork(
  db: Db,
  student: Enrolled,
  item: BuiltItem,
  share: number,
  markerId: string,
  at: number,
  finishes: boolean,
  random: Random,
): Promise<void> {
  const target = { itemId: item.id, enrolmentId: student.enrolmentId };
  const rubric = await findRubric(db, (await findAssignment(db, item.id))?.rubricId ?? null);
  const choices: Record<string, string> = {};
  for (const criterion of rubric?.criteria ?? []) {
    // The class is weak in one criterion: a lesson on it is due.
    const harder = criterion.title === 'Evidence' ? 1.1 : 0;
    const place = Math.max(0, Math.min(3, Math.floor(share * 4 - 0.3 - harder + random.normal() * 0.6)));
    if (finishes || Object.keys(choices).length < 2) choices[criterion.id] = criterion.levels[place]?.id ?? '';
  }
  const possible = (item.points ?? 0) * 1000;
  const score = rubric === null ? Math.round((possible * share) / 500) * 500 : null;
  const saved = await saveMark(
    db,
    target,
    { version: (await getMark(db, target)).version, choices, score, scoreReason: '', feedback: paragraphs(random.pick(FEEDBACK)) },
    markerId,
    at,
  );
  if (finishes)
    await finishMark(db, target, { version: saved.version, isAboveConfirmed: false }, markerId, at + random.whole(3, 12) * 60_000);
}

/** The hours at which people read and write, by those that chance gave: most in the evening, nobody at night. */
const WAKING = [19, 20, 21, 20, 19, 18, 17, 16, 9, 10, 11, 12, 13, 14, 15, 16, 17, 18, 19, 20, 21, 22, 20, 19];
/** The same day at an hour at which somebody is awake; an instant that would be later than it may be stays. */
export function waking(at: number, latest: number): number {
  const then = DateTime.fromMillis(at, { zone: ZONE });
  const awake = then.set({ hour: WAKING[then.hour] ?? 19 }).toMillis();
  return awake <= latest ? awake : at;
}

async function visitPages(db: Db, built: Built, random: Random): Promise<void> {
  const { calendar } = built;
  const reading = built.items.filter((item) => item.kind === 'page' && item.isDraft !== true && item.opensAt < calendar.now);
  for (const student of built.students) {
    for (const item of reading) {
      const near = built.items.slice(built.items.indexOf(item)).find((next) => next.dueAt !== null)?.dueAt ?? calendar.now;
      const week = (near - calendar.at(1, 1, '00:00')) / (7 * DAY);
      if ((student.habit === 'silent since week 5' || student.habit === 'withdrawn') && week > 4.5) continue;
      if (week > 8 && student.habit !== 'far ahead' && random.chance(0.5)) continue;
      if (random.chance(student.ability < -0.4 ? 0.25 : 0.05)) continue;
      const at = Math.min(calendar.now - random.whole(60, 3000) * MINUTE, Math.max(item.opensAt, near - random.whole(720, 9000) * MINUTE));
      if (at > item.opensAt)
        await addVisit(db, item.id, student.enrolmentId, {
          ...{ doing: 'reading', at: waking(at, calendar.now), seconds: random.whole(180, 2400) },
        });
    }
  }
}

/** How far the marking of one item has got: a share of the works finished, and whether they are released. */
function markingOf(item: BuiltItem, now: number): { finished: number; released: boolean; drafts: number } {
  const age = now - (item.dueAt ?? now);
  if (age > 10 * DAY) return { finished: 1, released: true, drafts: 0 };
  return age > 3 * DAY ? { finished: 0.9, released: false, drafts: 0 } : { finished: 0.62, released: false, drafts: 1 };
}

async function liveItem(db: Db, built: Built, item: BuiltItem, random: Random): Promise<void> {
  const { now } = built.calendar;
  const { finished, released, drafts } = markingOf(item, now);
  let begun = 0;
  const done: string[] = [];
  for (const student of built.students) {
    const at = handInTime(student, item, now, random);
    const share = shareOf(student, item, random);
    const markedAt = Math.min((item.dueAt ?? now) + random.whole(1800, 8400) * MINUTE, now - random.whole(20, 600) * MINUTE);
    if (at === null) continue;
    const came = await handInWork(db, built, student, item, at, random);
    // Two mark it on their own: that is another evening.
    if (item.isPaired === true) continue;
    const marker =
      (student.section === 'Distance' ? built.staff.Maribel : random.chance(0.6) ? built.staff.Ines : built.staff.Teodor) ?? '';
    const isOpenStill = at > now - 30 * HOUR && random.chance(0.45);
    if (!isOpenStill && random.chance(finished)) {
      if (random.chance(0.5)) await noteWork(db, student, item, came, marker, Math.max(at + HOUR, markedAt), random);
      await markWork(db, student, item, share, marker, Math.max(at + HOUR, markedAt), true, random);
      done.push(student.enrolmentId);
    } else if (begun < drafts) {
      begun += 1;
      await markWork(db, student, item, share, marker, now - 30 * 60_000, false, random);
    }
  }
  if (released) await setReleased(db, item.id, done, true, built.staff.Ines ?? '', Math.min(now - HOUR, (item.dueAt ?? now) + 8 * DAY));
}

async function observe(db: Db, built: Built, item: BuiltItem, random: Random): Promise<void> {
  for (const student of built.students) {
    if (item.dueAt === null || item.dueAt > built.calendar.now) return;
    const raw = Math.round((shareOf(student, item, random) * (item.points ?? 0) * 1000) / 1000) * 1000;
    await changeCell(
      db,
      built.courseId,
      {
        columnId: await getWorkColumn(db, item.id),
        enrolmentId: student.enrolmentId,
        state: 'scored',
        raw,
        seenEventId: null,
        isAboveConfirmed: false,
        reason: '',
      },
      built.staff.Ines ?? '',
      item.dueAt + 2 * HOUR,
    );
  }
}

/** Eight weeks of plausible work, by the same functions a person's clicks would call. */
export async function live(db: Db, built: Built, random: Random): Promise<void> {
  const past = built.items
    .filter((item) => item.isDraft !== true && item.dueAt !== null && item.opensAt < built.calendar.now)
    .sort((a, b) => (a.dueAt ?? 0) - (b.dueAt ?? 0));
  for (const item of past) await (item.kind === 'activity' ? observe(db, built, item, random) : liveItem(db, built, item, random));
  await visitPages(db, built, random);
  const exempt = built.students.find((s) => s.familyName === 'Oyelaran');
  const worksheet = built.items.find((item) => item.title === 'Gear-train worksheet');
  if (exempt !== undefined && worksheet !== undefined) {
    const seen =
      (
        await rows<{ last_event_id: string }>(db, 'select last_event_id from work_grade where item_id = $1 and enrolment_id = $2', [
          worksheet.id,
          exempt.enrolmentId,
        ])
      )[0]?.last_event_id ?? null;
    await changeCell(
      db,
      built.courseId,
      {
        columnId: await getWorkColumn(db, worksheet.id),
        enrolmentId: exempt.enrolmentId,
        state: 'exempt',
        raw: null,
        seenEventId: seen,
        isAboveConfirmed: false,
        reason: 'joined in week 4',
      },
      built.staff.Ines ?? '',
      built.calendar.at(4, 2, '10:00'),
    );
  }
  const gone = built.students.find((s) => s.habit === 'withdrawn');
  if (gone !== undefined) await withdrawMember(db, gone.enrolmentId, built.calendar.at(5, 3, '09:00'));
}
