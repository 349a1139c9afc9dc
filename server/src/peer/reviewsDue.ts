import { type Membership, termEnd } from '@rosemary/core';
import { listVisible, makeDatesFor, readReach } from '../opening/index.ts';
import { type Db, rows } from '../platform/database.ts';
import { millis } from '../platform/instants.ts';
import { getTerm } from '../term/index.ts';

export interface ReviewsDue {
  readonly itemId: string;
  readonly title: string;
  readonly at: number;
}

/** When reviews are due in a course: for a student by the dates that hold for them, of what they may see; for staff as they are set. */
export async function listReviewsDue(db: Db, courseId: string, member: Membership, now: number): Promise<ReviewsDue[]> {
  const found = await rows<{ item_id: string; title: string; reviews_open_at: Date | null; reviews_due_at: Date }>(
    db,
    'select p.item_id, i.title, p.reviews_open_at, p.reviews_due_at from peer_setting p join item i on i.id = p.item_id where i.course_id = $1 and i.removed_at is null and p.is_on and p.reviews_due_at is not null order by p.reviews_due_at, i.id',
    [courseId],
  );
  if (found.length === 0) return [];
  if (member.role !== 'student') return found.map((row) => ({ itemId: row.item_id, title: row.title, at: row.reviews_due_at.getTime() }));
  const ids = found.map((row) => row.item_id);
  const seen = new Set(
    (await listVisible(db, courseId, member, now, ids)).filter((v) => v.visibility !== 'announced').map((v) => v.item.id),
  );
  const { zone, term } = await getTerm(db, courseId);
  const of = { of: member.enrolmentId, phase: 'reviews' } as const;
  const datesFor = await makeDatesFor(db, courseId, zone, termEnd(term, zone), await readReach(db, courseId), of);
  const person = { enrolmentId: member.enrolmentId, sectionId: member.sectionIds?.[0] ?? null };
  return found.flatMap((row) => {
    const dated = {
      id: row.item_id,
      announcedAt: null,
      opensAt: millis(row.reviews_open_at),
      dueAt: millis(row.reviews_due_at),
      closesAt: null,
    };
    const due = datesFor(dated, person).due.at;
    return seen.has(row.item_id) && due !== null ? [{ itemId: row.item_id, title: row.title, at: due }] : [];
  });
}

/** Reviews that a student is still to give, by item: how many of how many, and until when. What is past is theirs to give only where late ones are taken. */
export async function listReviewsToGive(
  db: Db,
  courseId: string,
  member: Membership,
  now: number,
): Promise<readonly (ReviewsDue & { readonly given: number; readonly all: number })[]> {
  const counts = await rows<{ item_id: string; given: number; all: number; takes_late: boolean }>(
    db,
    `select r.item_id, count(r.handed_in_at)::int as given, count(*)::int as all, p.takes_late_reviews as takes_late
     from review r join peer_setting p on p.item_id = r.item_id and p.is_on join item i on i.id = r.item_id
     where i.course_id = $1 and r.enrolment_id = $2 and r.dropped_at is null and p.results_out_at is null group by r.item_id, p.takes_late_reviews having count(*) > count(r.handed_in_at)`,
    [courseId, member.enrolmentId],
  );
  if (counts.length === 0) return [];
  const due = await listReviewsDue(db, courseId, member, now);
  return due.flatMap((one) => {
    const own = counts.find((c) => c.item_id === one.itemId);
    return own === undefined || (one.at < now && !own.takes_late) ? [] : [{ ...one, given: own.given, all: own.all }];
  });
}
