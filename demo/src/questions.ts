import { paragraphs, type NewQuestion } from '@rosemary/api';
import type { DocumentNode, QuestionKey } from '@rosemary/core';
import type { Random } from './random.ts';

/** How students meet a question: how hard it is, how well it tells them apart, and what chance gives. */
interface Model {
  readonly hardness: number;
  readonly sharpness: number;
  readonly chance: number;
}
export interface DemoQuestion {
  readonly name: string;
  readonly points: number;
  readonly wish: NewQuestion;
  readonly model: Model;
  /** The answer of somebody who knows it, and of somebody who does not. `values` are those of the paper. */
  readonly right: (values: ReadonlyMap<string, string>) => object;
  readonly wrong: (random: Random) => object | null;
}

const ALL = 100_000;
const said = (text: string): DocumentNode => paragraphs(text);
const line = (...parts: (string | DocumentNode)[]): DocumentNode => ({
  type: 'doc',
  content: [{ type: 'paragraph', content: parts.map((p) => (typeof p === 'string' ? { type: 'text', text: p } : p)) }],
});
const value = (name: string): DocumentNode => ({ type: 'value', attrs: { name } });
const blank = (id: string): DocumentNode => ({ type: 'blank', attrs: { id, size: 8 } });
const text = (words: string): object => ({ kind: 'text', text: words });
const rules = (...accepted: string[]) => ({
  accepted: accepted.map((a) => ({ text: a, isPattern: false, share: ALL })),
  caseMatters: false,
  spaceMatters: false,
});
const NUMBER = { units: [], isUnitNeeded: false, decimals: null, isSignFree: false } as const;
const feedback = (right: string, wrong: string) => ({
  right: right === '' ? null : said(right),
  wrong: wrong === '' ? null : said(wrong),
  general: null,
});

interface About {
  readonly level: 'easy' | 'medium' | 'hard';
  readonly objectives: readonly string[];
  readonly tags?: readonly string[];
}
/** One right answer of several; the first letter of the key is `right`, of what is true `truly`. */
function single(
  name: string,
  words: string,
  answers: readonly string[],
  right: number,
  model: Model,
  about: About,
  truly = right,
  points = 1000,
): DemoQuestion {
  const id = (n: number): string => 'abcdef'.charAt(n);
  const key: QuestionKey = {
    kind: 'single',
    hasDontKnow: false,
    choices: answers.map((a, n) => ({ id: id(n), words: said(a), share: n === right ? ALL : 0, feedback: null })),
  };
  const others = answers.map((_, n) => n).filter((n) => n !== truly);
  return {
    name,
    points,
    wish: { words: said(words), key, ...about },
    model,
    right: () => ({ kind: 'choice', id: id(truly) }),
    wrong: (random) => ({ kind: 'choice', id: id(random.pick(others)) }),
  };
}
const EASY = { hardness: -0.9, sharpness: 2.2, chance: 0.15 };
const MEDIUM = { hardness: 0.1, sharpness: 2.4, chance: 0.15 };
const HARD = { hardness: 0.9, sharpness: 2.2, chance: 0.1 };

export const beat = single(
  'beat',
  'A movement beats 18,000 times an hour. How many vibrations does the balance make in one second?',
  ['2.5', '5', '6', '18'],
  1,
  EASY,
  { level: 'easy', objectives: ['T2'], tags: ['beat'] },
);
const jewel: DemoQuestion = {
  name: 'jewel',
  points: 1000,
  wish: {
    words: said('The pallet fork carries the roller jewel.'),
    key: {
      kind: 'truth',
      hasDontKnow: false,
      choices: [
        { id: 't', words: said('True'), share: 0, feedback: said('The jewel stands in the roller, on the balance staff.') },
        { id: 'f', words: said('False'), share: ALL, feedback: null },
      ],
    },
    level: 'easy',
    objectives: ['R1'],
    tags: ['escapement'],
  },
  model: { hardness: -0.6, sharpness: 1.1, chance: 0.45 },
  right: () => ({ kind: 'choice', id: 'f' }),
  wrong: () => ({ kind: 'choice', id: 't' }),
};
/** Nobody can miss it. */
const blade = single(
  'blade',
  'Which of these is fitted to the slot of a screw before it is turned?',
  ['the blade of a screwdriver', 'the loupe', 'the oiler', 'the rate sheet'],
  0,
  { hardness: -6, sharpness: 1.2, chance: 0.2 },
  { level: 'easy', objectives: ['B1'], tags: ['tools'] },
);
/** The key is wrong: it says the fourth arbor. */
const hour = single(
  'hour',
  'Which arbor of a going train turns once an hour?',
  ['the barrel arbor', 'the centre arbor', 'the fourth arbor', 'the escape arbor'],
  2,
  { hardness: -0.5, sharpness: 1.8, chance: 0.1 },
  { level: 'medium', objectives: ['T1'], tags: ['train'] },
  1,
);
/** It tells nothing: a name one happens to know or not. */
const maker = single(
  'maker',
  'In which town was the oldest lever of our collection made?',
  ['Tallowmere', 'Brinewick', 'Osterby', 'Hallam Cross'],
  2,
  { hardness: 0, sharpness: 0, chance: 0.25 },
  { level: 'hard', objectives: ['R1'], tags: ['collection'] },
);
const amplitude: DemoQuestion = {
  name: 'amplitude',
  points: 2000,
  wish: {
    words: said('Which of these lower the amplitude?'),
    key: {
      kind: 'several',
      rule: 'less wrong',
      hasDontKnow: true,
      choices: [
        { id: 'a', words: said('thickened oil in the train'), share: ALL, feedback: null },
        { id: 'b', words: said('a mainspring that is set'), share: ALL, feedback: null },
        { id: 'c', words: said('a freshly cleaned barrel'), share: 0, feedback: said('That gives it more.') },
        { id: 'd', words: said('a longer strap'), share: 0, feedback: null },
      ],
    },
    feedback: feedback('', 'Ask of each: does less force reach the balance?'),
    level: 'medium',
    objectives: ['T2', 'R1'],
    tags: ['amplitude'],
  },
  model: MEDIUM,
  right: () => ({ kind: 'choices', ids: ['a', 'b'] }),
  wrong: (random) => (random.chance(0.2) ? { kind: 'dontKnow' } : { kind: 'choices', ids: random.chance(0.6) ? ['a'] : ['b', 'c'] }),
};
const turns: DemoQuestion = {
  name: 'turns',
  points: 1000,
  wish: {
    words: said(
      'A centre wheel of 80 teeth drives a third pinion of 10 leaves; the third wheel of 75 teeth drives a fourth pinion of 10. How often does the fourth wheel turn for one turn of the centre wheel?',
    ),
    key: {
      kind: 'numeric',
      rules: {
        ...NUMBER,
        units: [{ name: 'turns', factor: '1' }],
        accepted: [{ value: '60', tolerance: { kind: 'absolute', amount: '0' }, share: ALL }],
      },
    },
    feedback: feedback('', 'Multiply the ratios, do not add them.'),
    level: 'medium',
    objectives: ['T1'],
    tags: ['train'],
  },
  model: { ...MEDIUM, chance: 0 },
  right: () => text('60 turns'),
  wrong: (random) => text(random.pick(['15.5', '600', '6', '15,5 turns', '80'])),
};
export const calculated: DemoQuestion = {
  name: 'calculated',
  points: 2000,
  wish: {
    words: line(
      'The centre wheel has c = ',
      value('c'),
      ' teeth and drives a third pinion of p = ',
      value('p'),
      ' leaves. The third wheel has t = ',
      value('t'),
      ' teeth and drives a fourth pinion of f = ',
      value('f'),
      '. How many turns does the fourth wheel make for one of the centre wheel?',
    ),
    key: {
      kind: 'calculated',
      question: {
        parameters: [
          { name: 'c', from: '72', to: '84', step: '4', decimals: 0 },
          { name: 'p', from: '8', to: '12', step: '2', decimals: 0 },
          { name: 't', from: '70', to: '80', step: '5', decimals: 0 },
          { name: 'f', from: '10', to: '10', step: '1', decimals: 0 },
        ],
        conditions: [],
        formula: 'c / p * t / f',
        tolerance: { kind: 'relative', percent: '0.5' },
      },
      rules: { ...NUMBER, units: [{ name: 'turns', factor: '1' }] },
    },
    feedback: feedback('', 'Multiply the ratios, do not add them.'),
    level: 'medium',
    objectives: ['T1'],
    tags: ['train'],
  },
  model: { ...HARD, chance: 0 },
  right: (v) => text(((Number(v.get('c')) / Number(v.get('p'))) * (Number(v.get('t')) / Number(v.get('f')))).toFixed(2)),
  wrong: (random) => text(random.pick(['15', '16.5', '5', '600'])),
};
export const lock: DemoQuestion = {
  name: 'lock',
  points: 1000,
  wish: {
    words: said('Which part locks the escape wheel?'),
    key: { kind: 'short', rules: rules('pallet stone', 'pallet', 'the pallet', 'pallets', 'pallet fork') },
    level: 'easy',
    objectives: ['R1'],
    tags: ['escapement'],
  },
  model: { ...EASY, chance: 0 },
  right: () => text('Pallet stone'),
  wrong: (random) => text(random.pick(['roller', 'the lever', 'hairspring', 'palet', 'banking pin'])),
};
export const falls: DemoQuestion = {
  name: 'falls',
  points: 2000,
  wish: {
    words: line(
      'At full wind the amplitude is ',
      blank('full'),
      ' degrees dial up and should fall by no more than ',
      blank('fall'),
      ' in the pendant positions.',
    ),
    key: {
      kind: 'blanks',
      blanks: [
        { id: 'full', weight: 50_000, rules: rules('280', '270', '290', '300') },
        { id: 'fall', weight: 50_000, rules: rules('40', '50', '30') },
      ],
    },
    level: 'medium',
    objectives: ['T2', 'R2'],
    tags: ['amplitude'],
  },
  model: { ...MEDIUM, chance: 0 },
  right: () => ({ kind: 'texts', texts: { full: '280', fall: '40' } }),
  wrong: (random) => ({ kind: 'texts', texts: { full: random.pick(['180', '280', '360']), fall: random.pick(['100', '90', '5']) } }),
};
const does: DemoQuestion = {
  name: 'does',
  points: 2000,
  wish: {
    words: said('What does each part do?'),
    key: {
      kind: 'matching',
      pairs: [
        { left: 'lever', right: 'carries the pallets' },
        { left: 'roller jewel', right: 'moves the lever' },
        { left: 'banking pins', right: 'end the swing of the lever' },
        { left: 'safety roller', right: 'keeps the lever from going over' },
        { left: '', right: 'winds the spring' },
      ],
    },
    level: 'medium',
    objectives: ['R1'],
    tags: ['escapement'],
  },
  model: { ...MEDIUM, hardness: -0.4 },
  right: () => ({
    kind: 'pairs',
    pairs: {
      lever: 'carries the pallets',
      'roller jewel': 'moves the lever',
      'banking pins': 'end the swing of the lever',
      'safety roller': 'keeps the lever from going over',
    },
  }),
  wrong: () => ({
    kind: 'pairs',
    pairs: {
      lever: 'moves the lever',
      'roller jewel': 'carries the pallets',
      'banking pins': 'end the swing of the lever',
      'safety roller': 'winds the spring',
    },
  }),
};
const ORDER = [
  'let the mainspring down',
  'take the balance out',
  'take the pallet fork out',
  'take the train bridge off',
  'lift the wheels out',
];
const order: DemoQuestion = {
  name: 'order',
  points: 1000,
  wish: {
    words: said('In which order is a lever movement taken down?'),
    key: { kind: 'ordering', order: ORDER, isAllOrNothing: false },
    level: 'medium',
    objectives: ['B2'],
    tags: ['strip-down'],
  },
  model: { ...MEDIUM, hardness: 0.1 },
  right: () => ({ kind: 'order', order: ORDER }),
  wrong: (random) => ({ kind: 'order', order: random.chance(0.5) ? [ORDER[1], ORDER[0], ...ORDER.slice(2)] : [...ORDER].reverse() }),
};
/** Where the escape wheel is in the drawing of a train, which the demo draws itself. */
const escape = (picture: NonNullable<NewQuestion['picture']>): DemoQuestion => ({
  name: 'escape',
  points: 1000,
  wish: {
    words: said('Point to the escape wheel.'),
    key: {
      kind: 'hotspot',
      regions: [{ id: 'wheel', share: ALL, region: { shape: 'ellipse', centre: { x: 0.813, y: 0.47 }, radius: { x: 0.09, y: 0.24 } } }],
    },
    picture,
    level: 'easy',
    objectives: ['R1'],
    tags: ['train'],
  },
  model: { ...EASY, chance: 0.1 },
  right: () => ({ kind: 'spot', spot: { x: 0.81, y: 0.45 } }),
  wrong: (random) => ({ kind: 'spot', spot: { x: Math.round((0.2 + random.next() * 0.4) * 1000) / 1000, y: 0.5 } }),
});
const SAYS = [
  'If the drop is uneven one stone falls further than the other. The balance then gets more force on one side, so it is out of beat and its amplitude changes with position. It also wears the stone that takes the harder fall.',
  'Because each tooth should fall the same way on both stones. Uneven drop means the wheel loses force on one side.',
  'An uneven drop shows that the pallets are not set over the wheel. It can catch when the watch is knocked.',
];
const essay: DemoQuestion = {
  name: 'essay',
  points: 3000,
  wish: {
    words: said('Say in three sentences why the drop must be even on both stones.'),
    key: { kind: 'essay' },
    level: 'hard',
    objectives: ['R2'],
    tags: ['escapement'],
  },
  model: { ...MEDIUM, chance: 0.3 },
  right: () => ({ kind: 'work', document: said(SAYS[0] ?? ''), fileId: null }),
  wrong: (random) => (random.chance(0.15) ? null : { kind: 'work', document: said(random.pick(SAYS.slice(1))), fileId: null }),
};

export const check = (picture: NonNullable<NewQuestion['picture']>): readonly DemoQuestion[] => [
  beat,
  jewel,
  blade,
  hour,
  maker,
  amplitude,
  turns,
  calculated,
  lock,
  falls,
  does,
  order,
  escape(picture),
  essay,
];

/** The short check that is open this morning. */
export const thisWeek: readonly DemoQuestion[] = [
  single(
    'spring',
    'What does the regulator change?',
    ['the working length of the hairspring', 'the force of the mainspring', 'the weight of the balance', 'the depth of the lock'],
    0,
    MEDIUM,
    { level: 'medium', objectives: ['T2'], tags: ['hairspring'] },
  ),
  single(
    'coils',
    'The coils of a hairspring touch on one side. What does the watch do?',
    ['it gains', 'it loses', 'it stops at once', 'nothing'],
    0,
    MEDIUM,
    { level: 'medium', objectives: ['R1'], tags: ['hairspring'] },
  ),
  single(
    'stud',
    'Where is the outer end of the hairspring held?',
    ['in the stud', 'in the collet', 'in the roller', 'in the barrel'],
    0,
    EASY,
    { level: 'easy', objectives: ['R1'], tags: ['hairspring'] },
  ),
  {
    name: 'rate',
    points: 1000,
    wish: {
      words: said('A watch gains 7 seconds in the first day and loses 4 in the second. How many seconds is it fast after two days?'),
      key: {
        kind: 'numeric',
        rules: {
          ...NUMBER,
          units: [{ name: 's', factor: '1' }],
          accepted: [{ value: '3', tolerance: { kind: 'absolute', amount: '0' }, share: ALL }],
        },
      },
      level: 'easy',
      objectives: ['R2'],
      tags: ['rate'],
    },
    model: { ...EASY, chance: 0 },
    right: () => text('3'),
    wrong: (random) => text(random.pick(['11', '-3', '7'])),
  },
  single(
    'magnet',
    'A watch suddenly gains half a minute an hour. What is looked for first?',
    ['magnetised coils', 'a broken mainspring', 'a loose crystal', 'a worn strap'],
    0,
    HARD,
    { level: 'hard', objectives: ['R1'], tags: ['hairspring'] },
  ),
  {
    name: 'collet',
    points: 1000,
    wish: {
      words: said('What is the inner end of the hairspring pinned to?'),
      key: { kind: 'short', rules: rules('collet', 'the collet') },
      level: 'medium',
      objectives: ['R1'],
      tags: ['hairspring'],
    },
    model: { ...MEDIUM, chance: 0 },
    right: () => text('collet'),
    wrong: (random) => text(random.pick(['stud', 'staff', 'roller'])),
  },
];
