import type {
  AudienceName,
  BatchChange,
  BatchDone,
  BatchFields,
  ItemChange,
  Order,
  Plan,
  PlanItem,
  PlanUnit,
  Touched,
  UnitChange,
} from '@rosemary/api';
import type { ItemKind } from '@rosemary/core';
import { computed, ref, type Ref } from 'vue';
import { HttpProblem, get, send } from '../platform/http.ts';
import { makeSerial } from '../platform/serial.ts';
import { useCourse } from '../shell/courseStore.ts';
import { useNotices } from '../shell/noticeStore.ts';
import { useRipple } from '../shell/rippleStore.ts';
import { useTouched } from '../shell/touchedStore.ts';

const COPY = (units: readonly PlanUnit[]): PlanUnit[] => units.map((u) => ({ ...u, items: [...u.items] }));

/** Fields of an item that stand in a total, or decide whether it stands there. */
const MOVES_GRADES = new Set([
  'isDraft',
  'categoryId',
  'possible',
  'multiplier',
  'late',
  'isExtraCredit',
  'counts',
  'dueAt',
  'closesAt',
  'audience',
  'isStaffOnly',
]);
/** Changes that are easily made by mistake say that they happened, with Undo. */
const SAYS_UNDO = new Set([...MOVES_GRADES, 'opening', 'opensAt', 'announcedAt']);
const DATES = new Set(['opensAt', 'dueAt', 'closesAt']);

/** The fields of a change as they stood before; who something is for travels without names. */
function takeBack<C extends object>(before: object, change: C): C {
  const was = before as Record<string, unknown>;
  return Object.fromEntries(
    Object.keys(change)
      .filter((field) => field !== 'whom')
      .map((field) => [
        field,
        field === 'audience'
          ? (was.audience as AudienceName[]).map(({ sectionId, enrolmentId, groupId }) => ({ sectionId, enrolmentId, groupId }))
          : was[field],
      ]),
  ) as C;
}

/** The Plan of a course and everything that changes it; each change can be taken back. */
export function usePlan(courseId: Ref<string>) {
  const plan = ref<Plan | null>(null);
  const units = ref<PlanUnit[]>([]);
  const fault = ref('');
  const serial = makeSerial();
  const notices = useNotices();
  const ripple = useRipple();
  const touched = useTouched();
  const course = useCourse();
  const base = computed(() => `/courses/${courseId.value}`);

  function show(next: Plan): void {
    plan.value = next;
    units.value = COPY(next.units);
  }
  async function load(): Promise<void> {
    try {
      show(await get<Plan>(`${base.value}/plan`));
    } catch (error) {
      fault.value = error instanceof Error ? error.message : '';
    }
  }
  /** Runs a change; when it fails the Plan is shown afresh and the reason said. The term line follows every change. */
  async function run(change: () => Promise<void>): Promise<boolean> {
    try {
      await change();
      void course.load(courseId.value);
      return true;
    } catch (error) {
      notices.sayFault(error);
      if (!(error instanceof HttpProblem) || error.code === 'conflict') await load();
      return false;
    }
  }

  const orderOf = (list: readonly PlanUnit[]): Order => ({ units: list.map((u) => ({ id: u.id, itemIds: u.items.map((i) => i.id) })) });
  async function saveOrder(before: Order, words: string): Promise<void> {
    await run(async () => {
      const next = orderOf(units.value);
      // Another unit may be for others, or for staff only, so a move can move totals.
      if (!(await ripple.confirm('The new order', 'PUT', `${base.value}/order`, next))) {
        await load();
        return;
      }
      show(await send<Plan>('PUT', `${base.value}/order`, next));
      notices.say(words, async () => {
        show(await send<Plan>('PUT', `${base.value}/order`, before));
      });
    });
  }
  function moveItem(itemId: string, by: -1 | 1): void {
    const before = orderOf(units.value);
    const list = COPY(units.value);
    const u = list.findIndex((x) => x.items.some((i) => i.id === itemId));
    const unit = list[u];
    if (unit === undefined) return;
    const at = unit.items.findIndex((i) => i.id === itemId);
    const [item] = (unit.items as PlanItem[]).splice(at, 1);
    const target = at + by;
    if (item === undefined) return;
    if (target >= 0 && target <= unit.items.length) (unit.items as PlanItem[]).splice(target, 0, item);
    else {
      const next = list[u + by];
      if (next === undefined) return;
      (next.items as PlanItem[]).splice(by > 0 ? 0 : next.items.length, 0, item);
    }
    units.value = list;
    void saveOrder(before, `“${item.title}” moved.`);
  }
  function moveUnit(unitId: string, by: -1 | 1): void {
    const before = orderOf(units.value);
    const list = COPY(units.value);
    const at = list.findIndex((x) => x.id === unitId);
    // Standing pages come before all units, whatever moves.
    if (at + by < 0 || at + by >= list.length || list[at]?.isStanding === true || list[at + by]?.isStanding === true) return;
    const [unit] = list.splice(at, 1);
    if (unit === undefined) return;
    list.splice(at + by, 0, unit);
    units.value = list;
    void saveOrder(before, `“${unit.title}” moved.`);
  }

  async function addUnit(title: string, isStanding = false): Promise<void> {
    await run(async () => {
      show((await send<{ plan: Plan }>('POST', `${base.value}/units`, { title, isStanding })).plan);
    });
  }
  async function addItem(unitId: string, kind: ItemKind, title: string, position: number): Promise<string | null> {
    let made: string | null = null;
    await run(async () => {
      const { id, plan: next } = await send<{ id: string; plan: Plan }>('POST', `${base.value}/items`, { unitId, kind, title, position });
      made = id;
      show(next);
    });
    return made;
  }
  async function renameUnit(unit: PlanUnit, title: string): Promise<void> {
    await run(async () => {
      show(await send<Plan>('PATCH', `${base.value}/units/${unit.id}`, { title, version: unit.version }));
    });
  }
  /** Changes dates or audience of a whole unit, its ripple first; throws the problem so that the field can show it. */
  async function changeUnit(unit: PlanUnit, change: Omit<UnitChange, 'version'>): Promise<boolean> {
    let isApplied = true;
    await serial(async () => {
      const path = `${base.value}/units/${unit.id}`;
      const before = units.value.find((u) => u.id === unit.id) ?? unit;
      isApplied = await ripple.confirm(`“${unit.title}”`, 'PATCH', path, { ...change, version: before.version });
      if (!isApplied) return;
      show(await send<Plan>('PATCH', path, { ...change, version: before.version }));
      void course.load(courseId.value);
      notices.say(`“${unit.title}” is changed.`, async () => {
        const version = units.value.find((u) => u.id === unit.id)?.version ?? 0;
        show(await send<Plan>('PATCH', path, { ...takeBack(before, change), version }));
      });
    });
    return isApplied;
  }
  async function remove(what: 'unit' | 'item', id: string, title: string): Promise<void> {
    await run(async () => {
      if (!(await ripple.confirm(`Without “${title}”`, 'DELETE', `${base.value}/${what}s/${id}`))) return;
      show(await send<Plan>('DELETE', `${base.value}/${what}s/${id}`));
      notices.say(`“${title}” is deleted.`, async () => {
        show(await send<Plan>('POST', `${base.value}/${what}s/${id}/restore`));
      });
    });
  }
  function keep(item: PlanItem): void {
    units.value = units.value.map((u) => ({ ...u, items: u.items.map((i) => (i.id === item.id ? item : i)) }));
  }
  const latestOf = (item: PlanItem): PlanItem => units.value.flatMap((u) => u.items).find((i) => i.id === item.id) ?? item;
  const patch = async (item: PlanItem, change: Omit<ItemChange, 'version'>): Promise<void> => {
    keep(await send<PlanItem>('PATCH', `${base.value}/items/${item.id}`, { ...change, version: latestOf(item).version }));
    void course.load(courseId.value);
  };
  /** In a running course new dates may be for some only; null where the change was left. */
  async function whomFor(item: PlanItem, change: Omit<ItemChange, 'version'>): Promise<Omit<ItemChange, 'version'> | null> {
    const hasDates = Object.keys(change).some((field) => DATES.has(field));
    if (!hasDates || item.isDraft || course.head?.isOpen !== true) return change;
    const whom = await touched.ask(`New dates of “${item.title}”`, await get<Touched>(`${base.value}/items/${item.id}/touched`));
    if (whom === null) return null;
    return whom === 'everyone' ? change : { ...change, whom };
  }
  async function undoItem(before: PlanItem, change: Omit<ItemChange, 'version'>): Promise<void> {
    if (change.whom !== undefined) {
      const variants = before.variants.map(({ sectionId, enrolmentId, opensAt, dueAt, closesAt }) => ({
        sectionId,
        enrolmentId,
        opensAt,
        dueAt,
        closesAt,
      }));
      keep(await send<PlanItem>('PUT', `${base.value}/items/${before.id}/variants`, { variants }));
    }
    await patch(before, takeBack(before, change));
  }
  /**
   * Changes an item; throws the problem so that the field can show it. What can move a grade shows its ripple first:
   * false where it was left. One change after another: the next is rehearsed on what the one before it made.
   */
  async function changeItem(item: PlanItem, wished: Omit<ItemChange, 'version'>): Promise<boolean> {
    let isApplied = true;
    await serial(async () => {
      const before = latestOf(item);
      const change = await whomFor(before, wished);
      isApplied = change !== null;
      if (change === null) return;
      const fields = Object.keys(change);
      const canMove = fields.some((field) => MOVES_GRADES.has(field));
      const rehearsed = { ...change, version: before.version };
      isApplied = !canMove || (await ripple.confirm(`“${item.title}”`, 'PATCH', `${base.value}/items/${item.id}`, rehearsed));
      if (!isApplied) return;
      await patch(item, change);
      if (fields.some((field) => SAYS_UNDO.has(field)))
        notices.say(`“${item.title}” is changed.`, () => serial(() => undoItem(before, change)));
    });
    return isApplied;
  }
  /** Changes several items together, all or none; its ripple first, and one Undo for all of it. */
  async function changeMany(fields: ReadonlyMap<string, BatchFields>, words: string): Promise<void> {
    await run(() =>
      serial(async () => {
        const items = units.value.flatMap((u) => u.items).filter((i) => fields.has(i.id));
        const change: BatchChange = { changes: items.map((i) => ({ id: i.id, version: i.version, ...fields.get(i.id) })) };
        const path = `${base.value}/items`;
        if (!(await ripple.confirm(items.length === 1 ? `“${items[0]?.title}”` : `${items.length} items`, 'PUT', path, change))) return;
        const done = await send<BatchDone>('PUT', path, change);
        show(done.plan);
        notices.say(words, async () => {
          show((await send<BatchDone>('PUT', path, done.undo)).plan);
          void course.load(courseId.value);
        });
      }),
    );
  }
  async function removeMany(ids: readonly string[]): Promise<void> {
    await run(async () => {
      const body = { itemIds: ids };
      if (!(await ripple.confirm(`Without ${ids.length} items`, 'POST', `${base.value}/items/removals`, body))) return;
      show(await send<Plan>('POST', `${base.value}/items/removals`, body));
      notices.say(`${ids.length} items are deleted.`, async () => {
        show(await send<Plan>('POST', `${base.value}/items/restorals`, body));
      });
    });
  }
  async function duplicateMany(ids: readonly string[]): Promise<readonly string[]> {
    let made: readonly string[] = [];
    await run(async () => {
      const done = await send<{ made: string[]; plan: Plan }>('POST', `${base.value}/items/duplicates`, { itemIds: ids });
      show(done.plan);
      made = done.made;
      notices.say(
        made.length === 1 ? 'The copy stands below it, as a draft.' : `${made.length} copies stand below their originals, as drafts.`,
        async () => {
          show(await send<Plan>('POST', `${base.value}/items/removals`, { itemIds: made }));
        },
      );
    });
    return made;
  }
  /** Puts items, in their order, at the end of a unit. */
  function moveMany(ids: readonly string[], unitId: string): void {
    const before = orderOf(units.value);
    const chosen = units.value.flatMap((u) => u.items).filter((i) => ids.includes(i.id));
    units.value = units.value.map((u) => {
      const stay = u.items.filter((i) => !ids.includes(i.id));
      return { ...u, items: u.id === unitId ? [...stay, ...chosen] : stay };
    });
    void saveOrder(before, `${chosen.length} items are moved.`);
  }
  return {
    changeMany,
    removeMany,
    duplicateMany,
    moveMany,
    plan,
    units,
    fault,
    load,
    show,
    keep,
    addUnit,
    addItem,
    renameUnit,
    remove,
    moveItem,
    moveUnit,
    saveOrder,
    orderOf,
    changeItem,
    changeUnit,
  };
}
