import fc from 'fast-check';
import { asKind, fromPasted, keyFaults, readPasted, turnRight, withAnswer, withPoints, type PastedQuestion } from '../../index.ts';

const all = (text: string): readonly PastedQuestion[] => readPasted(text).questions;
const one = (text: string): PastedQuestion => {
  const found = all(text);
  if (found.length !== 1) throw new Error(`${found.length} questions in ${text}: ${JSON.stringify(found.map((q) => q.words))}`);
  return found[0]!;
};
/** A question with its key in one line: kind, words, what is right. */
const said = ({ key, words }: PastedQuestion): string => {
  const right =
    'choices' in key
      ? `${key.choices.map((c) => (c.isRight ? `*${c.words}` : c.words)).join(' | ')}`
      : key.kind === 'numeric'
        ? `${key.value}${key.tolerance.kind === 'relative' ? ` ± ${key.tolerance.percent} %` : key.tolerance.kind === 'absolute' && key.tolerance.amount !== '0' ? ` ± ${key.tolerance.amount}` : ''}${key.unit === null ? '' : ` ${key.unit}`}`
        : key.kind === 'short'
          ? key.accepted.join(' ; ')
          : key.kind === 'blanks'
            ? key.parts.map((p) => (typeof p === 'string' ? p : `{${p.answer}}`)).join('')
            : key.kind === 'matching'
              ? key.pairs.map((p) => `${p.left} = ${p.right}`).join(' | ')
              : '';
  return `${key.kind}: ${words.replace(/\n/g, ' / ')} → ${right}`;
};

describe('a list of questions as it is typed', () => {
  it('is parted by its numbers, whatever empty lines stand in it', () => {
    const { questions, leftOut } = readPasted(
      'Escapements\n\n1. Which part locks the wheel? (2 points)\na) the pallet *\n\nb) the roller\n2) Why is there draw?\n',
    );
    expect(questions.map((q) => [q.line, q.words, q.points, q.key.kind, q.faults])).toEqual([
      [3, 'Which part locks the wheel?', 2000, 'single', []],
      [7, 'Why is there draw?', null, 'essay', []],
    ]);
    expect(leftOut).toEqual([{ line: 1, words: 'Escapements' }]);
  });
  it('without numbers is parted by empty lines', () => {
    expect(all('First?\n- yes ✓\n- no\n\nSecond?\n→ lock').map((q) => [q.line, q.key.kind])).toEqual([
      [1, 'single'],
      [5, 'short'],
    ]);
  });
  it('says what is missing, and drops nothing', () => {
    expect(one('1. Which?\na) this\nb) that').faults[0]).toContain('No answer is marked as right.');
    expect(one('1. Which?\na) this *').faults[0]).toContain('one answer to choose from');
    expect(one('1. Match.\nlever ↔ locks').faults[0]).toContain('Give another');
    expect(one('1. The pallet ____ the wheel.').faults[0]).toContain('A blank has no answer yet');
    expect(one('1. Which?\na) this\nb) that\nAnswer: E').faults).toEqual(['“E” is none of the answers. Mark the right one.']);
    expect(one('1. Look at this:\na table of beats\nand say why.').words).toBe('Look at this:\na table of beats\nand say why.');
    // However long a line is, all of it stands.
    const long = 'tick tock '.repeat(1500).trim();
    expect(one(`1. ${long}`).words).toBe(long);
    expect(readPasted('  \n\n')).toEqual({ questions: [], leftOut: [] });
  });
  it('takes anything at all, at once', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 300 }), (text) => {
        expect(all(text).every((q) => q.line >= 1)).toBe(true);
      }),
    );
    const pieces = ['1. ', 'A. ', '(T) ', 'Answer: ', '____', ' = ', '\n', 'a', 'b)', '[2]', '**', 'match ', '<b>', '→', ': '];
    fc.assert(
      fc.property(fc.array(fc.constantFrom(...pieces), { maxLength: 60 }), (parts) => {
        expect(all(parts.join('')).every((q) => q.line >= 1)).toBe(true);
      }),
    );
    for (const piece of ['[a ', 'a ↔', 'A) ', '____ ', '1 B ', '   ', 'Answer: ', '(T) ', '**', '*'])
      expect(all(`1. x\n${piece.repeat(5000)}`).length).toBeGreaterThan(0);
  });
});

/** What teachers write, and what is meant. */
const STYLES: readonly (readonly [string, string, string])[] = [
  [
    'capital letters and a key below',
    '1. Which part locks?\nA. pallet\nB. roller\nC. barrel\nAnswer: B',
    'single: Which part locks? → pallet | *roller | barrel',
  ],
  ['a key without a colon', '1. Which?\nA. this\nB. that\nAnswer B', 'single: Which? → this | *that'],
  ['Ans.', '3) Which?\na) this\nb) that\nAns. b', 'single: Which? → this | *that'],
  ['Correct answer in words', 'Q1. Which?\n(A) this\n(B) that\nCorrect answer: that', 'single: Which? → this | *that'],
  ['Correct: letter with words', 'Question 1: Which?\n(a) this\n(b) that\nCorrect: (a) this', 'single: Which? → *this | that'],
  ['a star before the letter', '1. Which?\na. this\n*b. that\nc. those', 'single: Which? → this | *that | those'],
  ['a star before the words', '1. Which?\na. this\nb. *that', 'single: Which? → this | *that'],
  [
    'several stars',
    '1. Which are jewels?\na) ✓ ruby\nb) sapphire (correct)\nc) glass',
    'several: Which are jewels? → *ruby | *sapphire | glass',
  ],
  ['several letters', '1. Which are prime? [2]\nA) 2\nB) 4\nC) 5\nAnswers: A, C', 'several: Which are prime? → *2 | 4 | *5'],
  ['letters together', '1. Which are prime?\nA) 2\nB) 4\nC) 5\nKey: AC', 'several: Which are prime? → *2 | 4 | *5'],
  ['bold', '1. Which?\nA. this\n**B. that**\nC. those', 'single: Which? → this | *that | those'],
  ['bold tags', '1. Which is <i>not</i> it?\nA. this\nB. <b>that</b>', 'single: Which is <i>not</i> it? → this | *that'],
  ['answers in one line', '1. Which is prime? A) 4 B) 7 C) 9\nAnswer: B', 'single: Which is prime? → 4 | *7 | 9'],
  ['answers in one line below', '1. Which is prime?\na. 4   b. 7*   c. 9', 'single: Which is prime? → 4 | *7 | 9'],
  ['boxes', '1. Which?\n[ ] this\n[x] that', 'single: Which? → this | *that'],
  ['ticked boxes', '1. Which?\n☐ this\n☑ that', 'single: Which? → this | *that'],
  ['numbered answers', 'Q1 Which?\n1. this\n2. that\nAnswer: 2', 'single: Which? → this | *that'],
  ['numbered answers under a number', '1. Which?\n1) this\n2) that *\n3) those', 'single: Which? → this | *that | those'],
  ['an arrow behind the answer', '1. Which?\nA. this <- correct\nB. that', 'single: Which? → *this | that'],
  ['Roman numerals', '1. Which?\ni) this\nii) that\niii) those\nAnswer: b', 'single: Which? → this | *that | those'],
  ['true or false in brackets', '1. The lever is locked by draw. (T)', 'truth: The lever is locked by draw. → *True | False'],
  ['true or false spelled out', '1. The balance drives the train. [False]', 'truth: The balance drives the train. → True | *False'],
  ['T/F with a key', '1. T/F The lever is locked by draw.\nAnswer: T', 'truth: The lever is locked by draw. → *True | False'],
  [
    'True or false before',
    '1. True or false: the roller drives the train.\nAnswer: False',
    'truth: the roller drives the train. → True | *False',
  ],
  ['a letter before the number', 'T 1. The lever is locked by draw.', 'truth: The lever is locked by draw. → *True | False'],
  ['a line before the number', '____ 1. The lever is locked by draw.\nAnswer: true', 'truth: The lever is locked by draw. → *True | False'],
  ['true and false as answers', '1. The lever is locked by draw.\nTrue *\nFalse', 'truth: The lever is locked by draw. → *True | False'],
  ['a dash and True', '1. Oil spreads. – True', 'truth: Oil spreads. → *True | False'],
  [
    'a short answer',
    '1. Which part locks the wheel?\nAnswer: pallet; pallet stone',
    'short: Which part locks the wheel? → pallet ; pallet stone',
  ],
  ['a short answer behind the words', '1. Which part locks the wheel? (Answer: pallet)', 'short: Which part locks the wheel? → pallet'],
  ['a number', '1. How many beats an hour?\nAnswer: 28800 ± 5 %', 'numeric: How many beats an hour? → 28800 ± 5 %'],
  ['a number with its unit', '1. How long is it?\n→ 2,5 ± 0.05 mm', 'numeric: How long is it? → 2,5 ± 0.05 mm'],
  ['a small number', '1. How much?\n-> −1.2e-4', 'numeric: How much? → −1.2e-4'],
  ['a blank', '1. The ____ locks the wheel.\nAnswer: pallet', 'blanks: The ____ locks the wheel. → The {pallet} locks the wheel.'],
  [
    'blanks with their answers',
    '1. After ____ comes ____.\nAnswers: lock, drop',
    'blanks: After ____ comes ____. → After {lock} comes {drop}.',
  ],
  ['blanks in brackets', '1. After [lock] comes [drop].', 'blanks: After [lock] comes [drop]. → After {lock} comes {drop}.'],
  [
    'pairs with a sign',
    '1. Match.\nlever ↔ locks the train\nbalance <-> keeps time',
    'matching: Match. → lever = locks the train | balance = keeps time',
  ],
  [
    'pairs in two columns',
    '1. Match each part.\nlever\tlocks the train\nbalance\tkeeps time',
    'matching: Match each part. → lever = locks the train | balance = keeps time',
  ],
  [
    'pairs with an equals sign',
    '1. Match each part.\nlever = locks the train\nbalance = keeps time',
    'matching: Match each part. → lever = locks the train | balance = keeps time',
  ],
  [
    'two columns with letters and a key',
    '1. Match.\n1. lever\ta. keeps time\n2. balance\tb. locks\nAnswers: 1-b, 2-a',
    'matching: Match. → lever = locks | balance = keeps time',
  ],
  [
    'two lists and a key',
    '5. Match the columns.\n1) lever\n2) balance\nA. keeps time\nB. locks\nAnswer: 1-B, 2-A',
    'matching: Match the columns. → lever = locks | balance = keeps time',
  ],
  ['an essay', '1. Explain why there is draw. (10 marks)', 'essay: Explain why there is draw. → '],
  ['an essay with a model answer', '1. Explain draw.\nModel answer: It keeps the lever at its banking.', 'essay: Explain draw. → '],
  ['low and high letters', '1. Which is water?\nA. CO<sub>2</sub>\nB. H<sub>2</sub>O *', 'single: Which is water? → CO₂ | *H₂O'],
  ['answers and key in one line', '1. It is: a) this; b) that; c) those. Answer: b', 'single: It is: → this | *that | those.'],
  ['rows of o', '1. Which?\no this\no that *', 'single: Which? → this | *that'],
  [
    'pairs under a line without a number',
    'Match the part:\nlever = locks\nbalance = keeps time',
    'matching: Match the part: → lever = locks | balance = keeps time',
  ],
  ['points behind the answer', '1. It is\na. this\nb. that\nANS: B    PTS: 2', 'single: It is → this | *that'],
  ['an X in brackets', '1. Which?\na) this\nb) that (X)', 'single: Which? → this | *that'],
  ['a name behind the question', '1. Which part locks? pallet', 'short: Which part locks? → pallet'],
  [
    'the answer of a gap behind it',
    '1. The ____ (to lock) holds. [lever]',
    'blanks: The ____ (to lock) holds. → The {lever} (to lock) holds.',
  ],
  ['no number', 'Question: Which?\nA. this\nB. that\nAnswer: B', 'single: Which? → this | *that'],
  ['True / False below', '1. Oil spreads.\nTrue / False\nAnswer: True', 'truth: Oil spreads. → *True | False'],
  ['a point and a dash', '1.- Which?\nA.- this *\nB.- that', 'single: Which? → *this | that'],
  ['Ans. behind the words', '1. Oil spreads. Ans. True', 'truth: Oil spreads. → *True | False'],
  [
    'statements that the answers speak of',
    '1. It needs:\nI. oil\nII. light\nA. I only\nB. both\nAnswer: B',
    'single: It needs: / I. oil / II. light → I only | *both',
  ],
  ['a name in brackets', '1. Which part locks? (pallet)', 'short: Which part locks? → pallet'],
  ['letters without a sign', '1. Which?\nA  this\nB  that\nC  those\nAnswer: B', 'single: Which? → this | *that | those'],
  ['the key where it would be written', '1. It is: (b)\n(a) this\n(b) that', 'single: It is: → this | *that'],
  ['a long answer in two lines', '1. Which?\nA. this one that\ngoes on *\nB. that', 'single: Which? → *this one that goes on | that'],
];

describe('the styles in which teachers write', () => {
  it.each(STYLES)('%s', (_, text, meant) => {
    expect(said(one(text))).toBe(meant);
    expect(one(text).faults).toEqual([]);
  });

  it.each([
    ['1. Which? [2 marks]', 2000],
    ['1. Which? (1.5 points)', 1500],
    ['1. (3 pts) Which?', 3000],
    ['1. Which? – 4 marks', 4000],
    ['1. Which? [5]', 5000],
    ['1. Which?\n(2 marks)', 2000],
    ['1. Which?\nPoints: 2', 2000],
  ])('%s has points, which do not stay in the words', (text, points) => {
    expect([one(text).points, one(text).words]).toEqual([points, 'Which?']);
  });

  it('has feedback on lines of its own', () => {
    const found = one(
      '1. Which?\nA. this *\nB. that\nFeedback: See chapter 2.\nIt is short.\nCorrect: Well seen, it is this one.\nIncorrect: Look at the pallet again.',
    );
    expect(found.feedback).toEqual({
      general: 'See chapter 2.\nIt is short.',
      right: 'Well seen, it is this one.',
      wrong: 'Look at the pallet again.',
    });
    expect(found.faults).toEqual([]);
  });

  it.each([
    'Answers: 1 B 2 A',
    '1 B  2 A',
    '1. B\n2. A',
    '1-b, 2-a',
    'Answer key\n1) B\n2) A',
    'Key: B, A',
    'ANSWERS\nB\nA',
    'Key: 1. that 2. one',
  ])('takes its keys from a list at the end: %s', (keys) => {
    const found = all(`1. Which?\nA. this\nB. that\n2. And which?\nA. one\nB. two\n\n${keys}`);
    expect(found.map(said)).toEqual(['single: Which? → this | *that', 'single: And which? → *one | two']);
  });

  it('takes keys of every kind from the list at the end', () => {
    const found = all('1. Which?\nA. this\nB. that\n2. The lever is locked.\n3. What locks?\nAnswer key:\n1. A\n2. False\n3. pallet');
    expect(found.map(said)).toEqual([
      'single: Which? → *this | that',
      'truth: The lever is locked. → True | *False',
      'short: What locks? → pallet',
    ]);
  });

  it('is told by titles of what kind the questions below are, and leaves the titles out', () => {
    const { questions, leftOut } = readPasted(
      'Part A: True or false\n1. Oil spreads.\nAnswer: T\nPart B – Essay\n1. Explain draw.\n2. Explain lock. Answer: it holds.',
    );
    expect(questions.map((q) => q.key.kind)).toEqual(['truth', 'essay', 'essay']);
    expect(leftOut.map((l) => l.words)).toEqual(['Part A: True or false', 'Part B – Essay']);
  });

  it('knows titles with numbers of their own', () => {
    const { questions, leftOut } = readPasted(
      'I. Multiple choice\n1. Which?\na. this\nb. that\nANS: A\nII. True/False\n2. Oil spreads.\nANS: T',
    );
    expect(questions.map(said)).toEqual(['single: Which? → *this | that', 'truth: Oil spreads. → *True | False']);
    expect(leftOut.map((l) => l.words)).toEqual(['I. Multiple choice', 'II. True/False']);
  });

  it('without numbers ends a question after its answers', () => {
    expect(all('Which?\nA. this *\nB. that\nAnd which?\nA. one\nB. two *').map(said)).toEqual([
      'single: Which? → *this | that',
      'single: And which? → one | *two',
    ]);
  });

  it('doubts what could be meant otherwise', () => {
    expect(one('1. Which?\n**A. this**\n**B. that**\nC. those').doubts[0]).toContain('2 answers are bold');
    expect(one('1. Which?\nA. this *\nB. that\nMind the wheel.').doubts[0]).toContain('“Mind the wheel.” stands below the answers');
    expect(one('1. Match.\n1. lever\ta. keeps time\n2. balance\tb. locks').doubts[0]).toContain('Nothing says which belongs to which');
  });
});

describe('what was recognised', () => {
  const question = one('1. Which?\nA. this *\nB. that');
  it('is made another kind with what that can use', () => {
    expect(said(asKind(question, 'several'))).toBe('several: Which? → *this | that');
    expect(said(asKind(question, 'short'))).toBe('short: Which? → this');
    expect(said(asKind(asKind(question, 'short'), 'single'))).toBe('single: Which? → *this');
    expect(said(asKind(one('1. It spreads.\nAnswer: T'), 'short'))).toBe('short: It spreads. → True');
    expect(said(asKind(one('1. It is ____.\nAnswer: 4'), 'numeric'))).toBe('numeric: It is ____. → 4');
    expect(asKind(question, 'numeric').faults[0]).toContain('The number that is right is missing');
    expect(asKind(question, 'truth').faults[0]).toContain('No answer is marked');
    expect(said(asKind(question, 'blanks'))).toBe('blanks: Which? → Which? {this}');
    expect(asKind(question, 'matching').faults).toEqual(['A pair has only one side. Give the other.']);
    expect(said(asKind(question, 'essay'))).toBe('essay: Which? → ');
  });
  it('has its key changed: of a single choice one is right, of several any', () => {
    expect(said(turnRight(question, 1))).toBe('single: Which? → this | *that');
    expect(said(turnRight(asKind(question, 'several'), 1))).toBe('several: Which? → *this | *that');
    expect(turnRight(asKind(question, 'essay'), 0).key.kind).toBe('essay');
    const doubted = one('1. Which?\n**A. this**\n**B. that**\nC. those');
    expect(turnRight(doubted, 0).doubts).toEqual([]);
  });
  it('has its answers and points changed', () => {
    expect(said(withAnswer(one('1. What?\nAnswer: lock'), 'lock; total lock'))).toBe('short: What? → lock ; total lock');
    expect(said(withAnswer(one('1. How much?\nAnswer: 3'), '4 ± 1'))).toBe('numeric: How much? → 4 ± 1');
    expect(withAnswer(one('1. How much?\nAnswer: 3'), 'many').faults).toHaveLength(1);
    const gaps = one('1. After ____ comes ____.\nAnswers: lock, drop');
    expect(said(withAnswer(gaps, 'slide', 1))).toBe('blanks: After ____ comes ____. → After {lock} comes {slide}.');
    expect(withPoints(question, 2500).points).toBe(2500);
    expect(withAnswer(question, 'x')).toBe(question);
  });
  it('is made with its styles, its feedback, and a key that could be asked as it is', () => {
    let n = 0;
    const newId = (): string => `id${(n += 1)}`;
    const rich = fromPasted(one('1. Which is <b>not</b> it?\nA. <i>this</i> *\nB. that\nFeedback: See 2.'), newId);
    expect(rich.words.content?.[0]?.content).toEqual([
      { type: 'text', text: 'Which is ' },
      { type: 'text', text: 'not', marks: [{ type: 'bold' }] },
      { type: 'text', text: ' it?' },
    ]);
    expect(rich.feedback?.general?.content?.[0]?.content?.[0]?.text).toBe('See 2.');
    for (const [, text] of STYLES) {
      const made = fromPasted(one(text), newId);
      expect(keyFaults({ feedback: { right: null, wrong: null, general: null }, picture: null, ...made })).toEqual([]);
    }
  });
});
