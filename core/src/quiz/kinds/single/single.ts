import { choice } from '../choices.ts';
import { oneRight } from '../oneRight.ts';

/** One answer of several is right. None is at first: a new question must not be right by accident. */
export const single = oneRight('single', ({ newId, held }) => held ?? [0, 1, 2, 3].map(() => choice(newId(), '', false)), false);
