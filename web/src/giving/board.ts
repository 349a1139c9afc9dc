import type { GivenClass, GivenState } from '@rosemary/api';
import { countOf } from '@rosemary/core';

export const isIn = (state: GivenState): boolean => state.handedInAt !== null;

/** How a student stands to an item, in words: when it came, how late, and with how many files. */
export function stateWords(state: GivenState, when: (at: string) => string): string {
  if (state.handedInAt !== null)
    return [when(state.handedInAt), state.lateText ?? '', state.files === 0 ? '' : countOf(state.files, 'file')]
      .filter(Boolean)
      .join(' · ');
  if (state.state === 'missing') return 'missing';
  if (state.state === 'exempt') return 'exempt';
  return state.state === 'draft' ? 'begun, not handed in' : 'not yet';
}

/** The students of a class who are asked for. */
export const peopleShown = (one: GivenClass, show: 'everyone' | 'not in' | 'late'): GivenClass['people'] =>
  one.people.filter((person) => {
    const states = person.states.flatMap((state) => state ?? []);
    if (show === 'late') return states.some((state) => state.lateText !== null);
    return show === 'everyone' || states.some((state) => !isIn(state));
  });
