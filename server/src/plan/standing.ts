import { type ItemKind, kindOfItem } from '@rosemary/core';
import { invalid } from '../platform/errors.ts';

/** Outside the units stands what is read, and nothing that counts or is waited for. */
export function requireStanding(kinds: readonly ItemKind[]): void {
  if (kinds.some((kind) => !kindOfItem(kind).canStand))
    throw invalid('unitId', 'Standing pages are pages, files and links. What is handed in, marked or discussed stands in a unit.');
}
