import type { GivenAnswer, QuestionAnswers } from '@rosemary/api';
import * as api from '@rosemary/api/endpoints';
import { urlOf } from '@rosemary/api/endpoints';
import { type Actor, type Membership, parseShare, plainText, ratio } from '@rosemary/core';
import { getQuestion } from '../bank/index.ts';
import { type Db, rows } from '../platform/database.ts';
import { notFound } from '../platform/errors.ts';
import { listQuestionShares, reachesAnswer } from './questionShares.ts';

/** What was answered to one question, to be marked together; alike answers are grouped where they are looked at. */
export async function listQuestionAnswers(
  db: Db,
  actor: Actor,
  courseId: string,
  itemId: string,
  questionId: string,
  member: Membership,
): Promise<QuestionAnswers> {
  const by = { member, personId: actor.personId };
  const shares = await listQuestionShares(db, itemId);
  const question = await getQuestion(db, actor, questionId);
  const found = await rows<{
    attempt_id: string;
    name: string;
    section_id: string | null;
    answer: GivenAnswer | null;
    share: string | null;
    given: string | null;
    points: number;
    rule: string;
    given_reason: string;
    version: number;
    file_id: string | null;
    file_name: string | null;
  }>(
    db,
    `select s.attempt_id, p.family_name || ', ' || p.given_name as name, e.section_id, a.answer, s.share, s.given, (s.points * 1000)::int as points, s.rule, s.given_reason, s.version, f.id as file_id, f.name as file_name
     from quiz_score s join quiz_attempt t on t.id = s.attempt_id join enrolment e on e.id = t.enrolment_id join person p on p.id = e.person_id
       left join quiz_answer a on a.attempt_id = s.attempt_id and a.question_id = s.question_id left join file f on f.id = (a.answer ->> 'fileId')::uuid
     where t.item_id = $1 and s.question_id = $2 and t.state = 'handed in' and not e.is_sample order by p.family_name collate "C", p.given_name collate "C", t.number`,
    [itemId, questionId],
  );
  const reached = found.filter((row) => reachesAnswer(by, shares, questionId, row.section_id));
  if (reached.length === 0 && found.length > 0) throw notFound();
  return {
    question,
    points: found[0]?.points ?? 0,
    answers: reached.map((row) => ({
      attemptId: row.attempt_id,
      name: row.name,
      answer: row.answer,
      text: textOf(row.answer),
      file:
        row.file_id === null
          ? null
          : {
              name: row.file_name ?? '',
              url: urlOf(api.getAttemptFile, { courseId, itemId, attemptId: row.attempt_id, fileId: row.file_id }),
            },
      share: row.share,
      given: row.given === null ? null : Number(roundPoints(row.given, row.points)),
      rule: row.rule,
      reason: row.given === null ? '' : row.given_reason,
      version: row.version,
    })),
  };
}

const roundPoints = (share: string, points: number): bigint => {
  const value = parseShare(share).mul(ratio(points));
  return (2n * value.s * value.n + value.d) / (2n * value.d);
};

function textOf(answer: GivenAnswer | null): string {
  if (answer === null) return '';
  if (answer.kind === 'text') return answer.text;
  if (answer.kind === 'texts') return Object.values(answer.texts).join(' · ');
  return answer.kind === 'work' ? plainText(answer.document ?? null) : '';
}
