import fc from 'fast-check';
import type { DocumentNode } from '../document/plainText.ts';
import { fromCell, toCell } from './documentCell.ts';
import type { QuestionKey, TextRules } from './question.ts';
import { QUESTION_COLUMNS, questionRow, type TableQuestion } from './questionTable.ts';
import { readQuestionRow } from './readQuestionTable.ts';

const counter = (): (() => string) => {
  let n = 0;
  return () => {
    n += 1;
    return `n${n}`;
  };
};
const FILE = { src: '/files/f1', name: 'train.png', mediaType: 'image/png' };
const fileAt = (fileId: string): typeof FILE | null => (fileId === 'f1' ? FILE : null);
const line = (text: string): DocumentNode =>
  text === '' ? { type: 'paragraph' } : { type: 'paragraph', content: [{ type: 'text', text }] };
const doc = (...texts: string[]): DocumentNode => ({ type: 'doc', content: texts.map(line) });
const read = (row: Record<string, string>) => readQuestionRow(row, counter(), fileAt);
const reasonOf = (row: Record<string, string>): string => {
  const found = read(row);
  return found.ok ? '' : found.reason;
};
const base = {
  title: '',
  level: null,
  tags: [],
  objectives: [],
  points: null,
  picture: null,
  feedback: { right: null, wrong: null, general: null },
};

// Whatever can be typed on one line, with all that means something in the table.
const word = fc.string({ unit: fc.constantFrom(...'abé ,;:=/"\'{}<>|%±-0.1(\\)§'), minLength: 1, maxLength: 14 });
const inner = word.map((w) => w.trim()).filter((w) => w !== '');
const share = fc.integer({ min: -100_000, max: 100_000 });
const decimal = fc.tuple(fc.integer({ min: -9999, max: 9999 }), fc.integer({ min: 0, max: 999 })).map(([a, b]) => `${a}.${b}`);
const tolerance = fc.oneof(
  fc.nat(500).map((n) => ({ kind: 'absolute' as const, amount: String(n / 100) })),
  fc.nat(50).map((n) => ({ kind: 'relative' as const, percent: String(n) })),
  fc.integer({ min: 1, max: 9 }).map((figures) => ({ kind: 'significant' as const, figures })),
);
const rules: fc.Arbitrary<TextRules> = fc.record({
  accepted: fc.array(
    fc.oneof(
      fc.record({ text: word, isPattern: fc.constant(false), share }),
      fc.record({ text: fc.constantFrom('ab+', '[a-z]{2}', 'x/y'), isPattern: fc.constant(true), share }),
    ),
    { minLength: 1, maxLength: 3 },
  ),
  caseMatters: fc.boolean(),
  spaceMatters: fc.boolean(),
});
const choices = fc
  .array(fc.record({ words: inner.map((w) => doc(w)), share, feedback: fc.option(inner.map((w) => doc(w))) }), {
    minLength: 1,
    maxLength: 4,
  })
  .map((list) => list.map((c, n) => ({ id: `n${n + 1}`, ...c })));
const numbers = fc.record({
  units: fc.array(fc.record({ name: fc.constantFrom('mm', 'm', 's⁻¹', 'turns a day'), factor: decimal }), { maxLength: 2 }),
  isUnitNeeded: fc.boolean(),
  decimals: fc.option(fc.nat(6)),
  isSignFree: fc.boolean(),
});
const unit = fc.nat(1000).map((n) => n / 1000);
const spot = fc.record({ x: unit, y: unit });
const region = fc.oneof(
  fc.record({ shape: fc.constant('rectangle' as const), from: spot, to: spot }),
  fc.record({ shape: fc.constant('ellipse' as const), centre: spot, radius: spot }),
  fc.record({ shape: fc.constant('polygon' as const), corners: fc.array(spot, { minLength: 3, maxLength: 5 }) }),
);
const keys: fc.Arbitrary<QuestionKey> = fc.oneof(
  fc.record({ kind: fc.constantFrom('single' as const, 'truth' as const), choices, hasDontKnow: fc.boolean() }),
  fc.record({
    ...{ kind: fc.constant('several' as const), choices, hasDontKnow: fc.boolean() },
    rule: fc.constantFrom('less wrong' as const, 'all or nothing' as const, 'own values' as const),
  }),
  fc
    .tuple(numbers, fc.array(fc.record({ value: decimal, tolerance, share }), { minLength: 1, maxLength: 3 }))
    .map(([n, accepted]) => ({ kind: 'numeric' as const, rules: { ...n, accepted } })),
  fc.record({ kind: fc.constant('short' as const), rules }),
  fc.record({
    kind: fc.constant('matching' as const),
    pairs: fc.array(fc.record({ left: fc.oneof(fc.constant(''), word), right: word }), { minLength: 1, maxLength: 4 }),
  }),
  fc.record({
    kind: fc.constant('ordering' as const),
    order: fc.array(word, { minLength: 1, maxLength: 4 }),
    isAllOrNothing: fc.boolean(),
  }),
  fc
    .array(fc.record({ region, share }), { minLength: 1, maxLength: 3 })
    .map((list) => ({ kind: 'hotspot' as const, regions: list.map((r, n) => ({ id: `n${n + 1}`, ...r })) })),
  fc.constantFrom({ kind: 'essay' as const }, { kind: 'file' as const }),
);

describe('a question as a row of a table', () => {
  it('comes out as it went in, in every kind, whatever is typed', () => {
    fc.assert(
      fc.property(
        keys,
        fc.array(word, { minLength: 1, maxLength: 3 }),
        fc.option(inner),
        fc.option(fc.nat(20_000)),
        (key, words, said, points) => {
          const question: TableQuestion = {
            ...base,
            ...{ title: 'A title', level: 'hard', tags: ['one', 'two'], objectives: ['2.1'], points, key },
            words: doc(...words),
            feedback: { right: null, wrong: said === null ? null : doc(said), general: said === null ? null : doc(said, said) },
            picture: key.kind === 'hotspot' ? { fileId: 'f1', src: FILE.src, alt: `wheel; ${words[0] ?? ''} "x"` } : null,
          };
          const row = questionRow(question);
          expect(Object.keys(row)).toEqual([...QUESTION_COLUMNS]);
          expect(read(row)).toEqual({ ok: true, question, problems: [] });
        },
      ),
      { numRuns: 400 },
    );
  });

  it('keeps places to fill in and drawn numbers where they stand in the words, braces beside them', () => {
    const blank = (n: number, size: number): DocumentNode => ({ type: 'blank', attrs: { id: `n${n}`, size } });
    const accepted = [{ text: 'pallet', isPattern: false, share: 100_000 }];
    const text = (words: string): DocumentNode => ({ type: 'text', text: words });
    const blanks: TableQuestion = {
      ...base,
      words: { type: 'doc', content: [{ type: 'paragraph', content: [text('The {real} '), blank(1, 12), text(' and '), blank(2, 0)] }] },
      key: {
        kind: 'blanks',
        blanks: [
          { id: 'n1', weight: 33_333, rules: { accepted, caseMatters: true, spaceMatters: false } },
          { id: 'n2', weight: 66_667, rules: { accepted, caseMatters: false, spaceMatters: true } },
        ],
      },
    };
    expect(questionRow(blanks)).toMatchObject({
      words: 'The {{real}} {1} and {2}',
      answers: '{1} weight 33.333; size 12; case matters\n100: pallet\n{2} weight 66.667; size 0; spaces matter\n100: pallet',
    });
    expect(read(questionRow(blanks))).toEqual({ ok: true, question: blanks, problems: [] });
    const drawn: TableQuestion = {
      ...base,
      words: {
        type: 'doc',
        content: [{ type: 'paragraph', content: [text('A wheel of '), { type: 'value', attrs: { name: 'c' } }, text(' teeth')] }],
      },
      key: {
        kind: 'calculated',
        question: {
          parameters: [{ name: 'c', from: '72', to: '84', step: '4', decimals: 0 }],
          conditions: ['c > 70'],
          formula: 'c / 8',
          tolerance: { kind: 'relative', percent: '0.5' },
        },
        rules: { units: [{ name: 'turns', factor: '1' }], isUnitNeeded: false, decimals: null, isSignFree: false },
      },
    };
    expect(questionRow(drawn).answers).toBe('formula: c / 8 | ±0.5%\nc: 72 to 84 step 4, 0 decimals\nif c > 70');
    expect(read(questionRow(drawn))).toEqual({ ok: true, question: drawn, problems: [] });
  });

  it('keeps form as HTML, and names a file that is not here', () => {
    const formed: DocumentNode = {
      type: 'doc',
      content: [
        {
          type: 'paragraph',
          content: [
            { type: 'text', text: 'Name the ' },
            { type: 'text', text: 'part', marks: [{ type: 'bold' }] },
          ],
        },
        { type: 'paragraph', content: [{ type: 'text', text: 'now {1}' }] },
      ],
    };
    const cell = toCell(formed, () => 0);
    expect(cell).toBe('<p>Name the <strong>part</strong></p><p>now {{1}}</p>');
    expect(fromCell(cell, () => null, fileAt)).toEqual({ document: formed, problems: [] });
    const picture = '<p>Look:</p><figure><img src="file:gone" alt="a wheel"></figure>';
    expect(fromCell(picture, () => null, fileAt).problems.join()).toContain('the file “file:gone” is not here');
    expect(fromCell(picture.replace('gone', 'f1'), () => null, fileAt).problems).toEqual([]);
  });

  it('says what it does not understand by column, text and mend', () => {
    expect(reasonOf({ kind: 'riddle' })).toContain('kind: “riddle” is none. There are: single');
    expect(reasonOf({ kind: 'short', colour: 'red' })).toContain('There is no column “colour”');
    expect(reasonOf({ kind: 'short', answers: 'pallet' })).toContain('has no colon after what it gives');
    expect(reasonOf({ kind: 'short', answers: 'all: pallet' })).toContain('does not begin with what it gives in percent');
    expect(reasonOf({ kind: 'short', answers: '150: pallet' })).toContain('gives more than 100 percent');
    expect(reasonOf({ kind: 'short', answers: '100: "pallet' })).toContain('a quotation mark that is not closed');
    expect(reasonOf({ kind: 'short', answers: '100: a', rules: 'all or nothing' })).toContain(
      'rules: “all or nothing” is no rule of short text',
    );
    expect(reasonOf({ kind: 'numeric', answers: '100: 5 near' })).toContain('write ±0.5, ±2% or 3 figures');
    expect(reasonOf({ kind: 'numeric', answers: '100: 5', rules: 'units: mm' })).toContain('is no unit with its factor');
    expect(reasonOf({ kind: 'calculated', answers: 'a + b' })).toContain('is no formula with its tolerance');
    expect(reasonOf({ kind: 'calculated', answers: 'formula: a | ±1%\na from 1' })).toContain('is no drawn number');
    expect(reasonOf({ kind: 'blanks', answers: '100: x' })).toContain('stands before any place');
    expect(reasonOf({ kind: 'blanks', answers: '{1} heavy' })).toContain('is not said of a place');
    expect(reasonOf({ kind: 'matching', answers: 'lever' })).toContain('is no pair');
    expect(reasonOf({ kind: 'hotspot', answers: '100: circle 1 2' })).toContain('is no place in a picture');
    expect(reasonOf({ kind: 'essay', level: 'mean' })).toContain('is none of easy, medium, hard');
    expect(reasonOf({ kind: 'essay', points: 'two' })).toContain('is no number of points');
    expect(read({ kind: 'essay', words: 'Why?' })).toMatchObject({ ok: true, question: { words: doc('Why?'), title: '', points: null } });
  });
});
