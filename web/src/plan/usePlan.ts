import * as api from '@rosemary/api/endpoints';
import type { AudienceName, BatchChange, BatchFields, ItemChange, Order, Plan, PlanItem, PlanUnit, UnitChange } from '@rosemary/api';
import type { ItemKind } from '@rosemary/core';
import { computed, ref, type Ref } from 'vue';
import { call, takeBack } from '../platform/call.ts';
import { HttpProblem } from '../platform/http.ts';
import { makeSerial } from '../platform/serial.ts';
import { useCourse } from '../stores/courseStore.ts';
import { useNotices } from '../stores/noticeStore.ts';
import { useTouched } from '../stores/touchedStore.ts';
import { countOf } from '@rosemary/core';

const COPY = (units: readonly PlanUnit[]): PlanUnit[] => units.map((u) => ({ ...u, items: [...u.items] }));

/** What is typed in place shows that it changed; everything else says so, with Undo. */
const TYPED = new Set<string>(['title', 'estimatedMinutes', 'markingMinutes', 'nextNote'] satisfies (keyof ItemChange)[]);
const DATES = new Set(['opensAt', 'dueAt', 'closesAt']);

/** The fields of a change as they stood before; who something is for travels without names. */
function asBefore<C extends object>(before: object, change: C): C {
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
  const touched = useTouched();
  const course = useCourse();
  const base = computed(() => ({ courseId: courseId.value }));

  function show(next: Plan): void {
    plan.value = next;
    units.value = COPY(next.units);
  }
  async function load(): Promise<void> {
    try {
      show(await call(api.getPlan, base.value));
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
      // Another unit may be for others, or for staff only, so a move can move totals.
      const moved = await call(api.orderPlan, base.value, orderOf(units.value), 'The new order');
      if (moved === null) {
        await load();
        return;
      }
      show(moved);
      const after = orderOf(moved.units);
      const again = async (): Promise<void> => {
        show((await call(api.orderPlan, base.value, after, 'The new order')) ?? moved);
        notices.say(words, back, again);
      };
      const back = async (): Promise<void> => {
        show(await takeBack(api.orderPlan, base.value, before));
      };
      notices.say(words, back, again);
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
      show((await call(api.addUnit, base.value, { title, isStanding })).plan);
    });
  }
  async function addItem(unitId: string, kind: ItemKind, title: string, position: number): Promise<string | null> {
    let made: string | null = null;
    await run(async () => {
      const { id, plan: next } = await call(api.addItem, base.value, { unitId, kind, title, position });
      made = id;
      show(next);
    });
    return made;
  }
  async function renameUnit(unit: PlanUnit, title: string): Promise<void> {
    await run(async () => {
      const renamed = await call(api.changeUnit, { ...base.value, unitId: unit.id }, { title, version: unit.version }, `“${title}”`);
      if (renamed !== null) show(renamed);
    });
  }
  /** Changes dates or audience of a whole unit; throws the problem so that the field can show it. */
  async function changeUnit(unit: PlanUnit, change: Omit<UnitChange, 'version'>): Promise<boolean> {
    let isApplied = true;
    await serial(async () => {
      const at = { ...base.value, unitId: unit.id };
      const before = units.value.find((u) => u.id === unit.id) ?? unit;
      const changed = await call(api.changeUnit, at, { ...change, version: before.version }, `“${unit.title}”`);
      isApplied = changed !== null;
      if (changed === null) return;
      show(changed);
      void course.load(courseId.value);
      notices.say(
        `“${unit.title}” is changed.`,
        async () => {
          const version = units.value.find((u) => u.id === unit.id)?.version ?? 0;
          show(await takeBack(api.changeUnit, at, { ...asBefore(before, change), version }));
        },
        () => changeUnit(unit, change),
      );
    });
    return isApplied;
  }
  /** Shows the Plan without what was deleted, with the way back. */
  function showWithout(plan: Plan | null, words: string, restore: () => Promise<Plan>, again: () => Promise<unknown>): void {
    if (plan === null) return;
    show(plan);
    notices.say(
      words,
      async () => {
        show(await restore());
      },
      again,
    );
  }
  const remove = (what: 'unit' | 'item', id: string, title: string): Promise<boolean> =>
    run(async () => {
      const words = `“${title}” is deleted.`;
      if (what === 'unit') {
        const at = { ...base.value, unitId: id };
        showWithout(
          await call(api.removeUnit, at, undefined, `Without “${title}”`),
          words,
          () => takeBack(api.removeUnit, at),
          () => remove(what, id, title),
        );
      } else {
        const at = { ...base.value, itemId: id };
        showWithout(
          await call(api.removeItem, at, undefined, `Without “${title}”`),
          words,
          () => takeBack(api.removeItem, at),
          () => remove(what, id, title),
        );
      }
    });
  function keep(item: PlanItem): void {
    units.value = units.value.map((u) => ({ ...u, items: u.items.map((i) => (i.id === item.id ? item : i)) }));
  }
  const latestOf = (item: PlanItem): PlanItem => units.value.flatMap((u) => u.items).find((i) => i.id === item.id) ?? item;
  /** In a running course new dates may be for some only; null where the change was left. */
  async function whomFor(item: PlanItem, change: Omit<ItemChange, 'version'>): Promise<Omit<ItemChange, 'version'> | null> {
    const hasDates = Object.keys(change).some((field) => DATES.has(field));
    if (!hasDates || item.isDraft || course.head?.isOpen !== true) return change;
    const whom = await touched.ask(`New dates of “${item.title}”`, await call(api.getTouched, { ...base.value, itemId: item.id }));
    if (whom === null) return null;
    return whom === 'everyone' ? change : { ...change, whom };
  }
  async function undoItem(before: PlanItem, change: Omit<ItemChange, 'version'>): Promise<void> {
    const at = { ...base.value, itemId: before.id };
    if (change.whom !== undefined) {
      const variants = before.variants.map(({ sectionId, enrolmentId, opensAt, dueAt, closesAt }) => ({
        sectionId,
        enrolmentId,
        opensAt,
        dueAt,
        closesAt,
      }));
      keep(await takeBack(api.saveVariants, at, { variants }));
    }
    keep(await takeBack(api.changeItem, at, { ...asBefore(before, change), version: latestOf(before).version }));
    void course.load(courseId.value);
  }
  /**
   * Changes an item; throws the problem so that the field can show it. False where it was left. One change after
   * another: the next is rehearsed on what the one before it made.
   */
  async function changeItem(item: PlanItem, wished: Omit<ItemChange, 'version'>): Promise<boolean> {
    let isApplied = true;
    await serial(async () => {
      const before = latestOf(item);
      const change = await whomFor(before, wished);
      const at = { ...base.value, itemId: item.id };
      const changed = change && (await call(api.changeItem, at, { ...change, version: before.version }, `“${item.title}”`));
      isApplied = changed !== null;
      if (change === null || changed === null) return;
      keep(changed);
      void course.load(courseId.value);
      if (Object.keys(change).some((field) => !TYPED.has(field)))
        notices.say(
          `“${item.title}” is changed.`,
          () => serial(() => undoItem(before, change)),
          () => changeItem(item, change),
        );
    });
    return isApplied;
  }
  /** Changes several items together, all or none; its ripple first, and one Undo for all of it. */
  async function changeMany(fields: ReadonlyMap<string, BatchFields>, words: string): Promise<void> {
    await run(() =>
      serial(async () => {
        const items = units.value.flatMap((u) => u.items).filter((i) => fields.has(i.id));
        const change: BatchChange = { changes: items.map((i) => ({ id: i.id, version: i.version, ...fields.get(i.id) })) };
        const done = await call(api.changeItems, base.value, change, items.length === 1 ? `“${items[0]?.title}”` : `${items.length} items`);
        if (done === null) return;
        show(done.plan);
        notices.say(
          words,
          async () => {
            show((await takeBack(api.changeItems, base.value, done.undo)).plan);
            void course.load(courseId.value);
          },
          () => changeMany(fields, words),
        );
      }),
    );
  }
  const removeMany = (itemIds: readonly string[]): Promise<boolean> =>
    run(async () => {
      const left = await call(api.removeItems, base.value, { itemIds }, `Without ${countOf(itemIds.length, 'item')}`);
      showWithout(
        left,
        `${countOf(itemIds.length, 'item is', 'items are')} deleted.`,
        () => takeBack(api.removeItems, base.value, { itemIds }),
        () => removeMany(itemIds),
      );
    });
  async function duplicateMany(ids: readonly string[]): Promise<readonly string[]> {
    let made: readonly string[] = [];
    await run(async () => {
      const done = await call(api.duplicateItems, base.value, { itemIds: ids });
      show(done.plan);
      made = done.made;
      notices.say(
        made.length === 1 ? 'The copy stands below it, as a draft.' : `${made.length} copies stand below their originals, as drafts.`,
        async () => {
          const left = await call(api.removeItems, base.value, { itemIds: made }, 'Without the copies');
          if (left !== null) show(left);
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
    void saveOrder(before, `${countOf(chosen.length, 'item is', 'items are')} moved.`);
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
