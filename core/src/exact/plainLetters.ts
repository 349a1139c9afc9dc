/**
 * A text by its letters alone, for finding and comparing: in lower case, without accents, compatible signs as their plain ones.
 * Worked example: `plainLetters('Añez')` is `anez`.
 */
export const plainLetters = (text: string): string => text.toLocaleLowerCase('en').normalize('NFKD').replace(/\p{M}/gu, '');
