import type { Term } from '../dates/term.ts';

export interface Mention {
  readonly kind: 'date' | 'term' | 'year';
  /** The words as they stand in the text. */
  readonly text: string;
  /** A little of what stands around them. */
  readonly around: string;
}

const MONTH =
  '(?:January|February|March|April|May|June|July|August|September|October|November|December|Jan|Feb|Mar|Apr|Jun|Jul|Aug|Sept|Sep|Oct|Nov|Dec)';
const DATES = [
  new RegExp(
    `\\b(?:(?:Mon|Tues?|Wed(?:nes)?|Thu(?:rs)?|Fri|Sat(?:ur)?|Sun)(?:day)?,? )?\\d{1,2}(?:st|nd|rd|th)?\\.? (?:of )?${MONTH}\\b\\.?(?: \\d{4})?`,
    'gi',
  ),
  new RegExp(`\\b${MONTH} \\d{1,2}(?:st|nd|rd|th)?\\b(?:,? \\d{4})?`, 'gi'),
  /\b\d{4}-\d{2}-\d{2}\b/g,
  /\b\d{1,2}[./]\d{1,2}[./](?:\d{4}|\d{2})\b/g,
];
const AROUND = 28;

function escaped(text: string): string {
  return text.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');
}

/**
 * What in a text belongs to the term it was written for: dates in the usual spellings (17 November, Nov 17, 17.11.2026,
 * 2026-11-17), the term by its title, and the years it lies in. In the order of the text, each place once; a year inside a date
 * is not told again. It finds and says; it changes nothing.
 * Worked example: in `Hand in by Friday 13 March, as every Spring.` with the term Spring: `Friday 13 March`, `Spring`.
 */
export function findMentions(text: string, term: Pick<Term, 'title' | 'startsOn' | 'endsOn'>): readonly Mention[] {
  const found: { at: number; end: number; kind: Mention['kind'] }[] = [];
  const take = (pattern: RegExp, kind: Mention['kind']): void => {
    for (const match of text.matchAll(pattern)) {
      const [at, end] = [match.index, match.index + match[0].length];
      if (!found.some((f) => at < f.end && f.at < end)) found.push({ at, end, kind });
    }
  };
  for (const pattern of DATES) take(pattern, 'date');
  if (term.title.trim().length > 2) take(new RegExp(`(?<![\\p{L}\\p{N}])${escaped(term.title.trim())}(?![\\p{L}\\p{N}])`, 'giu'), 'term');
  const years = [...new Set([term.startsOn.slice(0, 4), term.endsOn.slice(0, 4)])];
  take(new RegExp(`\\b(?:${years.join('|')})\\b`, 'g'), 'year');
  return found
    .sort((a, b) => a.at - b.at)
    .map(({ at, end, kind }) => ({
      kind,
      text: text.slice(at, end),
      around: `${at > AROUND ? '…' : ''}${text
        .slice(Math.max(0, at - AROUND), end + AROUND)
        .replace(/\s+/g, ' ')
        .trim()}${end + AROUND < text.length ? '…' : ''}`,
    }));
}
