import { countOf } from '../exact/countOf.ts';
import { numberOfRounded } from '../exact/ratio.ts';
import { quantile } from '../statistics/quantile.ts';
import { changeFromOwnLevel } from '../statistics/standardised.ts';

/** What is known of one student, from which the rules say whether somebody should have a word with them. */
export interface WordFacts {
  readonly enrolmentId: string;
  /** What was due from them, in the order of the dates. */
  readonly pieces: readonly { readonly title: string; readonly isMissing: boolean }[];
  /** Their results in the order of the dates: the share of the points, and that share standardised by the class, where it can be. */
  readonly results: readonly { readonly share: number; readonly standard: number | null }[];
  /** Days since anything was recorded of them; null where nothing ever was. */
  readonly silentDays: number | null;
  /** The total so far in percent, as it is read everywhere. */
  readonly soFar: string | null;
  /** Open to them for at least half of its time, due soon, and neither opened nor handed in. */
  readonly waiting: readonly { readonly title: string; readonly inDays: number }[];
  /** Their attempts at quizzes, with what half of the class took; null where fewer than five took it. */
  readonly attempts: readonly { readonly title: string; readonly minutes: number; readonly usual: number | null }[];
}

/** What can have been done for somebody. */
export const WORD_NOTE_KINDS = ['wrote', 'called', 'met', 'arranged', 'noted', 'set aside'] as const;
export type WordNoteKind = (typeof WORD_NOTE_KINDS)[number];

export const WORD_RULE_NAMES = ['missing', 'silence', 'fall', 'below', 'not begun', 'fast', 'far above'] as const;
export type WordRule = (typeof WORD_RULE_NAMES)[number];

interface Threshold {
  readonly label: string;
  /** Kept in tenths, and read and typed with one decimal. */
  readonly isTenths?: true;
  readonly begins: number;
  readonly least: number;
  readonly most: number;
}
interface KindOfRule {
  /** As the head of those it found. */
  readonly title: string;
  /** Those it found, of a number of them: “3 people silent for 8 days”. */
  readonly slip: (threshold: number) => string;
  readonly threshold: Threshold;
  /** A second number, where the rule has one: “of the last so many”. */
  readonly of?: Threshold;
}

/** The rules there are, in the order in which they are set. Numbers are whole; deviations are tenths of a standard deviation. */
export const WORD_RULES: { readonly [rule in WordRule]: KindOfRule } = {
  missing: {
    title: 'Missing work',
    slip: () => 'with work missing',
    threshold: { label: 'missing pieces', begins: 2, least: 1, most: 20 },
    of: { label: 'of the last so many that were due', begins: 4, least: 1, most: 60 },
  },
  silence: {
    title: 'Silent',
    slip: (days) => `silent for ${countOf(days, 'day')} or more`,
    threshold: { label: 'days without anything recorded', begins: 8, least: 1, most: 120 },
  },
  fall: {
    title: 'Falling',
    slip: () => 'falling from their own level',
    threshold: {
      label: 'standard deviations of the class under their own level: 0.5 is a little, 1 is much',
      isTenths: true,
      begins: 10,
      least: 1,
      most: 50,
    },
  },
  below: {
    title: 'Below the line',
    slip: (percent) => `below ${percent} % so far`,
    threshold: { label: 'percent so far', begins: 60, least: 1, most: 100 },
  },
  'not begun': {
    title: 'Not begun',
    slip: (days) => `with nothing begun of what is due in ${countOf(days, 'day')}`,
    threshold: { label: 'days before it is due', begins: 2, least: 1, most: 30 },
  },
  fast: {
    title: 'Implausibly fast',
    slip: () => 'done with a quiz implausibly fast',
    threshold: { label: 'percent of the time that half of the class took', begins: 20, least: 1, most: 90 },
  },
  'far above': {
    title: 'Far above',
    slip: () => 'far above the class',
    threshold: { label: 'standard deviations over the class in the last five', isTenths: true, begins: 12, least: 1, most: 50 },
  },
};
export const kindOfRule = (rule: WordRule): KindOfRule => WORD_RULES[rule];

export interface WordRuleSetting {
  readonly isOn: boolean;
  readonly threshold: number;
  /** The second number; null where the rule has none. */
  readonly of: number | null;
}
export type WordSettings = { readonly [rule in WordRule]: WordRuleSetting };
/** What a rule begins with. Example: missing work begins with 2 of the last 4. */
export const ruleBegins = (rule: WordRule): WordRuleSetting => ({
  isOn: true,
  threshold: kindOfRule(rule).threshold.begins,
  of: kindOfRule(rule).of?.begins ?? null,
});

export interface WordFound {
  readonly enrolmentId: string;
  readonly rule: WordRule;
  readonly reason: string;
  /** The greater, the sooner: what is lost while nobody says a word. */
  readonly urgency: number;
}
type Found = { readonly reason: string; readonly urgency: number } | null;

const LAST_ABOVE = 5;
const deviations = (z: number): string => `${Math.abs(z).toFixed(1)} standard deviations`;
const meanOf = (values: readonly number[]): number => values.reduce((sum, v) => sum + v, 0) / values.length;

function findFall(facts: WordFacts, { threshold }: WordRuleSetting): Found {
  const known = facts.results.flatMap((r) => (r.standard === null ? [] : [{ share: r.share, standard: r.standard }]));
  const change = changeFromOwnLevel(known.map((r) => r.standard));
  if (change === null || change > -threshold / 10) return null;
  const level = quantile(
    known.slice(0, -3).map((r) => r.share),
    0.5,
  );
  const points = Math.round((meanOf(known.slice(-3).map((r) => r.share)) - (level ?? 0)) * 100);
  const inPoints = points < 0 ? `, ${-points} percentage points` : '';
  return { reason: `last three results ${deviations(change)} under their own level${inPoints}`, urgency: 60 - 20 * change };
}

const FIND: {
  readonly [rule in WordRule]: (facts: WordFacts, setting: WordRuleSetting, usualSilence: number | null) => Found;
} = {
  missing: ({ pieces }, { threshold, of }) => {
    const last = pieces.slice(-(of ?? pieces.length));
    const missing = last.filter((p) => p.isMissing);
    if (missing.length < threshold) return null;
    const titles = missing.slice(-3).map((p) => `“${p.title}”`);
    return {
      reason: `${missing.length} of the last ${last.length} missing: ${titles.join(', ')}${missing.length > 3 ? ' and others' : ''}`,
      urgency: 60 + 10 * missing.length,
    };
  },
  silence: ({ silentDays }, { threshold }, usual) => {
    // Where the class is silent too, such as in a break, nobody is.
    if (usual === null || usual >= threshold) return null;
    const half = `half of the class was here within ${countOf(Math.max(1, Math.ceil(usual)), 'day')}`;
    if (silentDays === null) return { reason: `has never been here; ${half}`, urgency: 90 };
    return silentDays < threshold
      ? null
      : { reason: `nothing recorded for ${countOf(silentDays, 'day')}; ${half}`, urgency: 50 + silentDays };
  },
  fall: findFall,
  below: ({ soFar }, { threshold }) => {
    const percent = soFar === null ? Infinity : numberOfRounded(soFar);
    return percent >= threshold
      ? null
      : { reason: `${soFar ?? ''} % so far, below ${threshold} %`, urgency: 50 + (threshold - percent) / 2 };
  },
  'not begun': ({ waiting }, { threshold }) => {
    const soon = waiting.filter((w) => w.inDays <= threshold);
    const [first] = soon;
    if (first === undefined) return null;
    const when = first.inDays < 1 ? 'within a day' : `in ${countOf(Math.floor(first.inDays), 'day')}`;
    const more = soon.length === 1 ? '' : `, and ${soon.length - 1} more`;
    return { reason: `“${first.title}” is due ${when} and not begun${more}`, urgency: 40 + 10 * Math.max(0, threshold - first.inDays) };
  },
  fast: ({ attempts }, { threshold }) => {
    const quick = attempts.filter((a) => a.usual !== null && a.minutes * 100 < a.usual * threshold);
    const [first] = quick;
    if (first === undefined || first.usual === null) return null;
    const minutes = first.minutes < 1 ? 'less than a minute' : countOf(Math.round(first.minutes), 'minute');
    return {
      reason: `“${first.title}” done in ${minutes}; half of the class took ${countOf(Math.round(first.usual), 'minute')} or more`,
      urgency: 30,
    };
  },
  'far above': ({ results }, { threshold }) => {
    const last = results.flatMap((r) => r.standard ?? []).slice(-LAST_ABOVE);
    if (last.length < LAST_ABOVE) return null;
    const mean = meanOf(last);
    return mean < threshold / 10 ? null : { reason: `the last five ${deviations(mean)} over the class: ready for more`, urgency: 5 + mean };
  },
};

/**
 * Who needs a word, by the rules that are on, the most urgent first; two that are equally urgent stay in the order of the students. Silence is held
 * against the class: it counts where half of the class was here more recently than the threshold. Nothing is found where there is too little to go
 * by: a fall takes five standardised results, being far above takes five, a quick attempt five attempts of the class.
 * Worked example: with 2 of the last 4, somebody whose last four have two missing gets `2 of the last 4 missing: “A”, “B”`.
 */
export function findWords(people: readonly WordFacts[], settings: WordSettings): readonly WordFound[] {
  const usualSilence = quantile(
    people.flatMap((p) => p.silentDays ?? []),
    0.5,
  );
  return WORD_RULE_NAMES.filter((rule) => settings[rule].isOn)
    .flatMap((rule) =>
      people.flatMap((facts): WordFound[] => {
        const found = FIND[rule](facts, settings[rule], usualSilence);
        return found === null ? [] : [{ enrolmentId: facts.enrolmentId, rule, ...found }];
      }),
    )
    .sort((a, b) => b.urgency - a.urgency);
}

const PREPARED: { readonly [rule in WordRule]: { readonly subject: string; readonly text: string } } = {
  missing: {
    subject: 'What is missing',
    text: 'Some of your work has not come in. Tell me what keeps you from it, and we will find a way and a day for each piece.',
  },
  silence: {
    subject: 'How are you?',
    text: 'I have not seen you in the course for a while. Is something in the way? A line is enough, and we will see how you get back in.',
  },
  fall: {
    subject: 'Your last pieces of work',
    text: 'Your last results lie under what you showed before. What has changed? Come to my hour or answer here; I would like to help.',
  },
  below: {
    subject: 'Where you stand',
    text: 'As things stand the course will be hard to pass. There is time to change that. Let us look together at what would help most.',
  },
  'not begun': {
    subject: 'Due soon',
    text: 'Something is due in the next days that you have not begun. If anything about it is unclear, ask me before the day, not after.',
  },
  fast: {
    subject: 'About your quiz',
    text: 'You were done with a quiz in far less time than it usually takes. Tell me how you went about it.',
  },
  'far above': {
    subject: 'More, if you like',
    text: 'Your last pieces of work were far above what was asked. If you like, I have something harder for you.',
  },
};
/**
 * The subject and text that writing to those of a rule begins with, to be edited; without a rule no more than the greeting. A single student is
 * addressed by name.
 * Worked example: for silence and Fidel: `Dear Fidel,` and, a line below, `I have not seen you in the course for a while. …`.
 */
export function preparedWord(rule: WordRule | null, givenName: string | null): { readonly subject: string; readonly text: string } {
  const { subject, text } = rule === null ? { subject: '', text: '' } : PREPARED[rule];
  const greeting = givenName === null ? 'Good day,' : `Dear ${givenName},`;
  return { subject, text: `${greeting}\n\n${text}` };
}
