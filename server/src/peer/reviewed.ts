import type { PlanItem } from '@rosemary/api';
import { kindOfItem } from '@rosemary/core';
import { takesWork } from '../handIn/index.ts';
import { getPlanItem } from '../items/index.ts';
import { findAssignment } from '../kinds/assignment/index.ts';
import { type Db, maybe } from '../platform/database.ts';
import { notFound } from '../platform/errors.ts';

/** What of an item other students can review. */
export type ReviewedKind = Exclude<ReturnType<typeof kindOfItem>['reviewed'], 'nothing'>;

/** An item as those who review its works meet it. */
export interface Reviewed {
  readonly item: PlanItem;
  readonly kind: ReviewedKind;
  /** Works are by several together, of this set of groups. */
  readonly groupSetId: string | null;
  /** The item is judged in points that reviews could give. */
  readonly isInPoints: boolean;
  /** There is anything that can be reviewed. */
  readonly takesWork: boolean;
}

type Traits = Omit<Reviewed, 'item' | 'kind'>;

/** What each kind says of itself. The points of a quiz are those of its questions: reviews tell its marker, and give none. */
const TRAITS: { readonly [kind in ReviewedKind]: (db: Db, item: PlanItem) => Promise<Traits | null> } = {
  works: async (db, item) => {
    const assignment = await findAssignment(db, item.id);
    if (assignment === null) return null;
    const { groupSetId, judged } = assignment;
    return { groupSetId, isInPoints: judged === 'points', takesWork: takesWork(assignment) };
  },
  posts: (_, item) => Promise.resolve({ groupSetId: null, isInPoints: item.counts && item.possible > 0, takesWork: true }),
  essays: async (db, item) => {
    // What is drawn can be an essay too.
    const found = await maybe(
      db,
      `select 1 as one from quiz_section s join quiz_part p on p.section_id = s.id left join question_version v on v.question_id = p.question_id and v.number = p.question_version
       where s.item_id = $1 and (p.question_id is null or v.kind = 'essay') limit 1`,
      [item.id],
    );
    return { groupSetId: null, isInPoints: false, takesWork: found !== null };
  },
};

/** An item of this course whose works can be reviewed; any other is not found. */
export async function getReviewed(db: Db, courseId: string, itemId: string, now: number): Promise<Reviewed> {
  const item = await getPlanItem(db, courseId, itemId, now);
  const kind = kindOfItem(item.kind).reviewed;
  const traits = kind === 'nothing' ? null : await TRAITS[kind](db, item);
  if (kind === 'nothing' || traits === null) throw notFound();
  return { item, kind, ...traits };
}
