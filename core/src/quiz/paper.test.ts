import fc from 'fast-check';
import {
  askQuestion,
  attemptEnd,
  attemptWorking,
  blueprint,
  drawInWords,
  expectedOf,
  keyFaults,
  keyInWords,
  mayReview,
  meetAnswer,
  nearMisses,
  parseShare,
  plainText,
  ratio,
  reviewInWords,
  scoreAttempt,
  shareText,
  wantedOf,
  questionFilesAt,
  withFilesAt,
  type DocumentNode,
  type HeldAnswer,
  type PlannedQuestion,
  type QuestionContent,
  type QuestionKey,
  type TakenQuestion,
} from '../index.ts';

const doc = (text: string, ...more: DocumentNode[]): DocumentNode => ({
  type: 'doc',
  content: [{ type: 'paragraph', content: [...(text === '' ? [] : [{ type: 'text', text }]), ...more] }],
});
const content = (key: QuestionKey, words = doc('What is it?'), more: Partial<QuestionContent> = {}): QuestionContent => ({
  words,
  key,
  feedback: { right: null, wrong: null, general: null },
  picture: null,
  ...more,
});
const choices = (...shares: number[]) =>
  shares.map((share, n) => ({ id: `c${n}`, words: doc(`answer ${n}`), share, feedback: doc(`said ${n}`) }));
const single: QuestionKey = { kind: 'single', choices: choices(0, 100_000, 0), hasDontKnow: false };
const textRules = (...accepted: string[]) => ({
  accepted: accepted.map((text) => ({ text, isPattern: false, share: 100_000 })),
  caseMatters: false,
  spaceMatters: false,
});
const number = { units: [], isUnitNeeded: false, decimals: null, isSignFree: false };
const teeth: QuestionKey = {
  kind: 'calculated',
  question: {
    parameters: [{ name: 'teeth', from: '40', to: '80', step: '4', decimals: 0 }],
    conditions: [],
    formula: 'teeth / 8',
    tolerance: { kind: 'absolute', amount: '0' },
  },
  rules: number,
};

describe('a question as its student gets it', () => {
  it('tells nothing of the key, in any kind', () => {
    const secret = 'xyzzy';
    const kinds: QuestionKey[] = [
      single,
      { kind: 'several', choices: choices(50_000, 50_000, -20_000), rule: 'less wrong', hasDontKnow: true },
      { kind: 'short', rules: textRules(secret) },
      {
        kind: 'numeric',
        rules: { ...number, accepted: [{ value: '4711', tolerance: { kind: 'absolute', amount: '17' }, share: 100_000 }] },
      },
      { kind: 'blanks', blanks: [{ id: 'b', weight: 100_000, rules: textRules(secret) }] },
      {
        kind: 'hotspot',
        regions: [{ id: 'r', share: 100_000, region: { shape: 'rectangle', from: { x: 0.11, y: 0 }, to: { x: 1, y: 1 } } }],
      },
      teeth,
    ];
    for (const key of kinds) {
      const text = JSON.stringify(askQuestion(content(key), 'q', 'seed', true));
      expect(text).not.toMatch(/xyzzy|share|4711|0\.11|accepted|said|teeth \/ 8|weight/);
    }
  });

  it('stands in an order of the seed, the same each time, true and false as they are', () => {
    const order = (seed: string, key = single): string =>
      askQuestion(content(key), 'q', seed, true)
        .choices.map((c) => c.id)
        .join();
    expect(order('a')).toBe(order('a'));
    const orders = new Set(Array.from({ length: 60 }, (_, n) => order(`s${n}`)));
    expect(orders.size).toBe(6);
    const truth: QuestionKey = { kind: 'truth', choices: choices(100_000, 0), hasDontKnow: false };
    expect(new Set(Array.from({ length: 20 }, (_, n) => order(`s${n}`, truth)))).toEqual(new Set(['c0,c1']));
    expect(askQuestion(content(single), 'q', 'a', false).choices.map((c) => c.id)).toEqual(['c0', 'c1', 'c2']);
  });

  it('has pairs and things mixed always, each once, whatever distracts', () => {
    const pairs = [
      { left: 'lever', right: 'locks' },
      { left: 'roller', right: 'turns' },
      { left: '', right: 'winds' },
      { left: 'jewel', right: 'turns' },
    ];
    const asked = askQuestion(content({ kind: 'matching', pairs }), 'q', 's', false);
    expect(asked.lefts).toEqual(['lever', 'roller', 'jewel']);
    expect([...asked.rights].sort()).toEqual(['locks', 'turns', 'winds']);
    const order = ['one', 'two', 'three', 'four', 'five'];
    const mixed = Array.from({ length: 8 }, (_, n) =>
      askQuestion(content({ kind: 'ordering', order, isAllOrNothing: false }), 'q', `s${n}`, false).things.join(),
    );
    expect(mixed.some((m) => m !== order.join())).toBe(true);
  });

  it('has its student’s own numbers in the words, and the answer that follows from them', () => {
    const words = doc('A wheel of ', { type: 'value', attrs: { name: 'teeth' } }, { type: 'text', text: ' teeth.' });
    const asked = askQuestion(content(teeth, words), 'q', 'seed 3', true);
    const drawn = /wheel of (\d+) teeth/.exec(plainText(asked.words))?.[1];
    expect(Number(drawn) % 4).toBe(0);
    expect(wantedOf(teeth, 'q', 'seed 3')?.equals(ratio(Number(drawn), 8))).toBe(true);
    expect(keyInWords(teeth, wantedOf(teeth, 'q', 'seed 3'))).toEqual([String(Number(drawn) / 8)]);
    const impossible: QuestionKey = {
      ...teeth,
      question: { ...(teeth as Extract<QuestionKey, { kind: 'calculated' }>).question, conditions: ['teeth > 100'] },
    };
    expect(() => askQuestion(content(impossible), 'q', 's', true)).toThrow(/every condition/);
  });
});

describe('what keeps a question from being asked', () => {
  it.each<[string, QuestionContent, string]>([
    ['no words', content(single, doc('')), 'Nothing is asked yet'],
    ['one answer', content({ ...single, choices: choices(100_000) }), 'fewer than two answers'],
    ['no right one', content({ ...single, choices: choices(0, 0) }), 'No answer is marked as right.'],
    ['none worth all', content({ ...single, choices: choices(0, 50_000) }), 'No answer is worth all the points.'],
    [
      'weights of 99',
      content({ kind: 'blanks', blanks: [{ id: 'a', weight: 99_000, rules: textRules('x') }] }),
      'add up to 99 %, and must to 100 %',
    ],
    ['a blank gone', content({ kind: 'blanks', blanks: [{ id: 'a', weight: 100_000, rules: textRules('x') }] }), 'no longer in the text'],
    [
      'a tolerance below zero',
      content({
        kind: 'numeric',
        rules: { ...number, accepted: [{ value: '1', tolerance: { kind: 'relative', percent: '-2' }, share: 100_000 }] },
      }),
      '“-2”, which is below zero',
    ],
    [
      'no number',
      content({
        kind: 'numeric',
        rules: { ...number, accepted: [{ value: 'five', tolerance: { kind: 'absolute', amount: '0' }, share: 100_000 }] },
      }),
      '“five” is no number',
    ],
    [
      'a unit worth nothing',
      content({ kind: 'numeric', rules: { ...number, units: [{ name: 'mm', factor: '0' }], accepted: [] } }),
      'One mm is worth “0”',
    ],
    [
      'a pattern of another engine',
      content({ kind: 'short', rules: { ...textRules(), accepted: [{ text: '(a)\\1', isPattern: true, share: 100_000 }] } }),
      'cannot be read',
    ],
    [
      'the same left twice',
      content({
        kind: 'matching',
        pairs: [
          { left: 'a', right: '1' },
          { left: 'a', right: '2' },
        ],
      }),
      'same left side',
    ],
    ['a thing twice', content({ kind: 'ordering', order: ['a', 'a'], isAllOrNothing: true }), 'empty, or there twice'],
    ['no picture', content({ kind: 'hotspot', regions: [] }), 'There is no picture yet.'],
    [
      'a formula that is none',
      content({ ...teeth, question: { ...(teeth as Extract<QuestionKey, { kind: 'calculated' }>).question, formula: 'teeth /' } }),
      'The formula',
    ],
  ])('%s', (_, question, words) => {
    expect(keyFaults(question).join(' ')).toContain(words);
  });

  it('is a key that nobody can answer in full', () => {
    const choice = (id: string, share: number) => ({ id, words: doc(id), share, feedback: null });
    const several = (shares: readonly number[]): QuestionKey => ({
      kind: 'several',
      choices: shares.map((share, n) => choice(String(n), share)),
      rule: 'own values',
      hasDontKnow: false,
    });
    expect(keyFaults(content(several([30_000, 50_000, -20_000])))).toEqual([
      'The right answers together are worth 80 %, so nobody can earn all the points. Bring them to 100 %.',
    ]);
    expect(keyFaults(content(several([33_333, 33_333, 33_333, 0])))).toEqual([]);
  });
  it('is nothing where all is there', () => {
    expect(keyFaults(content(single))).toEqual([]);
    expect(keyFaults(content(teeth))).toEqual([]);
    expect(keyFaults(content({ kind: 'essay' }))).toEqual([]);
  });
});

describe('the score of an attempt', () => {
  const taken = (questionId: string, points: number, answer: TakenQuestion['answer'], key: QuestionKey = single): TakenQuestion => ({
    questionId,
    key,
    points,
    floor: 0,
    answer,
    given: null,
  });
  const right = { kind: 'choice', id: 'c1' } as const;
  const wrong = { kind: 'choice', id: 'c0' } as const;
  const two = [taken('a', 2000, right), taken('b', 1000, wrong)];

  it('is the exact sum, rounded once', () => {
    expect(scoreAttempt(two, [], 3000).score).toBe(2000);
    const third = { ...taken('c', 1000, null), given: { share: ratio(1, 3), reason: 'by hand' } };
    expect(scoreAttempt([third, { ...third, questionId: 'd' }], [], 2000).score).toBe(667);
  });

  it('waits while a person has not marked, and says what is known', () => {
    const essay = taken('e', 5000, { kind: 'work' }, { kind: 'essay' });
    expect(scoreAttempt([...two, essay], [], 8000)).toMatchObject({ score: null, soFar: 2000 });
    expect(scoreAttempt([...two, { ...essay, answer: null }], [], 8000).score).toBe(2000);
  });

  it('follows corrections: a key, credit, points, and a question left out, scaled to the points of the quiz', () => {
    const key: QuestionKey = { ...single, choices: choices(100_000, 100_000, 0) };
    expect(scoreAttempt(two, [{ kind: 'key', questionId: 'b', key }], 3000).score).toBe(3000);
    expect(scoreAttempt(two, [{ kind: 'credit', questionId: 'b' }], 3000).score).toBe(3000);
    expect(scoreAttempt(two, [{ kind: 'drop', questionId: 'b' }], 3000).score).toBe(3000);
    expect(scoreAttempt(two, [{ kind: 'points', questionId: 'b', points: 2000 }], 3000).score).toBe(1500);
    expect(
      scoreAttempt(
        two,
        [
          { kind: 'drop', questionId: 'a' },
          { kind: 'drop', questionId: 'b' },
        ],
        3000,
      ).score,
    ).toBeNull();
    expect(
      scoreAttempt(
        two,
        [
          { kind: 'drop', questionId: 'a' },
          { kind: 'credit', questionId: 'a' },
        ],
        3000,
      ).score,
    ).toBe(2000);
  });

  it('never leaves 0 to the points of the quiz, whatever is dropped or weighed', () => {
    fc.assert(
      fc.property(
        fc.array(fc.record({ points: fc.integer({ min: 1, max: 9000 }), isRight: fc.boolean(), isDropped: fc.boolean() }), {
          minLength: 1,
          maxLength: 12,
        }),
        (parts) => {
          const questions = parts.map((p, n) => taken(`q${n}`, p.points, p.isRight ? right : wrong));
          const dropped = parts.flatMap((p, n) => (p.isDropped ? [{ kind: 'drop' as const, questionId: `q${n}` }] : []));
          const { score } = scoreAttempt(questions, dropped, 10_000);
          return score === null ? parts.every((p) => p.isDropped) : score >= 0 && score <= 10_000;
        },
      ),
    );
  });

  it('opens its working, line by line', () => {
    const lines = attemptWorking(scoreAttempt(two, [{ kind: 'drop', questionId: 'b' }], 3000), 3000, (id) => `Question ${id}`);
    expect(lines).toEqual([
      { words: 'Question a: The right answer.', points: '2' },
      { words: 'Question b: Left out for everybody.', points: '–' },
      { words: 'Together, of 2, brought to the quiz’s 3', points: '3' },
    ]);
  });

  it('keeps shares as whole numbers with a stroke', () => {
    expect(shareText(parseShare('-2/6'))).toBe('-1/3');
    expect(() => parseShare('half')).toThrow('“half” is no share.');
  });
});

describe('time and saves', () => {
  const ten = Date.parse('2026-11-18T10:00:00Z');
  const at = (text: string): number => Date.parse(`2026-11-18T${text}:00Z`);
  it('ends by the limit, longer by an arrangement, never after closing but by hand', () => {
    const timing = { limitMinutes: 40, multiplier: 1.5, addedMinutes: 0, closesAt: null };
    expect(attemptEnd(ten, timing)).toBe(at('11:00'));
    expect(attemptEnd(ten, { ...timing, closesAt: at('10:50') })).toBe(at('10:50'));
    expect(attemptEnd(ten, { ...timing, closesAt: at('10:50'), addedMinutes: 5 })).toBe(at('10:55'));
    expect(attemptEnd(ten, { ...timing, limitMinutes: null })).toBeNull();
  });

  it('lets results be seen at once, after closing, in a window, or never', () => {
    expect(mayReview({ kind: 'at once' }, ten, null)).toBe(true);
    expect(mayReview({ kind: 'closed' }, ten, ten)).toBe(true);
    expect(mayReview({ kind: 'closed' }, ten - 1, ten)).toBe(false);
    expect(mayReview({ kind: 'closed' }, ten, null)).toBe(false);
    const window = { kind: 'window', from: ten, to: ten + 1 } as const;
    expect([ten - 1, ten, ten + 1].map((now) => mayReview(window, now, null))).toEqual([false, true, false]);
    expect(mayReview({ kind: 'never' }, ten, 0)).toBe(false);
    expect(reviewInWords(window, (t) => String(t - ten))).toBe('from 0 to 1');
  });

  it('writes each answer once, in the order of its window, and over nothing unseen', () => {
    const held = { version: 3, device: 'a', turn: 5 };
    expect(meetAnswer(null, { device: 'a', turn: 1, seen: 0 })).toBe('write');
    expect(meetAnswer(held, { device: 'a', turn: 5, seen: 0 })).toBe('kept');
    expect(meetAnswer(held, { device: 'a', turn: 6, seen: 0 })).toBe('write');
    expect(meetAnswer(held, { device: 'b', turn: 1, seen: 2 })).toBe('conflict');
    expect(meetAnswer(held, { device: 'b', turn: 1, seen: 3 })).toBe('write');
  });

  it('ends with the last of one window whatever the order in which its saves arrive', () => {
    fc.assert(
      fc.property(fc.uniqueArray(fc.integer({ min: 0, max: 50 }), { minLength: 1 }), (turns) => {
        const held = turns.reduce<HeldAnswer | null>(
          (before, turn) =>
            meetAnswer(before, { device: 'a', turn, seen: 0 }) === 'write'
              ? { version: (before?.version ?? 0) + 1, device: 'a', turn }
              : before,
          null,
        );
        return held?.turn === Math.max(...turns);
      }),
    );
  });
});

describe('the blueprint and what can be expected', () => {
  const planned = (more: Partial<PlannedQuestion> = {}): PlannedQuestion => ({
    kind: 'single',
    level: 'medium',
    objectives: [],
    points: 1000,
    shareRight: null,
    itemRest: null,
    ...more,
  });
  it('counts a question in the row of each of its objectives, and once in the whole', () => {
    const { rows, together } = blueprint([
      planned({ objectives: ['B10', 'B2'], level: 'easy' }),
      planned({ objectives: ['B2'] }),
      planned({ level: null }),
    ]);
    expect(rows.map((r) => [r.code, r.counts.easy, r.counts.medium, r.unsaid, r.points])).toEqual([
      ['B2', 1, 1, 0, 2000],
      ['B10', 1, 0, 0, 1000],
      ['', 0, 0, 1, 1000],
    ]);
    expect(together).toMatchObject({ points: 3000, unsaid: 1 });
  });

  it('expects 0.69 of twenty medium questions that nobody has taken, more of more', () => {
    const expected = expectedOf(Array.from({ length: 20 }, () => planned()));
    expect(expected.reliability).toBeCloseTo(0.69, 2);
    expect(expected.withFourMore).toBeCloseTo(0.727, 2);
    expect(expected.minutes).toBe(25);
    expect(expectedOf([planned(), planned()])).toMatchObject({ reliability: null, withFourMore: null });
    const better = expectedOf(Array.from({ length: 20 }, () => planned({ shareRight: 0.6, itemRest: 0.5 })));
    expect(better.reliability ?? 0).toBeGreaterThan(expected.reliability ?? 1);
  });

  it('says what a draw takes from, and what is right, in words', () => {
    expect(drawInWords({ folder: 'HOR-110', tags: [], levels: ['medium', 'hard'], objectives: ['B3'], kinds: ['single'] })).toBe(
      'HOR-110: objective B3, medium or hard, single choice',
    );
    expect(drawInWords({ folder: '', tags: [], levels: [], objectives: [], kinds: [] })).toBe('every question');
    expect(keyInWords(single, undefined)).toEqual(['answer 1']);
    expect(
      keyInWords(
        {
          kind: 'matching',
          pairs: [
            { left: 'a', right: 'b' },
            { left: '', right: 'c' },
          ],
        },
        undefined,
      ),
    ).toEqual(['a – b']);
    expect(keyInWords({ kind: 'ordering', order: ['x', 'y'], isAllOrNothing: false }, undefined)).toEqual(['1. x', '2. y']);
  });

  it('finds answers that lie near a key', () => {
    const near = nearMisses({ kind: 'short', rules: textRules('lever') });
    expect(near).toEqual(expect.arrayContaining(['levers', 'the lever', 'not lever', 'LEVER']));
    expect(near).not.toContain('lever');
    expect(nearMisses({ kind: 'essay' })).toEqual([]);
  });

  it('fetches the files of a text where it is told to', () => {
    const node: DocumentNode = {
      type: 'doc',
      content: [{ type: 'picture', attrs: { fileId: 'f', src: 'old', alt: 'x' } }, { type: 'paragraph' }],
    };
    expect(withFilesAt(node, (id) => `/at/${id}`).content?.[0]?.attrs).toEqual({ fileId: 'f', src: '/at/f', alt: 'x' });
  });
  it('are fetched elsewhere in every part of a question', () => {
    const shown = (fileId: string): DocumentNode => ({
      type: 'doc',
      content: [{ type: 'picture', attrs: { fileId, src: `/old/${fileId}` } }],
    });
    const choices = [{ id: 'a', words: shown('c'), share: 100_000, feedback: shown('d') }];
    const content: QuestionContent = {
      words: shown('a'),
      key: { kind: 'single', hasDontKnow: false, choices },
      feedback: { right: shown('r'), wrong: null, general: shown('g') },
      picture: { fileId: 'p', src: '/old/p', alt: 'x' },
    };
    const moved = JSON.stringify(questionFilesAt(content, (id) => `/new/${id}`));
    expect(moved).not.toContain('/old/');
    expect(moved.match(/\/new\/[a-z]/g)?.map((m) => m.at(-1))).toEqual(['a', 'c', 'd', 'r', 'g', 'p']);
    expect(questionFilesAt({ ...content, key: { kind: 'essay' }, picture: null }, (id) => id).key).toEqual({ kind: 'essay' });
  });
});
