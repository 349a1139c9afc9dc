import * as api from '@rosemary/api/endpoints';
import type { Me } from '@rosemary/api';
import { defineStore } from 'pinia';
import { useRipple } from './rippleStore.ts';
import { useRunning } from './runningStore.ts';
import { computed, ref } from 'vue';
import { call } from '../platform/call.ts';
import { setHooks } from '../platform/http.ts';
import { device, keepFor, tab } from '../platform/kept.ts';

interface SeeAs {
  readonly courseId: string;
  readonly enrolmentId: string;
  readonly on: string | null;
}
const SEE_AS = 'rosemary see as';

function readSeeAs(): SeeAs | null {
  try {
    return JSON.parse(tab.read(SEE_AS) ?? 'null') as SeeAs | null;
  } catch {
    return null;
  }
}

/** Who is signed in, the theme, and as whom a course is looked at. */
export const useSession = defineStore('session', () => {
  const me = ref<Me | null>(null);
  /** The name under which others know me here. */
  const myName = computed(() => `${me.value?.person?.givenName ?? ''} ${me.value?.person?.familyName ?? ''}`);
  const asksAgain = ref(false);
  const seeAs = ref<SeeAs | null>(readSeeAs());
  const theme = ref<'light' | 'dark'>((device.read('rosemary theme') as 'light' | 'dark' | null) ?? 'light');
  let waiting: (() => void)[] = [];

  setHooks({
    seeAs: () => seeAs.value,
    askRunning: (asked) => useRunning().ask(asked),
    showRipple: (title, ripple, canUndo) => useRipple().show(title, ripple, canUndo),
    signInAgain: () =>
      new Promise((done) => {
        waiting.push(done);
        asksAgain.value = true;
      }),
  });

  function setTheme(next: 'light' | 'dark'): void {
    theme.value = next;
    device.keep('rosemary theme', next);
  }

  function take(next: Me): void {
    keepFor(next.person?.id ?? '');
    me.value = next;
    if (next.person !== null) setTheme(next.person.theme);
  }
  function accept(next: Me): void {
    take(next);
    asksAgain.value = false;
    const resume = waiting;
    waiting = [];
    for (const go of resume) go();
  }

  async function load(): Promise<Me> {
    const next = await call(api.getMe, {});
    take(next);
    return next;
  }
  async function signIn(email: string, password: string): Promise<void> {
    accept(await call(api.signIn, {}, { email, password }));
  }
  async function signInDemo(personId: string): Promise<void> {
    accept(await call(api.signInAsDemoPerson, {}, { personId }));
  }
  async function signOut(): Promise<void> {
    await call(api.signOut, {});
    leaveSeeAs();
    await load();
  }
  async function switchTheme(): Promise<void> {
    setTheme(theme.value === 'light' ? 'dark' : 'light');
    await call(api.changeOwnSettings, {}, { theme: theme.value });
  }
  async function startSeeAs(next: SeeAs): Promise<void> {
    // Noted before the view is a student’s, who could note nothing; the look itself does not wait upon it.
    await call(api.noteSeen, { courseId: next.courseId }).catch(() => undefined);
    seeAs.value = next;
    tab.keep(SEE_AS, JSON.stringify(next));
  }
  function leaveSeeAs(): void {
    seeAs.value = null;
    tab.forget(SEE_AS);
  }

  const isStaff = computed(() => me.value?.person?.teaches === true || (me.value?.courses.some((c) => c.role !== 'student') ?? false));
  return { me, myName, asksAgain, seeAs, theme, isStaff, load, signIn, signInDemo, signOut, switchTheme, startSeeAs, leaveSeeAs };
});
