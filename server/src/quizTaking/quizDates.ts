import { type DatesInForce, termEnd } from '@rosemary/core';
import { getPlanItem } from '../items/index.ts';
import { makeDatesFor, readReach } from '../opening/index.ts';
import { type Db, rows } from '../platform/database.ts';
import { getTerm } from '../term/index.ts';

/** The dates of a quiz as each student has them: their section's, their own, their arrangements. */
export async function readQuizDates(db: Db, courseId: string, itemId: string, now: number): Promise<(enrolmentId: string) => DatesInForce> {
  const { zone, term } = await getTerm(db, courseId);
  const item = await getPlanItem(db, courseId, itemId, now);
  const datesFor = await makeDatesFor(db, courseId, zone, termEnd(term, zone), await readReach(db, courseId));
  const people = await rows<{ id: string; section_id: string | null }>(db, 'select id, section_id from enrolment where course_id = $1', [
    courseId,
  ]);
  const sections = new Map(people.map((p) => [p.id, p.section_id]));
  const at = (text: string | null): number | null => (text === null ? null : Date.parse(text));
  const dated = {
    ...{ id: itemId, announcedAt: at(item.announcedAt), opensAt: at(item.opensAt) },
    ...{ dueAt: at(item.dueAt), closesAt: at(item.closesAt) },
  };
  return (enrolmentId) => datesFor(dated, { enrolmentId, sectionId: sections.get(enrolmentId) ?? null });
}
