import {
  isDone,
  visibilityFor,
  type DatesInForce,
  type DoneRule,
  type ItemKind,
  type Membership,
  type Visibility,
  termEnd,
} from '@rosemary/core';
import { getTerm, makeDatesFor } from '../gradebook/facts.ts';
import { rows, type Db } from '../platform/database.ts';

export interface VisibleItem {
  readonly id: string;
  readonly kind: ItemKind;
  readonly title: string;
  readonly unitId: string;
  readonly unit: string;
  readonly possible: number;
  readonly estimatedMinutes: number;
  readonly doneRule: DoneRule;
  readonly isRequired: boolean;
  readonly category: string | null;
}
export interface Visible {
  readonly item: VisibleItem;
  readonly visibility: Visibility;
  readonly dates: DatesInForce;
  readonly isDone: boolean;
  readonly handedInAt: number | null;
  readonly openedAt: number | null;
  readonly releasedAt: number | null;
}

interface Row {
  id: string;
  kind: ItemKind;
  title: string;
  unit_id: string;
  unit: string;
  possible: number;
  estimated_minutes: number;
  done_rule: DoneRule;
  done_score: number | null;
  is_required: boolean;
  category: string | null;
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
}
const millis = (date: Date | null): number | null => date?.getTime() ?? null;

/**
 * What one student may see of a course: open and closed items whole, announced ones by title and date, nothing of
 * drafts, and of marks only the released ones. Every student view and every file link rests on this list.
 */
export async function listVisible(
  db: Db,
  courseId: string,
  member: Pick<Membership, 'enrolmentId' | 'sectionIds'>,
  now: number,
): Promise<Visible[]> {
  const { zone, term } = await getTerm(db, courseId);
  const datesFor = await makeDatesFor(db, courseId, zone, termEnd(term, zone));
  const found = await rows<Row>(
    db,
    `
    select i.id, i.kind, i.title, u.id as unit_id, u.title as unit, (i.possible * 1000)::int as possible, i.estimated_minutes, i.done_rule, (i.done_score * 1000)::int as done_score, i.is_required, c.title as category,
           i.announced_at, i.opens_at, i.due_at, i.closes_at,
           (select min(v.at) from visit v where v.item_id = i.id and v.enrolment_id = $2) as opened_at, k.at as ticked_at,
           (select max(a.handed_in_at) from attempt a join submission s on s.id = a.submission_id where s.item_id = i.id and s.enrolment_id = $2) as handed_in_at,
           case when g.is_released then g.state end as grade_state, case when g.is_released then (g.raw * 1000)::int end as raw,
           case when g.is_released then (select max(ge.at) from grade_event ge where ge.item_id = i.id and ge.enrolment_id = $2 and ge.is_released) end as released_at
    from item i join unit_item ui on ui.item_id = i.id join unit u on u.id = ui.unit_id and u.removed_at is null
    left join category c on c.id = i.category_id left join tick k on k.item_id = i.id and k.enrolment_id = $2 left join grade g on g.item_id = i.id and g.enrolment_id = $2
    where i.course_id = $1 and i.removed_at is null and not i.is_draft
    order by u.position, ui.position`,
    [courseId, member.enrolmentId],
  );
  const person = { enrolmentId: member.enrolmentId, sectionId: member.sectionIds?.[0] ?? null };
  return found.flatMap((row): Visible[] => {
    const dates = datesFor(
      {
        id: row.id,
        announcedAt: millis(row.announced_at),
        opensAt: millis(row.opens_at),
        dueAt: millis(row.due_at),
        closesAt: millis(row.closes_at),
      },
      person,
    );
    const visibility = visibilityFor(false, dates, now);
    if (visibility === 'hidden') return [];
    const traces = {
      openedAt: millis(row.opened_at),
      tickedAt: millis(row.ticked_at),
      handedInAt: millis(row.handed_in_at),
      result: row.raw,
      isMarked: row.grade_state === 'scored',
      isExempt: row.grade_state === 'exempt',
    };
    return [
      {
        item: {
          id: row.id,
          kind: row.kind,
          title: row.title,
          unitId: row.unit_id,
          unit: row.unit,
          possible: row.possible,
          estimatedMinutes: row.estimated_minutes,
          doneRule: row.done_rule,
          isRequired: row.is_required,
          category: row.category,
        },
        visibility,
        dates,
        isDone: isDone(row.done_rule, traces, row.done_score),
        handedInAt: traces.handedInAt,
        openedAt: traces.openedAt,
        releasedAt: millis(row.released_at),
      },
    ];
  });
}
