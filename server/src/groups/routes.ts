import { groupSetChange, newGroupSet, type GroupSetChange, type NewGroupSet } from '@rosemary/api';
import { writeAudit } from '../platform/audit.ts';
import { courseRoute, type MemberContext, type Route } from '../platform/route.ts';
import { addGroupSet, listGroups, saveGroupSet, setGroupSetRemoved } from './queries.ts';

const BASE = '/courses/:courseId/group-sets';
const ONE = `${BASE}/:setId`;
const audit = (c: MemberContext<unknown>, action: string, subject: string, after: unknown): Promise<void> =>
  writeAudit(c.db, { at: c.now, actorId: c.person.personId, courseId: c.courseId, action, subject, after });

function removal(removes: boolean): Route {
  return courseRoute('roster.edit', {
    method: removes ? 'delete' : 'post',
    path: `${ONE}${removes ? '' : '/restore'}`,
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
      const id = await addGroupSet(c.db, c.courseId, c.body);
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
  removal(true),
  removal(false),
];
