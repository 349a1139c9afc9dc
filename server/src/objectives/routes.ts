import { alignment, newObjective, objectiveChange, type Alignment, type NewObjective, type ObjectiveChange } from '@rosemary/api';
import { withUpload } from '../files/upload.ts';
import { writeAudit } from '../platform/audit.ts';
import { courseRoute, type MemberContext, type Route } from '../platform/route.ts';
import { bringObjectives, previewObjectives, writeObjectives } from './exchange.ts';
import { addObjective, align, changeObjective, listAligned, listObjectives, setObjectiveRemoved } from './queries.ts';

const ALL = '/courses/:courseId/objectives';
const list = async (c: MemberContext<unknown>) => ({ objectives: (await listObjectives(c.db, c.courseId)).objectives });

function removal(removes: boolean): Route {
  return courseRoute('plan.edit', {
    method: removes ? 'delete' : 'post',
    path: `${ALL}/:objectiveId${removes ? '' : '/restore'}`,
    handle: async (c) => {
      await setObjectiveRemoved(c.db, c.courseId, c.params.objectiveId ?? '', removes ? c.now : null);
      return list(c);
    },
  });
}

function alignRoutes(owner: 'item' | 'criterion', path: string, param: string): Route[] {
  return [
    courseRoute('course.teach', {
      method: 'get',
      path,
      handle: async (c) => ({ objectiveIds: await listAligned(c.db, owner, c.params[param] ?? '') }),
    }),
    courseRoute<Alignment>('plan.edit', {
      method: 'put',
      path,
      body: alignment,
      handle: async (c) => {
        await align(c.db, c.courseId, owner, c.params[param] ?? '', c.body.objectiveIds);
        return { objectiveIds: await listAligned(c.db, owner, c.params[param] ?? '') };
      },
    }),
  ];
}

export const objectiveRoutes: readonly Route[] = [
  courseRoute('course.teach', { method: 'get', path: ALL, handle: list }),
  courseRoute('course.teach', {
    method: 'get',
    path: `${ALL}/file`,
    answers: 'stream',
    handle: async ({ db, courseId, query, response, now }) => {
      const isFramework = query.format === 'case';
      const text = await writeObjectives(db, courseId, isFramework ? 'case' : 'csv', now);
      response
        .set({
          'content-type': isFramework ? 'application/json' : 'text/csv; charset=utf-8',
          'content-disposition': `attachment; filename="objectives.${isFramework ? 'json' : 'csv'}"`,
          'cache-control': 'private, no-store',
        })
        .send(text);
    },
  }),
  courseRoute<NewObjective>('plan.edit', {
    method: 'post',
    path: ALL,
    body: newObjective,
    handle: async (c) => ({ id: await addObjective(c.db, c.courseId, c.body), ...(await list(c)) }),
  }),
  courseRoute('plan.edit', {
    method: 'post',
    path: `${ALL}/preview`,
    isSilent: true,
    takesFile: true,
    handle: ({ db, courseId, request, response }) => withUpload(request, response, ({ path }) => previewObjectives(db, courseId, path)),
  }),
  courseRoute('plan.edit', {
    method: 'post',
    path: `${ALL}/import`,
    takesFile: true,
    handle: ({ db, courseId, person, now, request, response }) =>
      withUpload(request, response, async ({ path }) => {
        const done = await bringObjectives(db, courseId, path);
        await writeAudit(db, {
          at: now,
          actorId: person.personId,
          courseId,
          action: 'objectives brought in',
          after: { added: done.added, changed: done.changed },
        });
        return done;
      }),
  }),
  courseRoute<ObjectiveChange>('plan.edit', {
    method: 'patch',
    path: `${ALL}/:objectiveId`,
    body: objectiveChange,
    handle: async (c) => {
      await changeObjective(c.db, c.courseId, c.params.objectiveId ?? '', c.body);
      return list(c);
    },
  }),
  removal(true),
  removal(false),
  ...alignRoutes('item', '/courses/:courseId/items/:itemId/objectives', 'itemId'),
  ...alignRoutes('criterion', '/courses/:courseId/criteria/:criterionId/objectives', 'criterionId'),
];
