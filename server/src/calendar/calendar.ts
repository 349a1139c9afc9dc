import { type CalendarEntry, type CalendarView, pageOf } from '@rosemary/api';
import type { Membership } from '@rosemary/core';
import { default as ical, ICalCalendarMethod, ICalEventBusyStatus } from 'ical-generator';
import { DateTime } from 'luxon';
import { listAnnouncements } from '../announcements/index.ts';
import { getCourse } from '../course/index.ts';
import { listVisible } from '../opening/index.ts';
import { listReviewsDue } from '../peer/index.ts';
import { findSignedIn } from '../people/index.ts';
import { getPlan } from '../plan/index.ts';
import { type Db, maybe, run } from '../platform/database.ts';
import { notFound } from '../platform/errors.ts';
import { getTerm } from '../term/index.ts';
import { ownReason } from '@rosemary/core';

interface Dated {
  readonly id: string;
  readonly title: string;
  readonly opens: number | null;
  readonly due: number | null;
  readonly closes: number | null;
  readonly reason: string;
}

/** What has dates in a course for this member: a student their own dates, staff those of the items, drafts among them. */
async function listDated(db: Db, courseId: string, member: Membership, now: number): Promise<{ items: Dated[]; view: 'study' | 'item' }> {
  if (member.role === 'student') {
    const visible = await listVisible(db, courseId, member, now);
    const items = visible.map((v) => ({
      id: v.item.id,
      title: v.item.title,
      opens: v.visibility === 'announced' ? v.dates.opens.at : null,
      due: v.dates.due.at,
      closes: v.dates.closes.reason.startsWith('no closing date') ? null : v.dates.closes.at,
      reason: ownReason(v.dates.due.reason),
    }));
    return { items, view: 'study' };
  }
  const at = (text: string | null): number | null => (text === null ? null : Date.parse(text));
  const items = (await getPlan(db, courseId, now)).units
    .flatMap((u) => u.items)
    .map((i) => ({
      id: i.id,
      title: i.title,
      opens: at(i.opensAt),
      due: at(i.dueAt),
      closes: at(i.closesAt),
      reason: i.isDraft ? 'draft' : '',
    }));
  return { items, view: 'item' };
}

async function listEntries(db: Db, member: Membership, personId: string, now: number): Promise<{ entries: CalendarEntry[]; zone: string }> {
  const { courseId } = member;
  const course = await getCourse(db, courseId);
  const { term, zone } = await getTerm(db, courseId);
  const { items, view } = await listDated(db, courseId, member, now);
  const head = { courseId, course: course.short_title === '' ? course.title : course.short_title };
  const seen = new Set<string>();
  const entries: CalendarEntry[] = items.flatMap((item) =>
    (['opens', 'due', 'closes'] as const).flatMap((kind) => {
      const at = item[kind];
      // An item that stands in several units has each of its dates once; closing at the due time says nothing more.
      if (at === null || seen.has(`${item.id} ${kind}`) || (kind === 'closes' && at === item.due)) return [];
      seen.add(`${item.id} ${kind}`);
      const { reason } = item;
      return [
        {
          ...head,
          id: `${item.id}-${kind}`,
          kind,
          title: item.title,
          at: new Date(at).toISOString(),
          until: null,
          path: pageOf(view, { courseId, itemId: item.id }),
          reason,
        },
      ];
    }),
  );
  for (const review of await listReviewsDue(db, courseId, member, now))
    entries.push({
      ...{ ...head, id: `${review.itemId}-reviews`, kind: 'due', title: `${review.title}: reviews`, at: new Date(review.at).toISOString() },
      ...{ until: null, path: pageOf(view, { courseId, itemId: review.itemId }), reason: '' },
    });
  for (const holiday of term.holidays)
    entries.push({
      ...head,
      id: `${courseId}-${holiday.startsOn}`,
      kind: 'holiday',
      title: holiday.title,
      at: DateTime.fromISO(holiday.startsOn, { zone }).toUTC().toISO() ?? '',
      until: DateTime.fromISO(holiday.endsOn, { zone }).endOf('day').toUTC().toISO(),
      path: '',
      reason: '',
    });
  for (const a of (await listAnnouncements(db, courseId, member, personId, now)).announcements)
    entries.push({
      ...head,
      id: a.id,
      kind: 'announcement',
      title: a.title,
      at: a.publishAt,
      until: null,
      path: pageOf('announcements', { courseId }, { of: a.id }),
      reason: a.isScheduled ? 'not published yet' : '',
    });
  return { entries, zone };
}

export async function makeCalendar(db: Db, members: readonly Membership[], personId: string, now: number): Promise<CalendarView> {
  const all: CalendarEntry[] = [];
  let timeZone = 'UTC';
  for (const member of members) {
    const { entries, zone } = await listEntries(db, member, personId, now);
    all.push(...entries);
    timeZone = zone;
  }
  return { entries: all.sort((a, b) => a.at.localeCompare(b.at)), timeZone, now: new Date(now).toISOString() };
}

/** The secret under which a calendar program reads someone's dates; `renews` makes the old one worthless. */
export async function getFeedSecret(db: Db, personId: string, renews: boolean, now: number): Promise<string> {
  await run(
    db,
    `insert into calendar_feed (person_id, made_at) values ($1, to_timestamp($2 / 1000.0)) on conflict (person_id) do ${
      renews ? 'update set secret = gen_random_uuid(), made_at = excluded.made_at' : 'nothing'
    }`,
    [personId, now],
  );
  return (await maybe<{ secret: string }>(db, 'select secret from calendar_feed where person_id = $1', [personId]))?.secret ?? '';
}

const WORDS: Readonly<Record<CalendarEntry['kind'], string>> = {
  due: 'due',
  opens: 'opens',
  closes: 'closes',
  holiday: '',
  announcement: '',
};

/** An iCalendar (RFC 5545) file of the dates of whoever this secret belongs to: those of now, made each time it is read. */
export async function makeFeed(db: Db, secret: string, now: number): Promise<string> {
  const owner = await maybe<{ person_id: string }>(db, 'select person_id from calendar_feed where secret = $1', [secret]);
  const person = owner === null ? null : await findSignedIn(db, owner.person_id, now);
  if (person === null) throw notFound();
  const { entries } = await makeCalendar(
    db,
    person.memberships.filter((m) => m.isActive),
    person.personId,
    now,
  );
  const calendar = ical({
    name: 'Rosemary',
    method: ICalCalendarMethod.PUBLISH,
    prodId: { company: 'Rosemary', product: 'Course dates', language: 'EN' },
  });
  for (const entry of entries.filter((e) => e.kind !== 'announcement')) {
    const at = new Date(entry.at);
    calendar.createEvent({
      id: `${entry.id}@rosemary`,
      stamp: new Date(now),
      start: at,
      end: entry.until === null ? at : new Date(entry.until),
      summary: [entry.title, WORDS[entry.kind], `(${entry.course})`].filter((w) => w !== '').join(' '),
      description: entry.reason,
      busystatus: ICalEventBusyStatus.FREE,
      ...(entry.kind === 'holiday' ? { allDay: true } : {}),
    });
  }
  return calendar.toString();
}
