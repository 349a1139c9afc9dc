import { DateTime } from 'luxon';
import type { ItemDates } from '../dates/dateInForce.ts';
import { dateFaults } from '../dates/itemState.ts';
import { dueWarning, type Term } from '../dates/term.ts';
import type { Period } from '../grading/policy.ts';
import { periodOf } from '../grading/totals.ts';
import { type DocumentNode, nodesOfType, PIECES, plainText } from '../document/plainText.ts';
import { formatPoints, pointsInWords, type Thousandths } from '../exact/points.ts';
import type { DoneRule } from '../items/doneRules.ts';
import { kindOfItem, type ItemKind } from '../items/kinds.ts';
import type { KindFault } from '../items/kindOfItem.ts';
import { minutesInWords } from '../dates/words.ts';
import { overfullWeeks } from './timeTaken.ts';
import { findRuleFaults, type Opening, type RuledItem } from '../release/openingRules.ts';
import { LOCALE } from '../exact/locale.ts';

export interface CheckedItem {
  readonly id: string;
  readonly unitId: string;
  readonly kind: ItemKind;
  readonly title: string;
  readonly isDraft: boolean;
  readonly counts: boolean;
  readonly isExtraCredit: boolean;
  readonly possible: Thousandths;
  readonly categoryId: string | null;
  readonly periodId: string | null;
  readonly dates: ItemDates;
  readonly isStaffOnly: boolean;
  readonly opening: Opening;
  readonly doneRule: DoneRule;
  /** Other due dates, by the name of whom they are for. */
  readonly others: readonly { readonly name: string; readonly due: number | null }[];
  readonly document: DocumentNode | null;
  /** For an assignment: whether text or files come in at all, and what its rubric adds up to. */
  readonly takesWork: boolean;
  /** Students review each other’s works of it. */
  readonly isReviewed: boolean;
  readonly rubricPoints: Thousandths | null;
}

export interface CheckedCourse {
  readonly id: string;
  readonly term: Term;
  readonly zone: string;
  /** Its dates are counted from each student’s start, so that none of them is a day of the term. */
  readonly isSelfPaced: boolean;
  readonly units: readonly { readonly id: string; readonly title: string }[];
  readonly items: readonly CheckedItem[];
  readonly total: 'weights' | 'points' | 'share';
  readonly categories: readonly {
    readonly id: string;
    readonly title: string;
    readonly weightPercent: Thousandths;
    readonly isExtraCredit: boolean;
  }[];
  /** The grading periods that count, none where the course is graded as one. */
  readonly periods: readonly Period[];
  readonly sections: readonly { readonly title: string; readonly students: number }[];
  /** Minutes asked of a student, week by week. */
  readonly loads: readonly { readonly week: number; readonly studentMinutes: number }[];
}

export type FindingField = 'dueAt' | 'doneRule' | 'opensAt' | 'closesAt' | 'announcedAt' | 'possible' | 'categoryId' | 'opening';

/** Where a finding is mended: a field of an item, its text, its setting, its rubric, the policy, a unit, the roster. */
export type FindingPlace =
  | { readonly kind: 'field'; readonly itemId: string; readonly field: FindingField }
  | { readonly kind: 'text' | 'setting' | 'rubric'; readonly itemId: string }
  | { readonly kind: 'unit'; readonly unitId: string }
  | { readonly kind: 'policy' | 'roster' | 'time' };

export interface Finding {
  /** `mend`: students would meet something broken or a wrong total; `look`: it may be meant so. */
  readonly weight: 'mend' | 'look';
  readonly text: string;
  readonly place: FindingPlace;
}

const field = (item: CheckedItem, name: FindingField): FindingPlace => ({ kind: 'field', itemId: item.id, field: name });

function datesOf(item: CheckedItem, course: CheckedCourse): Finding[] {
  const faults = dateFaults(item.dates).map((fault): Finding => ({
    weight: 'mend',
    text: `“${item.title}”: ${fault.text}`,
    place: field(item, `${fault.field}At`),
  }));
  const all = [{ name: '', due: item.dates.due }, ...item.others];
  for (const { name, due } of all) {
    const warning = due === null || course.isSelfPaced ? null : dueWarning(course.term, due, course.zone);
    if (warning !== null)
      faults.push({
        weight: 'look',
        text: `“${item.title}” is due ${DateTime.fromMillis(due as number, { zone: course.zone })
          .setLocale(LOCALE)
          .toFormat('ccc d LLL yyyy HH:mm')}${name === '' ? '' : ` for ${name}`}. ${warning}`,
        place: field(item, 'dueAt'),
      });
  }
  return faults;
}

function pointsOf(item: CheckedItem, course: CheckedCourse): Finding[] {
  const found: Finding[] = [];
  if (!kindOfItem(item.kind).isWork || !item.counts) return found;
  if (item.possible === 0 && !item.isExtraCredit)
    found.push({ weight: 'mend', text: `“${item.title}” counts toward the grade but is worth 0 points.`, place: field(item, 'possible') });
  if (course.total === 'weights' && item.categoryId === null)
    found.push({
      weight: 'mend',
      text: `“${item.title}” counts, but is in no category, so it is in no total.`,
      place: field(item, 'categoryId'),
    });
  const category = course.categories.find((c) => c.id === item.categoryId);
  if (course.total === 'weights' && category?.weightPercent === 0)
    found.push({
      weight: 'mend',
      text: `“${item.title}” counts in “${category.title}”, which weighs 0 %, so it changes nobody’s grade.`,
      place: { kind: 'policy' },
    });
  if (course.periods.length > 0 && periodOf({ periodId: item.periodId, dueAt: item.dates.due }, course.periods) === null)
    found.push({
      weight: 'look',
      text: `“${item.title}” is due in no grading period, so it counts in each of them.`,
      place: field(item, 'dueAt'),
    });
  if (item.rubricPoints !== null && item.rubricPoints !== item.possible)
    found.push({
      weight: 'mend',
      text: `“${item.title}” is worth ${pointsInWords(item.possible)}; its rubric adds up to ${formatPoints(item.rubricPoints)}.`,
      place: { kind: 'rubric', itemId: item.id },
    });
  return found;
}

const ITEM_LINK = /\/courses\/([0-9a-f-]{36})\/(?:items|study)\/([0-9a-f-]{36})/i;

/** An address outside is looked at for its form only: whether it answers cannot be known without a network. */
function isWellFormed(href: string): boolean {
  if (href.startsWith('mailto:')) return /^mailto:[^\s@]+@[^\s@]+\.[^\s@]+/.test(href);
  try {
    const url = new URL(href);
    return ['http:', 'https:'].includes(url.protocol) && (url.hostname.includes('.') || url.hostname === 'localhost');
  } catch {
    return false;
  }
}

function linkFault(href: string, course: CheckedCourse): string | null {
  const inside = ITEM_LINK.exec(href);
  if (inside !== null) {
    if (inside[1]?.toLowerCase() !== course.id) return 'leads into another course, which these students may not reach';
    const target = course.items.find((i) => i.id === inside[2]?.toLowerCase());
    if (target === undefined) return 'leads to an item that is no longer here';
    return target.isDraft ? `leads to “${target.title}”, which is still a draft` : null;
  }
  if (href.startsWith('/') || href.startsWith('#')) return null;
  return isWellFormed(href) ? null : 'is no whole address';
}

function linksIn(document: DocumentNode | null): readonly { readonly href: string; readonly words: string }[] {
  const inWords = nodesOfType(document, 'text').flatMap((node) =>
    (node.marks ?? []).flatMap((mark) => (mark.type === 'link' ? [{ href: String(mark.attrs?.href ?? ''), words: node.text ?? '' }] : [])),
  );
  const toHandIn = nodesOfType(document, 'response').map(({ attrs }) => ({
    href: String(attrs?.href ?? ''),
    words: String(attrs?.title ?? ''),
  }));
  return [...inWords, ...toHandIn];
}

function textOf(item: CheckedItem, course: CheckedCourse): Finding[] {
  const place: FindingPlace = { kind: 'text', itemId: item.id };
  const found: Finding[] = [];
  const bare = nodesOfType(item.document, 'picture').filter(
    (node) => node.attrs?.isDecorative !== true && String(node.attrs?.alt ?? '').trim() === '',
  ).length;
  if (bare > 0)
    found.push({
      weight: 'mend',
      text: `“${item.title}” has ${bare === 1 ? 'a picture' : `${bare} pictures`} with no text alternative.`,
      place,
    });
  for (const { href, words } of linksIn(item.document)) {
    const fault = linkFault(href, course);
    if (fault !== null) found.push({ weight: 'mend', text: `In “${item.title}” the link “${words.slice(0, 60)}” ${fault}.`, place });
  }
  return found;
}

/** What the kind of an item finds in it. */
function kindOf(item: CheckedItem): Finding[] {
  const placeOf = (place: KindFault['place']): FindingPlace =>
    place === 'dueAt' || place === 'doneRule' ? field(item, place) : { kind: place, itemId: item.id };
  const isEmpty = plainText(item.document).trim() === '' && PIECES.every((piece) => nodesOfType(item.document, piece).length === 0);
  const hasDue = item.dates.due !== null || item.others.some((o) => o.due !== null);
  const faults = kindOfItem(item.kind).faults({ ...item, isEmpty, hasDue });
  return faults.map((fault) => ({ ...fault, place: placeOf(fault.place) }));
}

const ruledOf = (item: CheckedItem): RuledItem => ({
  id: item.id,
  title: item.title,
  opening: item.opening,
  isDraft: item.isDraft,
  isStaffOnly: item.isStaffOnly,
  canBeDone: item.doneRule !== 'never',
  possible: item.possible,
  closesAt: item.dates.closes,
  opensAt: item.dates.opens,
});

function wholeOf(course: CheckedCourse): Finding[] {
  const found: Finding[] = [];
  const ordinary = course.categories.filter((c) => !c.isExtraCredit);
  const sum = ordinary.reduce((total, c) => total + c.weightPercent, 0);
  if (course.total === 'weights' && sum !== 100_000)
    found.push({ weight: 'mend', text: `The weights add to ${formatPoints(sum)} %, not 100 %.`, place: { kind: 'policy' } });
  for (const category of course.total === 'weights' ? ordinary : []) {
    const isUsed = course.items.some((i) => i.counts && i.categoryId === category.id);
    if (!isUsed && category.weightPercent > 0)
      found.push({
        weight: 'look',
        text: `The category “${category.title}” has ${formatPoints(category.weightPercent)} % and no item.`,
        place: { kind: 'policy' },
      });
  }
  for (const unit of course.units) {
    if (!course.items.some((i) => i.unitId === unit.id))
      found.push({ weight: 'look', text: `The unit “${unit.title}” is empty.`, place: { kind: 'unit', unitId: unit.id } });
  }
  for (const week of overfullWeeks(course.loads))
    found.push({
      weight: 'look',
      text: `Week ${week.week} asks ${minutesInWords(week.minutes)} of a student; most weeks ask about ${minutesInWords(Math.round(week.median))}.`,
      place: { kind: 'time' },
    });
  for (const fault of findRuleFaults(course.items.map(ruledOf)))
    found.push({ weight: 'mend', text: fault.text, place: { kind: 'field', itemId: fault.itemId, field: 'opening' } });
  for (const section of course.sections) {
    if (section.students === 0)
      found.push({ weight: 'look', text: `The section “${section.title}” has no student yet.`, place: { kind: 'roster' } });
  }
  return found;
}

/**
 * What a teacher would want to know before students see a course: each finding in a sentence, with where it is mended.
 *
 * Looked at: dates that contradict one another, are missing, outside the term or on a holiday (other dates too); counted
 * items worth nothing, in no category, in one of 0 % or in no grading period; rubrics that do not add up to the points; weights not adding to 100 %, weighted
 * categories and units with nothing in them; pictures with no text alternative; links to items that are gone, drafts or
 * elsewhere, and addresses that are none (outside ones for their form only); empty pages; assignments that take nothing; opening rules that
 * can never be met or turn in a circle; weeks that ask far more than the rest.
 * What must be mended stands first, each kind in the order of the Plan. Worked example: a course whose only fault is that its
 * weights are 60 and 30 gives one finding: `The weights add to 90 %, not 100 %.`, at the policy.
 */
export function checkCourse(course: CheckedCourse): readonly Finding[] {
  const found = [
    ...wholeOf(course),
    ...course.items.flatMap((item) => [...datesOf(item, course), ...pointsOf(item, course), ...textOf(item, course), ...kindOf(item)]),
  ];
  return [...found.filter((f) => f.weight === 'mend'), ...found.filter((f) => f.weight === 'look')];
}
