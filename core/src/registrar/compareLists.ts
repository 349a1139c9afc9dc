/** A student as one of two lists has them. */
export interface ListedStudent {
  readonly key: string;
  readonly name: string;
}

/**
 * Whom the registrar’s list of a section and ours do not have in common, by name in the order of each list: those who are here alone, and those
 * who are with him alone. Both empty where the lists are of the same students.
 * Worked example: here are Abara and Moss, with him Moss and Zola: Abara is here alone, Zola there alone.
 */
export function compareLists(
  here: readonly ListedStudent[],
  there: readonly ListedStudent[],
): { readonly onlyHere: readonly string[]; readonly onlyThere: readonly string[] } {
  const [ours, his] = [new Set(here.map((s) => s.key)), new Set(there.map((s) => s.key))];
  return {
    onlyHere: here.filter((s) => !his.has(s.key)).map((s) => s.name),
    onlyThere: there.filter((s) => !ours.has(s.key)).map((s) => s.name),
  };
}
