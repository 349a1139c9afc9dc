import { describe, expect, it } from '@jest/globals';
import type { DocumentNode } from '../../document/plainText.ts';
import { ONE, ZERO } from '../../exact/ratio.ts';
import { askQuestion, wantedOf } from '../askQuestion.ts';
import { isMarkedByPerson, KIND_WORDS } from '../drawInWords.ts';
import { keyFaults } from '../keyFaults.ts';
import { keyInWords } from '../keyInWords.ts';
import { nearMisses } from '../nearMisses.ts';
import { newKey } from '../newKey.ts';
import type { Answer, Choice, QuestionContent, QuestionKey, QuestionKind } from '../question.ts';
import { questionRow } from '../questionTable.ts';
import { readQuestionRow } from '../readQuestionTable.ts';
import { expectedByGuessing, scoreQuestion } from '../scoreQuestion.ts';

const KINDS = Object.keys(KIND_WORDS) as QuestionKind[];
const words = (text: string): DocumentNode => ({ type: 'doc', content: [{ type: 'paragraph', content: [{ type: 'text', text }] }] });
const choice = (id: string, share: number): Choice => ({ id, words: words(id), share, feedback: null });
const number = { units: [], isUnitNeeded: false, decimals: null, isSignFree: false };
const text = (...accepted: string[]) => ({
  accepted: accepted.map((one) => ({ text: one, isPattern: false, share: 100_000 })),
  caseMatters: false,
  spaceMatters: false,
});
const PICTURE = { fileId: 'f', src: '/f.png', alt: 'a movement' };
const BLANK: DocumentNode = {
  type: 'doc',
  content: [
    {
      type: 'paragraph',
      content: [
        { type: 'text', text: 'The ' },
        { type: 'blank', attrs: { id: 'one', size: 6 } },
      ],
    },
  ],
};

interface Case {
  readonly key: QuestionKey;
  readonly words?: DocumentNode;
  /** What is wholly right, and what is wholly wrong. */
  readonly right: Answer;
  readonly wrong: Answer;
  /** In lines to be read. */
  readonly said: readonly string[];
  /** What guessing earns on average; null where it has no chance that could be told. */
  readonly guessed: string | null;
}
const CASES: { readonly [kind in QuestionKind]: Case } = {
  single: {
    key: {
      kind: 'single',
      choices: [choice('lever', 100_000), choice('wheel', 0), choice('fusee', 0), choice('rack', 0)],
      hasDontKnow: true,
    },
    right: { kind: 'choice', id: 'lever' },
    wrong: { kind: 'choice', id: 'wheel' },
    said: ['lever'],
    guessed: '1/4',
  },
  truth: {
    key: { kind: 'truth', choices: [choice('True', 0), choice('False', 100_000)], hasDontKnow: false },
    right: { kind: 'choice', id: 'False' },
    wrong: { kind: 'choice', id: 'True' },
    said: ['False'],
    guessed: '1/2',
  },
  several: {
    key: {
      kind: 'several',
      choices: [choice('lever', 50_000), choice('pallet', 50_000), choice('rack', 0)],
      rule: 'less wrong',
      hasDontKnow: false,
    },
    right: { kind: 'choices', ids: ['pallet', 'lever'] },
    wrong: { kind: 'choices', ids: ['rack'] },
    said: ['lever', 'pallet'],
    guessed: null,
  },
  numeric: {
    key: {
      kind: 'numeric',
      rules: { ...number, accepted: [{ value: '18000', tolerance: { kind: 'absolute', amount: '5' }, share: 100_000 }] },
    },
    right: { kind: 'text', text: '18 004' },
    wrong: { kind: 'text', text: '21600' },
    said: ['18000 ± 5'],
    guessed: null,
  },
  calculated: {
    key: {
      kind: 'calculated',
      question: {
        parameters: [{ name: 'teeth', from: '80', to: '80', step: '1', decimals: 0 }],
        conditions: [],
        formula: 'teeth / 10',
        tolerance: { kind: 'absolute', amount: '0' },
      },
      rules: number,
    },
    right: { kind: 'text', text: '8' },
    wrong: { kind: 'text', text: '9' },
    said: ['8'],
    guessed: null,
  },
  short: {
    key: { kind: 'short', rules: text('pallet') },
    right: { kind: 'text', text: 'Pallet' },
    wrong: { kind: 'text', text: 'rack' },
    said: ['pallet'],
    guessed: null,
  },
  blanks: {
    key: { kind: 'blanks', blanks: [{ id: 'one', weight: 100_000, rules: text('lever', 'arm') }] },
    words: BLANK,
    right: { kind: 'texts', texts: { one: 'arm' } },
    wrong: { kind: 'texts', texts: { one: 'rack' } },
    said: ['1: lever or arm'],
    guessed: null,
  },
  matching: {
    key: {
      kind: 'matching',
      pairs: [
        { left: 'lever', right: 'locks' },
        { left: 'fusee', right: 'evens' },
        { left: '', right: 'rings' },
      ],
    },
    right: { kind: 'pairs', pairs: { lever: 'locks', fusee: 'evens' } },
    wrong: { kind: 'pairs', pairs: { lever: 'rings', fusee: 'locks' } },
    said: ['lever – locks', 'fusee – evens'],
    guessed: '1/3',
  },
  ordering: {
    key: { kind: 'ordering', order: ['wind', 'set', 'case'], isAllOrNothing: false },
    right: { kind: 'order', order: ['wind', 'set', 'case'] },
    wrong: { kind: 'order', order: ['case', 'set', 'wind'] },
    said: ['1. wind', '2. set', '3. case'],
    guessed: '1/2',
  },
  hotspot: {
    key: {
      kind: 'hotspot',
      regions: [{ id: 'r', region: { shape: 'rectangle', from: { x: 0.1, y: 0.1 }, to: { x: 0.3, y: 0.3 } }, share: 100_000 }],
    },
    right: { kind: 'spot', spot: { x: 0.2, y: 0.2 } },
    wrong: { kind: 'spot', spot: { x: 0.9, y: 0.9 } },
    said: [],
    guessed: null,
  },
  essay: { key: { kind: 'essay' }, right: { kind: 'work' }, wrong: { kind: 'work' }, said: [], guessed: null },
  file: { key: { kind: 'file' }, right: { kind: 'work' }, wrong: { kind: 'work' }, said: [], guessed: null },
};
const contentOf = (kind: QuestionKind): QuestionContent => ({
  words: CASES[kind].words ?? words('What is this?'),
  key: CASES[kind].key,
  feedback: { right: null, wrong: null, general: null },
  picture: kind === 'hotspot' ? PICTURE : null,
});
const scored = (kind: QuestionKind, answer: Answer | null) => {
  const { key } = CASES[kind];
  const wanted = wantedOf(key, 'q', 'seed');
  return scoreQuestion({ key, points: 1000, floor: 0, ...(wanted === undefined ? {} : { wanted }) }, answer);
};

describe.each(KINDS)('a question of the kind %s', (kind) => {
  const { key, right, wrong, said, guessed } = CASES[kind];

  it('gives all the points for what is right and none for what is wrong, or waits for a person', () => {
    if (isMarkedByPerson(kind)) expect(scored(kind, right).share).toBeNull();
    else {
      expect(scored(kind, right).share?.equals(ONE)).toBe(true);
      expect(scored(kind, wrong).share?.equals(ZERO)).toBe(true);
    }
  });

  it('gives nothing for nothing, and waits for what was given on paper', () => {
    expect(scored(kind, null)).toEqual({ share: ZERO, rule: 'Nothing was answered.' });
    expect(scored(kind, { kind: 'work' }).share).toBeNull();
  });

  it('takes no answer of another kind, and says so', () => {
    const strange: Answer = kind === 'hotspot' ? { kind: 'text', text: '0.2' } : { kind: 'spot', spot: { x: 0.2, y: 0.2 } };
    const score = scored(kind, strange);
    if (isMarkedByPerson(kind)) expect(score.share).toBeNull();
    else expect(score).toEqual({ share: ZERO, rule: 'This is no answer to a question of this kind.' });
  });

  it('reads its key in lines, and knows what guessing earns', () => {
    expect(keyInWords(key, wantedOf(key, 'q', 'seed'))).toEqual(said);
    expect(expectedByGuessing({ key, points: 1000, floor: 0 })?.toFraction() ?? null).toBe(guessed);
  });

  it('shows its student nothing of the key', () => {
    const asked = JSON.stringify(askQuestion(contentOf(kind), 'q', 'seed', true));
    for (const secret of ['share', 'accepted', 'pairs', 'order"', 'regions', 'formula', 'tolerance', 'weight'])
      expect(asked).not.toContain(secret);
  });

  it('is asked the same each time by the same seed', () => {
    expect(askQuestion(contentOf(kind), 'q', 'seed', true)).toEqual(askQuestion(contentOf(kind), 'q', 'seed', true));
  });

  it('has no fault once it is filled, and says what a new one lacks', () => {
    expect(keyFaults(contentOf(kind))).toEqual([]);
    const fresh = keyFaults({ ...contentOf(kind), words: { type: 'doc', content: [] }, key: newKey(kind, () => 'x'), picture: null });
    expect(fresh).toContain('Nothing is asked yet. Type the question.');
    if (!isMarkedByPerson(kind) && kind !== 'truth') expect(fresh.length).toBeGreaterThan(1);
    if (kind === 'single') expect(fresh).toContain('No answer is marked as right.');
  });

  it('goes into a table and comes out of it as it was', () => {
    let ids = 0;
    const newId = (): string => `id${(ids += 1)}`;
    const content = contentOf(kind);
    const row = questionRow({ ...content, title: 'Parts', level: 'easy', tags: ['lever'], objectives: ['B3'], points: 1500 });
    const read = readQuestionRow(row, newId, () => ({ src: PICTURE.src, name: 'movement.png', mediaType: 'image/png' }) as never);
    expect(read).toMatchObject({ ok: true, problems: [] });
    if (!read.ok) return;
    const bare = (value: unknown): unknown => JSON.parse(JSON.stringify(value).replace(/"id":"[^"]*"/g, '"id":""'));
    expect(bare(read.question.key)).toEqual(bare(content.key));
    expect(read.question).toMatchObject({ title: 'Parts', level: 'easy', tags: ['lever'], objectives: ['B3'], points: 1500 });
    expect(bare(read.question.picture)).toEqual(bare(content.picture));
  });

  it('names a rule that is none of its own', () => {
    const row = {
      ...questionRow({ ...contentOf(kind), title: '', level: null, tags: [], objectives: [], points: null }),
      rules: 'by moonlight',
    };
    const read = readQuestionRow(
      row,
      () => 'x',
      () => null,
    );
    expect(read).toEqual({ ok: false, reason: `rules: “by moonlight” is no rule of ${KIND_WORDS[kind]}.` });
  });

  it('finds near misses that are none of the answers it takes for all the points', () => {
    for (const near of nearMisses(key)) expect(said).not.toContain(near);
    expect(nearMisses(key).length > 0).toBe(kind === 'short' || kind === 'numeric');
  });
});

describe('“I do not know”', () => {
  it('is worth nothing and takes nothing away, in every kind that a rule scores', () => {
    for (const kind of KINDS.filter((one) => !isMarkedByPerson(one)))
      expect(scored(kind, { kind: 'dontKnow' })).toEqual({ share: ZERO, rule: '“I do not know” is worth nothing and takes nothing away.' });
  });
});
