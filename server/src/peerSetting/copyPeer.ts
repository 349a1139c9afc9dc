import type { DocumentNode } from '@rosemary/core';
import { columnsOf } from '../items/index.ts';
import { type Db, rows, run } from '../platform/database.ts';
import { copyRubrics, findRubrics } from '../rubric/index.ts';
import { PEER_PARTS } from './parts.ts';
import { copySamples } from './samples.ts';

const DATES = ['reviews_open_at', 'reviews_due_at', 'draw_at', 'results_at', 'revision_due_at'] as const;

interface Copies {
  readonly db: Db;
  readonly courseId: string;
  readonly copies: readonly { readonly itemId: string; readonly copyId: string }[];
  readonly isWithinCourse: boolean;
  readonly moved: (document: DocumentNode) => DocumentNode;
}

/** The peer reviews of items to the copies of the items, with form and prompt. Elsewhere nobody’s sections and groups come along. */
export async function copyPeers({ db, courseId, copies, isWithinCourse, moved }: Copies): Promise<void> {
  const found = await rows<{ old: string; made: string; prompt: DocumentNode; rubric_id: string | null }>(
    db,
    'select t.old, t.made, p.prompt, p.rubric_id from unnest($1::uuid[], $2::uuid[]) as t(old, made) join peer_setting p on p.item_id = t.old',
    [copies.map((c) => c.itemId), copies.map((c) => c.copyId)],
  );
  if (found.length === 0) return;
  const judged = found.flatMap((f) => (f.rubric_id === null ? [] : [f.rubric_id]));
  const made = await copyRubrics(db, courseId, judged);
  const rubricOf = new Map(judged.map((id, n) => [id, made[n] ?? null]));
  const columns = columnsOf(PEER_PARTS.peer_setting, isWithinCourse);
  const elsewhere = isWithinCourse
    ? { names: '', from: '' }
    : { names: 'among, ', from: "case when p.among in ('group', 'outside group') then 'course' else p.among end, " };
  await run(
    db,
    `insert into peer_setting (item_id, prompt, rubric_id, ${elsewhere.names}${columns.names}) select t.made, t.prompt, t.rubric, ${elsewhere.from}${columns.from('p')}
     from unnest($1::uuid[], $2::uuid[], $3::jsonb[], $4::uuid[]) as t(old, made, prompt, rubric) join peer_setting p on p.item_id = t.old`,
    [
      found.map((f) => f.old),
      found.map((f) => f.made),
      found.map((f) => JSON.stringify(moved(f.prompt))),
      found.map((f) => rubricOf.get(f.rubric_id ?? '') ?? null),
    ],
  );
  const forms = await findRubrics(db, [...judged, ...made]);
  const copied = found.map(({ old, made: copyId, rubric_id: id }) => ({
    ...{ old, made: copyId, was: forms.get(id ?? '') ?? null, is: forms.get(rubricOf.get(id ?? '') ?? '') ?? null },
  }));
  await copySamples(db, copied, isWithinCourse, moved);
  if (isWithinCourse) return;
  // In another course the reviews keep their distance from the works’ due date, by the calendar and at their time of day.
  await run(
    db,
    `update peer_setting p set ${DATES.map((name) => `${name} = case when o.${name} is not null then ((o.${name} at time zone c.time_zone) + t.shift) at time zone c.time_zone end`).join(', ')}
     from (select m.old, m.made, make_interval(days => (made.due_at at time zone c.time_zone)::date - (was.due_at at time zone oc.time_zone)::date) as shift
           from unnest($1::uuid[], $2::uuid[]) as m(old, made) join item was on was.id = m.old join course oc on oc.id = was.course_id join item made on made.id = m.made join course c on c.id = made.course_id
           where was.due_at is not null and made.due_at is not null) t
     join peer_setting o on o.item_id = t.old join item i on i.id = t.made join course c on c.id = i.course_id where p.item_id = t.made`,
    [found.map((f) => f.old), found.map((f) => f.made)],
  );
}
