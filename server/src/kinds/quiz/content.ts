import type { PaperQuestionView, PaperShown, QuizSetting } from '@rosemary/api';
import { type AskedQuestion, askQuestion, type DocumentNode, type QuestionContent, withFilesAt } from '@rosemary/core';
import { type Db, rows } from '../../platform/database.ts';

/** A paper as one attempt has it: which question in which version, for how many points. */
export interface StoredQuestion {
  readonly questionId: string;
  readonly number: number;
  readonly points: number;
  readonly floor: number | null;
}

export interface StoredPaper {
  readonly sections: readonly {
    readonly id: string;
    readonly title: string;
    readonly instructions: string;
    readonly questions: readonly StoredQuestion[];
  }[];
}

export const questionsOf = (paper: StoredPaper): readonly StoredQuestion[] => paper.sections.flatMap((s) => s.questions);

export interface LoadedQuestion {
  readonly content: QuestionContent;
  readonly title: string;
  readonly plain: string;
  readonly stimulusId: string | null;
  readonly stimulus: DocumentNode | null;
}

interface ContentRow extends QuestionContent {
  question_id: string;
  number: number;
  title: string;
  plain: string;
  stimulus_id: string | null;
  stimulus: DocumentNode | null;
  fixed_at: Date | null;
}

/** What was taken never changes, so it is read once; a process keeps so many. */
const MOST_KEPT = 4000;

const kept = new Map<string, LoadedQuestion>();

const keyOf = (q: { readonly questionId: string; readonly number: number }): string => `${q.questionId} ${q.number}`;

/** The content of questions, by `contentKey`; a version that is fixed comes from memory. */
export async function loadQuestions(
  db: Db,
  wanted: readonly { readonly questionId: string; readonly number: number }[],
): Promise<(question: { readonly questionId: string; readonly number: number }) => LoadedQuestion> {
  const found = new Map<string, LoadedQuestion>();
  const missing = new Map<string, { questionId: string; number: number }>();
  for (const q of wanted) {
    const known = kept.get(keyOf(q));
    if (known === undefined) missing.set(keyOf(q), q);
    else found.set(keyOf(q), known);
  }
  if (missing.size > 0) {
    const read = await rows<ContentRow>(
      db,
      `select v.question_id, v.number, v.words, v.key, v.feedback, v.picture, v.plain, v.fixed_at, q.title, q.stimulus_id, s.document as stimulus
       from unnest($1::uuid[], $2::int[]) as w(id, number) join question_version v on v.question_id = w.id and v.number = w.number
         join question q on q.id = v.question_id left join stimulus s on s.id = q.stimulus_id`,
      [[...missing.values()].map((q) => q.questionId), [...missing.values()].map((q) => q.number)],
    );
    if (kept.size > MOST_KEPT) kept.clear();
    for (const row of read) {
      const loaded = {
        content: { words: row.words, key: row.key, feedback: row.feedback, picture: row.picture },
        title: row.title,
        plain: row.plain,
        stimulusId: row.stimulus_id,
        stimulus: row.stimulus,
      };
      const key = `${row.question_id} ${row.number}`;
      found.set(key, loaded);
      // A text that several share may still be changed, so a question with one is read each time.
      if (row.fixed_at !== null && row.stimulus_id === null) kept.set(key, loaded);
    }
  }
  return (q) => {
    const loaded = found.get(keyOf(q));
    if (loaded === undefined) throw new RangeError(`Question ${q.questionId} has no version ${q.number}.`);
    return loaded;
  };
}

const AS_IT_STANDS = 'as it stands ';

/** A seed under which the answers stay in the order their teacher wrote them. */
export const asItStands = (seed: string): string => `${AS_IT_STANDS}${seed}`;

export const isAsItStands = (seed: string): boolean => seed.startsWith(AS_IT_STANDS);

/** Where the files of a question are fetched by whoever looks at it. */
export type FilesAt = (fileId: string) => string;

function moved(asked: AskedQuestion, at: FilesAt): AskedQuestion {
  return {
    ...asked,
    words: withFilesAt(asked.words, at),
    choices: asked.choices.map((c) => ({ ...c, words: withFilesAt(c.words, at) })),
    picture: asked.picture === null ? null : { ...asked.picture, src: at(asked.picture.fileId) },
  };
}

/** A paper as its student sees it, from its seed; a question without values (its conditions never hold) is said and left out. */
export function showPaper(
  paper: StoredPaper,
  seed: string,
  setting: Pick<QuizSetting, 'shufflesAnswers'>,
  loaded: Awaited<ReturnType<typeof loadQuestions>>,
  at: FilesAt,
): PaperShown {
  const faults: string[] = [];
  const show = (q: StoredQuestion): PaperQuestionView[] => {
    const { content, stimulus } = loaded(q);
    try {
      const asked = moved(askQuestion(content, q.questionId, seed, setting.shufflesAnswers && !isAsItStands(seed)), at);
      return [{ id: q.questionId, points: q.points, asked, stimulus: stimulus === null ? null : withFilesAt(stimulus, at) }];
    } catch (error) {
      faults.push(error instanceof Error ? error.message : '');
      return [];
    }
  };
  const sections = paper.sections.map((s) => ({
    id: s.id,
    title: s.title,
    instructions: s.instructions,
    questions: s.questions.flatMap(show),
  }));
  return { sections, faults };
}
