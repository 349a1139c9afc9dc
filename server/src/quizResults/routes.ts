import { attemptAct, givenScore, givenScores, newCorrection, questionMarkers, quizChange, scoringAgain } from '@rosemary/api';
import * as api from '@rosemary/api/endpoints';
import { writeTable } from '../files/index.ts';
import { getPlanItem } from '../items/index.ts';
import { itemOf, requireQuiz, saveQuiz, sendQuizFile } from '../kinds/quiz/index.ts';
import { rows } from '../platform/database.ts';
import { implement, type MemberContext, type Route } from '../platform/route.ts';
import { recordResult } from '../quizTaking/index.ts';
import { actOnAttempt } from './actOnAttempt.ts';
import { correctQuestion, getCorrectable, remark, setCorrectionUndone } from './corrections.ts';
import { listOutdated } from './outdated.ts';
import { giveScore, giveScores } from './giveScore.ts';
import { listQuestionAnswers } from './questionAnswers.ts';
import { shareQuestion } from './questionShares.ts';
import { requireAnswerFile } from './requireAttempt.ts';
import { getAttemptPaper, getResults } from './results.ts';
import { getStatistics } from './statistics.ts';

const by = (c: MemberContext<unknown>) => ({ member: c.member, personId: c.person.personId });

const isRehearsal = (c: MemberContext<unknown>): boolean => c.request.get('x-ripple') !== undefined;

const ANSWER_FILE =
  "select f.course_id from quiz_answer a join file f on f.id = (a.answer ->> 'fileId')::uuid where a.attempt_id = $1 and f.id = $2";

function table(lines: readonly (readonly unknown[])[], name: string, c: MemberContext<unknown>): void {
  c.response.set('content-disposition', `attachment; filename="${name}.csv"`).type('text/csv').send(writeTable(lines));
}

async function setCorrection(
  c: MemberContext<unknown, { readonly itemId: string; readonly correctionId: string }>,
  isUndone: boolean,
): Promise<void> {
  await getPlanItem(c.db, c.courseId, itemOf(c), c.now);
  await setCorrectionUndone(c.db, c.courseId, itemOf(c), c.params.correctionId, c.person.personId, isUndone, c.now, isRehearsal(c));
  c.kick('mark-again');
}

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

export const quizResultRoutes: readonly Route[] = [
  implement(api.changeQuiz, quizChange, async (c) => {
    const setting = await saveQuiz(c.db, c.courseId, itemOf(c), c.body, c.now);
    if (c.body.counted !== undefined) await followCounted(c);
    return setting;
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
  implement(api.getOutdatedScores, async (c) => {
    await requireQuiz(c);
    return listOutdated(c.db, itemOf(c));
  }),
  implement(api.scoreAgain, scoringAgain, async (c) => {
    await requireQuiz(c);
    const wish = { at: c.now, actorId: c.person.personId, reason: 'scored again by the rule that holds now' };
    const answers = await remark(c.db, c.courseId, itemOf(c), c.body.questionId, wish);
    c.account({ after: { questionId: c.body.questionId, answers } });
    return listOutdated(c.db, itemOf(c));
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
