import {
  assignmentChange,
  batchChange,
  carryWish,
  copyWish,
  documentChange,
  itemChange,
  itemChoice,
  linkChange,
  newTemplate,
  shownFileChange,
  newItem,
  newUnit,
  order,
  rubricChange,
  unitChange,
  variantsChange,
  type AssignmentChange,
  type BatchChange,
  type CarryWish,
  type CopyWish,
  type DocumentChange,
  type ItemChange,
  type ItemChoice,
  type LinkChange,
  type NewTemplate,
  type ShownFileChange,
  type NewItem,
  type NewUnit,
  type Order,
  type RubricChange,
  type UnitChange,
  type VariantsChange,
} from '@rosemary/api';
import { writeAudit } from '../platform/audit.ts';
import { checkBeforeOpening } from './check.ts';
import { changeRubricInUse } from '../marking/followRubric.ts';
import { carry } from './carry.ts';
import { readCarriage } from './carryPreview.ts';
import { changeItems, setItemsRemoved } from './batch.ts';
import { listCopyPlaces, makeCopies } from './copies.ts';
import { duplicateItems } from './copy.ts';
import { notFound } from '../platform/errors.ts';
import { courseRoute, personRoute, type MemberContext, type Route } from '../platform/route.ts';
import {
  addItem,
  addUnit,
  changeItem,
  changeUnit,
  getOrder,
  reorder,
  saveAssignment,
  savePage,
  saveRubric,
  saveVariants,
  setRemoved,
} from './changes.ts';
import { followCounting } from '../marking/followCounting.ts';
import { makeTime } from './time.ts';
import { saveLink, saveShownFile } from './material.ts';
import { addTemplate, getVersion, listTemplates, listVersions, setTemplateRemoved } from './versions.ts';
import { findRubric, findAssignment, getItemDetail, getPlan, getPlanItem } from './queries.ts';

const audit = (
  c: MemberContext<unknown>,
  action: string,
  subject: string,
  more: { before?: unknown; after?: unknown } = {},
): Promise<void> => writeAudit(c.db, { at: c.now, actorId: c.person.personId, courseId: c.courseId, action, subject, ...more });

function removal(what: 'unit' | 'item', removes: boolean): Route {
  const param = `${what}Id`;
  return courseRoute('plan.edit', {
    method: removes ? 'delete' : 'post',
    path: `/courses/:courseId/${what}s/:${param}${removes ? '' : '/restore'}`,
    movesGrades: true,
    handle: async (c) => {
      const id = c.params[param] ?? '';
      await setRemoved(c.db, what, c.courseId, id, removes ? c.now : null);
      await audit(c, `${what} ${removes ? 'deleted' : 'brought back'}`, id);
      return getPlan(c.db, c.courseId, c.now);
    },
  });
}

/** What is brought in comes from a course one teaches; any other is unknown. */
function requireSource(c: MemberContext<CarryWish>): void {
  const isOwn = c.person.memberships.some((m) => m.courseId === c.body.fromCourseId && m.role === 'instructor' && m.isActive);
  if (!isOwn || c.body.fromCourseId === c.courseId) throw notFound();
}

function batchRemoval(removes: boolean): Route {
  return courseRoute<ItemChoice>('plan.edit', {
    method: 'post',
    path: `/courses/:courseId/items/${removes ? 'removals' : 'restorals'}`,
    movesGrades: true,
    body: itemChoice,
    handle: async (c) => {
      await setItemsRemoved(c.db, c.courseId, c.body.itemIds, removes ? c.now : null);
      await audit(c, `items ${removes ? 'deleted' : 'brought back'}`, '', { after: c.body.itemIds });
      return getPlan(c.db, c.courseId, c.now);
    },
  });
}

export const planRoutes: readonly Route[] = [
  courseRoute('course.teach', {
    method: 'get',
    path: '/courses/:courseId/plan',
    handle: ({ db, courseId, now }) => getPlan(db, courseId, now),
  }),
  courseRoute('course.teach', {
    method: 'get',
    path: '/courses/:courseId/check',
    handle: ({ db, courseId, now }) => checkBeforeOpening(db, courseId, now),
  }),
  courseRoute('course.teach', {
    method: 'get',
    path: '/courses/:courseId/time',
    handle: ({ db, courseId, now }) => makeTime(db, courseId, now),
  }),
  courseRoute<NewUnit>('plan.edit', {
    method: 'post',
    path: '/courses/:courseId/units',
    body: newUnit,
    handle: async (c) => {
      const id = await addUnit(c.db, c.courseId, c.body.title, c.body.isStanding);
      await audit(c, 'unit added', id);
      return { id, plan: await getPlan(c.db, c.courseId, c.now) };
    },
  }),
  courseRoute<UnitChange>('plan.edit', {
    method: 'patch',
    path: '/courses/:courseId/units/:unitId',
    movesGrades: true,
    body: unitChange,
    handle: async (c) => {
      await changeUnit(c.db, c.courseId, c.params.unitId ?? '', c.body);
      await audit(c, 'unit changed', c.params.unitId ?? '', { after: c.body });
      return getPlan(c.db, c.courseId, c.now);
    },
  }),
  courseRoute<BatchChange>('plan.edit', {
    method: 'put',
    path: '/courses/:courseId/items',
    movesGrades: true,
    body: batchChange,
    handle: async (c) => {
      const done = await changeItems(c.db, c.courseId, c.body, c.now);
      await audit(c, 'items changed', '', { before: done.undo, after: c.body });
      return done;
    },
  }),
  courseRoute<ItemChoice>('plan.edit', {
    method: 'post',
    path: '/courses/:courseId/items/duplicates',
    body: itemChoice,
    handle: async (c) => {
      const made = await duplicateItems(c.db, c.courseId, c.body.itemIds);
      await audit(c, 'items duplicated', '', { before: c.body.itemIds, after: made });
      return { made, plan: await getPlan(c.db, c.courseId, c.now) };
    },
  }),
  courseRoute<CarryWish>('plan.edit', {
    method: 'post',
    path: '/courses/:courseId/carry/preview',
    isSilent: true,
    body: carryWish,
    handle: async (c) => {
      requireSource(c);
      return (await readCarriage(c.db, c.courseId, c.body, c.now)).preview;
    },
  }),
  courseRoute<CarryWish>('plan.edit', {
    method: 'post',
    path: '/courses/:courseId/carry',
    body: carryWish,
    handle: async (c) => {
      requireSource(c);
      const done = await carry(c.db, c.courseId, c.body, c.person.personId, c.now);
      await audit(c, 'items brought in', '', { before: c.body, after: done });
      return done;
    },
  }),
  courseRoute<ItemChoice>('plan.edit', {
    method: 'post',
    path: '/courses/:courseId/copies/places',
    isSilent: true,
    body: itemChoice,
    handle: (c) => listCopyPlaces(c.db, c.courseId, c.body.itemIds, c.person.memberships, c.now),
  }),
  courseRoute<CopyWish>('plan.edit', {
    method: 'post',
    path: '/courses/:courseId/copies',
    body: copyWish,
    handle: async (c) => {
      const done = await makeCopies(c.db, c.courseId, c.body, c.person, c.now);
      // Each course it reaches has it in its own account.
      for (const { courseId, itemIds } of done.made)
        await writeAudit(c.db, {
          at: c.now,
          actorId: c.person.personId,
          courseId,
          action: 'items copied here',
          subject: '',
          before: { courseId: c.courseId, itemIds: c.body.itemIds },
          after: itemIds,
        });
      return done;
    },
  }),
  batchRemoval(true),
  batchRemoval(false),
  removal('unit', true),
  removal('unit', false),
  removal('item', true),
  removal('item', false),
  courseRoute<Order>('plan.edit', {
    method: 'put',
    path: '/courses/:courseId/order',
    movesGrades: true,
    body: order,
    handle: async (c) => {
      const before = await getOrder(c.db, c.courseId);
      await reorder(c.db, c.courseId, c.body);
      await audit(c, 'items moved', '', { before, after: c.body });
      return getPlan(c.db, c.courseId, c.now);
    },
  }),
  courseRoute<NewItem>('plan.edit', {
    method: 'post',
    path: '/courses/:courseId/items',
    body: newItem,
    handle: async (c) => {
      const id = await addItem(c.db, c.courseId, c.body);
      await audit(c, 'item added', id);
      return { id, plan: await getPlan(c.db, c.courseId, c.now) };
    },
  }),
  courseRoute('course.teach', {
    method: 'get',
    path: '/courses/:courseId/items/:itemId',
    handle: ({ db, courseId, params, now }) => getItemDetail(db, courseId, params.itemId ?? '', now),
  }),
  courseRoute<ItemChange>('plan.edit', {
    method: 'patch',
    path: '/courses/:courseId/items/:itemId',
    movesGrades: true,
    body: itemChange,
    handle: async (c) => {
      const id = c.params.itemId ?? '';
      const before = await getPlanItem(c.db, c.courseId, id, c.now);
      await changeItem(c.db, c.courseId, id, c.body, c.now);
      const after = await getPlanItem(c.db, c.courseId, id, c.now);
      await audit(c, 'item changed', id, { before, after });
      return after;
    },
  }),
  courseRoute<DocumentChange>('plan.edit', {
    method: 'put',
    path: '/courses/:courseId/items/:itemId/page',
    body: documentChange,
    handle: async (c) => ({ version: await savePage(c.db, c.courseId, c.params.itemId ?? '', c.body, c.person.personId, c.now) }),
  }),
  courseRoute<LinkChange>('plan.edit', {
    method: 'put',
    path: '/courses/:courseId/items/:itemId/link',
    body: linkChange,
    handle: async (c) => ({ version: await saveLink(c.db, c.courseId, c.params.itemId ?? '', c.body, c.now) }),
  }),
  courseRoute<ShownFileChange>('plan.edit', {
    method: 'put',
    path: '/courses/:courseId/items/:itemId/file',
    body: shownFileChange,
    handle: async (c) => ({ version: await saveShownFile(c.db, c.courseId, c.params.itemId ?? '', c.body, c.now) }),
  }),
  courseRoute('course.teach', {
    method: 'get',
    path: '/courses/:courseId/items/:itemId/versions',
    handle: async (c) => {
      const { id } = await getPlanItem(c.db, c.courseId, c.params.itemId ?? '', c.now);
      const number = Number(c.query.number);
      return Number.isInteger(number) ? getVersion(c.db, id, number) : { versions: await listVersions(c.db, id) };
    },
  }),
  personRoute({
    method: 'get',
    path: '/templates',
    handle: async ({ db, person }) => ({ templates: await listTemplates(db, person.personId) }),
  }),
  personRoute<NewTemplate>({
    method: 'post',
    path: '/templates',
    body: newTemplate,
    handle: async ({ db, person, body, now }) => ({ id: await addTemplate(db, person.personId, body, now) }),
  }),
  personRoute({
    method: 'delete',
    path: '/templates/:templateId',
    handle: ({ db, person, params, now }) => setTemplateRemoved(db, person.personId, params.templateId ?? '', now),
  }),
  personRoute({
    method: 'post',
    path: '/templates/:templateId/restore',
    handle: ({ db, person, params }) => setTemplateRemoved(db, person.personId, params.templateId ?? '', null),
  }),
  courseRoute<AssignmentChange>('plan.edit', {
    method: 'put',
    path: '/courses/:courseId/items/:itemId/assignment',
    movesGrades: true,
    body: assignmentChange,
    handle: async (c) => {
      const id = c.params.itemId ?? '';
      const version = await saveAssignment(c.db, c.courseId, id, c.body, c.now);
      if (c.body.counted !== undefined) await followCounting(c.db, id, c.body.counted, c.person.personId, c.now);
      return { version };
    },
  }),
  courseRoute<RubricChange>('plan.edit', {
    method: 'put',
    path: '/courses/:courseId/items/:itemId/rubric',
    movesGrades: true,
    body: rubricChange,
    handle: async (c) => {
      const id = c.params.itemId ?? '';
      const { followed, kept } = await changeRubricInUse(c.db, id, c.person.personId, c.now, () =>
        saveRubric(c.db, c.courseId, id, c.body, c.now),
      );
      await audit(c, 'rubric changed', id, { before: null, after: { followed, kept } });
      return { rubric: await findRubric(c.db, (await findAssignment(c.db, id))?.rubricId ?? null), followed, kept };
    },
  }),
  courseRoute<VariantsChange>('plan.edit', {
    method: 'put',
    path: '/courses/:courseId/items/:itemId/variants',
    movesGrades: true,
    body: variantsChange,
    handle: async (c) => {
      const id = c.params.itemId ?? '';
      await saveVariants(c.db, c.courseId, id, c.body, c.now);
      await audit(c, 'other dates changed', id, { after: c.body });
      return getPlanItem(c.db, c.courseId, id, c.now);
    },
  }),
];
