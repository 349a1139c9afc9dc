import type { Permission } from '@rosemary/core';

/** What an endpoint needs: everyone, someone signed in, or a permission in the course its address names. */
export type Needs = 'public' | 'person' | Permission;

declare const carried: unique symbol;
/** A type that an endpoint carries along. Nothing of it is there at run time. */
export interface Carries<T> {
  readonly [carried]?: () => T;
}
const CARRIED: Carries<never> = {};
// @__NO_SIDE_EFFECTS__
export function is<T>(): Carries<T> {
  return CARRIED as Carries<T>;
}

/**
 * What may stand behind the question mark: an identifier, a whole number, words parted by commas, a text, something that is there or not, or
 * one of a few words. The server holds every request against it.
 */
export type AskedKind = 'id' | 'whole' | 'words' | 'text' | 'flag' | readonly string[];
type Shape = { readonly [name: string]: AskedKind };
type AskedValue<K> = K extends readonly (infer W)[] ? W : string;
export interface Asks<T> extends Carries<T> {
  readonly shape: Shape;
  /** Names that must be there. */
  readonly needed: readonly string[];
}
// @__NO_SIDE_EFFECTS__
export function asks<const S extends Shape, const N extends keyof S & string = never>(
  shape: S,
  ...needed: readonly N[]
): Asks<{ readonly [name in Exclude<keyof S, N>]?: AskedValue<S[name]> } & { readonly [name in N]: AskedValue<S[name]> }> {
  return { shape, needed };
}

/** An endpoint that answers no more than that it is done. */
export type Nothing = Readonly<Record<string, never>>;

interface Common {
  /** Below /api; what begins with a colon is a parameter. */
  readonly path: string;
  readonly needs: Needs;
  /** Parameters behind the question mark. */
  readonly query?: Asks<unknown>;
  readonly answer?: Carries<unknown>;
  /** Answers with bytes that are not JSON: a file, a picture, a line of events. */
  readonly isStream?: true;
  /** Moves many bytes: few of these go on at once, so that small saves beside them stay quick. */
  readonly isHeavy?: true;
}

export interface Reading extends Common {
  readonly method: 'get';
}

/** Why a write leaves no line in the audit. */
export interface NotAudited {
  readonly none: string;
}
/** How a write that moves grades is taken back: by another endpoint, by itself with what stood before, or (with the reason) not at all. */
export type Undo = Endpoint | 'itself' | NotAudited;

interface Write extends Common {
  readonly method: 'post' | 'put' | 'patch' | 'delete';
  readonly body?: Carries<unknown>;
  /** The act as the audit names it, or why it is not there. */
  readonly audit: string | NotAudited;
  /** A write in a course is told to everyone who looks at it, unless it changes nothing they could see. */
  readonly isSilent?: true;
  /** Is done in an archived course too, where everything else only looks. */
  readonly isDoneInArchive?: true;
  /** Writes with a single statement, which needs no transaction round it: what is done thousands of times a minute pays for none. */
  readonly isOneStatement?: true;
  /** Brings a file, which is received before anything of the database is taken: one of at most 100 MB, or a package of up to a gigabyte. */
  readonly takesFile?: 'file' | 'package';
}
/** Can move the total of somebody who is given nothing by it: it is carried out only when its ripple has been seen. */
export interface GradeMoving extends Write {
  readonly movesGrades: true;
  readonly undo: Undo;
}
/** Gives a mark, hands in or the like: totals move because of what is given, and nobody is asked first. */
export interface Giving extends Write {
  readonly gives: true;
  readonly movesGrades?: never;
}
export interface PlainWrite extends Write {
  readonly gives?: never;
  readonly movesGrades?: never;
}
export type Writing = GradeMoving | Giving | PlainWrite;
export type Endpoint = Reading | Writing;

type NamesIn<P extends string> = P extends `${string}:${infer Name}/${infer Rest}`
  ? Name | NamesIn<Rest>
  : P extends `${string}:${infer Name}`
    ? Name
    : never;

export type QueryOf<E> = E extends { readonly query: Carries<infer T> } ? T : unknown;
export type PathOf<E extends Endpoint> = { readonly [name in NamesIn<E['path']>]: string };
/** What an address is filled with: the parameters in its path, and those behind the question mark. */
export type ParamsOf<E extends Endpoint> = PathOf<E> & QueryOf<E>;
export type BodyOf<E> = E extends { readonly body: Carries<infer T> } ? T : undefined;
export type AnswerOf<E> = E extends { readonly answer: Carries<infer T> } ? T : Nothing;

/**
 * Says what travels to one address and back. It is written once: the server implements it, the browser calls it, and the
 * ripple, the undo, the audit and the types follow from it.
 */
// @__NO_SIDE_EFFECTS__
export function endpoint<const E extends Endpoint>(said: E): E {
  return said;
}

/** The address of an endpoint with its parameters filled in; empty ones behind the question mark are left out. */
export function addressOf<E extends Endpoint>(at: E, params: ParamsOf<E>): string {
  const left = new Map(Object.entries(params as { readonly [name: string]: string | undefined }));
  const path = at.path.replace(/:(\w+)/g, (_, name: string) => {
    const value = left.get(name);
    left.delete(name);
    if (value === undefined || value === '') throw new Error(`The address ${at.path} lacks ${name}.`);
    return encodeURIComponent(value);
  });
  const query = new URLSearchParams();
  for (const [name, value] of left) if (value !== undefined && value !== '') query.set(name, value);
  return query.size === 0 ? path : `${path}?${query.toString()}`;
}

/** The address of something that a link or a picture of the page leads to. */
export const urlOf = <E extends Reading>(at: E, params: ParamsOf<E>): string => `/api${addressOf(at, params)}`;

/** Why an act stands in no audit, in the words that docs and tests show. */
export const LOOKS = { none: 'It changes nothing.' } as const;
export const OWN = { none: 'It is a setting or a shelf of one person alone.' } as const;
export const LEDGER = { none: 'The ledger of grades keeps it for ever.' } as const;
export const TYPED = { none: 'It is saved with every pause while somebody types.' } as const;
export const VERSIONS = { none: 'Every version is kept, with who wrote it.' } as const;
export const OWN_WORK = { none: 'It is kept with the work of the one who did it.' } as const;
export const MARKING = { none: 'It is kept with the mark, with who gave it and when.' } as const;
export const TALK = { none: 'It is kept in the conversation, with who said it.' } as const;
export const BACK = { none: 'It brings back what was removed.' } as const;

/** Whether an endpoint changes something in a course, and so is refused in an archived one. */
export const changesCourse = (at: Endpoint): boolean =>
  at.method !== 'get' && at.isDoneInArchive !== true && at.audit !== LOOKS && at.audit !== OWN;

/** Whether an endpoint only looks: whoever may change nothing in a course may do it. */
export const onlyLooks = (at: Endpoint): boolean => at.method === 'get' || at.audit === LOOKS;
