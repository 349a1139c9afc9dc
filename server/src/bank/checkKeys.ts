import type { GivenAnswer, Rehearsal, TryResult } from '@rosemary/api';
import {
  exactPoints,
  exactText,
  expectedByGuessing,
  keyFaults,
  nearMisses,
  ONE,
  type QuestionContent,
  type QuestionKey,
  ratio,
  sampleValues,
  scoreQuestion,
  wantedOf,
} from '@rosemary/core';
import { soundAnswer, toAnswer } from './answers.ts';

/** An answer that was given before, and how often. */
export interface PastAnswer {
  readonly answer: GivenAnswer;
  readonly times: number;
}

/** What is asked of keys that somebody wrote. */
export type KeyWish =
  | { readonly act: 'faults'; readonly contents: readonly QuestionContent[] }
  | { readonly act: 'rehearse'; readonly key: QuestionKey; readonly before: readonly PastAnswer[] }
  | {
      readonly act: 'try';
      readonly key: QuestionKey;
      readonly questionId: string;
      readonly seed: string;
      readonly answer: GivenAnswer | null;
    };
export interface KeySaid {
  readonly faults: readonly (readonly string[])[];
  readonly rehearse: Rehearsal;
  readonly try: { readonly ok: true; readonly result: TryResult } | { readonly ok: false; readonly reason: string };
}

const UNBOUNDED = 0;

function tryAnswer({ key, questionId, seed, answer }: Extract<KeyWish, { act: 'try' }>): KeySaid['try'] {
  try {
    const wanted = wantedOf(key, questionId, seed);
    const score = scoreQuestion(
      { key, points: 1000, floor: UNBOUNDED, ...(wanted === undefined ? {} : { wanted }) },
      toAnswer(soundAnswer(answer)),
    );
    const result = {
      share: score.share === null ? null : exactText(score.share.mul(ratio(100))),
      points: score.share === null ? '' : exactPoints(score.share.mul(ratio(1000))),
      rule: score.rule,
    };
    return { ok: true, result };
  } catch (error) {
    if (error instanceof RangeError) return { ok: false, reason: error.message };
    throw error;
  }
}

const textOf = (answer: GivenAnswer): string | null => (answer.kind === 'text' ? answer.text : null);

function rehearseKey({ key, before }: Extract<KeyWish, { act: 'rehearse' }>): Rehearsal {
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

/** Works out what was asked of keys. Knows no database, for it runs in a thread of its own: nobody else waits for a formula or a pattern. */
export default function checkKeys(wish: KeyWish): Promise<KeySaid[KeyWish['act']]> {
  if (wish.act === 'faults') return Promise.resolve(wish.contents.map(keyFaults));
  return Promise.resolve(wish.act === 'rehearse' ? rehearseKey(wish) : tryAnswer(wish));
}
