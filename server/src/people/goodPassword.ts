import { ZxcvbnFactory } from '@zxcvbn-ts/core';
import { adjacencyGraphs, dictionary } from '@zxcvbn-ts/language-common';
import { invalid } from '../platform/errors.ts';

let checker: ZxcvbnFactory | null = null;

/** Fewer guesses than a million: what is tried first wherever passwords are tried. */
const LEAST_SCORE = 2;

/**
 * Refuses a password that is tried first: one of the common ones, a row of keys, one sign over and over, or somebody's own name or
 * address. Beyond its length nothing else is demanded.
 */
export function requireGood(field: string, password: string, own: readonly string[]): void {
  checker ??= new ZxcvbnFactory({ dictionary, graphs: adjacencyGraphs });
  const words = own.flatMap((word) => [word, ...word.split(/[^\p{L}\p{N}]+/u)]).filter((word) => word.length > 2);
  // What is typed beyond this is no easier to guess, and takes long to look at.
  const { score } = checker.check(password.slice(0, 100), words);
  if (score < LEAST_SCORE)
    throw invalid(
      field,
      'This password is among the first that are tried: a common one, a row of keys, or made of your own name. Choose another, such as four words that have nothing to do with one another.',
    );
}
