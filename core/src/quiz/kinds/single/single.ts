import { choice } from '../choices.ts';
import { oneRight } from '../oneRight.ts';

/** One answer of several is right. */
export const single = oneRight(
  'single',
  ({ newId, held }) =>
    held ?? [choice(newId(), '', true), choice(newId(), '', false), choice(newId(), '', false), choice(newId(), '', false)],
  false,
);
