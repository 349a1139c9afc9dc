import type { ItemKind } from '@rosemary/core';

/** How far a section is, or everybody. */
export interface ProgressSaid {
  readonly sectionId: string | null;
  readonly classShare: number | null;
  /** Everybody who has the highest share, which may be several. */
  readonly furthest: { readonly names: readonly string[]; readonly share: number } | null;
  readonly highest: string | null;
  readonly lowest: string | null;
}

export interface ProgressView {
  readonly units: readonly { readonly id: string; readonly title: string }[];
  readonly people: readonly {
    readonly enrolmentId: string;
    readonly name: string;
    readonly sectionId: string | null;
    readonly units: readonly (number | null)[];
    readonly all: number | null;
    readonly lastVisit: string | null;
    readonly soFar: string | null;
  }[];
  /** What is said of the whole class (no section), and of each section. */
  readonly said: readonly ProgressSaid[];
  readonly by: 'items' | 'minutes';
}

export interface ProgressDetail {
  readonly name: string;
  readonly share: string;
  readonly items: readonly {
    readonly id: string;
    readonly kind: ItemKind;
    readonly title: string;
    readonly unit: string;
    readonly unitId: string;
    readonly isDone: boolean;
    readonly isOpen: boolean;
    readonly rule: string;
    readonly how: string;
    readonly minutes: number;
  }[];
}
