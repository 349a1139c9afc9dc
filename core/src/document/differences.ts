import { diffArrays, diffWordsWithSpace } from 'diff';

/** A run of words that stayed, came or went. */
export interface Difference {
  readonly kind: 'same' | 'added' | 'removed';
  readonly text: string;
}
/** One paragraph with its differences; `isChanged` where anything in it came or went. */
export interface ChangedParagraph {
  readonly isChanged: boolean;
  readonly parts: readonly Difference[];
}

const whole = (kind: Difference['kind'], text: string): ChangedParagraph => ({ isChanged: kind !== 'same', parts: [{ kind, text }] });

/** How much of two paragraphs is the same, by words, from 0 to 1. */
function likeness(a: string, b: string): number {
  const [left, right] = [new Set(a.split(/\s+/)), new Set(b.split(/\s+/))];
  const shared = [...left].filter((word) => right.has(word)).length;
  return (2 * shared) / Math.max(1, left.size + right.size);
}

function within(before: string, after: string): ChangedParagraph {
  const parts = diffWordsWithSpace(before, after).map((p): Difference => ({
    kind: p.added ? 'added' : p.removed ? 'removed' : 'same',
    text: p.value,
  }));
  return { isChanged: true, parts };
}

/**
 * What changed from one text to the next, paragraph by paragraph (a line each, as {@link plainText} gives them), and within a
 * paragraph word by word. Where paragraphs went and others came at the same place, those that are alike by more than a third of
 * their words are held against each other in order; the rest went or came whole. The words that stayed and came, put together,
 * are the new text; those that stayed and went, the old one.
 *
 * Source: Myers, “An O(ND) difference algorithm and its variations”, Algorithmica 1 (1986), as the diff library has it.
 * Worked example: `a b` and `a c` give one changed paragraph: `a ` same, `b` removed, `c` added.
 */
export function differences(before: string, after: string): readonly ChangedParagraph[] {
  const found: ChangedParagraph[] = [];
  const runs = diffArrays(before.split('\n'), after.split('\n'));
  for (let n = 0; n < runs.length; n += 1) {
    const run = runs[n];
    if (run === undefined) continue;
    const next = runs[n + 1];
    if (!run.added && !run.removed) found.push(...run.value.map((text) => whole('same', text)));
    else if (run.removed && next?.added === true) {
      const gone = [...run.value];
      for (const came of next.value) {
        const at = gone.findIndex((text) => likeness(text, came) > 1 / 3);
        if (at < 0) found.push(whole('added', came));
        else {
          found.push(...gone.splice(0, at).map((text) => whole('removed', text)));
          found.push(within(gone.shift() ?? '', came));
        }
      }
      found.push(...gone.map((text) => whole('removed', text)));
      n += 1;
    } else found.push(...run.value.map((text) => whole(run.added ? 'added' : 'removed', text)));
  }
  return found;
}
