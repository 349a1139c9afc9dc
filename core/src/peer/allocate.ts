import { shuffled } from '../groups/deal.ts';
import { seeded } from '../quiz/seeded.ts';
import { fewerMutual } from './fewerMutual.ts';

/** Somebody who reviews, and how many reviews they give at the most. */
export interface Reviewer {
  readonly id: string;
  readonly most: number;
}

/** A work, and how many reviews it is to get. */
export interface ReadWork {
  readonly id: string;
  readonly wanted: number;
  /** Whose work it is: none of them reviews it. */
  readonly authors: readonly string[];
}

export interface Pairing {
  readonly reviewerId: string;
  readonly workId: string;
}

/** A work that gets fewer reviews than it is to get, and why. */
export interface OpenPlace {
  readonly workId: string;
  readonly missing: number;
  /** Too few may review it at all; or everybody who may gives as many as they can already. */
  readonly reason: 'too few may review it' | 'all who may are full';
  /** How many may review it, its authors and those kept apart from it left out. */
  readonly eligible: number;
}

export interface Allocation {
  /** What is drawn in addition to the pairs that stood before. */
  readonly drawn: readonly Pairing[];
  /** Movable pairs that are no more. */
  readonly moved: readonly Pairing[];
  readonly open: readonly OpenPlace[];
}

export interface AllocationTask {
  readonly reviewers: readonly Reviewer[];
  readonly works: readonly ReadWork[];
  /** Whether somebody who is no author may review a work: not of another section, not of one's own group. */
  readonly mayReview: (reviewerId: string, work: ReadWork) => boolean;
  /** Pairs that stand: reviews given or begun, and those set by hand. They are never taken away. */
  readonly standing: readonly Pairing[];
  /** Pairs that were drawn before and are not begun: they stay where they can, and move where something else would find no place. */
  readonly movable?: readonly Pairing[];
  readonly seed: string;
}

/**
 * Who reviews whom while it is being worked out: reviewers and works by their places, and the pairs between them. A flow in which every
 * reviewer carries up to `most` and every work takes up to `wanted`; a pair carries one.
 */
class Flow {
  readonly reviews: Set<number>[];
  readonly reviewedBy: Set<number>[];
  /** Pairs that stand: they count, and never move. */
  readonly fixed: Set<number>[];
  readonly task: AllocationTask;
  readonly authorsOf: ReadonlySet<string>[];

  constructor(task: AllocationTask) {
    this.task = task;
    this.reviews = task.reviewers.map(() => new Set());
    this.fixed = task.reviewers.map(() => new Set());
    this.reviewedBy = task.works.map(() => new Set());
    this.authorsOf = task.works.map((w) => new Set(w.authors));
  }

  may(r: number, w: number): boolean {
    const [reviewer, work] = [this.task.reviewers[r], this.task.works[w]];
    return (
      reviewer !== undefined && work !== undefined && this.authorsOf[w]?.has(reviewer.id) !== true && this.task.mayReview(reviewer.id, work)
    );
  }

  load = (r: number): number => this.reviews[r]?.size ?? 0;
  room = (r: number): number => (this.task.reviewers[r]?.most ?? 0) - this.load(r);
  open = (w: number): number => (this.task.works[w]?.wanted ?? 0) - (this.reviewedBy[w]?.size ?? 0);
  has = (r: number, w: number): boolean => this.reviews[r]?.has(w) === true;

  add(r: number, w: number): void {
    this.reviews[r]?.add(w);
    this.reviewedBy[w]?.add(r);
  }
  take(r: number, w: number): void {
    this.reviews[r]?.delete(w);
    this.reviewedBy[w]?.delete(r);
  }

  /**
   * From a work along chains of “somebody else could review it, who would then leave another work” to the first reviewer that `ends`
   * names; null where no chain leads there. Each reviewer is looked at once, so that a search is as long as the class and its pairs.
   */
  chainFromWork(start: number, ends: (r: number) => boolean): (readonly [r: number, w: number])[] | null {
    const left = new Set(this.task.reviewers.keys());
    const cameFrom = new Map<number, { readonly work: number; readonly before: number | null }>();
    let works: { readonly work: number; readonly before: number | null }[] = [{ work: start, before: null }];
    const seen = new Set([start]);
    while (works.length > 0) {
      const next: typeof works = [];
      for (const step of works)
        for (const r of left) {
          if (this.has(r, step.work) || !this.may(r, step.work)) continue;
          left.delete(r);
          cameFrom.set(r, step);
          if (ends(r)) return this.chainTo(r, cameFrom);
          for (const w of this.reviews[r] ?? [])
            if (!seen.has(w) && this.fixed[r]?.has(w) !== true) {
              seen.add(w);
              next.push({ work: w, before: r });
            }
        }
      works = next;
    }
    return null;
  }

  private chainTo(last: number, cameFrom: ReadonlyMap<number, { readonly work: number; readonly before: number | null }>) {
    const chain: (readonly [number, number])[] = [];
    for (let r: number | null = last; r !== null;) {
      const step = cameFrom.get(r);
      if (step === undefined) break;
      chain.push([r, step.work]);
      r = step.before;
    }
    return chain;
  }

  /** Moves every work of a chain to its new reviewer; the first work of it has then one reviewer more, the last reviewer one work more. */
  follow(chain: readonly (readonly [number, number])[]): void {
    for (const [n, [r, w]] of chain.entries()) {
      const before = chain[n + 1];
      if (before !== undefined) this.take(before[0], w);
      this.add(r, w);
    }
  }
}

/** A first drawing by turns: everybody in an order of chance reviews those who stand so many places further on. */
function drawByTurns(flow: Flow, random: () => number): void {
  const { reviewers, works } = flow.task;
  if (reviewers.length === 0 || works.length === 0) return;
  const circle = shuffled([...reviewers.keys()], random);
  const placeOf = new Map(circle.map((r, n) => [reviewers[r]?.id ?? '', n]));
  const from = works.map((w) => placeOf.get(w.authors[0] ?? '') ?? Math.floor(random() * circle.length));
  const rounds = works.reduce((most, w) => Math.max(most, w.wanted), 0);
  const used = new Set([0]);
  for (let round = 0; round < rounds; round += 1) {
    // Steps of which no two go the same way, nor one the way of another back: then nobody reviews whoever reviews them.
    let step = 1 + Math.floor(random() * Math.max(1, circle.length - 1));
    for (let tries = 0; tries < circle.length && (used.has(step) || used.has(circle.length - step)); tries += 1)
      step = (step % Math.max(1, circle.length - 1)) + 1;
    used.add(step);
    for (const w of works.keys()) {
      if (flow.open(w) <= 0) continue;
      for (let further = 0; further < circle.length; further += 1) {
        const r = circle[((from[w] ?? 0) + step + further) % circle.length] ?? 0;
        if (flow.room(r) <= 0 || flow.has(r, w) || !flow.may(r, w)) continue;
        flow.add(r, w);
        break;
      }
    }
  }
}

/** Fills what can still be filled, the works with the fewest reviews first. A work that no chain helps is never helped later. */
function fill(flow: Flow, order: readonly number[]): void {
  const waiting = new Set(order.filter((w) => flow.open(w) > 0));
  while (waiting.size > 0) {
    let poorest: number | null = null;
    for (const w of waiting) if (poorest === null || (flow.reviewedBy[w]?.size ?? 0) < (flow.reviewedBy[poorest]?.size ?? 0)) poorest = w;
    if (poorest === null) return;
    const chain = flow.chainFromWork(poorest, (r) => flow.room(r) > 0);
    if (chain === null) waiting.delete(poorest);
    else {
      flow.follow(chain);
      if (flow.open(poorest) === 0) waiting.delete(poorest);
    }
  }
}

/** Hands a review of whoever gives two more than another on to the other, through whomever it takes, until nobody does. */
function levelLoads(flow: Flow, order: readonly number[]): void {
  const isLevel = new Set<number>();
  for (;;) {
    let heaviest: number | null = null;
    for (const r of order) if (!isLevel.has(r) && (heaviest === null || flow.load(r) > flow.load(heaviest))) heaviest = r;
    if (heaviest === null) return;
    const from = heaviest;
    const load = flow.load(from);
    const lightest = order.reduce((least, r) => (flow.room(r) > 0 ? Math.min(least, flow.load(r)) : least), Infinity);
    if (load < lightest + 2) return;
    const moved = [...(flow.reviews[from] ?? [])]
      .filter((w) => flow.fixed[from]?.has(w) !== true)
      .some((w) => {
        const chain = flow.chainFromWork(w, (r) => r !== from && flow.room(r) > 0 && flow.load(r) <= load - 2);
        if (chain === null || chain.some(([r]) => r === from)) return false;
        flow.take(from, w);
        flow.follow(chain);
        return true;
      });
    if (!moved) isLevel.add(from);
    else isLevel.clear();
  }
}

/** Gives a review from a work that has two more than another on to the other, through whatever it takes, until no work has. */
function levelWorks(flow: Flow, order: readonly number[]): void {
  for (const poor of order) {
    while (flow.open(poor) > 0) {
      const has = flow.reviewedBy[poor]?.size ?? 0;
      let given: readonly [number, number] | null = null;
      const chain = flow.chainFromWork(poor, (r) => {
        const rich = [...(flow.reviews[r] ?? [])].find(
          (w) => w !== poor && flow.fixed[r]?.has(w) !== true && (flow.reviewedBy[w]?.size ?? 0) >= has + 2,
        );
        given = rich === undefined ? null : [r, rich];
        return rich !== undefined;
      });
      if (chain === null || given === null) break;
      const [r, w] = given as readonly [number, number];
      flow.take(r, w);
      flow.follow(chain);
    }
  }
}

function openPlaces(flow: Flow): OpenPlace[] {
  return flow.task.works.flatMap((work, w): OpenPlace[] => {
    const missing = flow.open(w);
    if (missing <= 0) return [];
    const eligible = [...flow.task.reviewers.keys()].filter((r) => flow.may(r, w)).length;
    return [{ workId: work.id, missing, eligible, reason: eligible < work.wanted ? 'too few may review it' : 'all who may are full' }];
  });
}

/**
 * Draws who reviews whom.
 *
 * What is drawn, in this order of weight: as many of the wanted reviews as there can be at all (a greatest flow, found exactly by
 * augmenting chains); the works with too few differ by one at most where that can be; every reviewer has the same load within one,
 * as far as their `most`, exclusions and standing pairs allow (no chain leads from a heavier to a lighter load); few pairs who
 * review each other (exchanged where an exchange breaks nothing of the above; none in a class of more than 2 × wanted without
 * exclusions, else as few as single exchanges reach). Nobody gets a work twice, their own, or one that `mayReview` refuses. Standing
 * pairs stay and count; a standing pair of somebody who is not among the reviewers counts for its work alone.
 *
 * Movable pairs stay unless a chain needs them: so a late work finds its place, and its author works to review.
 *
 * The same task with the same seed gives the same pairs; the order of the lists belongs to the task. Numbers are whole and at least 0,
 * an identifier given twice throws.
 * Source: augmenting paths, L. R. Ford and D. R. Fulkerson, Flows in Networks (1962); levelling by alternating paths as in
 * N. Harvey, R. Ladner, L. Lovász and T. Tamir, Semi-matchings for bipartite graphs and load balancing, J. Algorithms 59 (2006).
 * Worked example: works of a, b and c, two reviews each, three reviewers of two: everybody reviews both others.
 */
export function allocate(task: AllocationTask): Allocation {
  const reviewerAt = new Map(task.reviewers.map((r, n) => [r.id, n]));
  const workAt = new Map(task.works.map((w, n) => [w.id, n]));
  if (reviewerAt.size !== task.reviewers.length || workAt.size !== task.works.length)
    throw new RangeError('A reviewer or a work is given twice.');
  const gone = new Map<string, number>();
  for (const { reviewerId, workId } of task.standing) if (!reviewerAt.has(reviewerId)) gone.set(workId, (gone.get(workId) ?? 0) + 1);
  const flow = new Flow({
    ...task,
    works: task.works.map((w) => ({ ...w, wanted: Math.max(0, w.wanted - (gone.get(w.id) ?? 0)) })),
  });
  for (const { reviewerId, workId } of task.standing) {
    const [r, w] = [reviewerAt.get(reviewerId), workAt.get(workId)];
    if (r === undefined || w === undefined) continue;
    flow.add(r, w);
    flow.fixed[r]?.add(w);
  }
  const movable = (task.movable ?? []).flatMap(({ reviewerId, workId }) => {
    const [r, w] = [reviewerAt.get(reviewerId), workAt.get(workId)];
    if (r === undefined || w === undefined || flow.room(r) <= 0 || flow.open(w) <= 0 || flow.has(r, w) || !flow.may(r, w)) return [];
    flow.add(r, w);
    return [[r, w] as const];
  });
  const was = new Set(movable.map(([r, w]) => `${r} ${w}`));
  const random = seeded(task.seed);
  drawByTurns(flow, random);
  const works = shuffled([...task.works.keys()], random);
  const reviewers = shuffled([...task.reviewers.keys()], random);
  fill(flow, works);
  levelWorks(flow, works);
  levelLoads(flow, reviewers);
  fewerMutual(flow, reviewers, random);
  const drawn = task.reviewers.flatMap(({ id: reviewerId }, r) =>
    [...(flow.reviews[r] ?? [])]
      .filter((w) => flow.fixed[r]?.has(w) !== true && !was.has(`${r} ${w}`))
      .map((w) => ({ reviewerId, workId: task.works[w]?.id ?? '' })),
  );
  const moved = (task.movable ?? []).filter(({ reviewerId, workId }) => {
    const [r, w] = [reviewerAt.get(reviewerId), workAt.get(workId)];
    return r === undefined || w === undefined || !flow.has(r, w);
  });
  return { drawn, moved, open: openPlaces(flow) };
}
