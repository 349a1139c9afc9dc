import { shuffled } from '../groups/deal.ts';
import type { Thousandths } from '../exact/points.ts';
import { seeded } from './seeded.ts';

/** A place in a section: one question, or so many drawn from those that match a wish. */
export type PaperPart =
  | { readonly kind: 'fixed'; readonly questionId: string; readonly points: Thousandths }
  | {
      readonly kind: 'draw';
      readonly id: string;
      readonly words: string;
      readonly pool: readonly string[];
      readonly count: number;
      readonly points: Thousandths;
    };
export interface PaperSection {
  readonly id: string;
  readonly title: string;
  readonly parts: readonly PaperPart[];
  readonly isShuffled: boolean;
}
export interface PaperQuestion {
  readonly questionId: string;
  readonly points: Thousandths;
}
export interface DrawnSection {
  readonly id: string;
  readonly questions: readonly PaperQuestion[];
}
export interface DrawFault {
  readonly drawId: string;
  readonly wanted: number;
  readonly found: number;
  readonly text: string;
}

interface Slot {
  readonly draw: Extract<PaperPart, { kind: 'draw' }>;
  readonly choices: readonly string[];
}

function slotsOf(sections: readonly PaperSection[], random: () => number): Slot[] {
  const fixed = new Set(sections.flatMap((s) => s.parts.flatMap((p) => (p.kind === 'fixed' ? [p.questionId] : []))));
  return sections.flatMap((s) =>
    s.parts.flatMap((draw) => {
      if (draw.kind === 'fixed') return [];
      // One order for all places of a draw: the first free ones of it are what a draw without putting back gives.
      const choices = shuffled(
        [...new Set(draw.pool)].filter((id) => !fixed.has(id)),
        random,
      );
      return Array.from({ length: draw.count }, (): Slot => ({ draw, choices }));
    }),
  );
}

/** Gives each place a question of its own, moving others on where their pools overlap; as many places as can be are filled. */
function fill(slots: readonly Slot[]): (string | null)[] {
  const holder = new Map<string, number>();
  const given = slots.map((): string | null => null);
  const place = (slot: number, tried: Set<string>): boolean => {
    const choices = slots[slot]?.choices ?? [];
    const free = choices.find((id) => !holder.has(id));
    if (free !== undefined) {
      holder.set(free, slot);
      given[slot] = free;
      return true;
    }
    for (const id of choices) {
      if (tried.has(id)) continue;
      tried.add(id);
      if (place(holder.get(id) as number, tried)) {
        holder.set(id, slot);
        given[slot] = id;
        return true;
      }
    }
    return false;
  };
  slots.forEach((_, n) => place(n, new Set()));
  return given;
}

/**
 * Which draws of a paper cannot be filled, with how many questions each would get: what is fixed elsewhere is not drawn again, and no
 * question comes twice. Empty where every draw can be filled for every student.
 * Worked example: two draws of two from the same three questions: the second finds one.
 */
export function drawFaults(sections: readonly PaperSection[]): readonly DrawFault[] {
  const slots = slotsOf(sections, () => 0);
  const given = fill(slots);
  const found = new Map<string, number>();
  slots.forEach((slot, n) => found.set(slot.draw.id, (found.get(slot.draw.id) ?? 0) + (given[n] === null ? 0 : 1)));
  return sections.flatMap((s) =>
    s.parts.flatMap((p): DrawFault[] => {
      if (p.kind === 'fixed') return [];
      const many = found.get(p.id) ?? 0;
      if (many >= p.count) return [];
      const text = `“${s.title}” draws ${p.count} of ${p.words}, and ${many === 0 ? 'none is' : many === 1 ? 'one is' : `${many} are`} left for it. Draw fewer, or widen what it draws from.`;
      return [{ drawId: p.id, wanted: p.count, found: many, text }];
    }),
  );
}

/**
 * The paper one attempt gets: the same for the same seed. Fixed questions stand where they were put, draws where they stand in their
 * section, in an order of their own; a shuffled section is shuffled after that. No question comes twice. Where draws do not overlap every
 * set of questions is as likely as any other. Places that cannot be filled are left out: `drawFaults` says so before a quiz opens.
 * Worked example: a fixed question and a draw of two from five, seed `a`: three questions, the fixed one first.
 */
export function assemblePaper(sections: readonly PaperSection[], seed: string, shufflesSections = false): readonly DrawnSection[] {
  const random = seeded(seed);
  const slots = slotsOf(sections, random);
  const given = fill(slots);
  let next = 0;
  const drawn = sections.map((section): DrawnSection => {
    const questions = section.parts.flatMap((part): PaperQuestion[] => {
      if (part.kind === 'fixed') return [{ questionId: part.questionId, points: part.points }];
      const from = next;
      next += part.count;
      return given.slice(from, next).flatMap((id) => (id === null ? [] : [{ questionId: id, points: part.points }]));
    });
    return { id: section.id, questions: section.isShuffled ? shuffled(questions, random) : questions };
  });
  return shufflesSections ? shuffled(drawn, random) : drawn;
}

/** The order in which a question's answers stand for one attempt; answers that are pinned (“I do not know”) stay last, in their own order. */
export function answerOrder(ids: readonly string[], pinned: ReadonlySet<string>, seed: string, questionId: string): readonly string[] {
  const free = shuffled(
    ids.filter((id) => !pinned.has(id)),
    seeded(`${seed} answers ${questionId}`),
  );
  return [...free, ...ids.filter((id) => pinned.has(id))];
}
