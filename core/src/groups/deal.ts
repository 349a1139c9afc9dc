/** A student to be dealt into a group. */
export interface Dealt {
  readonly id: string;
  readonly sectionId: string | null;
}

/** Fisher and Yates: every order equally likely, given numbers from 0 up to 1. */
export function shuffled<T>(all: readonly T[], random: () => number): T[] {
  const list = [...all];
  for (let n = list.length - 1; n > 0; n -= 1) {
    const m = Math.floor(random() * (n + 1));
    [list[n], list[m]] = [list[m] as T, list[n] as T];
  }
  return list;
}

function dealt(ids: readonly string[], many: number): string[][] {
  const groups: string[][] = Array.from({ length: many }, () => []);
  ids.forEach((id, n) => groups[n % many]?.push(id));
  return groups;
}

/**
 * Deals students into groups of about a size, at random: the groups of one deal differ by one student at most. Within sections,
 * each section is dealt for itself, so that no group has students of two; a section of fewer than the size is one group.
 * `random` gives numbers from 0 up to, but not, 1. Size is at least 1. Nobody given makes no group. Worked example: seven
 * students in groups of three: two groups, of four and three.
 */
export function dealGroups(students: readonly Dealt[], size: number, withinSections: boolean, random: () => number): string[][] {
  const parts = withinSections
    ? [...new Set(students.map((s) => s.sectionId))].map((id) => students.filter((s) => s.sectionId === id))
    : [students];
  return parts.flatMap((part) =>
    part.length === 0
      ? []
      : dealt(
          shuffled(part, random).map((s) => s.id),
          Math.max(1, Math.floor(part.length / Math.max(1, size))),
        ),
  );
}

/** A student with how they stand so far, as a share; null where nothing is marked yet. */
export interface Placed extends Dealt {
  readonly standing: number | null;
}

/**
 * Deals students into groups of about a size so that the groups are alike: from the best standing to the least, along the groups and
 * back again, turn by turn; those without a standing follow in an order of chance. Sizes, sections and errors as for `dealGroups`.
 * Students of one standing are dealt by chance. Worked example: standings 0.9, 0.8, 0.7, 0.6 in groups of two: 0.9 with 0.6, 0.8
 * with 0.7.
 */
export function balanceGroups(students: readonly Placed[], size: number, withinSections: boolean, random: () => number): string[][] {
  const parts = withinSections
    ? [...new Set(students.map((s) => s.sectionId))].map((id) => students.filter((s) => s.sectionId === id))
    : [students];
  return parts.flatMap((part) => {
    if (part.length === 0) return [];
    const many = Math.max(1, Math.floor(part.length / Math.max(1, size)));
    const groups: string[][] = Array.from({ length: many }, () => []);
    const ordered = shuffled(part, random).sort((a, b) => (b.standing ?? -1) - (a.standing ?? -1));
    ordered.forEach((student, n) => {
      const [turn, place] = [Math.floor(n / many), n % many];
      groups[turn % 2 === 0 ? place : many - 1 - place]?.push(student.id);
    });
    return groups;
  });
}
