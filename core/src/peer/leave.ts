/** How a work may be shown to the class it was written in. */
export const SHOWN_HOW = ['no', 'without name', 'with name'] as const;
export type ShownHow = (typeof SHOWN_HOW)[number];

/** What an author allows with a work. */
export interface Leave {
  readonly toClass: ShownHow;
  /** To classes of later terms, without a name. */
  readonly toLater: boolean;
}

/**
 * What all authors of a work allow together: the least of what each allows. Who said nothing allows nothing.
 * Worked example: one allows it with the name, the other without: without.
 */
export function leaveOfAll(leaves: readonly (Leave | null)[]): Leave {
  const least = Math.min(...leaves.map((l) => SHOWN_HOW.indexOf(l?.toClass ?? 'no')), leaves.length === 0 ? 0 : SHOWN_HOW.length);
  return { toClass: SHOWN_HOW[least] ?? 'no', toLater: leaves.length > 0 && leaves.every((l) => l?.toLater === true) };
}

/** Whether a leave lets a work be shown to its class so. Example: leave without the name does not let it be shown with it. */
export const allowsClass = (leave: Leave, isNamed: boolean): boolean =>
  leave.toClass === 'with name' || (leave.toClass === 'without name' && !isNamed);
