import { answerOrder } from '../assemble.ts';

/** Shuffled always, for the order they were typed in is the key. */
export const mixed = (things: readonly string[], seed: string, questionId: string): readonly string[] =>
  answerOrder([...new Set(things)], new Set(), seed, questionId);
