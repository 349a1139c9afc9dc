import type { Actor } from '@rosemary/core';

export interface SignedIn extends Actor {
  readonly givenName: string;
  readonly familyName: string;
  readonly email: string;
  readonly theme: 'light' | 'dark';
}
