import type { VariantsChange } from '@rosemary/api';
import { dateFaults } from '@rosemary/core';
import { getPlanItem } from '../items/index.ts';
import { putOtherDates } from '../opening/index.ts';
import { type Db, maybe, run } from '../platform/database.ts';
import { AppError, invalid, notFound } from '../platform/errors.ts';

export async function saveVariants(db: Db, courseId: string, itemId: string, change: VariantsChange, now: number): Promise<void> {
  await getPlanItem(db, courseId, itemId, now);
  for (const v of change.variants) {
    const groupId = v.groupId ?? null;
    if ([v.sectionId, v.enrolmentId, groupId].filter((id) => id !== null).length !== 1)
      throw invalid('variants', 'Other dates are for one section, one group or one student.');
    const owner =
      groupId !== null
        ? await maybe(
            db,
            'select 1 as one from course_group g join group_set s on s.id = g.set_id where g.id = $1 and s.course_id = $2 and s.removed_at is null',
            [groupId, courseId],
          )
        : v.sectionId === null
          ? await maybe(db, "select 1 as one from enrolment where id = $1 and course_id = $2 and role = 'student'", [
              v.enrolmentId,
              courseId,
            ])
          : await maybe(db, 'select 1 as one from section where id = $1 and course_id = $2', [v.sectionId, courseId]);
    if (owner === null) throw notFound();
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
