import type { AssignmentSetting, ItemDetail } from '@rosemary/api';
import { findAssignment, findLink, findPage, findShownFile, getPlanItem } from '../items/index.ts';
import type { Db } from '../platform/database.ts';
import { findRubric } from '../rubric/index.ts';

export async function getItemDetail(db: Db, courseId: string, itemId: string, now: number): Promise<ItemDetail> {
  const item = await getPlanItem(db, courseId, itemId, now);
  const found = await findAssignment(db, itemId);
  const { rubricId = null, ...setting } = found ?? {};
  const rubric = await findRubric(db, rubricId);
  const assignment = found === null ? null : (setting as AssignmentSetting);
  return {
    item,
    page: await findPage(db, itemId),
    link: await findLink(db, itemId),
    file: await findShownFile(db, itemId),
    assignment,
    rubric,
  };
}
