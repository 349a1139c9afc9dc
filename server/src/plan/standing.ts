import type { ItemKind } from '@rosemary/core';
import { invalid } from '../platform/errors.ts';

/** What can stand outside the units: something to read, and nothing that counts or is waited for. */
const STANDING_KINDS: readonly ItemKind[] = ['page', 'file', 'link'];

export function requireStanding(kinds: readonly ItemKind[]): void {
  if (kinds.some((kind) => !STANDING_KINDS.includes(kind)))
    throw invalid('unitId', 'Standing pages are pages, files and links. What is handed in, marked or discussed stands in a unit.');
}
