import { endpoint, is, OWN } from '../contract.ts';
import type { DemoSignIn, Me, NewPassword, OwnSession, OwnSettings, SignIn } from '../people.ts';
import type { FirstPassword, Welcome } from '../school.ts';

export const getMe = endpoint({
  method: 'get',
  path: '/me',
  needs: 'public',
  answer: is<Me>(),
});

export const signIn = endpoint({
  method: 'post',
  path: '/sign-in',
  needs: 'public',
  body: is<SignIn>(),
  answer: is<Me>(),
  audit: OWN,
});

export const signInAsDemoPerson = endpoint({
  method: 'post',
  path: '/demo/sign-in',
  needs: 'public',
  body: is<DemoSignIn>(),
  answer: is<Me>(),
  audit: OWN,
});

export const getWelcome = endpoint({
  method: 'get',
  path: '/welcome/:token',
  needs: 'public',
  answer: is<Welcome>(),
});

export const setFirstPassword = endpoint({
  method: 'post',
  path: '/welcome/:token',
  needs: 'public',
  body: is<FirstPassword>(),
  answer: is<Me>(),
  audit: OWN,
});

export const signOut = endpoint({
  method: 'post',
  path: '/sign-out',
  needs: 'public',
  audit: OWN,
});

export const changeOwnSettings = endpoint({
  method: 'patch',
  path: '/me',
  needs: 'person',
  body: is<OwnSettings>(),
  audit: OWN,
});

export const changePassword = endpoint({
  method: 'post',
  path: '/me/password',
  needs: 'person',
  body: is<NewPassword>(),
  audit: OWN,
});

export const listOwnSessions = endpoint({
  method: 'get',
  path: '/me/sessions',
  needs: 'person',
  answer: is<{ readonly sessions: readonly OwnSession[] }>(),
});

export const endOtherSessions = endpoint({
  method: 'post',
  path: '/me/sessions/end',
  needs: 'person',
  answer: is<{ readonly ended: number; readonly sessions: readonly OwnSession[] }>(),
  audit: OWN,
});
