import {
  AMONG,
  DRAWN_WHEN,
  type DocumentNode,
  OWN_WORK,
  type PeerChoices,
  type PeerFault,
  REVIEWING_FROM,
  REVIEWS_OPEN,
  SAMPLES_WHEN,
  STRICTNESSES,
  TEACHER_COUNTS,
  WORK_FROM,
} from '@rosemary/core';
import type { RubricView } from '../assignment.ts';
import { Joi, document, id, instant, points, version, whole } from '../joi.ts';
import { LIMITS } from '../limits.ts';
import { word } from './word.ts';

/** The dates of a peer review that hold for everybody. */
export interface PeerDates {
  readonly reviewsOpenAt: string | null;
  readonly reviewsDueAt: string | null;
  readonly drawAt: string | null;
  readonly resultsAt: string | null;
  /** Until when a work can be revised once its reviews are out; null: it is not. */
  readonly revisionDueAt: string | null;
}

/** Dates of the reviews for a section, a group or a student alone. */
export interface ReviewDate {
  readonly sectionId: string | null;
  readonly enrolmentId: string | null;
  readonly groupId: string | null;
  readonly opensAt: string | null;
  readonly dueAt: string | null;
}

/** What the results of reviewing are worth, and where they count; null where they stand in no column. */
export interface ReviewingColumn {
  readonly possible: number;
  readonly categoryId: string | null;
}

/** Everything that is set of a peer review. */
export interface PeerChange extends PeerChoices, PeerDates {
  readonly version: number;
  readonly isOn: boolean;
  readonly prompt: DocumentNode;
  readonly groupSetId: string | null;
  readonly reviewing: ReviewingColumn | null;
  readonly otherDates: ReviewDate[];
}

export const peerChange = Joi.object<PeerChange, true>({
  version: version(),
  isOn: Joi.boolean().required(),
  prompt: document().required().label('What to look for'),
  reviewsPerWork: whole(1, 10).required().label('Reviews each work gets'),
  reviewsPerStudent: whole(1, 10).required().label('Reviews each student gives'),
  ownWork: word(OWN_WORK, 'Own work'),
  showsAuthors: Joi.boolean().required(),
  showsReviewers: Joi.boolean().required(),
  needsOwnWork: Joi.boolean().required(),
  among: word(AMONG, 'Among whom'),
  groupSetId: id().allow(null).required().label('Groups'),
  reviewsOpen: word(REVIEWS_OPEN, 'Reviews open'),
  drawing: word(DRAWN_WHEN, 'When it is drawn'),
  fitsLateWorks: Joi.boolean().required(),
  takesLateReviews: Joi.boolean().required(),
  leastWords: whole(0, 500).required().label('Words asked for'),
  workFrom: word(WORK_FROM, 'Where the result of the work comes from'),
  teacherCounts: word(TEACHER_COUNTS, 'What the teacher’s assessment counts for'),
  teacherWeight: whole(2, 10).required().label('As how many reviews the teacher’s counts'),
  reviewingFrom: word(REVIEWING_FROM, 'Where the result of the reviewing comes from'),
  strictness: word(STRICTNESSES, 'Strictness'),
  samples: word(SAMPLES_WHEN, 'Sample works'),
  reviewsOpenAt: instant().required().label('Reviews open'),
  reviewsDueAt: instant().required().label('Reviews due'),
  drawAt: instant().required().label('Drawn at'),
  resultsAt: instant().required().label('Results'),
  revisionDueAt: instant().required().label('Revision due'),
  reviewing: Joi.object({
    possible: points().min(1).required().label('Points for reviewing'),
    categoryId: id().allow(null).required().label('Category'),
  })
    .allow(null)
    .required(),
  otherDates: Joi.array()
    .max(LIMITS.variants)
    .required()
    .label('Other dates')
    .items(
      Joi.object({
        sectionId: id().allow(null).required(),
        enrolmentId: id().allow(null).required(),
        groupId: id().allow(null).required(),
        opensAt: instant().required(),
        dueAt: instant().required(),
      }),
    ),
});

/** How a peer review is set, for whoever teaches the course. Version 0: it was never set. */
export interface PeerSetting {
  readonly item: {
    readonly id: string;
    readonly title: string;
    readonly possible: number;
    readonly dueAt: string | null;
    readonly isDraft: boolean;
    readonly reviewed: 'works' | 'posts' | 'essays';
  };
  readonly setting: PeerChange;
  readonly form: RubricView | null;
  readonly faults: readonly PeerFault[];
  readonly drawnAt: string | null;
  readonly resultsOutAt: string | null;
  /** Reviews that were handed in: what they were given under stays with them. */
  readonly given: number;
  readonly students: number;
  readonly works: number;
  readonly samples: readonly SampleLine[];
  readonly groupSets: readonly { readonly id: string; readonly title: string }[];
  readonly categories: readonly { readonly id: string; readonly title: string }[];
}

/** A sample work as the setting lists it. */
export interface SampleLine {
  readonly id: string;
  readonly title: string;
  readonly wordCount: number;
  /** Criteria that give points and that the teacher has not judged yet, by title; students see it once there are none. */
  readonly unjudged: readonly string[];
  /** Students who compared theirs with the teacher’s. */
  readonly practised: number;
}
