/** What the registrar holds of one student. Days are written 2026-12-18. */
export interface HeldGrade {
  readonly studentKey: string;
  readonly letter: string;
  readonly percent: string | null;
  readonly lastDay: string | null;
  readonly expiresOn: string | null;
  readonly lapsesTo: string | null;
}

export interface GradeDifference {
  readonly studentKey: string;
  readonly field: 'letter' | 'percent' | 'lastDay' | 'expiresOn' | 'lapsesTo' | 'missing there' | 'not agreed here';
  readonly here: string | null;
  readonly there: string | null;
}
const FIELDS = ['letter', 'percent', 'lastDay', 'expiresOn', 'lapsesTo'] as const;

/**
 * Where what the registrar holds is not what was agreed, field by field, in the order of what was agreed; then what he holds of students of
 * whom nothing was agreed. A field that he does not take (`taken`) is not compared. Empty where both are the same.
 * Worked example: agreed B with him holding C gives one difference: `letter`, here B, there C.
 */
export function compareHeld(
  agreed: readonly HeldGrade[],
  held: readonly HeldGrade[],
  taken: ReadonlySet<(typeof FIELDS)[number]>,
): readonly GradeDifference[] {
  const there = new Map(held.map((h) => [h.studentKey, h]));
  const here = new Set(agreed.map((a) => a.studentKey));
  return [
    ...agreed.flatMap((a): GradeDifference[] => {
      const own = there.get(a.studentKey);
      if (own === undefined) return [{ studentKey: a.studentKey, field: 'missing there', here: a.letter, there: null }];
      return FIELDS.flatMap((field) =>
        (field === 'letter' || taken.has(field)) && a[field] !== own[field]
          ? [{ studentKey: a.studentKey, field, here: a[field], there: own[field] }]
          : [],
      );
    }),
    ...held.flatMap((h): GradeDifference[] =>
      here.has(h.studentKey) ? [] : [{ studentKey: h.studentKey, field: 'not agreed here', here: null, there: h.letter }],
    ),
  ];
}
