import type { QuizPart, QuizSection } from '@rosemary/api';
import type { SectionsWish } from '../stores/quizStore.ts';

interface Drop {
  readonly from: HTMLElement;
  readonly to: HTMLElement;
  readonly oldDraggableIndex?: number | undefined;
  readonly newDraggableIndex?: number | undefined;
}

/** Questions of a paper in another order: dragged by their number, or a step up or down, over the edge of a section into the next. */
export function useQuestionOrder(sections: () => readonly QuizSection[], save: (sections: SectionsWish, words: string) => Promise<void>) {
  const copies = (): (Omit<QuizSection, 'parts'> & { parts: QuizPart[] })[] => sections().map((s) => ({ ...s, parts: [...s.parts] }));

  async function move(part: QuizPart, by: -1 | 1): Promise<void> {
    const made = copies();
    const at = made.findIndex((s) => s.parts.some((p) => p.id === part.id));
    const home = made[at];
    if (home === undefined) return;
    const n = home.parts.findIndex((p) => p.id === part.id);
    const to = n + by;
    home.parts.splice(n, 1);
    if (to >= 0 && to <= home.parts.length) home.parts.splice(to, 0, part);
    else {
      const next = made[at + by];
      if (next === undefined) return;
      next.parts.splice(by === 1 ? 0 : next.parts.length, 0, part);
    }
    await save(made, 'Moved.');
  }

  async function drop({ from, to, oldDraggableIndex: old, newDraggableIndex: place }: Drop): Promise<void> {
    const made = copies();
    const [home, goal] = [made[Number(from.dataset.section)], made[Number(to.dataset.section)]];
    if (home === undefined || goal === undefined || old === undefined || place === undefined) return;
    if (home === goal && old === place) return;
    const [part] = home.parts.splice(old, 1);
    if (part === undefined) return;
    goal.parts.splice(place, 0, part);
    await save(made, 'Moved.');
  }
  return { move, drop };
}
