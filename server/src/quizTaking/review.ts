import type { AttemptPaper, GivenAnswer, OwnAttempt, PaperReview, QuizSetting, ReviewedQuestion } from '@rosemary/api';
import * as api from '@rosemary/api/endpoints';
import { urlOf } from '@rosemary/api/endpoints';
import {
  attemptWorking,
  type Correction,
  type DocumentNode,
  exactPoints,
  formatPoints,
  keyInWords,
  ONE,
  parseShare,
  pointsInWords,
  type QuestionContent,
  type QuestionKey,
  ratio,
  type Ratio,
  type Reviewed,
  type ScoredPart,
  sumParts,
  valuesOf,
  wantedOf,
  withFilesAt,
  withValues,
} from '@rosemary/core';
import { type FilesAt, getQuiz, loadQuestions, questionsOf, showPaper } from '../kinds/quiz/index.ts';
import type { Visible } from '../opening/index.ts';
import { type Db, rows } from '../platform/database.ts';
import { AppError, notFound } from '../platform/errors.ts';
import { getTerm } from '../term/index.ts';
import { type AttemptRow, findAttempt, listOwnAttempts } from './attemptRows.ts';
import { termsOf } from './terms.ts';
import { countedOf, ownFilesAt, reviewNow, seesScores } from './attempts.ts';
import { listCorrections } from './scoring.ts';

interface PartRow {
  question_id: string;
  answer: GivenAnswer | null;
  share: string | null;
  rule: string | null;
  points: number | null;
  given: string | null;
  given_reason: string | null;
  version: number | null;
}

export async function listParts(db: Db, attemptId: string): Promise<ReadonlyMap<string, PartRow>> {
  const found = await rows<PartRow>(
    db,
    `select coalesce(a.question_id, s.question_id) as question_id, a.answer, s.share, s.rule, (s.points * 1000)::int as points, s.given, s.given_reason, s.version
     from (select * from quiz_answer where attempt_id = $1) a full join (select * from quiz_score where attempt_id = $1) s on s.question_id = a.question_id`,
    [attemptId],
  );
  return new Map(found.map((row) => [row.question_id, row]));
}

const shareOf = (part: PartRow | undefined): Ratio | null => {
  const text = part?.share ?? null;
  return text === null ? null : parseShare(text);
};

const scoreTextOf = (share: Ratio, points: number): string => exactPoints(share.mul(ratio(points)));

/** What is said to somebody about their answer: of the answers picked, then for right or wrong, then to all. */
function feedbackFor(content: QuestionContent, key: QuestionKey, answer: GivenAnswer | null, share: Ratio | null): DocumentNode[] {
  const picked = answer?.kind === 'choice' ? [answer.id] : answer?.kind === 'choices' ? answer.ids : [];
  const ofChoices = 'choices' in key ? key.choices.filter((c) => picked.includes(c.id)).map((c) => c.feedback) : [];
  const isRight = share !== null && share.compare(ONE) >= 0;
  const said = [...ofChoices, share === null ? null : isRight ? content.feedback.right : content.feedback.wrong, content.feedback.general];
  return said.filter((d): d is DocumentNode => d !== null);
}

/** The key as it holds now: with what was corrected since. */
function keyNow(content: QuestionContent, questionId: string, corrections: readonly Correction[]): QuestionKey {
  return corrections.reduce<QuestionKey>((key, c) => (c.kind === 'key' && c.questionId === questionId ? c.key : key), content.key);
}

interface Seen {
  readonly sees: { readonly [what in Reviewed]: boolean };
  readonly later: readonly string[];
  readonly files: FilesAt;
  readonly fileOf: (answer: GivenAnswer | null) => ReviewedQuestion['file'];
}

/** A paper after it was handed in, with as much of it as may be seen; what may not be seen is not in the answer at all. */
async function makeReview(
  db: Db,
  attempt: AttemptRow,
  own: OwnAttempt,
  title: string,
  setting: QuizSetting,
  possible: number,
  seen: Seen,
): Promise<PaperReview> {
  const { sees } = seen;
  const loaded = await loadQuestions(db, questionsOf(attempt.paper));
  const parts = await listParts(db, attempt.id);
  const corrections = await listCorrections(db, attempt.item_id);
  const shown = showPaper(attempt.paper, attempt.seed, setting, loaded, seen.files);
  const stored = new Map(questionsOf(attempt.paper).map((q) => [q.questionId, q]));
  const reviewed = (view: (typeof shown.sections)[number]['questions'][number]): ReviewedQuestion => {
    const question = stored.get(view.id);
    const { content } = loaded(question ?? { questionId: view.id, number: 1 });
    const part = parts.get(view.id);
    const answer = part?.answer ?? null;
    const share = shareOf(part);
    const key = keyNow(content, view.id, corrections);
    const values = valuesOf(content.key, view.id, attempt.seed);
    const said = (d: DocumentNode): DocumentNode => withFilesAt(values.size === 0 ? d : withValues(d, values), seen.files);
    const isKeyed = 'choices' in key;
    return {
      ...view,
      points: part?.points ?? view.points,
      answer: sees.answers ? answer : null,
      file: sees.answers ? seen.fileOf(answer) : null,
      scoreText: sees.score && share !== null ? scoreTextOf(share, part?.points ?? 0) : null,
      isWaiting: part !== undefined && part.rule !== null && part.share === null,
      rule: sees.score ? (part?.rule ?? '') : '',
      key: sees.key
        ? {
            choiceIds: isKeyed ? key.choices.filter((c) => c.share > 0).map((c) => c.id) : [],
            words: isKeyed ? [] : keyInWords(key, wantedOf(key, view.id, attempt.seed)),
          }
        : null,
      feedback: sees.feedback ? feedbackFor(content, key, answer, share).map(said) : [],
      comment: sees.feedback || sees.score ? ((part?.given ?? null) === null ? '' : (part?.given_reason ?? '')) : '',
    };
  };
  const scored: ScoredPart[] = questionsOf(attempt.paper).map((q) => {
    const part = parts.get(q.questionId);
    return {
      questionId: q.questionId,
      points: part?.points ?? q.points,
      isDropped: part?.points === 0 && q.points > 0,
      share: shareOf(part),
      rule: part?.rule ?? 'Nothing was answered.',
    };
  });
  const numberOf = new Map(shown.sections.flatMap((s) => s.questions).map((q, n) => [q.id, n + 1]));
  const total = sumParts(scored, possible);
  return {
    attempt: own,
    title,
    possible,
    sees,
    later: seen.later,
    sections: shown.sections.map((s) => ({ ...s, questions: s.questions.map(reviewed) })),
    working: sees.score ? attemptWorking(total, possible, (id) => `Question ${numberOf.get(id) ?? ''}`) : [],
    attainment: sees.score && total.score !== null ? attainmentOf(total.score, setting) : '',
  };
}

/** Which line of attainment a score reaches, in words; empty where there is none. */
function attainmentOf(score: number, { passPoints, meritPoints }: Pick<QuizSetting, 'passPoints' | 'meritPoints'>): string {
  if (meritPoints !== null && score >= meritPoints) return `with merit (${pointsInWords(meritPoints)} or more)`;
  if (passPoints !== null)
    return score >= passPoints
      ? `passed (${pointsInWords(passPoints)} or more)`
      : `not passed (${formatPoints(passPoints)} points are needed)`;
  return '';
}

/** A student's own paper. While another attempt is open nothing of it is told. */
export async function getOwnReview(
  db: Db,
  courseId: string,
  visible: Visible,
  attemptId: string,
  enrolmentId: string,
  now: number,
): Promise<PaperReview> {
  const itemId = visible.item.id;
  const taken = await listOwnAttempts(db, itemId, enrolmentId);
  const attempt = taken.find((a) => a.id === attemptId);
  if (attempt === undefined) throw notFound();
  if (attempt.state === 'open') throw new AppError('not-now', 'This attempt is not handed in yet.');
  if (taken.some((a) => a.state === 'open'))
    throw new AppError('not-now', 'Another attempt is open. Hand it in before you look at this one.');
  const setting = termsOf(await getQuiz(db, itemId), attempt);
  const { zone } = await getTerm(db, courseId);
  const { sees, later } = reviewNow(setting, now, visible.dates.closes.at, zone);
  const score = sees.score && (await seesScores(db, itemId, enrolmentId));
  const own: OwnAttempt = {
    id: attempt.id,
    number: attempt.number,
    handedInAt: attempt.handed_in_at?.toISOString() ?? null,
    how: attempt.handed_in_how,
    state: attempt.state,
    scoreText: score && attempt.score !== null ? exactPoints(attempt.score) : null,
    isWaiting: attempt.score === null,
    counts: score && countedOf(taken, setting.counted).has(attempt.id),
  };
  const files = await listAnswerFiles(db, attempt.id, (id) =>
    urlOf(api.getOwnAnswerFile, { courseId, itemId, attemptId: attempt.id, fileId: id }),
  );
  return makeReview(db, attempt, own, visible.item.title, setting, visible.item.possible, {
    sees: { ...sees, score },
    later,
    files: ownFilesAt(courseId, itemId),
    fileOf: files,
  });
}

async function listAnswerFiles(db: Db, attemptId: string, at: FilesAt): Promise<Seen['fileOf']> {
  const found = await rows<{ id: string; name: string }>(
    db,
    "select f.id, f.name from quiz_answer a join file f on f.id = (a.answer ->> 'fileId')::uuid where a.attempt_id = $1",
    [attemptId],
  );
  return (answer) => {
    const file = answer?.kind === 'work' ? found.find((f) => f.id === answer.fileId) : undefined;
    return file === undefined ? null : { name: file.name, url: at(file.id) };
  };
}

/** A paper as those who teach see it: everything. */
export async function getStaffReview(
  db: Db,
  courseId: string,
  itemId: string,
  attemptId: string,
  title: string,
  possible: number,
): Promise<Pick<AttemptPaper, 'review' | 'scoreVersions'>> {
  const attempt = await findAttempt(db, itemId, attemptId);
  if (attempt === null) throw notFound();
  const setting = termsOf(await getQuiz(db, itemId), attempt);
  const all = await listOwnAttempts(db, itemId, attempt.enrolment_id);
  const own: OwnAttempt = {
    id: attempt.id,
    number: attempt.number,
    handedInAt: attempt.handed_in_at?.toISOString() ?? null,
    how: attempt.handed_in_how,
    state: attempt.state,
    scoreText: attempt.score === null ? null : exactPoints(attempt.score),
    isWaiting: attempt.state === 'handed in' && attempt.score === null,
    counts: countedOf(all, setting.counted).has(attempt.id),
  };
  const review = await makeReview(db, attempt, own, title, setting, possible, {
    sees: { score: true, answers: true, key: true, feedback: true },
    later: [],
    files: (fileId) => urlOf(api.getQuizFile, { courseId, itemId, fileId }),
    fileOf: await listAnswerFiles(db, attempt.id, (fileId) =>
      urlOf(api.getAttemptFile, { courseId, itemId, attemptId: attempt.id, fileId }),
    ),
  });
  const parts = await listParts(db, attemptId);
  return { review, scoreVersions: Object.fromEntries([...parts].map(([id, part]) => [id, part.version ?? 0])) };
}
