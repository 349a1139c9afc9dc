import { shuffled } from '../groups/deal.ts';

/** What an exchange needs to know of who reviews whom: reviewers and works by their places. */
interface Exchanged {
  readonly reviews: readonly ReadonlySet<number>[];
  readonly fixed: readonly ReadonlySet<number>[];
  readonly task: {
    readonly reviewers: readonly { readonly id: string }[];
    readonly works: readonly { readonly authors: readonly string[] }[];
  };
  readonly may: (r: number, w: number) => boolean;
  readonly has: (r: number, w: number) => boolean;
  readonly add: (r: number, w: number) => void;
  readonly take: (r: number, w: number) => void;
}

/**
 * Exchanges works between two reviewers where that leaves fewer who review each other; what each gives and each work gets stays. Tries
 * each such pair against everybody else once, in an order of chance, until a round changes nothing.
 * Worked example: a and b review each other, c and d too: after one exchange a reviews d and c reviews b, and nobody does.
 */
export function fewerMutual(flow: Exchanged, reviewers: readonly number[], random: () => number): void {
  const at = new Map(flow.task.reviewers.map((r, n) => [r.id, n]));
  const authors = flow.task.works.map((w) => w.authors.flatMap((id) => at.get(id) ?? []));
  const worksOf = flow.task.reviewers.map((): number[] => []);
  for (const [w, list] of authors.entries()) for (const a of list) worksOf[a]?.push(w);
  /** Whether somebody of those whose work this is reviews a work of the reviewer’s. */
  const isMutual = (r: number, w: number): boolean => (authors[w] ?? []).some((a) => (worksOf[r] ?? []).some((own) => flow.has(a, own)));
  const exchange = (r: number, w: number): boolean => {
    for (const other of shuffled(reviewers, random)) {
      if (other === r) continue;
      for (const theirs of [...(flow.reviews[other] ?? [])]) {
        const isOpen =
          flow.fixed[other]?.has(theirs) !== true &&
          !flow.has(r, theirs) &&
          !flow.has(other, w) &&
          flow.may(r, theirs) &&
          flow.may(other, w);
        if (!isOpen) continue;
        const before = 1 + Number(isMutual(other, theirs));
        flow.take(r, w);
        flow.take(other, theirs);
        flow.add(r, theirs);
        flow.add(other, w);
        if (Number(isMutual(r, theirs)) + Number(isMutual(other, w)) < before) return true;
        flow.take(r, theirs);
        flow.take(other, w);
        flow.add(r, w);
        flow.add(other, theirs);
      }
    }
    return false;
  };
  for (let isBetter = true, round = 0; isBetter && round < 20; round += 1) {
    isBetter = false;
    for (const r of reviewers)
      for (const w of [...(flow.reviews[r] ?? [])])
        if (flow.fixed[r]?.has(w) !== true && flow.has(r, w) && isMutual(r, w) && exchange(r, w)) isBetter = true;
  }
}
