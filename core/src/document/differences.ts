import { diffArrays, diffWordsWithSpace } from 'diff';

/** A run of words that stayed, came or went. */
export interface Difference {
  readonly kind: 'same' | 'added' | 'removed';
  readonly text: string;
}
/**
 * What became of a paragraph: it stayed, its words were replaced, it was added or deleted, or it stands elsewhere now. At its old place one
 * that moved has `moved away`.
 */
export type ParagraphChange = 'same' | 'replaced' | 'added' | 'deleted' | 'moved' | 'moved away';
/** One paragraph with its differences; `isChanged` where anything in it came or went, or it stands elsewhere. */
export interface ChangedParagraph {
  readonly isChanged: boolean;
  readonly change: ParagraphChange;
  readonly parts: readonly Difference[];
}

const whole = (kind: Difference['kind'], text: string): ChangedParagraph => ({
  isChanged: kind !== 'same',
  change: ({ same: 'same', added: 'added', removed: 'deleted' } as const)[kind],
  parts: [{ kind, text }],
});

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
  return { isChanged: true, change: 'replaced', parts };
}

/**
 * Paragraphs that were deleted at one place and added word for word at another were moved: each that came is held against one that went.
 */
function withMoves(found: readonly ChangedParagraph[]): readonly ChangedParagraph[] {
  const textOf = (p: ChangedParagraph): string =>
    p.parts
      .map((part) => part.text)
      .join('')
      .trim();
  const gone = new Map<string, number[]>();
  for (const [n, p] of found.entries()) {
    const text = textOf(p);
    if (p.change === 'deleted' && text !== '') gone.set(text, [...(gone.get(text) ?? []), n]);
  }
  const away = new Set<number>();
  const shown = found.map((p): ChangedParagraph => {
    const from = p.change === 'added' ? gone.get(textOf(p))?.shift() : undefined;
    if (from === undefined) return p;
    away.add(from);
    return { ...p, change: 'moved' };
  });
  return shown.map((p, n) => (away.has(n) ? { ...p, change: 'moved away' } : p));
}

/** How many paragraphs changed in each way, as a person would count them: what moved counts once. */
export function countChanges(paragraphs: readonly ChangedParagraph[]): {
  readonly [change in 'replaced' | 'added' | 'deleted' | 'moved']: number;
} {
  const count = (change: ParagraphChange): number => paragraphs.filter((p) => p.change === change).length;
  return { replaced: count('replaced'), added: count('added'), deleted: count('deleted'), moved: count('moved') };
}

/**
 * What changed from one text to the next, paragraph by paragraph (a line each, as {@link plainText} gives them), and within a
 * paragraph word by word. Where paragraphs went and others came at the same place, those that are alike by more than a third of
 * their words are held against each other in order; the rest went or came whole. A paragraph that went here and came there, word for word,
 * was moved. The words that stayed and came, put together, are the new text; those that stayed and went, the old one.
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
  return withMoves(found);
}
