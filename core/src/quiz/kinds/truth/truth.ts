import { choice } from '../choices.ts';
import { oneRight } from '../oneRight.ts';

/** True or false, in this order always. */
export const truth = oneRight('truth', ({ newId }) => [choice(newId(), 'True', true), choice(newId(), 'False', false)], true);
