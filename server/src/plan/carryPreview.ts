import type { CarryItem, CarryPreview, CarryWish } from '@rosemary/api';
import { type DocumentNode, findMentions, plainText, prepareShift, type Shift, shiftDate, type Term, writeDate } from '@rosemary/core';
import { getCourse } from '../course/index.ts';
import { type Db, rows } from '../platform/database.ts';
import { getTerm } from '../term/index.ts';
import { readPolicies } from './carryPolicy.ts';
import { getPlan } from './queries.ts';

export const CARRIED_DATES = ['announcedAt', 'opensAt', 'dueAt', 'closesAt'] as const;

type DateName = (typeof CARRIED_DATES)[number];

const WORDS: { readonly [name in DateName]: string } = { announcedAt: 'announced', opensAt: 'opens', dueAt: 'due', closesAt: 'closes' };

export interface Moved {
  readonly name: DateName;
  readonly was: number;
  readonly will: number | null;
  readonly note: string;
}

/** What carrying needs to know of both courses, read once for preview and for the deed. */
export interface Carriage {
  readonly preview: CarryPreview;
  /** For each item to be brought in, its new dates. */
  readonly dates: ReadonlyMap<string, readonly Moved[]>;
}

function moveDates(item: { readonly [name in DateName]: string | null }, shift: Shift | null): Moved[] {
  return CARRIED_DATES.flatMap((name): Moved[] => {
    const at = item[name];
    if (at === null) return [];
    const was = Date.parse(at);
    if (shift === null) return [{ name, was, will: null, note: 'left off' }];
    const found = shiftDate(shift, was);
    return [
      found.ok ? { name, was, will: found.at, note: found.moved ?? '' } : { name, was, will: null, note: `not placed: ${found.reason}` },
    ];
  });
}

interface ExistingRow {
  source_item_id: string;
  id: string;
  title: string;
  has_work: boolean;
}

async function readDocuments(db: Db, courseId: string): Promise<Map<string, DocumentNode>> {
  const found = await rows<{ item_id: string; document: DocumentNode | null }>(
    db,
    'select i.id as item_id, coalesce(p.document, a.instructions) as document from item i left join page p on p.item_id = i.id left join assignment a on a.item_id = i.id where i.course_id = $1 and i.removed_at is null',
    [courseId],
  );
  return new Map(found.flatMap((row) => (row.document === null ? [] : [[row.item_id, row.document]])));
}

function mentionsOf(document: DocumentNode | undefined, term: Term, fromId: string, coming: ReadonlySet<string>): string[] {
  if (document === undefined) return [];
  const inside = JSON.stringify(document).matchAll(new RegExp(`/courses/${fromId}/(?:items|study)/([0-9a-f-]{36})`, 'g'));
  const links = [...inside].filter((link) => !coming.has(link[1] ?? '')).length;
  const words = findMentions(plainText(document), term).map((m) => m.around);
  return links > 0
    ? [
        ...words,
        `${links === 1 ? 'a link to an item' : `${links} links to items`} of the old course that ${links === 1 ? 'does' : 'do'} not come along`,
      ]
    : words;
}

/** Every date old and new, what could not be placed, what is here already, and what in the text belongs to the old term. */
export async function readCarriage(db: Db, courseId: string, wish: CarryWish, now: number): Promise<Carriage> {
  const source = await getCourse(db, wish.fromCourseId);
  const [from, to] = [await getTerm(db, wish.fromCourseId), await getTerm(db, courseId)];
  const plan = await getPlan(db, wish.fromCourseId, now);
  const documents = await readDocuments(db, wish.fromCourseId);
  const existing = new Map(
    (
      await rows<ExistingRow>(
        db,
        `select distinct on (i.source_item_id) i.source_item_id, i.id, i.title, exists (select 1 from submission s where s.item_id = i.id) or exists (select 1 from work_grade g where g.item_id = i.id and g.state is not null) as has_work
        from item i where i.course_id = $1 and i.source_item_id is not null and i.removed_at is null order by i.source_item_id, i.created_at desc`,
        [courseId],
      )
    ).map((row) => [row.source_item_id, row]),
  );
  const shift = wish.hasDates
    ? prepareShift({
        from: from.term,
        to: to.term,
        fromZone: from.zone,
        toZone: to.zone,
        weekdays: Object.fromEntries(wish.weekdays.map((w) => [w.from, w.to])),
      })
    : null;
  // A link to what comes along, or came before, leads to it here.
  const coming = new Set([...wish.itemIds, ...existing.keys()]);
  const dates = new Map<string, readonly Moved[]>();
  const units = plan.units.map((unit) => ({
    isStanding: unit.isStanding,
    id: unit.id,
    title: unit.title,
    items: unit.items.map((item): CarryItem => {
      const moved = moveDates(item, shift);
      dates.set(item.id, moved);
      const own = existing.get(item.id);
      return {
        id: item.id,
        kind: item.kind,
        title: item.title,
        dates: moved.map((m) => ({
          name: WORDS[m.name],
          was: writeDate(m.was, from.zone),
          will: m.will === null ? null : writeDate(m.will, to.zone),
          note: m.note,
        })),
        nextNote: item.nextNote,
        mentions: mentionsOf(documents.get(item.id), from.term, wish.fromCourseId, coming),
        existing: own === undefined ? null : { id: own.id, title: own.title, hasWork: own.has_work },
      };
    }),
  }));
  return {
    dates,
    preview: {
      from: { id: source.id, title: source.title, run: source.run, term: from.term },
      to: to.term,
      policy: await readPolicies(db, source.id, courseId),
      units,
    },
  };
}
