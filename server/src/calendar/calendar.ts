import { type CalendarEntry, type CalendarView, pageOf, type PlanItem } from '@rosemary/api';
import type { Membership } from '@rosemary/core';
import { default as ical, ICalCalendarMethod, ICalEventBusyStatus } from 'ical-generator';
import { DateTime } from 'luxon';
import { listAnnouncements } from '../announcements/index.ts';
import { getCourse, listSections } from '../course/index.ts';
import { listVisible } from '../opening/index.ts';
import { listReviewsDue } from '../peer/index.ts';
import { findSignedIn } from '../people/index.ts';
import { getPlan } from '../plan/index.ts';
import { type Db, maybe, run } from '../platform/database.ts';
import { notFound } from '../platform/errors.ts';
import { getTerm } from '../term/index.ts';
import { ownReason } from '@rosemary/core';

const KINDS = ['opens', 'due', 'closes'] as const;
interface Dated {
  readonly id: string;
  readonly title: string;
  readonly opens: number | null;
  readonly due: number | null;
  readonly closes: number | null;
  readonly reason: string;
  /** The sections whose date it is; null is all of them. */
  readonly sectionIds: readonly string[] | null;
  /** The section that has these dates instead of everyone’s; null where they are everyone’s. */
  readonly ownOf: string | null;
}
const FIELDS = { opens: 'opensAt', due: 'dueAt', closes: 'closesAt' } as const;
const at = (text: string | null): number | null => (text === null ? null : Date.parse(text));

/** An item for those who teach: its date for everyone, and beside it those of sections that have another. */
function datedOf(item: PlanItem, sections: readonly { readonly id: string; readonly title: string }[]): Dated[] {
  const reason = item.isDraft ? 'draft' : '';
  const base = { id: item.id, title: item.title };
  const forWhom = item.audience.flatMap((one) => one.sectionId ?? []);
  // Who is not of a section can be meant as well: then it stands for all.
  const reached = forWhom.length > 0 && forWhom.length === item.audience.length ? forWhom : null;
  const own = item.variants.flatMap((v) => {
    const section = sections.find((one) => one.id === v.sectionId);
    return section === undefined ? [] : [{ v, section }];
  });
  const none = { opens: null, due: null, closes: null };
  const all = KINDS.map((kind): Dated => {
    const others = own.filter(({ v }) => v[FIELDS[kind]] !== null).map(({ section }) => section.id);
    const left = sections.map((one) => one.id).filter((id) => !others.includes(id) && (reached === null || reached.includes(id)));
    return { ...base, ...none, [kind]: at(item[FIELDS[kind]]), reason, sectionIds: others.length === 0 ? reached : left, ownOf: null };
  }).filter((one) => one.sectionIds === null || one.sectionIds.length > 0);
  const others = own.map(({ v, section }): Dated => {
    const dates = { opens: at(v.opensAt), due: at(v.dueAt), closes: at(v.closesAt) };
    return {
      ...base,
      ...dates,
      reason: [`for ${section.title}`, reason].filter(Boolean).join(', '),
      sectionIds: [section.id],
      ownOf: section.id,
    };
  });
  return [...all, ...others];
}

/** What has dates in a course for this member: a student their own dates, staff those of the items and of their sections, drafts among them. */
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
      sectionIds: null,
      ownOf: null,
    }));
    return { items, view: 'study' };
  }
  const sections = (await listSections(db, courseId)).filter((s) => member.sectionIds === null || member.sectionIds.includes(s.id));
  const items = (await getPlan(db, courseId, now)).units.flatMap((unit) => unit.items).flatMap((item) => datedOf(item, sections));
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
    KINDS.flatMap((kind) => {
      const at = item[kind];
      const id = [item.id, kind, ...(item.ownOf === null ? [] : [item.ownOf])].join('-');
      const sameDay = `${item.id} ${at} ${item.ownOf ?? ''}`;
      // An item that stands in several units has each of its dates once; closing at the due time says nothing more.
      if (at === null || seen.has(id) || (kind === 'closes' && seen.has(sameDay))) return [];
      seen.add(id);
      if (kind === 'due') seen.add(sameDay);
      const { reason, sectionIds } = item;
      return [
        {
          ...head,
          id,
          kind,
          title: item.title,
          at: new Date(at).toISOString(),
          until: null,
          path: pageOf(view, { courseId, itemId: item.id }),
          reason,
          sectionIds,
        },
      ];
    }),
  );
  for (const review of await listReviewsDue(db, courseId, member, now))
    entries.push({
      ...{ ...head, id: `${review.itemId}-reviews`, kind: 'due', title: `${review.title}: reviews`, at: new Date(review.at).toISOString() },
      ...{ until: null, path: pageOf(view, { courseId, itemId: review.itemId }), reason: '', sectionIds: null },
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
      sectionIds: null,
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
      sectionIds: member.role === 'student' || a.sections.length === 0 ? null : a.sections.map((one) => one.id),
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
