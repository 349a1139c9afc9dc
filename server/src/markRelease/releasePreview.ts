import type { ReleasePreview } from '@rosemary/api';
import { formatPoints } from '@rosemary/core';
import { findVeil, veiledId, veiledName } from '../anonymity/index.ts';
import { type Db, rows } from '../platform/database.ts';

interface Row {
  enrolment_id: string;
  name: string;
  section: string | null;
  raw: number | null;
  state: string;
  notes: number;
  has_rubric: boolean;
  has_feedback: boolean;
  is_draft: boolean;
}

/**
 * Who would see what if the finished marks of an item were released now: the score, and whether notes, rubric and feedback go with
 * it. A mark that was taken up again is not finished, so it stays, and is listed apart. Where names are hidden they stay so here too.
 */
export async function previewRelease(
  db: Db,
  courseId: string,
  itemId: string,
  enrolmentIds: readonly string[],
  now: number,
): Promise<ReleasePreview> {
  const veil = await findVeil(db, itemId, now);
  const found = await rows<Row>(
    db,
    `
    select g.enrolment_id, p.given_name || ' ' || p.family_name as name, sec.title as section, (g.raw * 1000)::int as raw, g.state,
      (select count(*)::int from attempt a join margin_note n on n.attempt_id = coalesce(a.lead_id, a.id) and n.removed_at is null where a.submission_id = s.id) as notes,
      coalesce(m.choices <> '{}', false) as has_rubric, m.feedback is not null as has_feedback, coalesce(m.state = 'draft', false) as is_draft
    from work_grade g join enrolment e on e.id = g.enrolment_id join person p on p.id = e.person_id left join section sec on sec.id = e.section_id
    left join submission s on s.item_id = g.item_id and s.enrolment_id = g.enrolment_id left join mark m on m.submission_id = s.id and m.slot = 1
    where g.item_id = $1 and g.enrolment_id = any($2) and not g.is_released and g.state is not null and e.course_id = $3
    order by p.family_name, p.given_name`,
    [itemId, enrolmentIds, courseId],
  );
  const hides = veil !== null;
  const name = (row: Row): string => (veil === null ? row.name : `Work ${veiledName(veiledId(veil.key, row.enrolment_id))}`);
  const sorted = hides ? [...found].sort((a, b) => name(a).localeCompare(name(b))) : found;
  const students = sorted
    .filter((row) => !row.is_draft)
    .map((row) => ({
      name: name(row),
      section: hides ? '' : (row.section ?? ''),
      score: row.raw === null ? row.state : formatPoints(row.raw),
      notes: row.notes,
      hasRubric: row.has_rubric,
      hasFeedback: row.has_feedback,
    }));
  return { students, held: sorted.filter((row) => row.is_draft).map(name), showsNames: !hides };
}
