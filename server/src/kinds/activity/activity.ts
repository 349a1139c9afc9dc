import { type ServedKind, takesAnyChange } from '../servedKind.ts';

/** A class activity is its item alone: it has a result and nothing to hand in. */
export const activity: ServedKind = {
  parts: {},
  putFirst: null,
  text: null,
  insert: () => Promise.resolve(),
  copy: () => Promise.resolve(),
  detail: () => Promise.resolve({}),
  checkChange: takesAnyChange,
  readOut: () => Promise.resolve({ items: new Map() }),
  bring: () => Promise.resolve(),
};
