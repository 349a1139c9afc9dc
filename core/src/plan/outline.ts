import { DateTime } from 'luxon';
import { instantOfDay } from '../dates/wallTime.ts';
import type { ItemKind } from '../items/kinds.ts';
import { isHoliday, termWeeks, type Term } from '../dates/term.ts';
import { LOCALE } from '../exact/locale.ts';

export const OUTLINES = ['empty', 'weeks', 'topics', 'projects'] as const;
export type OutlineKind = (typeof OUTLINES)[number];

export interface OutlineItem {
  readonly kind: Extract<ItemKind, 'page' | 'assignment' | 'activity'>;
  readonly title: string;
  readonly estimatedMinutes: number;
  readonly possible: number;
  readonly category: string | null;
  readonly dueAt: number | null;
}
export interface OutlineUnit {
  readonly title: string;
  readonly items: readonly OutlineItem[];
}
/** A course to begin with: its units, and the categories its items count in, in whole percent. */
export interface Outline {
  readonly units: readonly OutlineUnit[];
  readonly categories: readonly { readonly title: string; readonly weightPercent: number }[];
}

const page = (title: string, estimatedMinutes: number): OutlineItem => ({
  kind: 'page',
  title,
  estimatedMinutes,
  possible: 0,
  category: null,
  dueAt: null,
});
const work = (title: string, category: string, points: number, estimatedMinutes: number, dueAt: number | null): OutlineItem => ({
  kind: 'assignment',
  title,
  estimatedMinutes,
  possible: points * 1000,
  category,
  dueAt,
});

/** The end of the last meeting day of a week that is no holiday, in the course's zone; null where the week has none. */
function endOfTeaching(term: Term, monday: string, zone: string): number | null {
  const days = term.meetingDays.length > 0 ? term.meetingDays : [1, 2, 3, 4, 5];
  const first = DateTime.fromISO(monday, { zone: 'utc' });
  const open = days
    .map((day) => first.plus({ days: day - 1 }).toISODate() as string)
    .filter((day) => day >= term.startsOn && day <= term.endsOn && !isHoliday(term, day))
    .sort();
  const last = open.at(-1);
  return last === undefined ? null : instantOfDay(last, 23, 59, zone);
}

function byWeeks(term: Term, zone: string): Outline {
  const teaching = termWeeks(term).filter((week) => week.isTeaching);
  const units = teaching.map((week, n): OutlineUnit => {
    const starts = DateTime.fromISO(week.startsOn, { zone: 'utc' }).setLocale(LOCALE).toFormat('d LLLL');
    const dueAt = endOfTeaching(term, week.startsOn, zone);
    const exercise = work(`Exercise ${n + 1}`, 'Exercises', 20, 60, dueAt);
    const isPaper = n + 1 === Math.ceil(teaching.length / 2) || n + 1 === teaching.length;
    const paper = work(n + 1 === teaching.length ? 'Final paper' : 'Mid-term paper', 'Papers', 100, 240, dueAt);
    return {
      title: `Week ${week.number}, from ${starts}`,
      items: [page('Read first', 40), exercise, ...(isPaper && teaching.length > 1 ? [paper] : [])],
    };
  });
  return {
    units,
    categories: [
      { title: 'Exercises', weightPercent: 40 },
      { title: 'Papers', weightPercent: 60 },
    ],
  };
}

const TOPICS = 6;
function byTopics(term: Term, zone: string): Outline {
  const teaching = termWeeks(term).filter((week) => week.isTeaching);
  const units = Array.from({ length: TOPICS }, (_, n): OutlineUnit => {
    const week = teaching[Math.ceil(((n + 1) * teaching.length) / TOPICS) - 1];
    const dueAt = week === undefined ? null : endOfTeaching(term, week.startsOn, zone);
    return {
      title: `Topic ${n + 1}`,
      items: [
        page('What this is about', 30),
        page('Worked example', 45),
        work('Try it', 'Exercises', 20, 60, dueAt),
        work('Show it', 'Assignments', 60, 180, dueAt),
      ],
    };
  });
  return {
    units,
    categories: [
      { title: 'Exercises', weightPercent: 30 },
      { title: 'Assignments', weightPercent: 70 },
    ],
  };
}

const PROJECTS = ['First project', 'Second project', 'Final project'];
function byProjects(term: Term, zone: string): Outline {
  const teaching = termWeeks(term).filter((week) => week.isTeaching);
  const at = (share: number): number | null => {
    const week = teaching[Math.max(0, Math.ceil(share * teaching.length) - 1)];
    return week === undefined ? null : endOfTeaching(term, week.startsOn, zone);
  };
  const units = PROJECTS.map((title, n): OutlineUnit => {
    const part = 1 / PROJECTS.length;
    return {
      title,
      items: [
        page('Brief', 30),
        work('Plan', 'Plans and drafts', 10, 60, at((n + 0.35) * part)),
        work('Draft', 'Plans and drafts', 20, 240, at((n + 0.7) * part)),
        work('Finished work', 'Finished work', n === PROJECTS.length - 1 ? 200 : 100, 360, at((n + 1) * part)),
        work('What I would do again', 'Plans and drafts', 10, 45, at((n + 1) * part)),
      ],
    };
  });
  return {
    units,
    categories: [
      { title: 'Plans and drafts', weightPercent: 30 },
      { title: 'Finished work', weightPercent: 70 },
    ],
  };
}

/**
 * A course to start from, laid out over the teaching weeks of a term; everything in it is meant to be renamed.
 *
 * Due dates are the end (23:59, course's zone) of the last meeting day of their week that is no holiday. Weeks without
 * teaching get no unit. `empty` has no units and one category of each usual kind.
 * Worked example: `weeks` in a term of 15 weeks of which one is a holiday has 14 units, a paper in the 7th and the 14th.
 */
export function starterOutline(kind: OutlineKind, term: Term, zone: string): Outline {
  if (kind === 'weeks') return byWeeks(term, zone);
  if (kind === 'topics') return byTopics(term, zone);
  if (kind === 'projects') return byProjects(term, zone);
  return {
    units: [],
    categories: [
      { title: 'Assignments', weightPercent: 60 },
      { title: 'Class work', weightPercent: 40 },
    ],
  };
}
