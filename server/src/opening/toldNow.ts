import type { QuizSetting } from '@rosemary/api';
import { isScoreDue, type ReviewTime, termEnd } from '@rosemary/core';
import { type Db, maybe, rows } from '../platform/database.ts';
import { getTerm } from '../term/index.ts';
import { makeDatesFor } from './dates.ts';
import { readReach } from './reach.ts';
import { millis } from '../platform/instants.ts';

type When = QuizSetting['review']['score'];

export const toReviewTime = (when: When): ReviewTime =>
  when.kind === 'window' ? { kind: 'window', from: Date.parse(when.from), to: Date.parse(when.to) } : when;

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
  const when = item.score === null ? null : toReviewTime(item.score);
  if (when?.kind !== 'closed') return new Set(when === null || isScoreDue(when, now, null) ? enrolmentIds : []);
  const { zone, term } = await getTerm(db, courseId);
  const datesFor = await makeDatesFor(db, courseId, zone, termEnd(term, zone), await readReach(db, courseId));
  const people = await rows<{ id: string; section_id: string | null }>(db, 'select id, section_id from enrolment where id = any($1)', [
    enrolmentIds,
  ]);
  const dated = {
    id: itemId,
    announcedAt: millis(item.announced_at),
    opensAt: millis(item.opens_at),
    dueAt: millis(item.due_at),
    closesAt: millis(item.closes_at),
  };
  const closesAt = (p: (typeof people)[number]): number | null => datesFor(dated, { enrolmentId: p.id, sectionId: p.section_id }).closes.at;
  return new Set(people.filter((p) => isScoreDue(when, now, closesAt(p))).map((p) => p.id));
}
