import { type GivenCell, type GiveWish, type GivingDone, LIMITS, pageOf, type PlanItem } from '@rosemary/api';
import { dateFaults, dayAndTime, type Membership, moveDates } from '@rosemary/core';
import { DateTime } from 'luxon';
import { addAnnouncement } from '../announcements/index.ts';
import { getCourse, listSections } from '../course/index.ts';
import { servedKind } from '../kinds/index.ts';
import { saveAudience } from '../opening/index.ts';
import { type CARRIED_DATES, carry, duplicateItems, settleItems } from '../plan/index.ts';
import { type Db, rows, run } from '../platform/database.ts';
import { invalid, notFound } from '../platform/errors.ts';
import { carriage, courseName, listPlanItems, partByClass, taught } from './places.ts';

interface GivenClass {
  readonly courseId: string;
  readonly name: string;
  readonly zone: string;
  readonly isOpen: boolean;
  readonly section: { readonly id: string; readonly title: string } | null;
  readonly cells: readonly GivenCell[];
}
interface By {
  readonly personId: string;
  readonly memberships: readonly Membership[];
}

/** What is given, sorted by the class it is given to; a class that this person does not teach is not found. */
async function readClasses(db: Db, courseId: string, wish: GiveWish, by: By): Promise<GivenClass[]> {
  const allowed = new Set(taught(by.memberships, courseId));
  const classes: GivenClass[] = [];
  // As many as one person teaches: a handful.
  for (const cells of partByClass<GivenCell>(
    wish.cells,
    (c) => c.courseId,
    (c) => c.sectionId,
  )) {
    const [{ courseId: to, sectionId }] = cells;
    if (!allowed.has(to)) throw notFound();
    const course = await getCourse(db, to);
    const section = (await listSections(db, to)).find((s) => s.id === sectionId) ?? null;
    if (sectionId !== null && section === null)
      throw invalid('cells', `A section chosen in ${course.code} ${course.run} is no longer there. Choose again.`);
    if (to === courseId && section === null)
      throw invalid('cells', `The whole of ${course.code} ${course.run} has these items themselves. Choose one of its sections.`);
    const name = section === null ? courseName(course) : `${courseName(course)}, ${section.title}`;
    classes.push({ courseId: to, name, zone: course.time_zone, isOpen: course.is_open, section, cells });
  }
  return classes;
}

/** The dates a copy has as it was wished; what opens before and closes after goes along by as many days as the due date was moved. */
function datesOf(copy: PlanItem, cell: GivenCell, zone: string): Pick<PlanItem, (typeof CARRIED_DATES)[number]> {
  const day = (at: string): DateTime => DateTime.fromISO(at, { zone }).startOf('day');
  const days = cell.dueAt === null || copy.dueAt === null ? 0 : Math.round(day(cell.dueAt).diff(day(copy.dueAt), 'days').days);
  const moved = { ...copy, ...(days === 0 ? {} : moveDates(copy, days, zone)), dueAt: cell.dueAt, opensAt: cell.opensAt };
  // What opens at once, or before it was to be announced, needs no announcement.
  const isLate = cell.opensAt === null || (moved.announcedAt !== null && moved.announcedAt > cell.opensAt);
  return isLate && !cell.isDraft ? { ...moved, announcedAt: null } : moved;
}

function checkCell(copy: PlanItem, cell: GivenCell, to: GivenClass, now: number): void {
  const at = (text: string | null): number | null => (text === null ? null : Date.parse(text));
  const dates = datesOf(copy, cell, to.zone);
  const fault = dateFaults({
    announced: at(dates.announcedAt),
    opens: at(dates.opensAt),
    due: at(dates.dueAt),
    closes: at(dates.closesAt),
  })[0];
  const where = `“${copy.title}” for ${to.name}`;
  if (fault !== undefined) throw invalid('cells', `${where}: ${fault.text} Nothing was given.`);
  if (cell.isDraft) return;
  const due = at(dates.dueAt);
  if (due !== null && due <= now)
    throw invalid(
      'cells',
      `${where} would open after it is due: ${dayAndTime(due, to.zone, now)} is past. Choose a later date, or give it as a draft.`,
    );
  if (copy.isStaffOnly) throw invalid('cells', `${where} is for staff only, so it cannot be opened. Give it as a draft.`);
}

/** The copies of the items of one class, by the item each was made of. */
async function copyFor(db: Db, courseId: string, to: GivenClass, by: By, now: number): Promise<ReadonlyMap<string, string>> {
  const itemIds = to.cells.map((c) => c.itemId);
  if (to.courseId === courseId) {
    const made = await duplicateItems(db, courseId, itemIds);
    return new Map(itemIds.map((id, n) => [id, made[n] ?? '']));
  }
  // What is carried comes in the order of its units; each copy knows what it was made of.
  const { itemIds: made } = await carry(db, to.courseId, carriage(courseId, itemIds), by.personId, now);
  const sources = await rows<{ id: string; source: string }>(db, 'select id, source_item_id as source from item where id = any($1)', [
    made,
  ]);
  return new Map(sources.map((row) => [row.source, row.id]));
}

/** What a section’s copy is called: by its section, so that two in one course are told apart, also in the gradebook. */
function titleFor(title: string, section: string, taken: ReadonlySet<string>): string {
  for (let n = 1; ; n += 1) {
    const end = n === 1 ? `, ${section}` : `, ${section} (${n})`;
    const next = `${title.slice(0, LIMITS.title - end.length)}${end}`;
    if (!taken.has(next)) return next;
  }
}

/** Gives the copies of a class their titles and dates, opens those that are to be open, and says first what the class is told. */
async function settle(
  db: Db,
  to: GivenClass,
  copies: ReadonlyMap<string, string>,
  titles: ReadonlyMap<string, string>,
  now: number,
): Promise<void> {
  const laid = await listPlanItems(db, to.courseId, now);
  const settled = to.cells.map((cell) => {
    const copy = laid.get(copies.get(cell.itemId) ?? '');
    if (copy === undefined) throw notFound();
    checkCell(copy, cell, to, now);
    const taken = new Set([...laid.values()].filter((i) => i.id !== copy.id).map((i) => i.title));
    const title = titles.get(cell.itemId) ?? copy.title;
    return {
      cell,
      copy,
      dates: datesOf(copy, cell, to.zone),
      title: to.section === null ? title : titleFor(title, to.section.title, taken),
    };
  });
  for (const { cell, copy } of settled) {
    const { checkChange, putFirst } = servedKind(copy.kind);
    await checkChange(db, copy, { isDraft: cell.isDraft });
    if (to.section !== null)
      await saveAudience(db, to.courseId, 'item', copy.id, [{ sectionId: to.section.id, enrolmentId: null, groupId: null }]);
    const words = cell.words.trim();
    if (words === '') continue;
    if (putFirst === null) throw invalid('words', `“${copy.title}” has no text, so nothing can be said before it.`);
    await putFirst(db, copy.id, words);
  }
  await settleItems(
    db,
    settled.map(({ cell, copy, dates, title }) => ({ ...dates, id: copy.id, isDraft: cell.isDraft, title })),
  );
}

/** One announcement for all that opens to a class at the same time; which one tells of each item. */
async function announce(
  db: Db,
  to: GivenClass,
  copies: ReadonlyMap<string, string>,
  by: By,
  now: number,
): Promise<ReadonlyMap<string, string>> {
  const laid = await listPlanItems(db, to.courseId, now);
  const told = to.cells.filter((cell) => cell.tells && !cell.isDraft);
  const times = [...new Set(told.map((cell) => cell.opensAt))];
  const made = new Map<string, string>();
  for (const opensAt of times) {
    const together = told.filter((cell) => cell.opensAt === opensAt);
    const items = together.flatMap((cell) => laid.get(copies.get(cell.itemId) ?? '') ?? []);
    const lines = items.map((item) => {
      const due = item.dueAt === null ? '.' : `: due ${dayAndTime(Date.parse(item.dueAt), to.zone, now)}.`;
      const href = pageOf('study', { courseId: to.courseId, itemId: item.id });
      const attrs = { href, target: '_blank', rel: 'noopener noreferrer nofollow', class: null, title: null };
      return {
        type: 'paragraph',
        content: [
          { type: 'text', text: item.title, marks: [{ type: 'link', attrs }] },
          { type: 'text', text: due },
        ],
      };
    });
    const title = items.length === 1 ? `“${items[0]?.title ?? ''}” is open` : `${items.length} new items are open`;
    const isPast = opensAt !== null && Date.parse(opensAt) <= now;
    const id = await addAnnouncement(
      db,
      to.courseId,
      {
        version: 1,
        title: title.slice(0, LIMITS.title),
        document: { type: 'doc', content: lines },
        publishAt: isPast ? null : opensAt,
        sectionIds: to.section === null ? [] : [to.section.id],
        tells: true,
      },
      by.personId,
      now,
    );
    for (const cell of together) made.set(cell.itemId, id);
  }
  return made;
}

/** What a class does not see yet although it was to be open: its course is closed, or its unit opens later. */
async function listNotYet(db: Db, to: GivenClass, copies: ReadonlyMap<string, string>, now: number): Promise<string[]> {
  if (!to.isOpen && to.cells.some((c) => !c.isDraft)) return [`${to.name} is not open yet: students see nothing of it until it is.`];
  const laid = await listPlanItems(db, to.courseId, now);
  return to.cells.flatMap((cell) => {
    const item = laid.get(copies.get(cell.itemId) ?? '');
    const isDue = !cell.isDraft && (cell.opensAt === null || Date.parse(cell.opensAt) <= now);
    return item !== undefined && isDue && item.state !== 'open'
      ? [`“${item.title}” for ${to.name} waits for its unit, which opens later.`]
      : [];
  });
}

/** Gives items to several classes in one go, all of it or nothing. */
export async function giveItems(db: Db, courseId: string, wish: GiveWish, by: By, now: number): Promise<GivingDone> {
  const made: GivingDone['made'][number][] = [];
  const notYet: string[] = [];
  const given: { readonly source: string; readonly copy: string; readonly section: string | null; readonly news: string | null }[] = [];
  const classes = await readClasses(db, courseId, wish, by);
  const titles = new Map([...(await listPlanItems(db, courseId, now))].map(([id, item]) => [id, item.title]));
  const [giving] = await rows<{ id: string }>(
    db,
    'insert into giving (course_id, person_id, at) values ($1, $2, to_timestamp($3 / 1000.0)) returning id',
    [courseId, by.personId, now],
  );
  for (const to of classes) {
    const copies = await copyFor(db, courseId, to, by, now);
    await settle(db, to, copies, titles, now);
    const news = await announce(db, to, copies, by, now);
    for (const [source, copy] of copies) given.push({ source, copy, section: to.section?.id ?? null, news: news.get(source) ?? null });
    notYet.push(...(await listNotYet(db, to, copies, now)));
    made.push({ courseId: to.courseId, name: to.name, itemIds: [...copies.values()] });
  }
  await run(
    db,
    'insert into given_item (item_id, giving_id, of_item_id, section_id, announcement_id) select t.copy, $1, t.source, t.section, t.news from unnest($2::uuid[], $3::uuid[], $4::uuid[], $5::uuid[]) as t(source, copy, section, news)',
    [giving?.id, given.map((g) => g.source), given.map((g) => g.copy), given.map((g) => g.section), given.map((g) => g.news)],
  );
  return { id: giving?.id ?? '', made, notYet };
}
