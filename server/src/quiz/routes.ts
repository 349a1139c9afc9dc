import { urlOf } from '@rosemary/api/endpoints';
import * as api from '@rosemary/api/endpoints';
import {
  attemptAct,
  instructionsChange,
  givenScore,
  givenScores,
  newCorrection,
  paperChange,
  quizChange,
  questionMarkers,
  quizQuestions,
  quizShareChange,
} from '@rosemary/api';
import { stringify } from 'csv-stringify/sync';
import { sendFile } from '../files/send.ts';
import { findFile } from '../files/store.ts';
import { maybe, rows } from '../platform/database.ts';
import { notFound } from '../platform/errors.ts';
import { implement, type MemberContext, type Route, type Sending } from '../platform/route.ts';
import { getPlanItem } from '../plan/queries.ts';
import { loadQuestions, questionsOf, showPaper } from './content.ts';
import { correctQuestion, getCorrectable, setCorrectionUndone } from './corrections.ts';
import { addQuestions, getQuiz, getQuizDetail, listRunning, listSections, readPools, savePaper, saveQuiz, storePaper } from './quizzes.ts';
import { actOnAttempt, getAttemptPaper, getResults, giveScore, giveScores, listQuestionAnswers, requireAnswerFile } from './results.ts';
import { shareQuestion } from './questionShares.ts';
import { changeQuizShares } from './quizShares.ts';
import { recordResult } from './scoring.ts';
import { getStatistics } from './statistics.ts';
import { itemOf, requireQuiz } from './quizRoute.ts';

const by = (c: MemberContext<unknown>) => ({ member: c.member, personId: c.person.personId });
const isRehearsal = (c: MemberContext<unknown>): boolean => c.request.get('x-ripple') !== undefined;

/** Sends a file that belongs to a quiz of this course. */
async function sendQuizFile(c: MemberContext<unknown>, sql: string, values: readonly unknown[]): Promise<Sending> {
  const row = await maybe<{ course_id: string }>(c.db, sql, values);
  const file = row === null ? null : await findFile(c.db, row.course_id, c.params.fileId ?? '');
  if (file === null) throw notFound();
  return sendFile(file, c.request, c.response);
}

/** A file that stands in a question of a quiz: of its paper, of a draw, or of an attempt. */
export const QUESTION_FILE = `select f.course_id from question_file qf join file f on f.id = qf.file_id where qf.file_id = $2 and (
  exists (select 1 from quiz_part p join quiz_section s on s.id = p.section_id where s.item_id = $1 and p.question_id = qf.question_id)
  or exists (select 1 from quiz_attempt t where t.item_id = $1 and t.paper @> jsonb_build_object('sections', jsonb_build_array(jsonb_build_object('questions', jsonb_build_array(jsonb_build_object('questionId', qf.question_id)))))))`;
const ANSWER_FILE =
  "select f.course_id from quiz_answer a join file f on f.id = (a.answer ->> 'fileId')::uuid where a.attempt_id = $1 and f.id = $2";

function table(lines: readonly (readonly unknown[])[], name: string, c: MemberContext<unknown>): void {
  c.response
    .set('content-disposition', `attachment; filename="${name}.csv"`)
    .type('text/csv')
    .send(`\uFEFF${stringify(lines as unknown[][], { escape_formulas: true })}`);
}

async function setCorrection(
  c: MemberContext<unknown, { readonly itemId: string; readonly correctionId: string }>,
  isUndone: boolean,
): Promise<void> {
  await getPlanItem(c.db, c.courseId, itemOf(c), c.now);
  await setCorrectionUndone(c.db, c.courseId, itemOf(c), c.params.correctionId, c.person.personId, isUndone, c.now, isRehearsal(c));
  c.kick('mark-again');
}

export const quizRoutes: readonly Route[] = [
  implement(api.getQuiz, (c) => getQuizDetail(c.db, c.person, c.courseId, itemOf(c), c.now)),
  implement(api.changeQuiz, quizChange, async (c) => {
    const setting = await saveQuiz(c.db, c.courseId, itemOf(c), c.body, c.now);
    if (c.body.counted !== undefined) await followCounted(c);
    return setting;
  }),
  implement(api.saveQuizInstructions, instructionsChange, (c) => saveQuiz(c.db, c.courseId, itemOf(c), c.body, c.now)),
  implement(api.getRunningAttempts, async (c) => {
    await requireQuiz(c);
    return { running: await listRunning(c.db, itemOf(c)) };
  }),
  implement(api.shareQuiz, quizShareChange, async (c) => {
    await requireQuiz(c);
    const shares = await changeQuizShares(c.db, c.person, itemOf(c), c.body, c.now);
    c.account({ after: shares });
    return { shares };
  }),
  implement(api.savePaper, paperChange, async (c) => {
    await savePaper(c.db, c.person, c.courseId, itemOf(c), c.body, c.now);
    return getQuizDetail(c.db, c.person, c.courseId, itemOf(c), c.now);
  }),
  implement(api.addQuizQuestions, quizQuestions, async (c) => {
    const made = await addQuestions(c.db, c.person, c.courseId, itemOf(c), c.body, c.now);
    return { made, quiz: await getQuizDetail(c.db, c.person, c.courseId, itemOf(c), c.now) };
  }),
  implement(api.getQuizPreview, async (c) => {
    await getPlanItem(c.db, c.courseId, itemOf(c), c.now);
    const setting = await getQuiz(c.db, itemOf(c));
    const sections = await listSections(c.db, itemOf(c));
    const seed = c.query.seed ?? 'preview';
    const paper = storePaper(sections, await readPools(c.db, sections), seed, setting.shufflesSections);
    const loaded = await loadQuestions(c.db, questionsOf(paper));
    return showPaper(paper, seed, setting, loaded, (fileId) => urlOf(api.getQuizFile, { ...c.params, fileId }));
  }),
  implement(api.getQuizFile, async (c) => {
    await getPlanItem(c.db, c.courseId, itemOf(c), c.now);
    return sendQuizFile(c, QUESTION_FILE, [itemOf(c), c.params.fileId]);
  }),
  implement(api.getQuizResults, (c) => getResults(c.db, c.courseId, itemOf(c), by(c), c.now)),
  implement(api.getResultsTable, async (c) => {
    const results = await getResults(c.db, c.courseId, itemOf(c), by(c), c.now);
    const lines = results.people.flatMap((p) =>
      p.attempts.length === 0
        ? [[p.name, p.section, p.state, '', '', '', '', '']]
        : p.attempts.map((a) => [
            p.name,
            p.section,
            p.state,
            a.number,
            a.begunAt,
            a.handedInAt ?? '',
            a.score === null ? '' : a.score / 1000,
            results.possible / 1000,
          ]),
    );
    table([['student', 'section', 'state', 'attempt', 'begun', 'handed in', 'score', 'of'], ...lines], 'results', c);
  }),
  implement(api.getAttemptPaper, (c) => getAttemptPaper(c.db, c.courseId, itemOf(c), c.params.attemptId, c.member, c.now)),
  implement(api.getAttemptFile, async (c) => {
    await requireAnswerFile(c.db, c.courseId, itemOf(c), c.params.attemptId, c.params.fileId, by(c));
    return sendQuizFile(c, ANSWER_FILE, [c.params.attemptId, c.params.fileId]);
  }),
  implement(api.changeAttempt, attemptAct, async (c) => {
    await actOnAttempt(c.db, c.courseId, itemOf(c), c.params.attemptId, c.body, by(c), c.now);
  }),
  implement(api.giveScore, givenScore, async (c) => {
    const given = await giveScore(
      c.db,
      c.courseId,
      { itemId: itemOf(c), attemptId: c.params.attemptId, questionId: c.params.questionId },
      c.body,
      by(c),
      c.now,
    );
    c.kick('follow-results');
    return given;
  }),
  implement(api.giveScores, givenScores, async (c) => {
    const before = await giveScores(c.db, c.courseId, { itemId: itemOf(c), questionId: c.params.questionId }, c.body, by(c), c.now);
    c.account({ before, after: { questionId: c.params.questionId, ...c.body } });
    c.kick('follow-results');
    return before;
  }),
  implement(api.getQuestionAnswers, async (c) => {
    await getPlanItem(c.db, c.courseId, itemOf(c), c.now);
    return listQuestionAnswers(c.db, c.person, c.courseId, itemOf(c), c.params.questionId, c.member);
  }),
  implement(api.shareOutQuestion, questionMarkers, async (c) => {
    await getPlanItem(c.db, c.courseId, itemOf(c), c.now);
    await shareQuestion(c.db, c.courseId, itemOf(c), c.params.questionId, c.body.markerIds);
    c.account({ after: { questionId: c.params.questionId, markerIds: c.body.markerIds } });
  }),
  implement(api.getQuizStatistics, (c) => getStatistics(c.db, c.courseId, itemOf(c), c.now)),
  implement(api.getStatisticsTable, async (c) => {
    const found = await getStatistics(c.db, c.courseId, itemOf(c), c.now);
    const lines = found.questions.map((q) => [
      q.number,
      q.title,
      q.kind,
      q.points / 1000,
      q.attempts,
      q.shareRight ?? '',
      q.itemRest ?? '',
      q.upperLower ?? '',
      q.medianSeconds ?? '',
      q.flags.join(' '),
    ]);
    table(
      [
        [
          'question',
          'words',
          'kind',
          'points',
          'attempts',
          'share correct',
          'item-rest',
          'upper-lower',
          'median seconds',
          'to think about',
        ],
        ...lines,
      ],
      'statistics',
      c,
    );
  }),
  implement(api.getCorrectable, async (c) => {
    await requireQuiz(c);
    return getCorrectable(c.db, c.person, itemOf(c), c.params.questionId);
  }),
  implement(api.correctQuestion, newCorrection, async (c) => {
    await getPlanItem(c.db, c.courseId, itemOf(c), c.now);
    const done = await correctQuestion(c.db, c.courseId, itemOf(c), c.body, c.person.personId, c.now, isRehearsal(c));
    if (!done.isApplied) c.kick('mark-again');
    return done;
  }),
  implement(api.takeBackCorrection, (c) => setCorrection(c, true)),
  implement(api.restoreCorrection, (c) => setCorrection(c, false)),
];

/** Another attempt may make the result now. */
async function followCounted(c: MemberContext<unknown>): Promise<void> {
  const taken = await rows<{ enrolment_id: string }>(
    c.db,
    "select distinct enrolment_id from quiz_attempt where item_id = $1 and state = 'handed in'",
    [itemOf(c)],
  );
  for (const { enrolment_id: enrolmentId } of taken)
    await recordResult(c.db, c.courseId, itemOf(c), enrolmentId, {
      at: c.now,
      actorId: c.person.personId,
      reason: 'another attempt counts',
    });
}
