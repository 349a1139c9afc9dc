import {
  DONE_RULES,
  ITEM_KINDS,
  type DocumentNode,
  type JudgedByPlace,
  type DoneRule,
  type LatePolicy,
  type ResultReading,
  type ItemKind,
  type QuestionContent,
  type QuestionLevel,
} from '@rosemary/core';
import { document, id, instant, Joi, latePolicy, points, title, whole } from './joi.ts';
import { LIMITS } from './limits.ts';
import { peerChange, type PeerChange } from './peer/setting.ts';
import { assignmentChange, rubricChange, type AssignmentChange, type RubricChange } from './assignment.ts';
import { matchSetting, type MatchSetting } from './matching.ts';
import { linkChange } from './files.ts';
import { type LevelChange, policyChange, type PolicyChange, schemeLevels } from './policy.ts';
import { newQuestionShape } from './question.ts';
import { quizChange, type QuizSetting } from './quiz.ts';
import { opening, type OpeningWish } from './release.ts';

export const ARCHIVE_FORMAT = 'rosemary-course';
export const ARCHIVE_VERSION = 1;

/** One item of a course as it stands in an archive; identifiers hold within the archive alone. */
export interface ArchiveItem {
  readonly id: string;
  readonly kind: ItemKind;
  readonly title: string;
  readonly isDraft: boolean;
  readonly isOff: boolean;
  readonly isStaffOnly: boolean;
  readonly category: string | null;
  readonly possible: number;
  readonly multiplier: number;
  readonly isExtraCredit: boolean;
  readonly counts: boolean;
  readonly isRequired: boolean;
  readonly announcedAt: string | null;
  readonly opensAt: string | null;
  readonly dueAt: string | null;
  readonly closesAt: string | null;
  readonly estimatedMinutes: number;
  readonly markingMinutes: number;
  /** The title of its type of task; a school that has one of this title takes it. */
  readonly taskType: string | null;
  readonly doneRule: DoneRule;
  readonly doneScore: number | null;
  readonly releaseMode: 'finished' | 'date' | 'hand';
  readonly releaseAt: string | null;
  readonly nextNote: string;
  readonly opening: OpeningWish;
  /** Sections it is for, by title; none is everyone. */
  readonly sections: string[];
  readonly variants: {
    readonly section: string;
    readonly opensAt: string | null;
    readonly dueAt: string | null;
    readonly closesAt: string | null;
  }[];
  readonly objectiveIds: string[];
  readonly showsStatistics: boolean;
  readonly studentReads: ResultReading;
  readonly staffReads: ResultReading;
  readonly ownLevels: LevelChange[] | null;
  /** A late policy of its own. */
  readonly late: LatePolicy | null;
  readonly matching: Omit<MatchSetting, 'version'> | null;
  readonly page: DocumentNode | null;
  /** What was written into its text and not published. */
  readonly working: DocumentNode | null;
  readonly assignment: Required<Omit<AssignmentChange, 'version'>> | null;
  readonly rubric: RubricChange['criteria'];
  readonly peer: ArchivePeer | null;
  readonly link: { readonly address: string; readonly note: string } | null;
  readonly file: { readonly fileId: string | null; readonly note: string } | null;
  readonly discussion: { readonly document: DocumentNode; readonly isPostFirst: boolean } | null;
  readonly quiz: ArchiveQuiz | null;
}
/** How students review an assignment: what is set, and the form. Groups are of one class and stay behind. */
export interface ArchivePeer {
  readonly setting: Omit<PeerChange, 'version' | 'groupSetId' | 'otherDates'>;
  readonly form: RubricChange['criteria'];
  readonly samples: readonly ArchiveSample[];
}
/** A sample work with what its teacher judged, by the places of criteria and levels. */
export interface ArchiveSample extends JudgedByPlace {
  readonly title: string;
  readonly document: DocumentNode;
  readonly words: string;
}
/** A quiz: how it is taken, and its paper. Codes and addresses are made for one room and stay behind. */
export interface ArchiveQuiz {
  readonly setting: Omit<QuizSetting, 'version' | 'accessCode' | 'allowedAddresses'>;
  readonly sections: readonly {
    readonly title: string;
    readonly instructions: string;
    readonly isShuffled: boolean;
    readonly parts: readonly {
      /** One question, or all those of which some are drawn. */
      readonly questionIds: readonly string[];
      readonly count: number | null;
      readonly points: number;
      readonly floor: number | null;
    }[];
  }[];
}
/** A question of a quiz as it stands in the quiz. */
export interface ArchiveQuestion extends QuestionContent {
  readonly id: string;
  readonly stimulusId: string | null;
  readonly title: string;
  readonly level: QuestionLevel | null;
  readonly tags: readonly string[];
  readonly objectives: readonly string[];
}
export interface ArchiveStimulus {
  readonly id: string;
  readonly title: string;
  readonly document: DocumentNode;
}
const archiveQuiz = Joi.object<ArchiveQuiz>({
  setting: quizChange.fork(['version', 'accessCode', 'allowedAddresses'], (schema) => schema.optional().strip()).required(),
  sections: Joi.array()
    .min(1)
    .max(40)
    .required()
    .items(
      Joi.object({
        title: Joi.string().allow('').max(LIMITS.title).required(),
        instructions: Joi.string().allow('').max(2000).required(),
        isShuffled: Joi.boolean().required(),
        parts: Joi.array()
          .max(300)
          .required()
          .items(
            Joi.object({
              questionIds: Joi.array().max(2000).items(id()).required(),
              count: whole(1, 200).allow(null).required(),
              points: points().required(),
              floor: whole(-10_000_000, 0).allow(null).required(),
            }),
          ),
      }),
    ),
});
export const archiveQuestion = Joi.object<ArchiveQuestion>({
  ...newQuestionShape,
  id: id().required(),
  stimulusId: id().allow(null).default(null),
});
export const archiveItem = Joi.object<ArchiveItem>({
  id: id().required(),
  kind: Joi.string()
    .valid(...ITEM_KINDS)
    .required()
    .label('Kind'),
  title: title().required().label('Title'),
  isDraft: Joi.boolean().required(),
  // Archives of before know of nothing that is switched off.
  isOff: Joi.boolean().default(false),
  isStaffOnly: Joi.boolean().default(false),
  category: title(LIMITS.categoryTitle).allow(null).default(null).label('Category'),
  possible: points().default(0).label('Points'),
  multiplier: whole(0, 100_000).default(1000).label('Multiplier'),
  isExtraCredit: Joi.boolean().default(false),
  counts: Joi.boolean().default(true),
  isRequired: Joi.boolean().default(true),
  announcedAt: instant().default(null).label('Announced from'),
  opensAt: instant().default(null).label('Opens'),
  dueAt: instant().default(null).label('Due'),
  closesAt: instant().default(null).label('Closes'),
  estimatedMinutes: whole(0, 6000).default(30).label('Minutes for a student'),
  markingMinutes: whole(0, 600).default(0).label('Minutes to mark'),
  taskType: Joi.string().trim().max(60).allow(null).default(null).label('Type of task'),
  doneRule: Joi.string()
    .valid(...DONE_RULES)
    .required()
    .label('Done when'),
  doneScore: points().allow(null).default(null).label('Score needed'),
  releaseMode: Joi.string().valid('finished', 'date', 'hand').default('hand').label('Release'),
  releaseAt: instant().default(null).label('Release at'),
  nextNote: Joi.string().allow('').max(LIMITS.note).default('').label('Note to next time'),
  opening: opening().default({ needs: 'all', rules: [] }),
  sections: Joi.array().max(60).items(Joi.string().max(LIMITS.name)).default([]),
  variants: Joi.array()
    .max(60)
    .items(
      Joi.object({
        section: Joi.string().max(LIMITS.name).required(),
        opensAt: instant().required(),
        dueAt: instant().required(),
        closesAt: instant().required(),
      }),
    )
    .default([]),
  objectiveIds: Joi.array().max(60).items(id()).default([]),
  showsStatistics: Joi.boolean().default(false),
  studentReads: Joi.string().valid('points', 'percent', 'letter').default('points'),
  staffReads: Joi.string().valid('points', 'percent', 'letter').default('points'),
  ownLevels: schemeLevels().min(1).allow(null).default(null),
  late: latePolicy().default(null),
  matching: matchSetting
    .fork('version', (schema: Joi.Schema) => schema.optional().strip())
    .allow(null)
    .default(null),
  page: document().allow(null).default(null),
  working: document().allow(null).default(null),
  assignment: assignmentChange
    .fork('version', (schema) => schema.optional().strip())
    .fork(['instructions', 'acceptsText', 'acceptsFiles', 'fileTypes', 'mostFiles', 'mostBytes'], (schema) => schema.required())
    .allow(null)
    .default(null),
  rubric: (rubricChange.extract('criteria') as Joi.ArraySchema).optional().default([]),
  peer: Joi.object({
    setting: peerChange
      .fork(['version', 'groupSetId', 'otherDates'], (schema) => schema.optional().strip())
      // Archives of before know of no revision after the reviews.
      .fork('revisionDueAt', (schema) => schema.optional().default(null))
      .required(),
    form: rubricChange.extract('criteria').required(),
    samples: Joi.array()
      .max(LIMITS.samples)
      .default([])
      .items(
        Joi.object({
          title: Joi.string().min(1).max(200).required(),
          document: document().required(),
          words: Joi.string().allow('').max(20_000).required(),
          levels: Joi.array().items(whole(0, 100).allow(null)).max(LIMITS.criteria).required(),
          given: Joi.array().items(whole(0, 10_000_000).allow(null)).max(LIMITS.criteria).required(),
          comments: Joi.array().items(Joi.string().allow('').max(LIMITS.noteBody)).max(LIMITS.criteria).required(),
        }),
      ),
  })
    .allow(null)
    .default(null),
  link: linkChange
    .fork('version', (schema) => schema.optional().strip())
    .fork(['address', 'note'], (schema) => schema.required())
    .allow(null)
    .default(null),
  file: Joi.object({ fileId: id().allow(null).required(), note: Joi.string().allow('').max(LIMITS.note).required() })
    .allow(null)
    .default(null),
  discussion: Joi.object({ document: document().required(), isPostFirst: Joi.boolean().required() }).allow(null).default(null),
  quiz: archiveQuiz.allow(null).default(null),
});

export interface ArchiveFile {
  readonly id: string;
  readonly name: string;
  readonly folderId: string | null;
  readonly size: number;
  /** The entry of the archive that holds its bytes is files/ and this. */
  readonly sha256: string;
  /** Whether it stands in the course's store; a picture of a question does not. */
  readonly isKept: boolean;
}
export interface ArchiveUnit {
  readonly title: string;
  readonly announcedAt: string | null;
  readonly opensAt: string | null;
  readonly closesAt: string | null;
  readonly isStaffOnly: boolean;
  readonly isStanding: boolean;
  readonly sections: string[];
  readonly itemIds: string[];
}
/** What `course.json` of an archive holds. Items are checked one by one, so that a bad one does not keep the others out. */
export interface Archive {
  readonly format: typeof ARCHIVE_FORMAT;
  readonly version: number;
  readonly course: {
    readonly id: string;
    readonly title: string;
    readonly description: string;
    readonly language: string;
    /** The zone its dates are meant in; null in an archive that does not say. */
    readonly timeZone: string | null;
  };
  readonly policy: Omit<PolicyChange, 'version'>;
  readonly programme: DocumentNode | null;
  readonly folders: { readonly id: string; readonly parentId: string | null; readonly title: string }[];
  readonly files: ArchiveFile[];
  readonly objectives: { readonly id: string; readonly parentId: string | null; readonly code: string; readonly statement: string }[];
  readonly units: ArchiveUnit[];
  readonly items: ArchiveItem[];
  readonly stimuli: ArchiveStimulus[];
  /** Checked one by one, as items are. */
  readonly questions: ArchiveQuestion[];
}
const sha = (): Joi.StringSchema => Joi.string().pattern(/^[0-9a-f]{64}$/);
export const archive = Joi.object({
  format: Joi.string().valid(ARCHIVE_FORMAT).required(),
  version: Joi.number().valid(ARCHIVE_VERSION).required(),
  course: Joi.object({
    id: id().required(),
    title: title().required(),
    description: Joi.string().allow('').max(4000).default(''),
    language: Joi.string().max(35).default('en'),
    timeZone: Joi.string().max(60).allow(null).default(null),
  }).required(),
  policy: policyChange.fork('version', (schema) => schema.optional()).required(),
  programme: document().allow(null).default(null),
  folders: Joi.array()
    .max(2000)
    .items(Joi.object({ id: id().required(), parentId: id().allow(null).required(), title: title().required() }))
    .default([]),
  files: Joi.array()
    .max(5000)
    .items(
      Joi.object({
        id: id().required(),
        name: title(LIMITS.fileName).required(),
        folderId: id().allow(null).required(),
        size: whole(1, 2_000_000_000).required(),
        sha256: sha().required(),
        isKept: Joi.boolean().default(true),
      }),
    )
    .default([]),
  objectives: Joi.array()
    .max(5000)
    .items(
      Joi.object({
        id: id().required(),
        parentId: id().allow(null).required(),
        code: Joi.string().allow('').max(60).required(),
        statement: Joi.string().min(1).max(2000).required(),
      }),
    )
    .default([]),
  units: Joi.array()
    .max(200)
    .items(
      Joi.object({
        title: title(LIMITS.unitTitle).required(),
        announcedAt: instant().default(null),
        opensAt: instant().default(null),
        closesAt: instant().default(null),
        isStaffOnly: Joi.boolean().default(false),
        isStanding: Joi.boolean().default(false),
        sections: Joi.array().max(60).items(Joi.string().max(LIMITS.name)).default([]),
        itemIds: Joi.array().max(LIMITS.items).items(id()).required(),
      }),
    )
    .required(),
  items: Joi.array().max(2000).items(Joi.object().unknown(true)).required(),
  stimuli: Joi.array()
    .max(2000)
    .items(Joi.object({ id: id().required(), title: Joi.string().allow('').max(LIMITS.title).required(), document: document().required() }))
    .default([]),
  questions: Joi.array().max(5000).items(Joi.object().unknown(true)).default([]),
});

/** What a package holds, read without taking anything in; what cannot be taken is said, and the rest can be. */
export interface PackagePreview {
  readonly kind: 'archive' | 'cartridge';
  readonly title: string;
  readonly units: readonly { readonly title: string; readonly items: readonly { readonly title: string; readonly kind: ItemKind }[] }[];
  /** Items, each once, in however many units it stands. */
  readonly items: number;
  readonly files: number;
  readonly bytes: number;
  readonly hasPolicy: boolean;
  readonly problems: readonly string[];
}

/** What came of bringing an archive in: what is here now, and what was left out, with the reason. */
export interface ArchiveDone {
  readonly itemIds: readonly string[];
  readonly unitIds: readonly string[];
  readonly files: number;
  readonly problems: readonly string[];
}
