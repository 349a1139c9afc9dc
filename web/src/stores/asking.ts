import { shallowRef, type ShallowRef } from 'vue';

/** A question over the page that somebody waits for. */
export interface Asking<Q, A> {
  /** What is asked; null where nothing is. */
  readonly asked: ShallowRef<Q | null>;
  /** Asks, and gives what was chosen. A question that stood there before is left. */
  readonly ask: (question: Q) => Promise<A>;
  readonly close: (answer: A) => void;
}

/** The one way in which a dialog of the shell is asked and answered; `left` is the answer of one that is left. */
export function makeAsking<Q, A>(left: A): Asking<Q, A> {
  const asked = shallowRef<Q | null>(null);
  let decide: ((answer: A) => void) | null = null;
  const close = (answer: A): void => {
    asked.value = null;
    decide?.(answer);
    decide = null;
  };
  return {
    asked,
    close,
    ask: (question) => {
      close(left);
      asked.value = question;
      return new Promise((done) => {
        decide = done;
      });
    },
  };
}
