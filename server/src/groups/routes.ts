import { groupChoice, groupSetChange, newGroupSet, type GroupChoice, type GroupSetChange, type NewGroupSet } from '@rosemary/api';
import { calculate } from '../gradebook/cells.ts';
import { readFacts } from '../gradebook/facts.ts';
import { withUpload } from '../files/upload.ts';
import { readGroupList } from './listed.ts';
import { chooseGroup } from './signUp.ts';
import { writeAudit } from '../platform/audit.ts';
import { courseRoute, type MemberContext, type Route } from '../platform/route.ts';
import { addGroupSet, listGroups, saveGroupSet, setGroupSetRemoved } from './queries.ts';

const BASE = '/courses/:courseId/group-sets';
const ONE = `${BASE}/:setId`;
const audit = (c: MemberContext<unknown>, action: string, subject: string, after: unknown): Promise<void> =>
  writeAudit(c.db, { at: c.now, actorId: c.person.personId, courseId: c.courseId, action, subject, after });

/** How each student stands so far, as a share, to make groups that are alike. */
async function readStandings(c: MemberContext<unknown>): Promise<Map<string, number | null>> {
  const facts = await readFacts(c.db, c.courseId, { now: c.now });
  const calculation = calculate(facts, c.now, false);
  return new Map(
    facts.people.map((person) => {
      const { ratio } = calculation.totalsOf(calculation.cellsOf(person)).soFar;
      return [person.enrolmentId, ratio === null ? null : ratio.valueOf()];
    }),
  );
}

function removal(removes: boolean): Route {
  return courseRoute('roster.edit', {
    method: removes ? 'delete' : 'post',
    path: `${ONE}${removes ? '' : '/restore'}`,
    movesGrades: true,
    handle: async (c) => {
      await setGroupSetRemoved(c.db, c.courseId, c.params.setId ?? '', removes ? c.now : null);
      await audit(c, removes ? 'groups taken away' : 'groups brought back', c.params.setId ?? '', null);
      return listGroups(c.db, c.courseId);
    },
  });
}

export const groupRoutes: readonly Route[] = [
  courseRoute('course.teach', { method: 'get', path: BASE, handle: ({ db, courseId }) => listGroups(db, courseId) }),
  courseRoute<NewGroupSet>('roster.edit', {
    method: 'post',
    path: BASE,
    body: newGroupSet,
    handle: async (c) => {
      const id = await addGroupSet(c.db, c.courseId, c.body, c.body.makes === 'balanced' ? await readStandings(c) : new Map());
      await audit(c, 'groups made', id, c.body);
      return { id, groups: await listGroups(c.db, c.courseId) };
    },
  }),
  courseRoute<GroupSetChange>('roster.edit', {
    method: 'put',
    path: ONE,
    movesGrades: true,
    body: groupSetChange,
    handle: async (c) => {
      await saveGroupSet(c.db, c.courseId, c.params.setId ?? '', c.body);
      await audit(c, 'groups changed', c.params.setId ?? '', c.body);
      return listGroups(c.db, c.courseId);
    },
  }),
  courseRoute('roster.edit', {
    method: 'post',
    path: `${BASE}/read`,
    takesFile: true,
    isSilent: true,
    handle: (c) => withUpload(c.request, c.response, ({ path, name }) => readGroupList(c.db, c.courseId, path, name)),
  }),
  courseRoute<GroupChoice>('work.own', {
    method: 'put',
    path: '/courses/:courseId/own/group-sets/:setId',
    gives: true,
    body: groupChoice,
    handle: ({ db, courseId, params, member, body, now }) =>
      chooseGroup(db, courseId, params.setId ?? '', member.enrolmentId, body.groupId, now),
  }),
  removal(true),
  removal(false),
];
