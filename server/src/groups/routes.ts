import * as api from '@rosemary/api/endpoints';
import { groupChoice, groupSetChange, newGroupSet } from '@rosemary/api';
import { calculate } from '../gradebook/cells.ts';
import { readFacts } from '../gradebook/facts.ts';
import { withUpload } from '../files/upload.ts';
import { readGroupList } from './listed.ts';
import { chooseGroup } from './signUp.ts';
import { implement, type MemberContext, type Route } from '../platform/route.ts';
import { addGroupSet, listGroups, saveGroupSet, setGroupSetRemoved } from './queries.ts';

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

async function setGroups(c: MemberContext<unknown, { readonly setId: string }>, removedAt: number | null) {
  await setGroupSetRemoved(c.db, c.courseId, c.params.setId, removedAt);
  return listGroups(c.db, c.courseId);
}

export const groupRoutes: readonly Route[] = [
  implement(api.getGroups, ({ db, courseId }) => listGroups(db, courseId)),
  implement(api.addGroupSet, newGroupSet, async (c) => {
    const id = await addGroupSet(c.db, c.courseId, c.body, c.body.makes === 'balanced' ? await readStandings(c) : new Map());
    return { id, groups: await listGroups(c.db, c.courseId) };
  }),
  implement(api.changeGroupSet, groupSetChange, async (c) => {
    await saveGroupSet(c.db, c.courseId, c.params.setId, c.body);
    return listGroups(c.db, c.courseId);
  }),
  implement(api.readGroupList, (c) => withUpload(c.request, c.response, ({ path, name }) => readGroupList(c.db, c.courseId, path, name))),
  implement(api.joinGroup, groupChoice, ({ db, courseId, params, member, body, now }) =>
    chooseGroup(db, courseId, params.setId, member.enrolmentId, body.groupId, now),
  ),
  implement(api.removeGroupSet, (c) => setGroups(c, c.now)),
  implement(api.restoreGroupSet, (c) => setGroups(c, null)),
];
