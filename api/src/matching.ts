import { Joi, version } from './joi.ts';

/** What texts are held against, and who sees what comes of it. */
export interface MatchSetting {
  readonly version: number;
  readonly looksAtClass: boolean;
  readonly looksAtEarlier: boolean;
  readonly looksAtCollection: boolean;
  readonly leavesQuotations: boolean;
  readonly showsStudents: boolean;
  readonly joinsCollection: boolean;
}
export const matchSetting = Joi.object<MatchSetting, true>({
  version: version(),
  looksAtClass: Joi.boolean().required(),
  looksAtEarlier: Joi.boolean().required(),
  looksAtCollection: Joi.boolean().required(),
  leavesQuotations: Joi.boolean().required(),
  showsStudents: Joi.boolean().required(),
  joinsCollection: Joi.boolean().required(),
});

export interface MatchState {
  readonly setting: MatchSetting;
  /** The school has a collection that can be looked at. */
  readonly hasCollection: boolean;
  readonly run: {
    readonly askedAt: string;
    readonly endedAt: string | null;
    readonly works: number;
    readonly said: string;
  } | null;
}

/** Of how many words that count how many stand elsewhere. */
export interface MatchFigures {
  readonly counted: number;
  readonly matched: number;
  readonly quoted: number;
  readonly ofTask: number;
  /** Whole percent, rounded half up; null where nothing counts. */
  readonly percent: number | null;
}

export interface MatchedSource {
  readonly kind: 'class' | 'earlier' | 'collection';
  /** Whose or which it is; said without a name to students, and where names are hidden. */
  readonly title: string;
  readonly words: number;
  /** The text it stands in, where the reader may read it. */
  readonly text: string | null;
  readonly runs: readonly { readonly from: number; readonly to: number; readonly sourceFrom: number; readonly sourceTo: number }[];
}

export interface MatchReport {
  readonly figures: MatchFigures;
  readonly text: string;
  readonly sources: readonly MatchedSource[];
  readonly at: string;
}
