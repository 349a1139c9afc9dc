import type { QuestionKind } from './question.ts';

/** The kinds as a teacher reads them. */
export const KIND_WORDS: { readonly [kind in QuestionKind]: string } = {
  single: 'single choice',
  truth: 'true or false',
  several: 'several choices',
  numeric: 'number',
  calculated: 'calculated',
  short: 'short text',
  blanks: 'text with blanks',
  matching: 'matching',
  ordering: 'ordering',
  hotspot: 'place in a picture',
  essay: 'essay',
  file: 'file',
};

/** Which kinds wait for a person to mark them: nothing in them could be scored by a rule. */
const BY_PERSON: { readonly [kind in QuestionKind]: boolean } = {
  single: false,
  truth: false,
  several: false,
  numeric: false,
  calculated: false,
  short: false,
  blanks: false,
  matching: false,
  ordering: false,
  hotspot: false,
  essay: true,
  file: true,
};
export const isMarkedByPerson = (kind: QuestionKind): boolean => BY_PERSON[kind];
export const PERSON_KINDS = (Object.keys(BY_PERSON) as QuestionKind[]).filter(isMarkedByPerson);

const either = (words: readonly string[]): string =>
  words.length < 2 ? words.join('') : `${words.slice(0, -1).join(', ')} or ${words.at(-1) ?? ''}`;

/**
 * What a draw takes from, in words. Example: folder HOR-110, objective B3, levels medium and hard:
 * `HOR-110: objective B3, medium or hard`.
 */
export function drawInWords(draw: {
  readonly folder: string;
  readonly tags: readonly string[];
  readonly levels: readonly string[];
  readonly objectives: readonly string[];
  readonly kinds: readonly QuestionKind[];
}): string {
  const limits = [
    draw.objectives.length === 0 ? '' : `objective ${either(draw.objectives)}`,
    either(draw.levels),
    draw.tags.length === 0 ? '' : `tagged ${either(draw.tags)}`,
    either(draw.kinds.map((k) => KIND_WORDS[k])),
  ].filter((w) => w !== '');
  const what = limits.length === 0 ? 'every question' : limits.join(', ');
  return draw.folder === '' ? what : `${draw.folder}: ${what}`;
}
