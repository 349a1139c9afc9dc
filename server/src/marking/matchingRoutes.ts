import { type MatchReport, matchSetting } from '@rosemary/api';
import * as api from '@rosemary/api/endpoints';
import {
  askMatching,
  findMatchSetting,
  findReport,
  getMatchState,
  type Reader,
  requireAssignment,
  saveMatchSetting,
} from '../matching/index.ts';
import { getVisible } from '../opening/index.ts';
import { maybe } from '../platform/database.ts';
import { notFound } from '../platform/errors.ts';
import { implement, type MemberContext, type Route } from '../platform/route.ts';
import { listShares, reachesWork } from '../shares/index.ts';
import { reach } from './reached.ts';

/** Staff read the sources they reach, by section or by what is shared out to them. */
function staffReader(c: MemberContext<unknown>): Reader {
  return {
    isStaff: true,
    reaches: async (enrolmentId) => {
      const row = await maybe<{ section_id: string | null }>(c.db, 'select section_id from enrolment where id = $1 and course_id = $2', [
        enrolmentId,
        c.courseId,
      ]);
      if (row === null) return false;
      return reachesWork(
        c.member,
        c.person.personId,
        { enrolmentId, sectionId: row.section_id },
        await listShares(c.db, c.params.itemId ?? ''),
      );
    },
  };
}

export const matchingRoutes: readonly Route[] = [
  implement(api.getMatching, async ({ db, courseId, params }) => {
    await requireAssignment(db, courseId, params.itemId);
    return getMatchState(db, params.itemId);
  }),
  implement(api.changeMatching, matchSetting, async ({ db, courseId, params, body }) => {
    await requireAssignment(db, courseId, params.itemId);
    await saveMatchSetting(db, params.itemId, body);
    return getMatchState(db, params.itemId);
  }),
  implement(api.runMatching, async ({ db, courseId, params, person, now, kick }) => {
    await requireAssignment(db, courseId, params.itemId);
    await askMatching(db, params.itemId, person.personId, now);
    kick('match-texts');
    return getMatchState(db, params.itemId);
  }),
  implement(api.getMatches, async (c): Promise<{ report: MatchReport | null }> => {
    const r = await reach(c);
    return { report: await findReport(c.db, r.column.itemId, r.person.enrolmentId, staffReader(c), c.now) };
  }),
  implement(api.getOwnMatches, async ({ db, courseId, params, member, now }): Promise<{ report: MatchReport | null }> => {
    const { item } = await getVisible(db, courseId, params.itemId, member, now);
    if (!(await findMatchSetting(db, item.id)).showsStudents) throw notFound();
    const reader = { isStaff: false, reaches: () => Promise.resolve(false) };
    return { report: await findReport(db, item.id, member.enrolmentId, reader, now) };
  }),
];
