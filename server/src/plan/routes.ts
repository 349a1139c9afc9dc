import {
  batchChange,
  carryWish,
  type CarryWish,
  documentChange,
  itemChange,
  itemChoice,
  linkChange,
  columnPlace,
  newColumn,
  newItem,
  newTemplate,
  newUnit,
  order,
  type Plan,
  shownFileChange,
  unitChange,
  variantsChange,
  versionSeen,
} from '@rosemary/api';
import * as api from '@rosemary/api/endpoints';
import { getPlanItem } from '../items/index.ts';
import { saveShownFile } from '../kinds/file/index.ts';
import { saveLink } from '../kinds/link/index.ts';
import { addTemplate, getVersion, listTemplates, listVersions, savePage, setTemplateRemoved, useTemplate } from '../kinds/page/index.ts';
import { notFound } from '../platform/errors.ts';
import { implement, type MemberContext, type Route } from '../platform/route.ts';
import { addItem } from './addItem.ts';
import { addGradeColumn, placeGradeColumn } from './gradeColumns.ts';
import { changeItems, setItemsRemoved } from './batch.ts';
import { carry } from './carry.ts';
import { readCarriage } from './carryPreview.ts';
import { changeItem } from './changes.ts';
import { dropChanges, publishText, takeBackPublishing } from './publish.ts';
import { checkBeforeOpening } from './check.ts';
import { duplicateItems } from './copy.ts';
import { getItemDetail } from './detail.ts';
import { getOrder, reorder } from './order.ts';
import { getPlan } from './queries.ts';
import { setRemoved } from './remove.ts';
import { saveVariants } from './saveVariants.ts';
import { makeTime } from './time.ts';
import { addUnit, changeUnit } from './units.ts';

type OfUnit = MemberContext<unknown, { readonly unitId: string }>;

async function setUnit(c: OfUnit, removedAt: number | null): Promise<Plan> {
  await setRemoved(c.db, 'unit', c.courseId, c.params.unitId, removedAt);
  return getPlan(c.db, c.courseId, c.now);
}

type OfItem = MemberContext<unknown, { readonly itemId: string }>;

async function setItem(c: OfItem, removedAt: number | null): Promise<Plan> {
  await setRemoved(c.db, 'item', c.courseId, c.params.itemId, removedAt);
  return getPlan(c.db, c.courseId, c.now);
}

/** What is brought in comes from a course one teaches; any other is unknown. */
function requireSource(c: MemberContext<CarryWish>): void {
  const isOwn = c.person.memberships.some((m) => m.courseId === c.body.fromCourseId && m.role === 'instructor' && m.isActive);
  if (!isOwn || c.body.fromCourseId === c.courseId) throw notFound();
}

export const planRoutes: readonly Route[] = [
  implement(api.getPlan, ({ db, courseId, now }) => getPlan(db, courseId, now)),
  implement(api.getCheck, ({ db, courseId, now }) => checkBeforeOpening(db, courseId, now)),
  implement(api.getCourseTime, ({ db, courseId, now }) => makeTime(db, courseId, now)),
  implement(api.addUnit, newUnit, async (c) => {
    const id = await addUnit(c.db, c.courseId, c.body.title, c.body.isStanding);
    return { id, plan: await getPlan(c.db, c.courseId, c.now) };
  }),
  implement(api.changeUnit, unitChange, async (c) => {
    await changeUnit(c.db, c.courseId, c.params.unitId, c.body);
    return getPlan(c.db, c.courseId, c.now);
  }),
  implement(api.changeItems, batchChange, async (c) => {
    const done = await changeItems(c.db, c.courseId, c.body, c.now);
    c.account({ before: done.undo });
    return done;
  }),
  implement(api.duplicateItems, itemChoice, async (c) => {
    const made = await duplicateItems(c.db, c.courseId, c.body.itemIds);
    c.account({ before: c.body.itemIds, after: made });
    return { made, plan: await getPlan(c.db, c.courseId, c.now) };
  }),
  implement(api.previewCarrying, carryWish, async (c) => {
    requireSource(c);
    return (await readCarriage(c.db, c.courseId, c.body, c.now)).preview;
  }),
  implement(api.carryItems, carryWish, async (c) => {
    requireSource(c);
    const done = await carry(c.db, c.courseId, c.body, c.person.personId, c.now);
    c.account({ before: c.body, after: done });
    return done;
  }),
  implement(api.removeItems, itemChoice, async (c) => {
    await setItemsRemoved(c.db, c.courseId, c.body.itemIds, c.now);
    return getPlan(c.db, c.courseId, c.now);
  }),
  implement(api.restoreItems, itemChoice, async (c) => {
    await setItemsRemoved(c.db, c.courseId, c.body.itemIds, null);
    return getPlan(c.db, c.courseId, c.now);
  }),
  implement(api.removeUnit, (c) => setUnit(c, c.now)),
  implement(api.restoreUnit, (c) => setUnit(c, null)),
  implement(api.removeItem, (c) => setItem(c, c.now)),
  implement(api.restoreItem, (c) => setItem(c, null)),
  implement(api.orderPlan, order, async (c) => {
    const before = await getOrder(c.db, c.courseId);
    await reorder(c.db, c.courseId, c.body);
    c.account({ before });
    return getPlan(c.db, c.courseId, c.now);
  }),
  implement(api.addGradeColumn, newColumn, ({ db, courseId, body, now }) => addGradeColumn(db, courseId, body, now)),
  implement(api.placeGradeColumn, columnPlace, async ({ db, courseId, params, body }) => {
    await placeGradeColumn(db, courseId, params.itemId, body);
  }),
  implement(api.addItem, newItem, async (c) => {
    const id = await addItem(c.db, c.courseId, c.body);
    return { id, plan: await getPlan(c.db, c.courseId, c.now) };
  }),
  implement(api.getItem, ({ db, courseId, params, now }) => getItemDetail(db, courseId, params.itemId, now)),
  implement(api.changeItem, itemChange, async (c) => {
    const id = c.params.itemId;
    const before = await getPlanItem(c.db, c.courseId, id, c.now);
    await changeItem(c.db, c.courseId, id, c.body, c.now);
    const after = await getPlanItem(c.db, c.courseId, id, c.now);
    c.account({ before, after });
    return after;
  }),
  implement(api.savePage, documentChange, (c) => savePage(c.db, c.courseId, c.params.itemId, c.body, c.person.personId, c.now)),
  implement(api.publishText, versionSeen, (c) => publishText(c.db, c.courseId, c.params.itemId, c.body.version, c.now)),
  implement(api.takeBackPublishing, documentChange, (c) =>
    takeBackPublishing(c.db, c.courseId, c.params.itemId, c.body, c.person.personId, c.now),
  ),
  implement(api.dropWorkingCopy, versionSeen, (c) => dropChanges(c.db, c.courseId, c.params.itemId, c.body.version, c.now)),
  implement(api.saveLink, linkChange, async (c) => ({ version: await saveLink(c.db, c.courseId, c.params.itemId, c.body, c.now) })),
  implement(api.saveShownFile, shownFileChange, async (c) => ({
    version: await saveShownFile(c.db, c.courseId, c.params.itemId, c.body, c.now),
  })),
  implement(api.getPageVersions, async (c) => {
    const { id } = await getPlanItem(c.db, c.courseId, c.params.itemId, c.now);
    return { versions: await listVersions(c.db, id) };
  }),
  implement(api.getPageVersion, async (c) => {
    const { id } = await getPlanItem(c.db, c.courseId, c.params.itemId, c.now);
    return getVersion(c.db, id, Number(c.query.number));
  }),
  implement(api.listTemplates, async ({ db, person }) => ({ templates: await listTemplates(db, person.personId) })),
  implement(api.addTemplate, newTemplate, async ({ db, person, body, now }) => ({ id: await addTemplate(db, person.personId, body, now) })),
  implement(api.useTemplate, async (c) => ({
    document: await useTemplate(c.db, c.courseId, c.person.personId, c.params.templateId, c.now),
  })),
  implement(api.removeTemplate, ({ db, person, params, now }) => setTemplateRemoved(db, person.personId, params.templateId, now)),
  implement(api.restoreTemplate, ({ db, person, params }) => setTemplateRemoved(db, person.personId, params.templateId, null)),
  implement(api.saveVariants, variantsChange, async (c) => {
    const id = c.params.itemId;
    await saveVariants(c.db, c.courseId, id, c.body, c.now);
    return getPlanItem(c.db, c.courseId, id, c.now);
  }),
];
