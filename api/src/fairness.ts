import type { Icc, Limits } from '@rosemary/core';

/** How far those who mark agree, and whether a marker changes while marking; figures with what they were made from. */
export interface FairnessView {
  readonly pairs: readonly {
    readonly work: string;
    readonly first: string;
    readonly firstTotal: number;
    readonly second: string;
    readonly secondTotal: number;
    readonly agreed: number | null;
  }[];
  /** Of the scores: by the same two throughout, or by pairs that rotate. */
  readonly icc: (Icc & { readonly kind: 'same' | 'rotating' }) | null;
  readonly limits: Limits | null;
  readonly criteria: readonly { readonly title: string; readonly kappa: number | null; readonly pairs: number }[];
  readonly markers: readonly {
    readonly name: string;
    readonly marks: number;
    readonly meanPercent: number | null;
    readonly parts: readonly { readonly number: number; readonly meanPercent: number; readonly from: string; readonly to: string }[];
    readonly changePercent: number | null;
  }[];
  readonly possible: number;
}
