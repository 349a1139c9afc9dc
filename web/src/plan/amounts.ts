import type { PlanItem, PlanUnit } from '@rosemary/api';
import { type Asked, amountInWords, amountOf } from '@rosemary/core';

const asked = (item: PlanItem, isUnitOff = false): Asked => ({
  id: item.id,
  minutes: item.estimatedMinutes,
  points: item.possible,
  isOff: item.isOff || item.isStaffOnly || isUnitOff,
});
/** What units ask of a student in all: `3 h 10 of 4 h 20 · 60 of 80 points`. */
export const askedByUnits = (units: readonly PlanUnit[]): string =>
  amountInWords(amountOf(units.flatMap((unit) => unit.items.map((item) => asked(item, unit.isStaffOnly)))));
/** What these items ask of a student in all. */
export const askedByItems = (items: readonly PlanItem[]): string => amountInWords(amountOf(items.map((item) => asked(item))));
/** Everything in it is switched off. */
export const isUnitOff = (unit: PlanUnit): boolean => unit.items.length > 0 && unit.items.every((item) => item.isOff);
