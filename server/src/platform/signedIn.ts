import type { Actor } from '@rosemary/core';

export interface SignedIn extends Actor {
  readonly givenName: string;
  readonly familyName: string;
  readonly email: string;
  /** Teaches at the school, and so may make courses before having one. */
  readonly teaches: boolean;
  readonly theme: 'light' | 'dark';
}
