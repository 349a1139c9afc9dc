import * as api from '@rosemary/api/endpoints';
import { alignment, newObjective, objectiveChange, type Alignment } from '@rosemary/api';

import { implement, type MemberContext, type Route } from '../platform/route.ts';
import { bringObjectives, previewObjectives, writeObjectives } from './exchange.ts';
import { addObjective, align, changeObjective, listAligned, listObjectives, setObjectiveRemoved } from './queries.ts';

const list = async (c: MemberContext<unknown>) => ({ objectives: (await listObjectives(c.db, c.courseId)).objectives });

type OfObjective = MemberContext<unknown, { readonly objectiveId: string }>;
async function setObjective(c: OfObjective, removedAt: number | null) {
  await setObjectiveRemoved(c.db, c.courseId, c.params.objectiveId, removedAt);
  return list(c);
}

async function alignWith(c: MemberContext<Alignment>, owner: 'item' | 'criterion', ownerId: string) {
  await align(c.db, c.courseId, owner, ownerId, c.body.objectiveIds);
  return { objectiveIds: await listAligned(c.db, owner, ownerId) };
}

export const objectiveRoutes: readonly Route[] = [
  implement(api.listObjectives, list),
  implement(api.getObjectivesFile, async ({ db, courseId, query, response, now }) => {
    const isFramework = query.format === 'case';
    const text = await writeObjectives(db, courseId, isFramework ? 'case' : 'csv', now);
    response
      .set({
        'content-type': isFramework ? 'application/json' : 'text/csv; charset=utf-8',
        'content-disposition': `attachment; filename="objectives.${isFramework ? 'json' : 'csv'}"`,
        'cache-control': 'private, no-store',
      })
      .send(text);
  }),
  implement(api.addObjective, newObjective, async (c) => ({ id: await addObjective(c.db, c.courseId, c.body), ...(await list(c)) })),
  implement(api.previewObjectives, ({ db, courseId, file }) => previewObjectives(db, courseId, file.path)),
  implement(api.importObjectives, async ({ db, courseId, file, account }) => {
    const done = await bringObjectives(db, courseId, file.path);
    account({ after: { added: done.added, changed: done.changed } });
    return done;
  }),
  implement(api.changeObjective, objectiveChange, async (c) => {
    await changeObjective(c.db, c.courseId, c.params.objectiveId, c.body);
    return list(c);
  }),
  implement(api.removeObjective, (c) => setObjective(c, c.now)),
  implement(api.restoreObjective, (c) => setObjective(c, null)),
  implement(api.getItemObjectives, async (c) => ({ objectiveIds: await listAligned(c.db, 'item', c.params.itemId) })),
  implement(api.alignItem, alignment, (c) => alignWith(c, 'item', c.params.itemId)),
  implement(api.getCriterionObjectives, async (c) => ({ objectiveIds: await listAligned(c.db, 'criterion', c.params.criterionId) })),
  implement(api.alignCriterion, alignment, (c) => alignWith(c, 'criterion', c.params.criterionId)),
];
