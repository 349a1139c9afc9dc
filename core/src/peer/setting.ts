import type { PlainRubric } from '../grading/fitRubric.ts';

/** Whether students also assess their own work: not at all, before or after the works of others, or nothing else. */
export const OWN_WORK = ['none', 'first', 'last', 'alone'] as const;
export type OwnWork = (typeof OWN_WORK)[number];
/** Who may be given whose work. */
export const AMONG = ['course', 'section', 'group', 'outside group'] as const;
export type Among = (typeof AMONG)[number];
/** When reviews can be given: as soon as one’s own work is in, once works are due, or from a time on. */
export const REVIEWS_OPEN = ['own work', 'works due', 'time'] as const;
export type ReviewsOpen = (typeof REVIEWS_OPEN)[number];
/** When it is drawn who reviews whom: as works come in, when works are due, at a time, or when the teacher says so. */
export const DRAWN_WHEN = ['as they come', 'works due', 'time', 'hand'] as const;
export type DrawnWhen = (typeof DRAWN_WHEN)[number];
export const WORK_FROM = ['consensus', 'mean', 'teacher'] as const;
export type WorkFrom = (typeof WORK_FROM)[number];
/** What the teacher’s own assessment of a work counts for: as one review, as several, or alone. */
export const TEACHER_COUNTS = ['one', 'more', 'decides'] as const;
export type TeacherCounts = (typeof TEACHER_COUNTS)[number];
export const REVIEWING_FROM = ['nearness', 'done', 'teacher', 'nothing'] as const;
export type ReviewingFrom = (typeof REVIEWING_FROM)[number];
/** When sample works are assessed: before any review is given, at any time, or after one’s reviews. */
export const SAMPLES_WHEN = ['before', 'any time', 'after'] as const;
export type SamplesWhen = (typeof SAMPLES_WHEN)[number];

/** What is chosen of a peer review, without its dates, its prompt and its form. */
export interface PeerChoices {
  readonly reviewsPerWork: number;
  readonly reviewsPerStudent: number;
  readonly ownWork: OwnWork;
  /** Reviewers see whose work it is. */
  readonly showsAuthors: boolean;
  /** Authors see who reviewed them. */
  readonly showsReviewers: boolean;
  readonly needsOwnWork: boolean;
  readonly among: Among;
  readonly reviewsOpen: ReviewsOpen;
  readonly drawing: DrawnWhen;
  readonly fitsLateWorks: boolean;
  readonly takesLateReviews: boolean;
  readonly leastWords: number;
  readonly workFrom: WorkFrom;
  readonly teacherCounts: TeacherCounts;
  /** As how many reviews the teacher’s counts, where it counts as more than one. */
  readonly teacherWeight: number;
  readonly reviewingFrom: ReviewingFrom;
  readonly strictness: Strictness;
  readonly samples: SamplesWhen;
}

/** How near is near enough, from the narrowest to the widest. */
export const STRICTNESSES = ['strict', 'firm', 'fair', 'mild', 'lax'] as const;
export type Strictness = (typeof STRICTNESSES)[number];

export const PEER_BEGINS: PeerChoices = {
  reviewsPerWork: 3,
  reviewsPerStudent: 3,
  ownWork: 'none',
  showsAuthors: false,
  showsReviewers: false,
  needsOwnWork: true,
  among: 'course',
  reviewsOpen: 'works due',
  drawing: 'works due',
  fitsLateWorks: true,
  takesLateReviews: true,
  leastWords: 0,
  workFrom: 'consensus',
  teacherCounts: 'decides',
  teacherWeight: 2,
  reviewingFrom: 'nearness',
  strictness: 'fair',
  samples: 'any time',
};

/** What a peer review asks before anybody changed it: a paragraph, and the questions that lead through the work. */
export const PEER_PROMPT = {
  opening: 'Read the whole work once before you judge any of it. Then go through the form, and say where in the work you see what you say.',
  questions: [
    'What does this work do well? Name the place.',
    'Where did you have to read twice, and why?',
    'Which claim or decision is not yet supported?',
    'What one change would help it most?',
  ],
} as const;

/** The form a peer review begins with: three criteria of four levels, in points, and a closing word. */
export const PEER_FORM: PlainRubric = {
  title: 'Reading another’s work',
  criteria: [
    ...(
      [
        ['Answers the task', 'misses what was asked', 'answers a part of it', 'answers it', 'answers it whole, and with thought'],
        ['Reasons and evidence', 'claims alone', 'few reasons', 'reasons for most of it', 'every step has its reason'],
        ['Clear to read', 'hard to follow', 'clear in places', 'clear', 'clear and well ordered'],
      ] as const
    ).map(([title, ...descriptors]) => ({
      title,
      form: 'levels' as const,
      levels: descriptors.map((descriptor, n) => ({
        title: ['Not yet', 'In part', 'Good', 'Excellent'][n] ?? '',
        descriptor,
        points: [0, 4000, 7000, 10_000][n] ?? 0,
      })),
    })),
    { title: 'What would help most', form: 'comment' as const, levels: [] },
  ],
};

/** What is known of a peer review when it is asked whether it can run. Instants in milliseconds since 1970. */
export interface LookedAtPeer extends PeerChoices {
  readonly worksDueAt: number | null;
  readonly reviewsOpenAt: number | null;
  readonly reviewsDueAt: number | null;
  readonly resultsAt: number | null;
  readonly drawAt: number | null;
  readonly isDraft: boolean;
  readonly criteria: number;
  readonly scoredCriteria: number;
  readonly takesWork: boolean;
  /** The work is judged in points, not in words or as done. */
  readonly isInPoints: boolean;
  readonly hasGroupSet: boolean;
  /** What is reviewed: works that are handed in, posts of a discussion, or essays of a quiz. */
  readonly reviewed: 'works' | 'posts' | 'essays';
  /** Works by several students together. */
  readonly isGroupWork: boolean;
  readonly students: number;
  readonly works: number;
  readonly sampleWorks: number;
  readonly areSamplesAssessed: boolean;
}

/** What stands in the way of a peer review: the field that mends it, and a sentence that says what to do. */
export interface PeerFault {
  readonly field:
    | 'worksDueAt'
    | 'reviewsOpenAt'
    | 'reviewsDueAt'
    | 'resultsAt'
    | 'drawAt'
    | 'form'
    | 'among'
    | 'reviewsPerWork'
    | 'isDraft'
    | 'work'
    | 'samples';
  readonly weight: 'mend' | 'look';
  readonly text: string;
}

const NO_POINTS = {
  works: 'The assignment is not judged in points, so reviews can give it none. Judge it in points, or mark the works yourself.',
  posts: 'The discussion does not count in the grade, so reviews can give it no points. Let it count, or judge what was written yourself.',
  essays: 'The points of a quiz are those of its questions, so reviews can give it none. Let the works be marked by you.',
} as const;

/**
 * What still keeps a peer review from running, with what to do about it; an empty list means that it runs by itself. What is *to mend*
 * stops it, what is *to look at* may be meant so.
 * Worked example: no date for the reviews: “The reviews have no due date. Give them one.”, to mend.
 */
export function peerFaults(peer: LookedAtPeer): readonly PeerFault[] {
  const found: PeerFault[] = [];
  const mend = (field: PeerFault['field'], text: string): number => found.push({ field, weight: 'mend', text });
  const look = (field: PeerFault['field'], text: string): number => found.push({ field, weight: 'look', text });
  const { worksDueAt, reviewsDueAt, resultsAt, reviewsOpenAt } = peer;
  if (!peer.takesWork)
    mend(
      'work',
      peer.reviewed === 'essays'
        ? 'The quiz has no essay, so there is nothing to review. Add an essay question.'
        : 'The assignment takes neither text nor files, so there is nothing to review. Say what can be handed in.',
    );
  if (!peer.isInPoints && peer.workFrom !== 'teacher') mend('work', NO_POINTS[peer.reviewed]);
  if (worksDueAt === null) mend('worksDueAt', 'The works have no due date. Give the assignment one.');
  if (reviewsDueAt === null) mend('reviewsDueAt', 'The reviews have no due date. Give them one.');
  if (resultsAt === null && peer.workFrom !== 'teacher') look('resultsAt', 'Results have no date: they come when you say so.');
  if (worksDueAt !== null && reviewsDueAt !== null && reviewsDueAt <= worksDueAt)
    mend('reviewsDueAt', 'The reviews are due before the works are. Set a later date for the reviews.');
  if (peer.reviewsOpen === 'time' && reviewsOpenAt === null)
    mend('reviewsOpenAt', 'Reviews open at a time, and there is none. Give the time.');
  if (peer.reviewsOpen === 'time' && reviewsOpenAt !== null && reviewsDueAt !== null && reviewsOpenAt >= reviewsDueAt)
    mend('reviewsOpenAt', 'The reviews open when they are already due. Set an earlier opening or a later due date.');
  if (reviewsDueAt !== null && resultsAt !== null && resultsAt < reviewsDueAt)
    mend('resultsAt', 'Results come before the reviews are due. Set a later date for the results.');
  if (peer.drawing === 'time' && peer.drawAt === null) mend('drawAt', 'It is drawn at a time, and there is none. Give the time.');
  if (peer.criteria === 0) mend('form', 'The form has no criteria. Take one from the library, or write one.');
  else if (peer.scoredCriteria === 0 && peer.workFrom !== 'teacher')
    mend('form', 'The form asks for words alone, so reviews give no points. Add a criterion with points, or mark the works yourself.');
  else if (peer.scoredCriteria === 0 && peer.reviewingFrom === 'nearness')
    mend('form', 'The form asks for words alone, so nearness cannot be measured. Judge the reviewing as done or not, or yourself.');
  if ((peer.among === 'group' || peer.among === 'outside group') && !peer.hasGroupSet)
    mend('among', 'Groups decide who may review whom, and no set of groups is chosen. Choose one.');
  if (peer.ownWork !== 'alone') {
    if (peer.students < 2)
      mend('reviewsPerWork', 'There are fewer than two students, so nobody can review another. Put more students on the roster.');
    else if (!peer.isGroupWork && peer.reviewsPerWork > peer.students - 1)
      look(
        'reviewsPerWork',
        `Each work is to get ${peer.reviewsPerWork} reviews, but there ${peer.students === 2 ? 'is only 1 other' : `are only ${peer.students - 1} others`}. Each work gets ${peer.students - 1}.`,
      );
    if (!peer.isGroupWork && peer.reviewsPerStudent < peer.reviewsPerWork)
      look(
        'reviewsPerWork',
        `Each work is to get ${peer.reviewsPerWork} reviews, but each student gives only ${peer.reviewsPerStudent}. Some works get fewer.`,
      );
  }
  if (peer.samples === 'before' && peer.sampleWorks === 0)
    mend('samples', 'Sample works must be practised before reviewing, and there are none. Add one, or let them be practised at any time.');
  if (peer.sampleWorks > 0 && !peer.areSamplesAssessed)
    mend('samples', 'A sample work has no assessment of yours to compare with. Assess it, or remove it.');
  if (peer.isDraft) look('isDraft', 'The assignment is a draft, so students do not see it yet. Open it when it is ready.');
  return found;
}
