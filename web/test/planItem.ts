import type { PlanItem } from '@rosemary/api';
import { kindOfItem, type ItemKind } from '@rosemary/core';

/** An item of the Plan as the server tells of it. */
export const planItem = (kind: ItemKind, more: Partial<PlanItem> = {}): PlanItem => ({
  ...{
    id: 'i',
    kind,
    title: 'Fusee chains',
    state: 'draft',
    isDraft: true,
    isOff: false,
    isDraftOnceOn: true,
    categoryId: null,
    possible: 10_000,
    judged: null,
  },
  ...{
    multiplier: 1000,
    isExtraCredit: false,
    counts: true,
    isRequired: true,
    announcedAt: null,
    opensAt: null,
    dueAt: null,
    closesAt: null,
  },
  ...{
    estimatedMinutes: 60,
    markingMinutes: 8,
    taskTypeId: null,
    doneRule: kindOfItem(kind).doneRules[0],
    isReviewed: false,
    doneScore: null,
    releaseMode: 'finished',
    releaseAt: null,
  },
  ...{ isStaffOnly: false, audience: [], opening: { needs: 'all', rules: [] }, handOpenings: [], nextNote: '', showsStatistics: false },
  ...{
    studentReads: 'points',
    staffReads: 'points',
    ownLevels: null,
    late: null,
    version: 1,
    hasChanges: false,
    warnings: [],
    variants: [],
  },
  ...more,
});
