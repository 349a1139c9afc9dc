import { shallowRef, ref, watch, type Ref } from 'vue';

/**
 * What this browser keeps for a person, in one place: drafts, what the server has not committed yet, and how they like their
 * views. Each name carries the person, so that two who share a browser never meet each other's words.
 */
const person = shallowRef('');
const followers = new Set<() => void>();

/** Says whose things are kept from now on: the person who has signed in, or nobody. */
export function keepFor(personId: string): void {
  if (person.value === personId) return;
  person.value = personId;
  for (const follow of followers) follow();
}
/** Runs now and whenever somebody else signs in, to read what is kept for them. */
export function whenPersonIsKnown(follow: () => void): void {
  followers.add(follow);
  follow();
}
export const placeOf = (name: string): string => `rosemary ${person.value} ${name}`;

/** What is kept under a name, or null where nothing is, or nothing that can be read. */
export function readKept<T>(name: string): T | null {
  try {
    return JSON.parse(localStorage.getItem(placeOf(name)) ?? 'null') as T | null;
  } catch {
    return null;
  }
}
/** Keeps a value until it is forgotten; false where the browser has no room for it. */
export function keep(name: string, value: unknown): boolean {
  try {
    localStorage.setItem(placeOf(name), JSON.stringify(value));
    return true;
  } catch {
    localStorage.removeItem(placeOf(name));
    return false;
  }
}
export function forgetKept(name: string): void {
  localStorage.removeItem(placeOf(name));
}

/** How somebody likes a view, such as an order or an arrangement, the same when they come again. */
export function useChosen<T>(name: () => string, otherwise: T): Ref<T> {
  const chosen = ref(readKept<T>(name()) ?? otherwise) as Ref<T>;
  watch(name, (now) => {
    chosen.value = readKept<T>(now) ?? otherwise;
  });
  watch(
    chosen,
    (now) => {
      keep(name(), now);
    },
    { deep: true, flush: 'sync' },
  );
  return chosen;
}

/** A draft that is sent by a press: it outlives leaving the page, a reload and a crash, until it is sent or given up. */
export interface Draft<T> {
  readonly find: () => T | null;
  readonly keep: (value: T) => void;
  readonly forget: () => void;
}
export function useDraft<T>(name: () => string): Draft<T> {
  return {
    find: () => readKept<T>(`draft ${name()}`),
    keep: (value) => {
      keep(`draft ${name()}`, value);
    },
    forget: () => {
      forgetKept(`draft ${name()}`);
    },
  };
}

/** A line of text that is kept as it is typed; emptied, nothing of it stays. */
export function useKeptLine(name: () => string): Ref<string> {
  const draft = useDraft<string>(name);
  const text = ref(draft.find() ?? '');
  watch(name, () => {
    text.value = draft.find() ?? '';
  });
  watch(
    text,
    (now) => {
      if (now === '') draft.forget();
      else draft.keep(now);
    },
    { flush: 'sync' },
  );
  return text;
}

/** What is kept whoever is signed in: the theme before sign-in, and answers of an attempt, whose name says whose it is. */
export const device = {
  read: (name: string): string | null => localStorage.getItem(name),
  keep: (name: string, text: string): void => {
    localStorage.setItem(name, text);
  },
  forget: (name: string): void => {
    localStorage.removeItem(name);
  },
  names: (beginning: string): readonly string[] =>
    Array.from({ length: localStorage.length }, (_, n) => localStorage.key(n) ?? '').filter((name) => name.startsWith(beginning)),
};
/** What belongs to this tab alone and ends with it. */
export const tab = {
  read: (name: string): string | null => sessionStorage.getItem(name),
  keep: (name: string, text: string): void => {
    sessionStorage.setItem(name, text);
  },
  forget: (name: string): void => {
    sessionStorage.removeItem(name);
  },
};
