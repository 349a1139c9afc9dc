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

/**
 * In how many groups a part of the class is dealt, so that none is far from the size that is asked for; of two numbers as good, the fewer:
 * three together rather than one alone.
 */
function groupsOf(students: number, size: number): number {
  const wanted = Math.max(1, size);
  const furthest = (many: number): number => Math.max(Math.ceil(students / many) - wanted, wanted - Math.floor(students / many));
  const few = Math.max(1, Math.floor(students / wanted));
  const more = Math.ceil(students / wanted);
  return more > few && furthest(more) < furthest(few) ? more : few;
}

const partsOf = <T extends Dealt>(students: readonly T[], withinSections: boolean): readonly (readonly T[])[] =>
  withinSections
    ? [...new Set(students.map((s) => s.sectionId))].map((id) => students.filter((s) => s.sectionId === id))
    : students.length === 0
      ? []
      : [students];

/**
 * How large the groups of a deal become, the larger first within each section: what a teacher sees before dealing. Sizes, sections and
 * errors as for `dealGroups`. Worked example: seven students in groups of four: 4 and 3.
 */
export const sizesOfDeal = (students: readonly Dealt[], size: number, withinSections: boolean): readonly number[] =>
  partsOf(students, withinSections).flatMap((part) => {
    const many = groupsOf(part.length, size);
    return Array.from({ length: many }, (_, n) => Math.floor(part.length / many) + (n < part.length % many ? 1 : 0));
  });

function dealt(ids: readonly string[], many: number): string[][] {
  const groups: string[][] = Array.from({ length: many }, () => []);
  ids.forEach((id, n) => groups[n % many]?.push(id));
  return groups;
}

/**
 * Deals students into groups of about a size, at random: the groups of one deal differ by one student at most, and there are as many as
 * bring them nearest to the size. Within sections, each section is dealt for itself, so that no group has students
 * of two. `random` gives numbers from 0 up to, but not, 1. Size is at least 1. Nobody given makes no group. Worked example: seven
 * students in groups of four: two groups, of four and three.
 */
export function dealGroups(students: readonly Dealt[], size: number, withinSections: boolean, random: () => number): string[][] {
  return partsOf(students, withinSections).flatMap((part) =>
    dealt(
      shuffled(part, random).map((s) => s.id),
      groupsOf(part.length, size),
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
  return partsOf(students, withinSections).flatMap((part) => {
    const many = groupsOf(part.length, size);
    const groups: string[][] = Array.from({ length: many }, () => []);
    const ordered = shuffled(part, random).sort((a, b) => (b.standing ?? -1) - (a.standing ?? -1));
    ordered.forEach((student, n) => {
      const [turn, place] = [Math.floor(n / many), n % many];
      groups[turn % 2 === 0 ? place : many - 1 - place]?.push(student.id);
    });
    return groups;
  });
}
