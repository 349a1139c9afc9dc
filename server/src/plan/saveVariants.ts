import type { VariantsChange } from '@rosemary/api';
import { dateFaults } from '@rosemary/core';
import { getPlanItem } from '../items/index.ts';
import { putOtherDates } from '../opening/index.ts';
import { type Db, rows, run } from '../platform/database.ts';
import { AppError, invalid, notFound } from '../platform/errors.ts';

/** Which of these sections, groups and students are of this course. */
async function listOwners(db: Db, courseId: string, ids: readonly string[]): Promise<ReadonlySet<string>> {
  const found = await rows<{ id: string }>(
    db,
    `select id from section where course_id = $1 and id = any($2)
     union all select id from enrolment where course_id = $1 and role = 'student' and id = any($2)
     union all select g.id from course_group g join group_set s on s.id = g.set_id where s.course_id = $1 and s.removed_at is null and g.id = any($2)`,
    [courseId, ids],
  );
  return new Set(found.map((row) => row.id));
}

export async function saveVariants(db: Db, courseId: string, itemId: string, change: VariantsChange, now: number): Promise<void> {
  await getPlanItem(db, courseId, itemId, now);
  const owners = await listOwners(
    db,
    courseId,
    change.variants.flatMap((v) => v.groupId ?? v.sectionId ?? v.enrolmentId ?? []),
  );
  for (const v of change.variants) {
    const groupId = v.groupId ?? null;
    if ([v.sectionId, v.enrolmentId, groupId].filter((id) => id !== null).length !== 1)
      throw invalid('variants', 'Other dates are for one section, one group or one student.');
    if (!owners.has(groupId ?? v.sectionId ?? v.enrolmentId ?? '')) throw notFound();
    const faults = dateFaults({
      announced: null,
      opens: v.opensAt === null ? null : Date.parse(v.opensAt),
      due: v.dueAt === null ? null : Date.parse(v.dueAt),
      closes: v.closesAt === null ? null : Date.parse(v.closesAt),
    });
    if (faults.length > 0)
      throw new AppError(
        'invalid',
        faults[0]?.text ?? '',
        faults.map((f) => ({ field: `variants.${f.field}At`, text: f.text })),
      );
  }
  await putOtherDates(db, itemId, change.variants);
  await run(db, 'update item set version = version + 1 where id = $1', [itemId]);
}
