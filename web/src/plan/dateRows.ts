import type { AnnouncementView, DatesChange, Plan, PlanItem, PlanUnit } from '@rosemary/api';

/** One date of a course as it stands in the sheet. */
export interface DateRow {
  readonly key: string;
  readonly of: 'item' | 'unit' | 'announcement';
  readonly id: string;
  readonly title: string;
  readonly kind: PlanItem['kind'] | null;
  readonly field: 'announcedAt' | 'opensAt' | 'dueAt' | 'closesAt' | 'publishAt';
  /** For whom it is, where it is a date of a section, a group or a student; empty is everyone. */
  readonly whose: string;
  /** The place among the other dates of its item; null where it is everyone’s. */
  readonly variant: number | null;
  readonly at: number;
}
export const FIELD_WORDS: Readonly<Record<DateRow['field'], string>> = {
  announcedAt: 'announced from',
  opensAt: 'opens',
  dueAt: 'due',
  closesAt: 'closes',
  publishAt: 'published',
};
type Field = 'announcedAt' | 'opensAt' | 'dueAt' | 'closesAt';
const ITEM: readonly Field[] = ['announcedAt', 'opensAt', 'dueAt', 'closesAt'];
const UNIT = ['announcedAt', 'opensAt', 'closesAt'] as const;
const VARIANT = ['opensAt', 'dueAt', 'closesAt'] as const;

const itemRows = (item: PlanItem): DateRow[] => {
  const base = { of: 'item' as const, id: item.id, title: item.title, kind: item.kind };
  const own = ITEM.flatMap((field) => {
    const at = item[field];
    return at === null ? [] : [{ ...base, key: `${item.id} ${field}`, field, whose: '', variant: null, at: Date.parse(at) }];
  });
  const others = item.variants.flatMap((v, n) =>
    VARIANT.flatMap((field) => {
      const at = v[field];
      return at === null ? [] : [{ ...base, key: `${item.id} ${n} ${field}`, field, whose: v.name, variant: n, at: Date.parse(at) }];
    }),
  );
  return [...own, ...others];
};
const unitRows = (unit: PlanUnit): DateRow[] =>
  UNIT.flatMap((field) => {
    const at = unit[field];
    const base = { of: 'unit' as const, id: unit.id, title: unit.title, kind: null, whose: '', variant: null };
    return at === null ? [] : [{ ...base, key: `${unit.id} ${field}`, field, at: Date.parse(at) }];
  });

/** Every date of a course, unit by unit; announcements that are still to come stand at the end. */
export function dateRows(plan: Plan, announcements: readonly AnnouncementView[]): readonly DateRow[] {
  return [
    ...plan.units.flatMap((unit) => [...unitRows(unit), ...unit.items.flatMap(itemRows)]),
    ...announcements
      .filter((one) => one.isScheduled)
      .map((one): DateRow => {
        const base = { of: 'announcement' as const, id: one.id, title: one.title, kind: null, whose: '', variant: null };
        return { ...base, key: `${one.id} publishAt`, field: 'publishAt', at: Date.parse(one.publishAt) };
      }),
  ];
}

/** What is sent: new dates by the keys of their rows; null clears one. Announcements cannot be without a date. */
export function toChange(
  plan: Plan,
  announcements: readonly AnnouncementView[],
  rows: readonly DateRow[],
  next: ReadonlyMap<string, number | null>,
): DatesChange {
  const iso = (at: number | null): string | null => (at === null ? null : new Date(at).toISOString());
  const named = rows.filter((row) => next.has(row.key));
  const fieldsOf = (id: string): Partial<Record<Field, string | null>> =>
    Object.fromEntries(
      named.filter((row) => row.id === id && row.variant === null).map((row) => [row.field, iso(next.get(row.key) ?? null)]),
    );
  const isNamed = (id: string): boolean => named.some((row) => row.id === id);
  const variantsOf = (item: PlanItem): DatesChange['items'][number]['variants'] =>
    item.variants.map((v, n) => {
      const dates = Object.fromEntries(
        VARIANT.map((field) => {
          const key = `${item.id} ${n} ${field}`;
          return [field, next.has(key) ? iso(next.get(key) ?? null) : v[field]];
        }),
      ) as Record<(typeof VARIANT)[number], string | null>;
      return { sectionId: v.sectionId, enrolmentId: v.enrolmentId, groupId: v.groupId ?? null, ...dates };
    });
  return {
    items: plan.units
      .flatMap((unit) => unit.items)
      .filter((item) => isNamed(item.id))
      .map((item) => ({
        ...{ id: item.id, version: item.version, ...fieldsOf(item.id) },
        ...(named.some((row) => row.id === item.id && row.variant !== null) ? { variants: variantsOf(item) } : {}),
      })),
    units: plan.units.filter((unit) => isNamed(unit.id)).map((unit) => ({ id: unit.id, version: unit.version, ...fieldsOf(unit.id) })),
    announcements: announcements.flatMap((one) => {
      const at = next.get(`${one.id} publishAt`) ?? null;
      return at === null ? [] : [{ id: one.id, version: one.version, publishAt: new Date(at).toISOString() }];
    }),
  };
}
