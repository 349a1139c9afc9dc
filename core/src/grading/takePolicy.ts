interface Named {
  readonly id: string | null;
  readonly title: string;
}
interface Days {
  readonly startsOn: string | null;
  readonly endsOn: string | null;
}
interface Declaring {
  readonly declaredIn: readonly { readonly periodId: string }[];
}
interface Holding {
  readonly categoryId: string | null;
}

const isAlike = (a: Named, b: Named): boolean => a.title.trim().toLowerCase() === b.title.trim().toLowerCase();

/**
 * The policy of another course as a draft for this one. Categories and grading periods are met by their titles and keep their identity here;
 * periods keep the days they have here, since those of another term say nothing; a category that is not in the other policy stays, with no
 * weight, where a column still counts in it, and goes where none does. What is declared for a period that is not here is left out.
 * Worked example: theirs has Quizzes 40 and Papers 60, here are Quizzes and Talks with two columns: Quizzes 40, Papers 60 (new), Talks 0.
 */
export function takePolicy<
  C extends Named & Declaring & { readonly weightPercent: number },
  P extends Named & Days,
  T extends { readonly version: number; readonly categories: readonly C[]; readonly periods: readonly P[] },
>(theirs: T, here: T, columns: readonly Holding[]): T {
  const periodHere = (id: string): string | null => {
    const one = theirs.periods.find((p) => p.id === id);
    return (one === undefined ? undefined : here.periods.find((own) => isAlike(own, one)))?.id ?? null;
  };
  const taken = theirs.categories.map((c) => ({
    ...c,
    id: here.categories.find((own) => isAlike(own, c))?.id ?? null,
    declaredIn: c.declaredIn.flatMap((d) => {
      const periodId = periodHere(d.periodId);
      return periodId === null ? [] : [{ ...d, periodId }];
    }),
  }));
  const held = here.categories.filter(
    (own) => !theirs.categories.some((c) => isAlike(own, c)) && columns.some((column) => column.categoryId === own.id),
  );
  const periods = theirs.periods.map((p) => {
    const own = here.periods.find((one) => isAlike(one, p));
    return { ...p, id: own?.id ?? null, startsOn: own?.startsOn ?? null, endsOn: own?.endsOn ?? null };
  });
  return { ...theirs, version: here.version, categories: [...taken, ...held.map((c) => ({ ...c, weightPercent: 0 }))], periods, moves: [] };
}
