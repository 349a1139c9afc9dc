import { release, type Release } from '@rosemary/api';
import * as api from '@rosemary/api/endpoints';
import { unveil } from '../anonymity/index.ts';
import { listMates } from '../handIn/index.ts';
import { setReleased } from '../marks/index.ts';
import { maybe, rows } from '../platform/database.ts';
import { AppError, notFound } from '../platform/errors.ts';
import { implement, type MemberContext, type Route } from '../platform/route.ts';
import { listShares, reachesWork } from '../shares/index.ts';
import { previewRelease } from './releasePreview.ts';

/** The students an instruction is about: those named with all who share their work, or everyone in the course; each must be reached. */
async function listTargets(c: MemberContext<Release>): Promise<string[]> {
  const itemId = c.params.itemId ?? '';
  if (
    (await maybe(c.db, 'select 1 as one from item where id = $1 and course_id = $2 and removed_at is null', [itemId, c.courseId])) === null
  )
    throw notFound();
  const students = await rows<{ id: string; section_id: string | null }>(
    c.db,
    "select id, section_id from enrolment where course_id = $1 and role = 'student' and withdrawn_at is null",
    [c.courseId],
  );
  const shares = await listShares(c.db, itemId);
  const reached = students
    .filter((s) => reachesWork(c.member, c.person.personId, { enrolmentId: s.id, sectionId: s.section_id }, shares))
    .map((s) => s.id);
  if (c.body.enrolmentIds === null) return reached;
  const named = new Set<string>();
  for (const id of c.body.enrolmentIds) {
    const student = await unveil(c.db, c.courseId, itemId, id, c.now);
    if (student === null || !reached.includes(student.enrolmentId)) throw notFound();
    for (const mate of await listMates(c.db, itemId, student.enrolmentId)) named.add(mate);
  }
  return [...named];
}

async function setReleasedFor(c: MemberContext<Release, { readonly itemId: string }>, isReleased: boolean): Promise<{ many: number }> {
  const many = await setReleased(c.db, c.params.itemId, await listTargets(c), isReleased, c.person.personId, c.now);
  if (many === 0) throw new AppError('not-now', isReleased ? 'No finished mark waits to be released.' : 'None of these marks is released.');
  return { many };
}

export const markingReleaseRoutes: readonly Route[] = [
  implement(api.releaseMarks, release, (c) => setReleasedFor(c, true)),
  implement(api.withholdMarks, release, (c) => setReleasedFor(c, false)),
  // What release would show, and to whom; nothing changes.
  implement(api.previewRelease, release, async (c) => previewRelease(c.db, c.courseId, c.params.itemId, await listTargets(c), c.now)),
];
