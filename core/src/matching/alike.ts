/** One short answer, under the identifier it is known by. */
export interface ShortAnswer {
  readonly id: string;
  readonly text: string;
}
/** Answers that say the same: the one that stands for all, and how each is alike to it. */
export interface AlikeGroup {
  /** As the first of them wrote it. */
  readonly text: string;
  readonly same: readonly string[];
  readonly near: readonly string[];
}

/** A short answer as it is compared: without case, accents, punctuation and doubled spaces. */
export function normalAnswer(text: string): string {
  return (
    text
      .normalize('NFKD')
      .replace(/\p{M}/gu, '')
      .toLowerCase()
      .replace(/[^\p{L}\p{N}.,%/+<>=-]+/gu, ' ')
      // A point or comma is kept inside a number alone.
      .replace(/(?<!\d)[.,]|[.,](?!\d)/gu, ' ')
      .replace(/\s+/g, ' ')
      .trim()
  );
}

/** Levenshtein's distance, given up (as `most + 1`) once it is sure to pass `most`. */
export function editDistance(a: string, b: string, most: number): number {
  if (Math.abs(a.length - b.length) > most) return most + 1;
  let before = Array.from({ length: b.length + 1 }, (_, n) => n);
  for (let i = 1; i <= a.length; i += 1) {
    const row = [i];
    let least = i;
    for (let j = 1; j <= b.length; j += 1) {
      const cost = a[i - 1] === b[j - 1] ? 0 : 1;
      const value = Math.min((before[j] as number) + 1, (row[j - 1] as number) + 1, (before[j - 1] as number) + cost);
      row.push(value);
      if (value < least) least = value;
    }
    if (least > most) return most + 1;
    before = row;
  }
  return before[b.length] as number;
}

const numbersOf = (text: string): string => (text.match(/\d+(?:[.,]\d+)*/gu) ?? []).join(' ');
const NEGATIONS = /\b(?:not?|never|none|without|cannot|(?:is|are|was|were|do|does|did|has|have|had|ca|wo|should|could|would)nt)\b|n t\b/u;

/**
 * Whether two normalised answers say nearly the same: a slip of the pen in eight characters at most, or four in five of their words
 * in common. Never where their numbers differ, or one of them says no: those are other answers, however alike they look.
 * Worked example: `the roller jewel is lose` and `the roller jewel is loose` are near; `0.04 mm` and `0.05 mm` are not.
 */
export function isNear(a: string, b: string): boolean {
  if (numbersOf(a) !== numbersOf(b) || NEGATIONS.test(a) !== NEGATIONS.test(b)) return false;
  const most = Math.floor(Math.max(a.length, b.length) / 8);
  if (most > 0 && editDistance(a, b, most) <= most) return true;
  const [left, right] = [new Set(a.split(' ')), new Set(b.split(' '))];
  const common = [...left].filter((word) => right.has(word)).length;
  return left.size + right.size > 4 && common / (left.size + right.size - common) >= 0.8;
}

/**
 * Groups short answers that are the same (normalised) or near to the first of their group; every answer is in one group, empty ones
 * in one of their own, written as ''. The largest groups first, of equal ones by their text. An answer is held against the first of
 * a group only, so that no chain of small steps joins two that are far apart.
 * Worked example: `Roller jewel`, `roller jewel.` and `Balance`: two groups, of two and one.
 */
export function groupAlike(answers: readonly ShortAnswer[]): readonly AlikeGroup[] {
  const byText = new Map<string, { text: string; same: string[] }>();
  for (const answer of answers) {
    const normal = normalAnswer(answer.text);
    const known = byText.get(normal);
    if (known === undefined) byText.set(normal, { text: answer.text.trim(), same: [answer.id] });
    else known.same.push(answer.id);
  }
  const groups: { normal: string; text: string; same: string[]; near: string[] }[] = [];
  // What most wrote leads; the rarer ways of saying it join.
  const ordered = [...byText].sort(([a, x], [b, y]) => y.same.length - x.same.length || (a < b ? -1 : 1));
  for (const [normal, { text, same }] of ordered) {
    const leader = normal === '' ? undefined : groups.find((g) => g.normal !== '' && isNear(g.normal, normal));
    if (leader === undefined) groups.push({ normal, text, same, near: [] });
    else leader.near.push(...same);
  }
  return groups
    .sort((a, b) => b.same.length + b.near.length - a.same.length - a.near.length || (a.normal < b.normal ? -1 : 1))
    .map(({ text, same, near }) => ({ text, same, near }));
}
