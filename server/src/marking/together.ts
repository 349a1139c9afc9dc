import { type AnswerList, type MarkedTogether, type MarkTogether, paragraphs } from '@rosemary/api';
import { type DocumentNode, plainText, wordCount } from '@rosemary/core';
import { finishMark, getMark, saveMark } from '../marks/index.ts';
import { rows, run } from '../platform/database.ts';
import { AppError } from '../platform/errors.ts';
import type { MemberContext } from '../platform/route.ts';
import { reach } from './reached.ts';
import { makeStack } from './stack.ts';

const SHORT_WORDS = 60;

/** The short answers of an item that this marker reaches, under the names they know them by. */
export async function listAnswers(c: MemberContext<unknown>): Promise<AnswerList> {
  const itemId = c.params.itemId ?? '';
  const stack = await makeStack(c.db, c.courseId, itemId, c.member, c.person.personId, c.now);
  const handedIn = stack.entries.filter((e) => e.attempt > 0);
  const answers: AnswerList['answers'][number][] = [];
  const latest = await rows<{ enrolment_id: string; document: DocumentNode | null }>(
    c.db,
    'select distinct on (s.enrolment_id) s.enrolment_id, a.document from attempt a join submission s on s.id = a.submission_id where s.item_id = $1 order by s.enrolment_id, a.number desc',
    [itemId],
  );
  const texts = new Map(latest.map((row) => [row.enrolment_id, row.document]));
  let longer = 0;
  for (const entry of handedIn) {
    const { target } = await reach({ ...c, params: { ...c.params, enrolmentId: entry.enrolmentId } });
    const text = plainText(texts.get(target.enrolmentId) ?? null);
    if (wordCount(text) > SHORT_WORDS) longer += 1;
    else {
      const name = entry.isVeiled
        ? `Work ${entry.familyName}`
        : entry.members.length > 0 && entry.group !== ''
          ? entry.group
          : `${entry.givenName} ${entry.familyName}`;
      answers.push({ id: entry.enrolmentId, name, text, state: entry.state, scoreText: entry.scoreText });
    }
  }
  return { answers, longer };
}

interface Outcome {
  readonly outcome: MarkedTogether['rows'][number]['outcome'];
  readonly reason: string;
}

/** Judges one of several works; what keeps it from being finished is said, and the judgement stays as its draft. */
async function markOne(c: MemberContext<MarkTogether>, workId: string): Promise<Outcome & { name: string }> {
  const r = await reach({ ...c, params: { ...c.params, enrolmentId: workId } });
  const name = r.isVeiled ? 'Work' : `${r.person.givenName} ${r.person.familyName}`;
  if (r.part.kind === 'looks') return { name, outcome: 'left', reason: 'Two others mark this work.' };
  const { slot } = r.part;
  const before = await getMark(c.db, r.target, slot);
  if (before.state !== 'draft' && !c.body.overFinished) return { name, outcome: 'left', reason: `It is ${before.state} already.` };
  const { choices, given, comments, score, scoreReason, feedback } = c.body;
  const saved = await saveMark(
    c.db,
    r.target,
    {
      version: before.version,
      choices,
      score,
      scoreReason,
      feedback: feedback ?? before.feedback,
      ...(given ? { given } : {}),
      ...(comments ? { comments } : {}),
    },
    c.person.personId,
    c.now,
    slot,
  );
  if (!c.body.finishes) return { name, outcome: 'kept', reason: '' };
  try {
    await finishMark(c.db, r.target, { version: saved.version, isAboveConfirmed: false }, c.person.personId, c.now, slot);
    return { name, outcome: 'finished', reason: '' };
  } catch (error) {
    if (!(error instanceof AppError)) throw error;
    return { name, outcome: 'kept', reason: error.message };
  }
}

/** One judgement for several works; each is told by itself, and none keeps another from it. */
export async function markTogetherAll(c: MemberContext<MarkTogether>): Promise<MarkedTogether> {
  const done: MarkedTogether['rows'][number][] = [];
  for (const workId of c.body.workIds) {
    await run(c.db, 'savepoint one_work');
    try {
      done.push({ id: workId, ...(await markOne(c, workId)) });
      await run(c.db, 'release savepoint one_work');
    } catch (error) {
      if (!(error instanceof AppError)) throw error;
      await run(c.db, 'rollback to savepoint one_work');
      done.push({ id: workId, name: '', outcome: 'left', reason: error.message });
    }
  }
  return { rows: done };
}

export const wordsAsDocument = (text: string): DocumentNode => paragraphs(...text.split(/\n+/).filter((line) => line.trim() !== ''));
