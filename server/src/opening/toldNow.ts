import type { QuizSetting } from '@rosemary/api';
import { isScoreDue, type ReviewTime, termEnd } from '@rosemary/core';
import { type Db, maybe, rows } from '../platform/database.ts';
import { getTerm } from '../term/index.ts';
import { datedOf, makeDatesFor } from './dates.ts';
import { readReach } from './reach.ts';

type When = QuizSetting['review']['score'];

export const toReviewTime = (when: When): ReviewTime =>
  when.kind === 'window' ? { kind: 'window', from: Date.parse(when.from), to: Date.parse(when.to) } : when;

const isDue = (when: ReviewTime | null, now: number, closesAt: number | null): boolean => when === null || isScoreDue(when, now, closesAt);

/**
 * Which of these students are given their result at an item the moment it is known: all or none by how the item is released, and at a quiz
 * by when its score may be seen. Everything that writes a result asks here, so that a score is told by one rule.
 */
export async function listToldNow(
  db: Db,
  courseId: string,
  itemId: string,
  enrolmentIds: readonly string[],
  now: number,
): Promise<ReadonlySet<string>> {
  const item = await maybe<{
    release_mode: 'finished' | 'date' | 'hand';
    score: When | null;
    announced_at: Date | null;
    opens_at: Date | null;
    due_at: Date | null;
    closes_at: Date | null;
  }>(
    db,
    `select i.release_mode, z.review -> 'score' as score, i.announced_at, i.opens_at, i.due_at, i.closes_at
     from item i left join quiz z on z.item_id = i.id where i.id = $1`,
    [itemId],
  );
  if (item === null || item.release_mode !== 'finished') return new Set();
  const people = await rows<{ id: string; section_id: string | null; kept: When | null }>(
    db,
    `select e.id, e.section_id, (select t.kept -> 'review' -> 'score' from quiz_attempt t where t.item_id = $2 and t.enrolment_id = e.id and t.kept ? 'review'
       order by t.number desc limit 1) as kept from enrolment e where e.id = any($1)`,
    [enrolmentIds, itemId],
  );
  const whenOf = (p: (typeof people)[number]): ReviewTime | null => {
    const when = p.kept ?? item.score;
    return when === null ? null : toReviewTime(when);
  };
  if (people.every((p) => whenOf(p)?.kind !== 'closed')) return new Set(people.filter((p) => isDue(whenOf(p), now, null)).map((p) => p.id));
  const { zone, term } = await getTerm(db, courseId);
  const datesFor = await makeDatesFor(db, courseId, zone, termEnd(term, zone), await readReach(db, courseId));
  const dated = datedOf(itemId, item);
  const closesAt = (p: (typeof people)[number]): number | null => datesFor(dated, { enrolmentId: p.id, sectionId: p.section_id }).closes.at;
  return new Set(people.filter((p) => isDue(whenOf(p), now, closesAt(p))).map((p) => p.id));
}
