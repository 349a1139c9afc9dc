/** A letter the registrar takes, in his own spelling, and what has to stand beside it. */
export interface RegistrarLetter {
  readonly letter: string;
  /** The last day on which the student took part has to be named. */
  readonly needsLastDay: boolean;
  /** The work is not finished: it carries a day until which it may be, and a letter it becomes after it. */
  readonly isIncomplete: boolean;
}

/** What a registrar takes, as he says it himself. Only what he takes is shown and sent. */
export interface RegistrarRules {
  readonly letters: readonly RegistrarLetter[];
  readonly takesNumber: boolean;
  readonly takesLastDay: boolean;
  readonly takesExpiry: boolean;
  /** The letter an incomplete becomes when its day has passed. */
  readonly takesLapse: boolean;
}

/** When grades are taken. Instants in milliseconds. */
export interface RegistrarWindow {
  readonly opensAt: number;
  readonly closesAt: number;
}

/** Which letter of the registrar stands for a letter of a scheme, by the table that the school keeps for the scheme. */
export type LetterTable = Readonly<Record<string, string>>;

export const registrarLetter = (rules: RegistrarRules, letter: string): RegistrarLetter | null =>
  rules.letters.find((l) => l.letter === letter) ?? null;

/**
 * The registrar’s letter for a letter of a course: by the school’s table, else the same letter where he knows it in just this spelling. Null
 * where there is none: that is a gap, and nothing is sent.
 * Worked example: with the table {“Good”: “B”}, `Good` is B; `A` stands in no table but is one of his, and is A; `Sound` is a gap.
 */
export function translateLetter(letter: string, table: LetterTable, rules: RegistrarRules): string | null {
  const said = Object.hasOwn(table, letter) ? table[letter] : undefined;
  const wanted = said ?? letter;
  return registrarLetter(rules, wanted) === null ? null : wanted;
}

/**
 * What of a scheme the registrar could not be told: letters without one of his, and letters whose one he does not take (any more). Empty where
 * the table is whole.
 */
export function translationGaps(
  labels: readonly string[],
  table: LetterTable,
  rules: RegistrarRules,
): readonly { readonly label: string; readonly text: string }[] {
  return labels.flatMap((label) => {
    if (translateLetter(label, table, rules) !== null) return [];
    const said = Object.hasOwn(table, label) ? table[label] : undefined;
    const text =
      said === undefined
        ? `“${label}” has no letter of the registrar.`
        : `“${label}” is to be sent as “${said}”, which the registrar does not take.`;
    return [{ label, text }];
  });
}

/** What is sent of a grade, as far as it can be wrong. Days are written 2026-12-18. */
export interface SentGrade {
  readonly letter: string;
  readonly lastDay: string | null;
  readonly expiresOn: string | null;
  readonly lapsesTo: string | null;
}

export interface TermDays {
  readonly startsOn: string;
  /** Today, by the clock of the course. */
  readonly today: string;
}

/**
 * What the registrar would refuse of a grade, before it is sent: field and words with the mend. He takes only his own letters in his own
 * spelling; a letter that needs it names a last day, neither before the term nor still to come; an incomplete names a day still to come and,
 * where he takes one, the letter it becomes, which is none that is incomplete itself.
 * Worked example: `F` without a last day gives `lastDay`: “F needs the last day on which the student took part.”
 */
export function gradeFaults(
  grade: SentGrade,
  rules: RegistrarRules,
  { startsOn, today }: TermDays,
): readonly { readonly field: keyof SentGrade; readonly text: string }[] {
  const known = registrarLetter(rules, grade.letter);
  if (known === null) {
    const same = rules.letters.find((l) => l.letter.toLowerCase() === grade.letter.toLowerCase());
    const mend = same === undefined ? `He takes ${rules.letters.map((l) => l.letter).join(', ')}.` : `He writes it “${same.letter}”.`;
    return [{ field: 'letter', text: `“${grade.letter}” is no letter of the registrar. ${mend}` }];
  }
  const found: { field: keyof SentGrade; text: string }[] = [];
  const { lastDay, expiresOn, lapsesTo } = grade;
  if (rules.takesLastDay && known.needsLastDay && lastDay === null)
    found.push({ field: 'lastDay', text: `${known.letter} needs the last day on which the student took part.` });
  if (lastDay !== null && lastDay > today) found.push({ field: 'lastDay', text: `${lastDay} is still to come. Name a day that has been.` });
  if (lastDay !== null && lastDay < startsOn)
    found.push({ field: 'lastDay', text: `${lastDay} is before the term, which began on ${startsOn}. Name a day of the term.` });
  if (known.isIncomplete && rules.takesExpiry && expiresOn === null)
    found.push({ field: 'expiresOn', text: `${known.letter} needs the day until which the work may be finished.` });
  if (known.isIncomplete && expiresOn !== null && expiresOn <= today)
    found.push({ field: 'expiresOn', text: `${expiresOn} has passed. Name a day still to come.` });
  if (known.isIncomplete && rules.takesLapse) {
    const lapse = lapsesTo === null ? null : registrarLetter(rules, lapsesTo);
    if (lapsesTo === null) found.push({ field: 'lapsesTo', text: `${known.letter} needs the letter it becomes when nothing comes.` });
    else if (lapse === null || lapse.isIncomplete)
      found.push({ field: 'lapsesTo', text: `“${lapsesTo}” cannot be what ${known.letter} becomes. Choose a letter that is final.` });
  }
  return found;
}
