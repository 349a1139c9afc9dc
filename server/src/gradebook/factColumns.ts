import type { Judged } from '@rosemary/api';
import {
  type ColumnRole,
  type Counting,
  type Curve,
  type CurveKind,
  type ItemKind,
  type LatePolicy,
  type ResultReading,
  type SchemeLevel,
  kindsThat,
  ratio,
} from '@rosemary/core';
import { type Db, often } from '../platform/database.ts';
import { datedOf } from '../opening/index.ts';
import type { FactColumn } from './factTypes.ts';
import { lateJson } from './policyRows.ts';

/** A row of `column_curve`, as it travels in JSON: whole numbers of any size as text. */
interface CurveRow {
  readonly kind: CurveKind;
  readonly amount: number | null;
  readonly isCapped: boolean;
  readonly top: string | null;
  readonly bottom: string | null;
  readonly marks: number | null;
}
const toCurve = (row: CurveRow | null): Curve | null =>
  row === null
    ? null
    : {
        kind: row.kind,
        amount: row.amount,
        isCapped: row.isCapped,
        shift:
          row.top === null || row.bottom === null ? null : { value: ratio(BigInt(row.top), BigInt(row.bottom)), marks: row.marks ?? 0 },
      };
/** A curve of `column_curve` in JSON. */
export const curveJson = (alias: string): string =>
  `case when ${alias}.kind is not null then json_build_object('kind', ${alias}.kind, 'amount', (${alias}.amount * 1000)::int, 'isCapped', ${alias}.is_capped, 'top', ${alias}.shift_top::text, 'bottom', ${alias}.shift_bottom::text, 'marks', ${alias}.shift_marks) end`;

interface ColumnRow {
  id: string;
  item_id: string | null;
  role: ColumnRole;
  kind: ItemKind | null;
  title: string;
  category_id: string | null;
  period_id: string | null;
  possible: number;
  multiplier: number;
  is_extra_credit: boolean;
  counts: boolean;
  is_draft: boolean;
  announced_at: Date | null;
  opens_at: Date | null;
  due_at: Date | null;
  closes_at: Date | null;
  place: string;
  unit_id: string | null;
  made_at: Date | null;
  expects: boolean;
  judged: Judged;
  release_mode: 'finished' | 'date' | 'hand';
  counted: Counting;
  markers: 1 | 2;
  shows_statistics: boolean;
  own_late: LatePolicy | null;
  curve: CurveRow | null;
  student_reads: ResultReading;
  staff_reads: ResultReading;
  own_levels: readonly SchemeLevel[] | null;
}

/** Whether something is to be handed in at an item, by its kind and its setting (a: assignment, z: quiz). */
const EXPECTS = {
  page: 'false',
  assignment: 'coalesce(a.takes_work, true)',
  quiz: "coalesce(z.taken <> 'paper', true)",
  discussion: 'true',
  file: 'false',
  link: 'false',
  activity: 'false',
} satisfies { readonly [kind in ItemKind]: string };
const WHEN_EXPECTED = Object.entries(EXPECTS)
  .map(([kind, sql]) => `when '${kind}' then ${sql}`)
  .join(' ');

/** The kinds that can have a column in the gradebook. */
export const COLUMN_KINDS = kindsThat((kind) => kind.column !== 'never');

/**
 * The columns of a course in the order of the Plan; those that stand without an item come last. What can only be given by reviewing or by
 * hand is never missing by itself. Late work without a policy of its own is reduced by the course's.
 */
export async function readColumns(db: Db, courseId: string): Promise<(late: LatePolicy | null) => FactColumn[]> {
  const found = await often<ColumnRow>(
    db,
    `
    select c.id, c.item_id, c.role, i.kind, coalesce(c.title, i.title || case c.role when 'reviewing' then ': reviewing' else '' end) as title, c.category_id, c.period_id,
           (c.possible * 1000)::int as possible, (c.multiplier * 1000)::int as multiplier, c.is_extra_credit, c.counts and coalesce(a.judged in ('points', 'done'), true) as counts, coalesce(i.is_draft, false) as is_draft,
           i.announced_at, i.opens_at, i.due_at, i.closes_at, i.created_at as made_at, first.unit_id, coalesce(i.release_mode, 'finished') as release_mode,
           row_number() over (order by first.unit_position, first.position, i.created_at, c.role <> 'work', c.title, c.id) as place,
           c.role = 'work' and case i.kind ${WHEN_EXPECTED} end as expects, coalesce(a.judged, 'points') as judged, coalesce(a.counted, z.counted, 'latest') as counted, coalesce(a.markers, 1) as markers, c.shows_statistics,
           coalesce(${lateJson('l')}, ${lateJson('cl')}) as own_late, ${curveJson('cv')} as curve, c.student_reads, c.staff_reads, c.own_levels
    from grade_column c
    left join item i on i.id = c.item_id
    left join assignment a on a.item_id = i.id
    left join quiz z on z.item_id = i.id
    left join column_late l on l.column_id = c.id
    left join category_late cl on cl.category_id = c.category_id
    left join column_curve cv on cv.column_id = c.id
    left join (select distinct on (ui.item_id) ui.item_id, ui.unit_id, ui.position, u.position as unit_position from unit u join unit_item ui on ui.unit_id = u.id
               where u.course_id = $1 and u.removed_at is null order by ui.item_id, u.position) first on first.item_id = i.id
    where c.course_id = $1 and c.removed_at is null and (c.item_id is null or i.removed_at is null and (first.unit_id is not null or i.kind = any($3)) and i.kind = any($2)
      -- Nor has a reminder with a date.
      and coalesce(a.judged, 'points') <> 'none'
      -- What counts only where its teacher says so (a discussion) has no place in the gradebook before that.
      and (i.kind <> all($4) or c.counts or c.possible > 0))
    order by place`,
    [courseId, COLUMN_KINDS, kindsThat((kind) => kind.isInClass), kindsThat((kind) => kind.column === 'where it counts')],
  );
  return (late) =>
    found.map((row) => ({
      id: row.id,
      itemId: row.item_id,
      role: row.role,
      kind: row.kind,
      title: row.title,
      categoryId: row.category_id,
      periodId: row.period_id,
      possible: row.possible,
      multiplier: row.multiplier,
      isExtraCredit: row.is_extra_credit,
      counts: row.counts,
      isDraft: row.is_draft,
      dated: datedOf(row.item_id ?? row.id, row),
      order: Number(row.place),
      unitId: row.unit_id,
      madeAt: row.made_at?.getTime() ?? 0,
      expectsHandIn: row.expects,
      releaseMode: row.release_mode,
      late: row.own_late ?? late,
      curve: toCurve(row.curve),
      counted: row.counted,
      markers: row.markers,
      showsStatistics: row.shows_statistics,
      studentReads: row.student_reads,
      staffReads: row.staff_reads,
      ownLevels: row.own_levels,
    }));
}
