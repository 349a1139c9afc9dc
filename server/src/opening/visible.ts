import {
  type DatesInForce,
  dayAndTime,
  type DoneRule,
  isDone,
  type ItemKind,
  type Membership,
  type Opening,
  type OpeningFacts,
  ruleInWords,
  rulesWaitedFor,
  termEnd,
  type Traces,
  type Visibility,
  visibilityFor,
} from '@rosemary/core';
import { type Db, rows } from '../platform/database.ts';
import { notFound } from '../platform/errors.ts';
import { getTerm } from '../term/index.ts';
import { datedOf, makeDatesFor } from './dates.ts';
import { readReach } from './reach.ts';
import { millis } from '../platform/instants.ts';

export interface VisibleItem {
  readonly id: string;
  readonly kind: ItemKind;
  readonly title: string;
  readonly unitId: string;
  readonly unit: string;
  readonly isStanding: boolean;
  readonly possible: number;
  readonly estimatedMinutes: number;
  readonly doneRule: DoneRule;
  readonly doneScore: number | null;
  readonly isRequired: boolean;
  readonly category: string | null;
  /** It is written in a room, so nothing of it is handed in here. */
  readonly isOnPaper: boolean;
}

export interface Visible {
  readonly item: VisibleItem;
  readonly visibility: Visibility;
  readonly dates: DatesInForce;
  readonly isDone: boolean;
  readonly handedInAt: number | null;
  readonly openedAt: number | null;
  readonly releasedAt: number | null;
  /** Why it is not open, in words; empty where it is. */
  readonly waitsFor: string;
}

interface Row {
  id: string;
  kind: ItemKind;
  title: string;
  unit_id: string;
  unit: string;
  is_standing: boolean;
  possible: number;
  estimated_minutes: number;
  done_rule: DoneRule;
  done_score: number | null;
  is_required: boolean;
  category: string | null;
  is_on_paper: boolean;
  announced_at: Date | null;
  opens_at: Date | null;
  due_at: Date | null;
  closes_at: Date | null;
  opened_at: Date | null;
  ticked_at: Date | null;
  handed_in_at: Date | null;
  grade_state: string | null;
  raw: number | null;
  released_at: Date | null;
  reviews_given: boolean | null;
}

const tracesOf = (row: Row): Traces => ({
  openedAt: millis(row.opened_at),
  tickedAt: millis(row.ticked_at),
  handedInAt: millis(row.handed_in_at),
  result: row.raw,
  isMarked: row.grade_state === 'scored',
  isExempt: row.grade_state === 'exempt',
  areReviewsGiven: row.reviews_given === true,
});

const itemOf = (row: Row): VisibleItem => ({
  id: row.id,
  kind: row.kind,
  title: row.title,
  unitId: row.unit_id,
  unit: row.unit,
  isStanding: row.is_standing,
  possible: row.possible,
  estimatedMinutes: row.estimated_minutes,
  doneRule: row.done_rule,
  doneScore: row.done_score,
  isRequired: row.is_required,
  category: row.category,
  isOnPaper: row.is_on_paper,
});

/** Items with all that their opening waits for: whoever judges the one has to know the others. */
function withAwaited(ids: readonly string[], openingOf: (id: string) => Opening): string[] {
  const known = new Set(ids);
  // A set that grows while it is gone through hands out what was added to it.
  for (const id of known) for (const rule of openingOf(id).rules) if (rule.kind !== 'date') known.add(rule.itemId);
  return [...known];
}

/**
 * What one student may see of a course, or of some items of it: open and closed items whole, announced ones by title and date, nothing of
 * drafts, and of marks only the released ones. Every student view and every file link rests on this list.
 */
export async function listVisible(
  db: Db,
  courseId: string,
  member: Pick<Membership, 'enrolmentId' | 'sectionIds'>,
  now: number,
  only: readonly string[] | null = null,
): Promise<Visible[]> {
  const { zone, term } = await getTerm(db, courseId);
  const reach = await readReach(db, courseId);
  const datesFor = await makeDatesFor(db, courseId, zone, termEnd(term, zone), reach);
  const found = await rows<Row>(
    db,
    `
    select i.id, i.kind, i.title, u.id as unit_id, u.title as unit, u.is_standing, (i.possible * 1000)::int as possible, i.estimated_minutes, i.done_rule, (i.done_score * 1000)::int as done_score, i.is_required, c.title as category,
           coalesce(z.taken = 'paper', a.on_paper, false) as is_on_paper,
           i.announced_at, i.opens_at, i.due_at, i.closes_at,
           (select v.first_at from item_opened v where v.item_id = i.id and v.enrolment_id = $2) as opened_at, k.at as ticked_at,
           coalesce((select max(h.handed_in_at) from hand_in h where h.item_id = i.id and h.enrolment_id = $2),
                    (select min(o.created_at) from post o where o.item_id = i.id and o.enrolment_id = $2 and o.removed_at is null)) as handed_in_at,
           case when g.is_released then g.state end as grade_state, case when g.is_released then (g.raw * 1000)::int end as raw,
           case when g.is_released then (select max(ge.at) from grade_event ge where ge.column_id = i.column_id and ge.enrolment_id = $2 and ge.is_released) end as released_at,
           (select r.are_given from reviews_given r where r.item_id = i.id and r.enrolment_id = $2) as reviews_given
    from graded_item i join unit_item ui on ui.item_id = i.id join unit u on u.id = ui.unit_id and u.removed_at is null
    left join category c on c.id = i.category_id left join quiz z on z.item_id = i.id left join assignment a on a.item_id = i.id left join tick k on k.item_id = i.id and k.enrolment_id = $2 left join grade g on g.column_id = i.column_id and g.enrolment_id = $2
    where i.course_id = $1 and i.removed_at is null and not i.is_draft and ($3::uuid[] is null or i.id = any($3))
    order by not u.is_standing, u.position, ui.position`,
    [courseId, member.enrolmentId, only === null ? null : withAwaited(only, reach.openingOf)],
  );
  const person = { enrolmentId: member.enrolmentId, sectionId: member.sectionIds?.[0] ?? null };
  const own = found.filter((row) => reach.isFor(row.id, person)).map((row) => ({ row, traces: tracesOf(row) }));
  const byId = new Map(own.map((one) => [one.row.id, one]));
  const when = (at: number): string => dayAndTime(at, zone, now);
  const known: OpeningFacts = {
    now,
    isDone: (id) => {
      const other = byId.get(id);
      return other !== undefined && isDone(other.row.done_rule, other.traces, other.row.done_score);
    },
    resultOf: (id) => byId.get(id)?.row.raw ?? null,
  };
  const judge = ({ row, traces }: (typeof own)[number]): Visible | null => {
    const dates = datesFor(datedOf(row.id, row), person);
    const isOpenedByHand = reach.isOpenedByHand(row.id, person, now);
    const waiting = rulesWaitedFor(reach.openingOf(row.id), known);
    // Whoever has handed in keeps the way to their own work.
    const isWaiting = waiting.length > 0 && traces.handedInAt === null;
    const visibility = visibilityFor(false, dates, now, { isOpenedByHand, isWaiting });
    if (visibility === 'hidden') return null;
    return {
      item: itemOf(row),
      visibility,
      dates,
      isDone: isDone(row.done_rule, traces, row.done_score),
      handedInAt: traces.handedInAt,
      openedAt: traces.openedAt,
      releasedAt: millis(row.released_at),
      waitsFor: '',
    };
  };
  const visible = own.flatMap((one) => judge(one) ?? []);
  // What is announced may be named in the reason of another; what is hidden may not.
  const titles = new Map(visible.map((v) => [v.item.id, v.item.title]));
  const wanted = only === null ? visible : visible.filter((v) => only.includes(v.item.id));
  return wanted.map((v): Visible => {
    if (v.visibility !== 'announced') return v;
    const opening = reach.openingOf(v.item.id);
    const rules = rulesWaitedFor(opening, known).map((rule) => ruleInWords(rule, (id) => titles.get(id) ?? null, when));
    const isEarly = v.dates.opens.at !== null && now < v.dates.opens.at;
    const joined = rules.join(opening.needs === 'all' ? ' and ' : ' or ');
    const words = [...(isEarly ? [`opens ${when(v.dates.opens.at as number)}`] : []), ...(joined === '' ? [] : [`opens when ${joined}`])];
    return { ...v, waitsFor: words.join(', and ') };
  });
}

/** What a student may see of one item; anything else is not there for them. */
export async function getVisible(db: Db, courseId: string, itemId: string, member: Membership, now: number): Promise<Visible> {
  const found = (await listVisible(db, courseId, member, now, [itemId])).find((v) => v.item.id === itemId);
  if (found === undefined) throw notFound();
  return found;
}
