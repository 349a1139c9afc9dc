import { type Desk, type DeskCourse, markingPageOf, pageOf, type Slip, type TermLineData } from '@rosemary/api';
import { countOf, classShare, dayAndTime, type Membership, minutesInWords, roundHalfUp, spanInWords, LOCALE } from '@rosemary/core';
import { DateTime } from 'luxon';
import { getCourse, listSections } from '../course/index.ts';
import { calculate, readFacts } from '../gradebook/index.ts';
import { type HandoverStanding, readHandoverStanding } from '../handover/index.ts';
import { listWaiting, type Waiting } from '../marking/index.ts';
import { countUnread } from '../notices/index.ts';
import { makeTermLine } from '../plan/index.ts';
import { listWordSlips } from '../progress/index.ts';
import { type Db, rows } from '../platform/database.ts';
import type { SignedIn } from '../platform/signedIn.ts';
import { getTerm } from '../term/index.ts';

const DAY = 86_400_000;

interface CourseDesk {
  readonly course: DeskCourse;
  readonly slips: readonly { readonly slip: Slip; readonly urgency: number }[];
  readonly minutes: number;
  readonly oldestAt: number | null;
  readonly isRunning: boolean;
}

/** Where what waits is marked: works in their stack, a quiz under its results. */
const placeOf = (courseId: string, w: Waiting): string => markingPageOf(w.column.kind, { courseId, itemId: w.column.itemId });

function markSlip(courseId: string, short: string, w: Waiting, now: number): { slip: Slip; urgency: number } {
  const age = w.oldestAt === null ? 0 : now - w.oldestAt;
  return {
    urgency: age,
    slip: {
      id: `mark:${w.column.id}`,
      verb: 'Mark',
      text: `${w.waits} ${w.waits === 1 ? 'work' : 'works'} · ${w.column.title}`,
      after: `of ${w.students}`,
      detail: `${short}${w.minutes === 0 ? '' : ` · ${w.pace}`} · oldest waits`,
      strong: `${spanInWords(age)}`,
      action: `${w.minutes === 0 ? 'Begin' : `about ${minutesInWords(w.minutes)} · Begin`}`,
      to: placeOf(courseId, w),
    },
  };
}

function releaseSlip(courseId: string, short: string, w: Waiting): { slip: Slip; urgency: number } {
  return {
    urgency: DAY,
    slip: {
      id: `release:${w.column.id}`,
      verb: 'Release',
      text: `${w.finished} finished ${w.finished === 1 ? 'mark' : 'marks'} · ${w.column.title}`,
      after: '',
      detail: `${short} · finished, not yet shown to the students`,
      strong: '',
      action: 'Look',
      to: placeOf(courseId, w),
    },
  };
}

/** Discussions with posts this person has not read. */
async function readSlips(db: Db, courseId: string, short: string, personId: string): Promise<{ slip: Slip; urgency: number }[]> {
  const unread = await countUnread(db, courseId, personId);
  const titles = await rows<{ id: string; title: string }>(db, 'select id, title from item where id = any($1)', [[...unread.keys()]]);
  return titles.map(({ id, title }) => {
    const many = unread.get(id) ?? 0;
    return {
      urgency: DAY / 2,
      slip: {
        id: `read:${id}`,
        verb: 'Read',
        text: `${many} new ${many === 1 ? 'post' : 'posts'} · ${title}`,
        after: '',
        detail: `${short} · discussion`,
        strong: '',
        action: 'Read',
        to: pageOf('item', { courseId, itemId: id }),
      },
    };
  });
}

/** Drafts due within seven days: the student would find nothing there. */
async function draftSlips(db: Db, courseId: string, short: string, zone: string, now: number): Promise<{ slip: Slip; urgency: number }[]> {
  const drafts = await rows<{ id: string; title: string; due_at: Date }>(
    db,
    `
    select i.id, i.title, i.due_at from item i where i.course_id = $1 and i.is_draft and i.off_was_draft is null and not i.is_staff_only and i.removed_at is null and i.due_at > to_timestamp($2 / 1000.0) and i.due_at <= to_timestamp($3 / 1000.0)
      and exists (select 1 from unit_item ui join unit u on u.id = ui.unit_id and u.removed_at is null where ui.item_id = i.id) order by i.due_at`,
    [courseId, now, now + 7 * DAY],
  );
  return drafts.map((d) => ({
    urgency: 8 * DAY - (d.due_at.getTime() - now),
    slip: {
      id: `finish:${d.id}`,
      verb: 'Finish',
      text: d.title,
      after: '',
      detail: `${short} · still a draft, due`,
      strong: dayAndTime(d.due_at.getTime(), zone, now),
      action: 'Open in the Plan',
      to: pageOf('plan', { courseId }, { item: d.id }),
    },
  }));
}

async function finalSlips(db: Db, courseId: string, short: string, zone: string, now: number): Promise<{ slip: Slip; urgency: number }[]> {
  const standing = await readHandoverStanding(db, courseId);
  return standing === null ? [] : finalSlip(courseId, short, standing, zone, now);
}
/** Students who need a word, a slip for each rule that found some. */
async function wordSlips(db: Db, member: Membership, short: string, now: number): Promise<{ slip: Slip; urgency: number }[]> {
  const { courseId } = member;
  return (await listWordSlips(db, courseId, member, now)).map((found) => ({
    // A day of waiting for somebody who is going under weighs more than a day of marking.
    urgency: (found.urgency / 20) * DAY,
    slip: {
      id: `word:${courseId}:${found.rule}`,
      verb: 'Write to',
      text: `${countOf(found.students, 'person', 'people')} ${found.words}`,
      after: '',
      detail: `${short} · Progress`,
      strong: '',
      action: 'Who',
      to: pageOf('progress', { courseId }, { rule: found.rule }),
    },
  }));
}
const WINDOW_NEAR = 14 * DAY;
/** Final grades that are to be agreed or sent while the registrar’s window is open, or soon will be. */
function finalSlip(
  courseId: string,
  short: string,
  standing: HandoverStanding,
  zone: string,
  now: number,
): { slip: Slip; urgency: number }[] {
  const { students, agreed, held, refused, opensAt, closesAt } = standing;
  if (students === 0 || held >= students || opensAt === null || closesAt === null || closesAt <= now || opensAt - now > WINDOW_NEAR)
    return [];
  const isOpen = opensAt <= now;
  return [
    {
      urgency: Math.max(DAY, 8 * DAY - (closesAt - now)),
      slip: {
        id: `finals:${courseId}`,
        verb: agreed < students ? 'Agree and send' : 'Send',
        text: `${students - held} of ${students} final grades · ${short}`,
        after: refused > 0 ? `${refused} refused` : '',
        detail: isOpen ? 'the registrar’s window closes' : 'the registrar’s window opens',
        strong: dayAndTime(isOpen ? closesAt : opensAt, zone, now),
        action: 'Final grades',
        to: pageOf('finals', { courseId }),
      },
    },
  ];
}

async function deskOf(db: Db, member: Membership, markerId: string, now: number): Promise<CourseDesk> {
  const course = await getCourse(db, member.courseId);
  const short = course.short_title === '' ? course.title : course.short_title;
  const { zone, term } = await getTerm(db, member.courseId);
  const isRunning = DateTime.fromMillis(now, { zone }).toISODate()! <= term.endsOn;
  const waiting = (await listWaiting(db, member.courseId, member, markerId, now)).filter((w) => w.waits > 0 || w.finished > 0);
  const facts = await readFacts(db, member.courseId, { sectionIds: member.sectionIds });
  const calculation = calculate(facts, now, false);
  const mean = classShare(facts.people.map((p) => calculation.totalsOf(calculation.cellsOf(p)).soFar.ratio));
  const sections = await listSections(db, member.courseId);
  const slips = waiting.flatMap((w) => [
    ...(w.waits > 0 ? [markSlip(member.courseId, short, w, now)] : []),
    ...(w.finished > 0 && member.role === 'instructor' && w.column.releaseMode === 'hand' ? [releaseSlip(member.courseId, short, w)] : []),
  ]);
  const oldest = waiting.flatMap((w) => (w.oldestAt === null ? [] : [w.oldestAt]));
  return {
    isRunning,
    minutes: waiting.reduce((sum, w) => sum + w.minutes, 0),
    oldestAt: oldest.length === 0 ? null : Math.min(...oldest),
    slips: [
      ...slips,
      ...(isRunning ? await wordSlips(db, member, short, now) : []),
      ...(isRunning ? await readSlips(db, member.courseId, short, markerId) : []),
      ...(member.isOfRecord === true ? await finalSlips(db, member.courseId, short, zone, now) : []),
      ...(member.role === 'instructor' && isRunning ? await draftSlips(db, member.courseId, short, zone, now) : []),
    ],
    course: {
      id: member.courseId,
      title: course.title,
      about: isRunning
        ? `${course.code} · ${sections.length === 1 ? 'one section' : `${sections.length} sections`}${course.is_open ? '' : ' · closed to students'}`
        : `${course.code} · ${course.term_title}, finished`,
      students: facts.people.length,
      toMark: waiting.reduce((sum, w) => sum + w.waits, 0),
      soFar: mean === null ? null : `${roundHalfUp(mean.mul(100), facts.policy.decimals)} %`,
    },
  };
}

/** The term lines of the running courses in one strip; courses of another term than the first are left out of it. */
async function combinedLine(db: Db, running: readonly DeskCourse[], now: number): Promise<TermLineData | null> {
  const first = running[0];
  if (first === undefined) return null;
  const { term, zone } = await getTerm(db, first.id);
  const same = await rows<{ id: string }>(
    db,
    'select id from course where id = any($1) and term_id = (select term_id from course where id = $2)',
    [running.map((c) => c.id), first.id],
  );
  return makeTermLine(
    db,
    running.filter((c) => same.some((s) => s.id === c.id)),
    term,
    zone,
    now,
  );
}

export async function makeDesk(db: Db, person: SignedIn, now: number): Promise<Desk> {
  const own = person.memberships.filter((m) => m.role !== 'student' && m.isActive && m.isArchived !== true);
  const desks: CourseDesk[] = [];
  for (const member of own) desks.push(await deskOf(db, member, person.personId, now));
  desks.sort((a, b) => Number(b.isRunning) - Number(a.isRunning) || b.course.students - a.course.students);
  const hidden = new Map(
    (
      await rows<{ slip: string; hidden_until: Date | null }>(db, 'select slip, hidden_until from slip_choice where person_id = $1', [
        person.personId,
      ])
    ).map((row) => [row.slip, row.hidden_until]),
  );
  const isHidden = (slip: Slip): boolean => {
    const until = hidden.get(slip.id);
    return until === null || (until !== undefined && until.getTime() > now);
  };
  const all = desks
    .flatMap((d) => d.slips)
    .sort((a, b) => b.urgency - a.urgency)
    .map((s) => s.slip);
  const running = desks.filter((d) => d.isRunning);
  const line = await combinedLine(
    db,
    running.map((d) => d.course),
    now,
  );
  const minutes = desks.reduce((sum, d) => sum + d.minutes, 0);
  const oldest = desks.flatMap((d) => (d.oldestAt === null ? [] : [d.oldestAt]));
  const zone = running[0] === undefined ? 'UTC' : (await getTerm(db, running[0].course.id)).zone;
  const today = DateTime.fromMillis(now, { zone }).setLocale(LOCALE);
  const many = running.length === 1 ? 'one course' : `${running.length} courses`;
  return {
    heading:
      line === null || line.week < 1 || line.week > line.weeks.length
        ? today.toFormat('cccc d LLLL')
        : `${today.toFormat('cccc')}, week ${line.week}`,
    summary:
      desks.length === 0
        ? ''
        : oldest.length === 0
          ? `${many}, nothing waits to be marked`
          : `${many}, about ${minutesInWords(minutes)} of marking waiting, the oldest for ${spanInWords(now - Math.min(...oldest))}`,
    line,
    slips: all.filter((s) => !isHidden(s)),
    courses: desks.map((d) => d.course),
    putOff: all.filter(isHidden).map((slip) => {
      const until = hidden.get(slip.id) ?? null;
      return {
        slip,
        back: until === null ? 'not needed' : `back on ${DateTime.fromJSDate(until, { zone }).setLocale(LOCALE).toFormat('cccc')}`,
      };
    }),
  };
}
