import type { AudienceName, Judged, PlanItem } from '@rosemary/api';
import { type DoneRule, dueWarning, type ItemKind, itemState, type ResultReading, type Term, termEnd } from '@rosemary/core';
import { lateJson } from '../gradebook/index.ts';
import { type Db, maybe } from '../platform/database.ts';
import { notFound } from '../platform/errors.ts';
import { getTerm } from '../term/index.ts';
import { isoOf } from '../platform/instants.ts';

interface VariantJson {
  sectionId: string | null;
  enrolmentId: string | null;
  groupId: string | null;
  name: string;
  opensAt: string | null;
  dueAt: string | null;
  closesAt: string | null;
}

export interface ItemRow {
  id: string;
  /** None where it stands in the gradebook alone. */
  unit_id: string | null;
  kind: ItemKind;
  title: string;
  is_draft: boolean;
  off_was_draft: boolean | null;
  category_id: string | null;
  possible: number;
  judged: Judged | null;
  multiplier: number;
  is_extra_credit: boolean;
  counts: boolean;
  is_required: boolean;
  announced_at: Date | null;
  opens_at: Date | null;
  due_at: Date | null;
  closes_at: Date | null;
  estimated_minutes: number;
  marking_minutes: number;
  task_type_id: string | null;
  done_rule: DoneRule;
  is_reviewed: boolean;
  done_score: number | null;
  release_mode: PlanItem['releaseMode'];
  release_at: Date | null;
  is_staff_only: boolean;
  opening_needs: 'all' | 'any';
  next_note: string;
  shows_statistics: boolean;
  student_reads: ResultReading;
  staff_reads: ResultReading;
  own_levels: PlanItem['ownLevels'];
  late: PlanItem['late'];
  rules: { kind: 'date' | 'done' | 'score'; at: string | null; itemId: string | null; least: number | null }[];
  audience: AudienceName[];
  hands: { id: string; enrolmentId: string | null; name: string; until: string }[];
  version: number;
  has_changes: boolean;
  variants: VariantJson[];
}

const utc = (text: string | null): string | null => (text === null ? null : new Date(text).toISOString());

/** Whom something is for, by name, as JSON. */
export const audienceSql = (owner: string): string => `
         coalesce((select json_agg(json_build_object('sectionId', a.section_id, 'enrolmentId', a.enrolment_id, 'groupId', a.group_id, 'name', coalesce(s.title, g.title, p.family_name || ', ' || p.given_name)) order by s.position, g.position, p.family_name)
                   from audience a left join section s on s.id = a.section_id left join course_group g on g.id = a.group_id left join enrolment e on e.id = a.enrolment_id left join person p on p.id = e.person_id where ${owner}), '[]')`;

export const ITEM_SQL = `
  select i.id, ui.unit_id, i.kind, i.title, i.is_draft, (select o.off_was_draft from item o where o.id = i.id) as off_was_draft, i.category_id, case when asg.judged in ('words', 'none') then 0 else (i.possible * 1000)::int end as possible, (i.multiplier * 1000)::int as multiplier, i.is_extra_credit,
         i.counts and coalesce(asg.judged in ('points', 'done'), true) as counts, asg.judged, i.is_required,
         i.announced_at, i.opens_at, i.due_at, i.closes_at, i.estimated_minutes, i.marking_minutes, i.task_type_id, i.done_rule, (i.done_score * 1000)::int as done_score, exists (select 1 from peer_setting ps where ps.item_id = i.id and ps.is_on) as is_reviewed, i.release_mode, i.release_at, i.version, exists (select 1 from working_copy w where w.item_id = i.id) as has_changes, i.is_staff_only, i.opening_needs, i.next_note, i.shows_statistics, i.student_reads, i.staff_reads, i.own_levels,
         (select ${lateJson('l')} from column_late l where l.column_id = i.column_id) as late,
         coalesce((select json_agg(json_build_object('kind', r.kind, 'at', r.at, 'itemId', r.other_item_id, 'least', (r.least * 1000)::int) order by r.position) from opening_rule r where r.item_id = i.id), '[]') as rules,
         ${audienceSql('a.item_id = i.id')} as audience,
         coalesce((select json_agg(json_build_object('id', h.id, 'enrolmentId', h.enrolment_id, 'name', coalesce(p.family_name || ', ' || p.given_name, 'everyone'), 'until', h.until_at) order by h.until_at)
                   from hand_opening h left join enrolment e on e.id = h.enrolment_id left join person p on p.id = e.person_id where h.item_id = i.id and h.ended_at is null), '[]') as hands,
         coalesce((select json_agg(json_build_object('sectionId', v.section_id, 'enrolmentId', v.enrolment_id, 'groupId', v.group_id, 'name', coalesce(s.title, g.title, p.family_name || ', ' || p.given_name), 'opensAt', v.opens_at, 'dueAt', v.due_at, 'closesAt', v.closes_at) order by s.position, g.position, p.family_name)
                   from date_variant v left join section s on s.id = v.section_id left join course_group g on g.id = v.group_id left join enrolment e on e.id = v.enrolment_id left join person p on p.id = e.person_id where v.item_id = i.id), '[]') as variants
  from graded_item i left join assignment asg on asg.item_id = i.id left join unit_item ui on ui.item_id = i.id left join unit u on u.id = ui.unit_id
  -- A class activity may stand in the gradebook alone, in no unit.
  where i.course_id = $1 and i.removed_at is null and case when u.id is null then i.kind = 'activity' else u.removed_at is null end`;

interface Calendar {
  readonly term: Term;
  readonly zone: string;
  readonly isSelfPaced: boolean;
}

export function toItem(row: ItemRow, { term, zone, isSelfPaced }: Calendar, now: number): PlanItem {
  // Counted from each student’s start, an item is open for some and not for others; what it is at all is open.
  const opens = isSelfPaced ? null : (row.opens_at?.getTime() ?? null);
  const closes = isSelfPaced ? null : (row.closes_at?.getTime() ?? termEnd(term, zone));
  const warning = row.due_at === null || isSelfPaced ? null : dueWarning(term, row.due_at.getTime(), zone);
  return {
    id: row.id,
    kind: row.kind,
    title: row.title,
    isDraft: row.is_draft,
    isOff: row.off_was_draft !== null,
    isDraftOnceOn: row.off_was_draft ?? row.is_draft,
    state: itemState(row.is_draft, opens, closes, now),
    categoryId: row.category_id,
    possible: row.possible,
    judged: row.judged,
    multiplier: row.multiplier,
    isExtraCredit: row.is_extra_credit,
    counts: row.counts,
    isRequired: row.is_required,
    announcedAt: isoOf(row.announced_at),
    opensAt: isoOf(row.opens_at),
    dueAt: isoOf(row.due_at),
    closesAt: isoOf(row.closes_at),
    estimatedMinutes: row.estimated_minutes,
    markingMinutes: row.marking_minutes,
    taskTypeId: row.task_type_id,
    doneRule: row.done_rule,
    doneScore: row.done_score,
    isReviewed: row.is_reviewed,
    releaseMode: row.release_mode,
    releaseAt: isoOf(row.release_at),
    isStaffOnly: row.is_staff_only,
    audience: row.audience,
    opening: {
      needs: row.opening_needs,
      rules: row.rules.map((r) =>
        r.kind === 'date'
          ? { kind: 'date', at: utc(r.at) ?? '' }
          : r.kind === 'done'
            ? { kind: 'done', itemId: r.itemId ?? '' }
            : { kind: 'score', itemId: r.itemId ?? '', least: r.least ?? 0 },
      ),
    },
    handOpenings: row.hands.flatMap((h) => (Date.parse(h.until) > now ? [{ ...h, until: utc(h.until) ?? '' }] : [])),
    nextNote: row.next_note,
    showsStatistics: row.shows_statistics,
    studentReads: row.student_reads,
    staffReads: row.staff_reads,
    ownLevels: row.own_levels,
    late: row.late,
    version: row.version,
    hasChanges: row.has_changes,
    warnings: warning === null ? [] : [warning],
    variants: row.variants.map((v) => ({ ...v, opensAt: utc(v.opensAt), dueAt: utc(v.dueAt), closesAt: utc(v.closesAt) })),
  };
}

export async function getPlanItem(db: Db, courseId: string, itemId: string, now: number): Promise<PlanItem> {
  const row = await maybe<ItemRow>(db, `${ITEM_SQL} and i.id = $2 limit 1`, [courseId, itemId]);
  if (row === null) throw notFound();
  return toItem(row, await getTerm(db, courseId), now);
}
