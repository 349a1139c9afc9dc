import type { BeginAttempt } from '@rosemary/api';
import { fixVersions } from '../bank/index.ts';
import type { Membership } from '@rosemary/core';
import ipaddr from 'ipaddr.js';
import { randomUUID } from 'node:crypto';
import { makeSubmission } from '../handIn/index.ts';
import { getQuiz, listSections, questionsOf, readPools, readRange, storePaper } from '../kinds/quiz/index.ts';
import { getVisible } from '../opening/index.ts';
import { type Db, maybe } from '../platform/database.ts';
import { AppError, invalid } from '../platform/errors.ts';
import { Refusal } from '../platform/route.ts';
import { noteWrong, requireNoWait, waitAfter, waitInWords } from '../platform/wrongTries.ts';
import { endsOf, listOwnAttempts, readGiven } from './attemptRows.ts';
import { allowedFor, seesScores, whyNotBegin } from './attempts.ts';
import { termsAfter } from './terms.ts';

/** Whether an address of the network is among those a quiz may be taken from. */
function isFrom(address: string, allowed: readonly string[]): boolean {
  if (allowed.length === 0) return true;
  if (!ipaddr.isValid(address)) return false;
  const from = ipaddr.process(address);
  return allowed.some((text) => {
    const range = readRange(text);
    return range !== null && range[0].kind() === from.kind() && (from as ipaddr.IPv4).match(range as [ipaddr.IPv4, number]);
  });
}

/** Begins an attempt, or goes on with the one that is open. The key makes a repeated request do nothing twice. */
export async function begin(
  db: Db,
  courseId: string,
  itemId: string,
  member: Membership,
  body: BeginAttempt,
  from: string,
  now: number,
  seed: string = randomUUID(),
): Promise<{ attemptId: string } | Refusal> {
  const visible = await getVisible(db, courseId, itemId, member, now);
  // Two requests of one student wait for one another, so that there is one attempt.
  await db.query('select pg_advisory_xact_lock(hashtextextended($1, 0))', [`quiz ${itemId} ${member.enrolmentId}`]);
  const setting = await getQuiz(db, itemId);
  const taken = await listOwnAttempts(db, itemId, member.enrolmentId);
  const open = taken.find((a) => a.state === 'open');
  const isIn = setting.accessCode === '' || body.code.toLowerCase() === setting.accessCode.toLowerCase();
  if (open !== undefined) return { attemptId: open.id };
  // By it the essays of the attempt are known as a work, where others review them.
  await makeSubmission(db, itemId, member.enrolmentId);
  const given = await readGiven(db, member.enrolmentId);
  const seesScore = await seesScores(db, itemId, member.enrolmentId);
  const why = whyNotBegin(visible, termsAfter(setting, taken), taken, allowedFor(termsAfter(setting, taken), given), seesScore);
  if (why !== null) throw new AppError('not-now', why);
  if (body.code === '' && !isIn) throw invalid('code', 'This quiz begins with a code, which is shown in the room.');
  const what = ['code of a quiz', itemId, member.enrolmentId];
  if (setting.accessCode !== '') await requireNoWait(db, what, now);
  if (!isIn) {
    const wait = waitAfter(await noteWrong(db, what, now));
    return new Refusal(
      invalid('code', `“${body.code}” is not the code. It is shown in the room.${wait === 0 ? '' : ` ${waitInWords(wait)}`}`),
    );
  }
  if (!isFrom(from, setting.allowedAddresses))
    throw new AppError('refused', 'This quiz can be taken from certain places alone, and this is none of them. Ask whoever supervises it.');
  const sections = await listSections(db, itemId);
  const paper = storePaper(sections, await readPools(db, sections), seed, setting.shufflesSections);
  const questions = questionsOf(paper);
  if (questions.length === 0) throw new AppError('not-now', 'There is no question in this quiz yet. Ask your instructor.');
  await fixVersions(db, questions, now);
  const { end } = endsOf(
    { begun_at: new Date(now), added_minutes: 0, limit_minutes: setting.limitMinutes, at_end: setting.atEnd, kept: {} },
    given.multiplier,
    visible.dates.closes.at,
  );
  const made = await maybe<{ id: string }>(
    db,
    `insert into quiz_attempt (item_id, enrolment_id, number, seed, paper, begun_at, ends_at, idempotency_key, limit_minutes, at_end)
     values ($1, $2, $3, $4, $5, to_timestamp($6 / 1000.0), to_timestamp($7 / 1000.0), $8, $9, $10) returning id`,
    [itemId, member.enrolmentId, taken.length + 1, seed, JSON.stringify(paper), now, end, body.key, setting.limitMinutes, setting.atEnd],
  );
  return { attemptId: made?.id ?? '' };
}
