import { plainLetters } from '../exact/plainLetters.ts';
/** A remark as it is looked for: what it says, the criterion it belongs to, the letters it is called by, how often it was used. */
export interface RemarkFacts {
  readonly id: string;
  readonly body: string;
  readonly criterion: string;
  readonly shortcut: string;
  readonly uses: number;
}

/** Remarks to begin with, of use in any subject. */
export const STARTER_REMARKS: readonly { readonly body: string; readonly shortcut: string }[] = [
  { shortcut: 'how', body: 'How do you know? Say what you saw or measured.' },
  { shortcut: 'which', body: 'Which one? Name it.' },
  { shortcut: 'src', body: 'Where is this from? Name your source.' },
  { shortcut: 'why', body: 'Why does this follow? Give the step between.' },
  { shortcut: 'limit', body: 'Against what do you judge it? Give the limit.' },
  { shortcut: 'order', body: 'In which order? Number the steps as you took them.' },
  { shortcut: 'unit', body: 'In which unit?' },
  { shortcut: 'word', body: 'Say what this word means the first time you use it.' },
  { shortcut: 'less', body: 'The same can be said in half the words.' },
  { shortcut: 'early', body: 'This is what the reader wants first. Bring it to the beginning.' },
  { shortcut: 'task', body: 'Read the task once more: this answers another question.' },
  { shortcut: 'well', body: 'Well seen, and well put.' },
];

/**
 * Remarks in the order they are offered for some typed letters: the one called exactly so first, then those whose call begins so,
 * then those with all the typed words in what they say; nothing typed offers all. Within each, those of the criterion at hand come
 * before the rest, and of those the most used first.
 * Worked example: typed `how`, the remark called `how` stands before one that says “how long”.
 */
export function offerRemarks<R extends RemarkFacts>(remarks: readonly R[], typed: string, criterion: string): readonly R[] {
  const letters = plainLetters(typed.trim());
  const words = letters.split(/\s+/).filter((word) => word !== '');
  const rank = (r: R): number => {
    if (letters === '') return 2;
    if (r.shortcut === letters) return 0;
    if (r.shortcut !== '' && r.shortcut.startsWith(letters)) return 1;
    const body = plainLetters(`${r.body} ${r.criterion}`);
    return words.every((word) => body.includes(word)) ? 2 : 3;
  };
  const isHere = (r: R): number => (r.criterion !== '' && r.criterion === criterion ? 0 : 1);
  return remarks
    .map((remark) => ({ remark, rank: rank(remark) }))
    .filter((one) => one.rank < 3)
    .sort(
      (a, b) =>
        a.rank - b.rank ||
        isHere(a.remark) - isHere(b.remark) ||
        b.remark.uses - a.remark.uses ||
        a.remark.body.localeCompare(b.remark.body, 'en'),
    )
    .map((one) => one.remark);
}
