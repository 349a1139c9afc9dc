import { groupChoice, groupSetChange, newGroupSet } from '@rosemary/api';
import * as api from '@rosemary/api/endpoints';

import { implement, type MemberContext, type Route } from '../platform/route.ts';
import { readGroupList } from './listed.ts';
import { addGroupSet, listGroups, saveGroupSet, setGroupSetRemoved } from './queries.ts';
import { chooseGroup } from './signUp.ts';

async function setGroups(c: MemberContext<unknown, { readonly setId: string }>, removedAt: number | null) {
  await setGroupSetRemoved(c.db, c.courseId, c.params.setId, removedAt);
  return listGroups(c.db, c.courseId);
}

/** How each student stands, as a share: groups that are alike are made by it, and it is the gradebook that knows. */
type ReadStandings = (c: MemberContext<unknown>) => Promise<ReadonlyMap<string, number | null>>;

export const groupRoutes = (readStandings: ReadStandings): readonly Route[] => [
  implement(api.getGroups, ({ db, courseId, member }) => listGroups(db, courseId, member.sectionIds)),
  implement(api.addGroupSet, newGroupSet, async (c) => {
    const id = await addGroupSet(c.db, c.courseId, c.body, c.body.makes === 'balanced' ? await readStandings(c) : new Map());
    return { id, groups: await listGroups(c.db, c.courseId) };
  }),
  implement(api.changeGroupSet, groupSetChange, async (c) => {
    await saveGroupSet(c.db, c.courseId, c.params.setId, c.body);
    return listGroups(c.db, c.courseId);
  }),
  implement(api.readGroupList, (c) => readGroupList(c.db, c.courseId, c.file.path, c.file.name)),
  implement(api.joinGroup, groupChoice, ({ db, courseId, params, member, body, now }) =>
    chooseGroup(db, courseId, params.setId, member.enrolmentId, body.groupId, now),
  ),
  implement(api.removeGroupSet, (c) => setGroups(c, c.now)),
  implement(api.restoreGroupSet, (c) => setGroups(c, null)),
];
