import type { GivenAnswer, Rehearsal, TryResult, TryWish } from '@rosemary/api';
import {
  exactPoints,
  exactText,
  expectedByGuessing,
  nearMisses,
  ONE,
  type QuestionContent,
  type QuestionKey,
  ratio,
  sampleValues,
  scoreQuestion,
  wantedOf,
} from '@rosemary/core';
import { type Db, rows } from '../platform/database.ts';
import { AppError } from '../platform/errors.ts';
import { soundAnswer, toAnswer } from './answers.ts';

const floorOf = 0;

/** What an answer would earn, with the rule that says so, as a share and of one point. */
export function tryAnswer(content: QuestionContent, questionId: string, wish: TryWish): TryResult {
  const key = wish.key ?? content.key;
  try {
    const wanted = wantedOf(key, questionId, wish.seed);
    const score = scoreQuestion(
      { key, points: 1000, floor: floorOf, ...(wanted === undefined ? {} : { wanted }) },
      toAnswer(soundAnswer(wish.answer)),
    );
    return {
      share: score.share === null ? null : exactText(score.share.mul(ratio(100))),
      points: score.share === null ? '' : exactPoints(score.share.mul(ratio(1000))),
      rule: score.rule,
    };
  } catch (error) {
    if (error instanceof RangeError) throw new AppError('invalid', error.message);
    throw error;
  }
}

const MOST_ROWS = 60;

const textOf = (answer: GivenAnswer): string | null => (answer.kind === 'text' ? answer.text : null);

/** A key run against what was answered before and against near misses of what it accepts, so that one sees what it takes and what it leaves. */
export async function rehearseKey(db: Db, content: QuestionContent, questionId: string, key: QuestionKey): Promise<Rehearsal> {
  const before = await rows<{ answer: GivenAnswer; times: number }>(
    db,
    `select a.answer, count(*)::int as times from quiz_answer a join quiz_attempt t on t.id = a.attempt_id where a.question_id = $1 and t.state = 'handed in' and a.answer is not null and a.answer <> 'null'
     group by a.answer order by times desc limit ${MOST_ROWS}`,
    [questionId],
  );
  const scored = (answer: GivenAnswer, times: number, isNearMiss: boolean): Rehearsal['rows'] => {
    const text = textOf(answer);
    if (text === null || key.kind === 'calculated') return [];
    const score = scoreQuestion({ key, points: 1000, floor: 0 }, toAnswer(answer));
    return [
      { answer: text, times, share: score.share === null ? null : exactText(score.share.mul(ratio(100))), rule: score.rule, isNearMiss },
    ];
  };
  const past = before.flatMap((b) => scored(b.answer, b.times, false));
  const misses = nearMisses(key).flatMap((text) => scored({ kind: 'text', text }, 0, true));
  const guessed = expectedByGuessing({ key, points: 1000, floor: 0 });
  const broad = misses.filter(
    (m) => m.share !== null && m.share !== '0' && key.kind === 'short' && key.rules.accepted.some((a) => a.isPattern),
  );
  return {
    rows: [...past, ...misses],
    byGuessing: guessed === null ? null : exactText(guessed.mul(ratio(100))),
    samples: key.kind === 'calculated' ? sampleValues(key.question, 8, Math.max(3, key.rules.decimals ?? 0), key.rules) : null,
    warnings: [
      ...(broad.length > 0
        ? [
            `A pattern takes more than may be meant: ${broad
              .slice(0, 4)
              .map((m) => `“${m.answer}”`)
              .join(', ')}.`,
          ]
        : []),
      ...(guessed !== null && guessed.compare(ONE.div(2)) > 0 ? ['Whoever guesses can expect more than half of the points.'] : []),
    ],
  };
}
