import {
  attemptAct,
  givenScore,
  givenScores,
  newCorrection,
  paperChange,
  quizChange,
  questionMarkers,
  quizQuestions,
  quizShareChange,
  type AttemptAct,
  type GivenScore,
  type GivenScores,
  type NewCorrection,
  type PaperChange,
  type QuestionMarkers,
  type QuizChange,
  type QuizQuestions,
  type QuizShareChange,
} from '@rosemary/api';
import { stringify } from 'csv-stringify/sync';
import { sendFile } from '../files/send.ts';
import { findFile } from '../files/store.ts';
import { maybe, rows } from '../platform/database.ts';
import { notFound } from '../platform/errors.ts';
import { courseRoute, type MemberContext, type Route, type Sending } from '../platform/route.ts';
import { getPlanItem } from '../plan/queries.ts';
import { loadQuestions, questionsOf, showPaper } from './content.ts';
import { correctQuestion, getCorrectable, setCorrectionUndone } from './corrections.ts';
import { addQuestions, getQuiz, getQuizDetail, listRunning, listSections, readPools, savePaper, saveQuiz, storePaper } from './quizzes.ts';
import { actOnAttempt, getAttemptPaper, getResults, giveScore, giveScores, listQuestionAnswers, requireAnswerFile } from './results.ts';
import { shareQuestion } from './questionShares.ts';
import { changeQuizShares } from './quizShares.ts';
import { recordResult } from './scoring.ts';
import { getStatistics } from './statistics.ts';
import { auditQuiz, itemOf, QUIZ, requireQuiz } from './quizRoute.ts';

const by = (c: MemberContext<unknown>) => ({ member: c.member, personId: c.person.personId });
const isRehearsal = (c: MemberContext<unknown>): boolean => c.request.get('x-rehearse') !== undefined;

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

export const quizRoutes: readonly Route[] = [
  courseRoute('course.teach', {
    method: 'get',
    path: QUIZ,
    handle: (c) => getQuizDetail(c.db, c.person, c.courseId, itemOf(c), c.now),
  }),
  courseRoute<QuizChange>('plan.edit', {
    method: 'put',
    path: QUIZ,
    movesGrades: true,
    body: quizChange,
    handle: async (c) => {
      const setting = await saveQuiz(c.db, c.courseId, itemOf(c), c.body, c.now);
      if (c.body.counted !== undefined) await followCounted(c);
      await auditQuiz(c, 'quiz changed', c.body);
      return setting;
    },
  }),
  courseRoute('course.teach', {
    method: 'get',
    path: `${QUIZ}/running`,
    handle: async (c) => {
      await requireQuiz(c);
      return { running: await listRunning(c.db, itemOf(c)) };
    },
  }),
  courseRoute<QuizShareChange>('plan.edit', {
    method: 'patch',
    path: `${QUIZ}/shares`,
    isSilent: true,
    body: quizShareChange,
    handle: async (c) => {
      await requireQuiz(c);
      const shares = await changeQuizShares(c.db, c.person, itemOf(c), c.body, c.now);
      await auditQuiz(c, 'quiz shared', shares);
      return { shares };
    },
  }),
  courseRoute<PaperChange>('plan.edit', {
    method: 'put',
    path: `${QUIZ}/paper`,
    movesGrades: true,
    body: paperChange,
    handle: async (c) => {
      await savePaper(c.db, c.person, c.courseId, itemOf(c), c.body, c.now);
      await auditQuiz(c, 'paper changed');
      return getQuizDetail(c.db, c.person, c.courseId, itemOf(c), c.now);
    },
  }),
  courseRoute<QuizQuestions>('plan.edit', {
    method: 'post',
    path: `${QUIZ}/questions`,
    movesGrades: true,
    body: quizQuestions,
    handle: async (c) => {
      const made = await addQuestions(c.db, c.person, c.courseId, itemOf(c), c.body, c.now);
      return { made, quiz: await getQuizDetail(c.db, c.person, c.courseId, itemOf(c), c.now) };
    },
  }),
  courseRoute('course.teach', {
    method: 'get',
    path: `${QUIZ}/preview`,
    handle: async (c) => {
      await getPlanItem(c.db, c.courseId, itemOf(c), c.now);
      const setting = await getQuiz(c.db, itemOf(c));
      const sections = await listSections(c.db, itemOf(c));
      const seed = c.query.seed ?? 'preview';
      const paper = storePaper(sections, await readPools(c.db, sections), seed, setting.shufflesSections);
      const loaded = await loadQuestions(c.db, questionsOf(paper));
      return showPaper(paper, seed, setting, loaded, (id) => `/api/courses/${c.courseId}/quizzes/${itemOf(c)}/files/${id}`);
    },
  }),
  courseRoute('course.teach', {
    method: 'get',
    path: `${QUIZ}/files/:fileId`,
    answers: 'stream',
    handle: async (c) => {
      await getPlanItem(c.db, c.courseId, itemOf(c), c.now);
      return sendQuizFile(c, QUESTION_FILE, [itemOf(c), c.params.fileId]);
    },
  }),
  courseRoute('marking.see', {
    method: 'get',
    path: `${QUIZ}/results`,
    handle: (c) => getResults(c.db, c.courseId, itemOf(c), by(c), c.now),
  }),
  courseRoute('marking.see', {
    method: 'get',
    path: `${QUIZ}/results.csv`,
    answers: 'stream',
    handle: async (c) => {
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
    },
  }),
  courseRoute('marking.see', {
    method: 'get',
    path: `${QUIZ}/attempts/:attemptId`,
    handle: (c) => getAttemptPaper(c.db, c.courseId, itemOf(c), c.params.attemptId ?? '', c.member, c.now),
  }),
  courseRoute('marking.see', {
    method: 'get',
    path: `${QUIZ}/attempts/:attemptId/files/:fileId`,
    answers: 'stream',
    handle: async (c) => {
      await requireAnswerFile(c.db, c.courseId, itemOf(c), c.params.attemptId ?? '', c.params.fileId ?? '', by(c));
      return sendQuizFile(c, ANSWER_FILE, [c.params.attemptId, c.params.fileId]);
    },
  }),
  courseRoute<AttemptAct>('marking.mark', {
    method: 'post',
    path: `${QUIZ}/attempts/:attemptId/acts`,
    movesGrades: true,
    body: attemptAct,
    handle: async (c) => {
      await actOnAttempt(c.db, c.courseId, itemOf(c), c.params.attemptId ?? '', c.body, by(c), c.now);
      await auditQuiz(c, `attempt: ${c.body.action}`, c.body);
    },
  }),
  courseRoute<GivenScore>('marking.mark', {
    method: 'put',
    path: `${QUIZ}/attempts/:attemptId/scores/:questionId`,
    movesGrades: true,
    body: givenScore,
    handle: async (c) => {
      const given = await giveScore(
        c.db,
        c.courseId,
        { itemId: itemOf(c), attemptId: c.params.attemptId ?? '', questionId: c.params.questionId ?? '' },
        c.body,
        by(c),
        c.now,
      );
      c.kick('follow-results');
      return given;
    },
  }),
  courseRoute<GivenScores>('marking.mark', {
    method: 'put',
    path: `${QUIZ}/questions/:questionId/scores`,
    gives: true,
    body: givenScores,
    handle: async (c) => {
      const before = await giveScores(c.db, c.courseId, { itemId: itemOf(c), questionId: c.params.questionId ?? '' }, c.body, by(c), c.now);
      await auditQuiz(c, 'answers marked together', { questionId: c.params.questionId, before, after: c.body });
      c.kick('follow-results');
      return before;
    },
  }),
  courseRoute('marking.see', {
    method: 'get',
    path: `${QUIZ}/questions/:questionId/answers`,
    handle: async (c) => {
      await getPlanItem(c.db, c.courseId, itemOf(c), c.now);
      return listQuestionAnswers(c.db, c.person, c.courseId, itemOf(c), c.params.questionId ?? '', c.member);
    },
  }),
  courseRoute<QuestionMarkers>('marking.release', {
    method: 'put',
    path: `${QUIZ}/questions/:questionId/markers`,
    body: questionMarkers,
    handle: async (c) => {
      await getPlanItem(c.db, c.courseId, itemOf(c), c.now);
      await shareQuestion(c.db, c.courseId, itemOf(c), c.params.questionId ?? '', c.body.markerIds);
      await auditQuiz(c, 'question shared out', { questionId: c.params.questionId, markerIds: c.body.markerIds });
    },
  }),
  courseRoute('marking.see', {
    method: 'get',
    path: `${QUIZ}/statistics`,
    handle: (c) => getStatistics(c.db, c.courseId, itemOf(c), c.now),
  }),
  courseRoute('marking.see', {
    method: 'get',
    path: `${QUIZ}/statistics.csv`,
    answers: 'stream',
    handle: async (c) => {
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
            'share right',
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
    },
  }),
  courseRoute('course.teach', {
    method: 'get',
    path: `${QUIZ}/corrections/:questionId`,
    handle: async (c) => {
      await requireQuiz(c);
      return getCorrectable(c.db, c.person, itemOf(c), c.params.questionId ?? '');
    },
  }),
  courseRoute<NewCorrection>('gradebook.edit', {
    method: 'post',
    path: `${QUIZ}/corrections`,
    movesGrades: true,
    body: newCorrection,
    handle: async (c) => {
      await getPlanItem(c.db, c.courseId, itemOf(c), c.now);
      const done = await correctQuestion(c.db, c.courseId, itemOf(c), c.body, c.person.personId, c.now, isRehearsal(c));
      if (!done.isApplied) c.kick('mark-again');
      await auditQuiz(c, 'key corrected', c.body);
      return done;
    },
  }),
  ...(['delete', 'post'] as const).map((method) =>
    courseRoute('gradebook.edit', {
      method,
      path: `${QUIZ}/corrections/:correctionId${method === 'post' ? '/restore' : ''}`,
      movesGrades: true,
      handle: async (c) => {
        await getPlanItem(c.db, c.courseId, itemOf(c), c.now);
        await setCorrectionUndone(
          c.db,
          c.courseId,
          itemOf(c),
          c.params.correctionId ?? '',
          c.person.personId,
          method === 'delete',
          c.now,
          isRehearsal(c),
        );
        c.kick('mark-again');
        await auditQuiz(c, method === 'delete' ? 'correction taken back' : 'correction made again');
      },
    }),
  ),
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
