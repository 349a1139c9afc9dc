import type { DocumentNode } from '../document/plainText.ts';
import type { QuestionKey, TextRules } from '../quiz/question.ts';
import { readItem, readStimulus } from './qtiRead.ts';
import { QTI_VERSIONS, readQtiXml, type QtiVersion } from './qtiTree.ts';
import type { QtiQuestion } from './qtiParts.ts';
import { writeItem, writeStimulus } from './qtiWrite.ts';

const counter = (): (() => string) => {
  let n = 0;
  return () => {
    n += 1;
    return `n${n}`;
  };
};
const line = (...content: (string | DocumentNode)[]): DocumentNode => ({
  type: 'paragraph',
  content: content.map((c) => (typeof c === 'string' ? { type: 'text', text: c } : c)),
});
const doc = (...blocks: (string | DocumentNode)[]): DocumentNode => ({
  type: 'doc',
  content: blocks.map((b) => (typeof b === 'string' ? line(b) : b)),
});
const NONE = { right: null, wrong: null, general: null };
const FILE = { fileId: 'f1', src: '/files/f1', name: 'train.png', mediaType: 'image/png' };
const to = (version: QtiVersion) => ({
  version,
  file: (fileId: string) => `../files/${fileId}.png`,
  picture: () => ({ width: 800, height: 500, mediaType: 'image/png' }),
});
const from = () => ({ newId: counter(), file: (address: string) => (address === '../files/f1.png' ? FILE : null) });

function sent(question: Partial<QtiQuestion> & { readonly key: QuestionKey }, version: QtiVersion) {
  const whole: QtiQuestion = {
    ...{ id: 'q1', title: 'A & B', words: doc('What is it?'), feedback: NONE, picture: null, stimulus: null },
    ...question,
  };
  const { xml, losses } = writeItem(whole, to(version));
  const tree = readQtiXml(xml);
  if (!tree.ok) throw new Error(tree.reason);
  const read = readItem(tree.root, from());
  return { whole, xml, losses, read, back: read.questions[0] };
}
const choice = (n: number, words: string, share: number, feedback: DocumentNode | null = null) => ({
  id: `n${n}`,
  words: doc(words),
  share,
  feedback,
});
const texts = (caseMatters: boolean, ...accepted: readonly (readonly [string, number, boolean?])[]): TextRules => ({
  accepted: accepted.map(([text, share, isPattern = false]) => ({ text, isPattern, share })),
  caseMatters,
  spaceMatters: false,
});
const number = { units: [], isUnitNeeded: false, decimals: null, isSignFree: false };
const blank = (n: number, size = 0): DocumentNode => ({ type: 'blank', attrs: { id: `n${n}`, size } });

/** Everything the standard has words for; each must come back as it went. */
const KEYS: readonly (readonly [string, Partial<QtiQuestion> & { readonly key: QuestionKey }])[] = [
  [
    'a single choice',
    { key: { kind: 'single', choices: [choice(1, 'lever', 0), choice(2, 'wheel', 100_000), choice(3, 'pin', 0)], hasDontKnow: true } },
  ],
  [
    'a single choice with values of its own',
    {
      key: {
        kind: 'single',
        choices: [choice(1, 'lever', 33_333), choice(2, 'wheel', 100_000), choice(3, 'pin', -25_000)],
        hasDontKnow: false,
      },
    },
  ],
  ['true or false', { key: { kind: 'truth', choices: [choice(1, 'True', 0), choice(2, 'False', 100_000)], hasDontKnow: false } }],
  [
    'several, right less wrong, of three',
    {
      key: {
        kind: 'several',
        rule: 'less wrong',
        hasDontKnow: true,
        choices: [choice(1, 'a', 100_000), choice(2, 'b', 100_000), choice(3, 'c', 100_000), choice(4, 'd', 0)],
      },
    },
  ],
  [
    'several, right less wrong, of two',
    {
      key: {
        kind: 'several',
        rule: 'less wrong',
        hasDontKnow: false,
        choices: [choice(1, 'a', 100_000), choice(2, 'b', 100_000), choice(3, 'c', 0)],
      },
    },
  ],
  [
    'several, all or nothing',
    {
      key: {
        kind: 'several',
        rule: 'all or nothing',
        hasDontKnow: false,
        choices: [choice(1, 'a', 100_000), choice(2, 'b', 100_000), choice(3, 'c', 0)],
      },
    },
  ],
  [
    'several, each by its own value',
    {
      key: {
        kind: 'several',
        rule: 'own values',
        hasDontKnow: false,
        choices: [choice(1, 'a', 70_000), choice(2, 'b', 30_000), choice(3, 'c', -20_000), choice(4, 'd', 0)],
      },
    },
  ],
  [
    'a number by an amount, and a second that is worth half',
    {
      key: {
        kind: 'numeric',
        rules: {
          ...number,
          accepted: [
            { value: '9.81', tolerance: { kind: 'absolute', amount: '0.05' }, share: 100_000 },
            { value: '-12', tolerance: { kind: 'absolute', amount: '0' }, share: 50_000 },
          ],
        },
      },
    },
  ],
  [
    'a number by percent, with units and either sign',
    {
      key: {
        kind: 'numeric',
        rules: {
          units: [
            { name: 'm', factor: '1' },
            { name: 'mm', factor: '0.001' },
          ],
          isUnitNeeded: true,
          decimals: 2,
          isSignFree: true,
          accepted: [{ value: '2.50', tolerance: { kind: 'relative', percent: '2' }, share: 100_000 }],
        },
      },
    },
  ],
  [
    'a number by significant figures',
    {
      key: {
        kind: 'numeric',
        rules: { ...number, accepted: [{ value: '0.0123', tolerance: { kind: 'significant', figures: 3 }, share: 100_000 }] },
      },
    },
  ],
  [
    'drawn numbers',
    {
      words: doc(
        line('A wheel of ', { type: 'value', attrs: { name: 'c' } }, ' teeth and ', { type: 'value', attrs: { name: 'l' } }, ' m'),
      ),
      key: {
        kind: 'calculated',
        question: {
          parameters: [
            { name: 'c', from: '72', to: '84', step: '4', decimals: 0 },
            { name: 'l', from: '0.5', to: '1.5', step: '0.1', decimals: 1 },
          ],
          conditions: ['c > 70 and l != 1', 'c / l < 100'],
          formula: 'c / (2 * pi * sqrt(l / 9.81))',
          tolerance: { kind: 'relative', percent: '0.5' },
        },
        rules: { ...number, units: [{ name: 'turns', factor: '1' }] },
      },
    },
  ],
  ['a short text', { key: { kind: 'short', rules: texts(false, ['pallet fork', 100_000], ['fork & "arm" <x>', 50_000]) } }],
  ['a short text in which case matters', { key: { kind: 'short', rules: texts(true, ['Harrison', 100_000]) } }],
  [
    'a short text with a pattern',
    { key: { kind: 'short', rules: texts(false, ['colou?r', 100_000, true], ['hue', 50_000], ['ti[nm]t', 25_000, true]) } },
  ],
  [
    'blanks with weights, one with a pattern',
    {
      words: doc(line('The ', blank(1, 12), ' locks the ', blank(2), '.'), 'Two lines.'),
      key: {
        kind: 'blanks',
        blanks: [
          { id: 'n1', weight: 33_333, rules: texts(true, ['lever', 100_000], ['fork', 50_000]) },
          { id: 'n2', weight: 66_667, rules: texts(false, ['trains?', 100_000, true]) },
        ],
      },
    },
  ],
  [
    'matching with one too many on the right',
    {
      key: {
        kind: 'matching',
        pairs: [
          { left: 'lever', right: 'locks' },
          { left: 'wheel', right: 'turns' },
          { left: 'pinion', right: 'turns' },
          { left: '', right: 'sings' },
        ],
      },
    },
  ],
  ['ordering', { key: { kind: 'ordering', order: ['wind', 'set', 'start <now>'], isAllOrNothing: true } }],
  [
    'a spot in a picture',
    {
      picture: { fileId: 'f1', src: '/files/f1', alt: 'A train of wheels' },
      key: {
        kind: 'hotspot',
        regions: [
          { id: 'n1', share: 100_000, region: { shape: 'rectangle', from: { x: 0.25, y: 0.2 }, to: { x: 0.5, y: 0.4 } } },
          { id: 'n2', share: 50_000, region: { shape: 'ellipse', centre: { x: 0.75, y: 0.5 }, radius: { x: 0.1, y: 0.1 } } },
          { id: 'n3', share: -25_000, region: { shape: 'polygon', corners: [{ x: 0, y: 0.8 }, { x: 0.1, y: 0.8 }, { x: 0.05, y: 1 }] } }, // prettier-ignore
        ],
      },
    },
  ],
  ['an essay', { key: { kind: 'essay' } }],
  ['a file', { key: { kind: 'file' } }],
];

describe.each(QTI_VERSIONS)('questions in QTI %s', (version) => {
  it.each(KEYS)('brings back %s', (_, question) => {
    const { whole, read, back, losses } = sent(question, version);
    expect(losses).toEqual([]);
    expect(read.problems).toEqual([]);
    expect(read.questions).toHaveLength(1);
    expect(back).toMatchObject({
      title: 'A & B',
      words: whole.words,
      key: whole.key,
      picture: whole.picture,
      feedback: NONE,
      points: 1000,
    });
  });

  it.each(KEYS)('brings back the feedback of %s', (_, question) => {
    const feedback = { right: doc('Well done.'), wrong: doc('Look again,', 'twice.'), general: doc('See page 3.') };
    const { key } = question;
    if (key.kind === 'essay' || key.kind === 'file') return;
    const { back, read } = sent({ ...question, feedback }, version);
    expect(back?.feedback).toEqual(feedback);
    expect(read.problems).toEqual([]);
    expect(back?.key).toEqual(key);
  });

  it('brings back what is said of one answer, in a line and in several', () => {
    const choices = [choice(1, 'lever', 100_000, doc('Yes.')), choice(2, 'wheel', 0, doc('It turns.', 'And turns.'))];
    const { back } = sent({ key: { kind: 'single', choices, hasDontKnow: false } }, version);
    expect(back?.key).toEqual({ kind: 'single', choices, hasDontKnow: false });
  });

  it('keeps form, formulas and pictures in the words', () => {
    const words = doc(
      { type: 'heading', attrs: { level: 3 }, content: [{ type: 'text', text: 'The escapement' }] },
      line('Look at ', { type: 'formulaInline', attrs: { tex: '\\frac{a}{b} < 2' } }, ' and say ', {
        ...{ type: 'text', text: 'why', marks: [{ type: 'bold' }, { type: 'italic' }, { type: 'underline' }] },
      }),
      { type: 'formula', attrs: { tex: 'T = 2\\pi\\sqrt{l/g}' } },
      {
        type: 'bulletList',
        content: [
          { type: 'listItem', content: [line('one')] },
          { type: 'listItem', content: [line('two')] },
        ],
      },
      { type: 'picture', attrs: { fileId: 'f1', src: '/files/f1', alt: 'A train', size: 'full', caption: '', source: '', licence: '' } },
      { type: 'callout', content: [line('Mind the sign.')] },
    );
    const { back, read, xml } = sent({ words, key: { kind: 'essay' } }, version);
    expect(xml).toContain('<math');
    expect(read.problems).toEqual([]);
    expect(back?.words).toEqual(words);
  });

  it('carries a text that several questions share', () => {
    const stimulus = { id: 'text_1', title: 'A letter of 1759', document: doc('I have made', 'the fourth.') };
    const { xml, read, back } = sent({ stimulus, key: { kind: 'essay' } }, version);
    if (version === '2.1') expect(back?.stimulus).toEqual(stimulus);
    else {
      expect(read.stimulusRefs).toEqual(['../stimuli/text_1.xml']);
      expect(xml).not.toContain('the fourth');
      const tree = readQtiXml(writeStimulus(stimulus, to(version)));
      if (!tree.ok) throw new Error(tree.reason);
      expect(readStimulus(tree.root, from())).toEqual({ title: stimulus.title, document: stimulus.document, problems: [] });
    }
  });

  it('names what the standard has no words for', () => {
    expect(sent({ key: { kind: 'ordering', order: ['a', 'b'], isAllOrNothing: false } }, version).losses).toEqual([
      expect.stringContaining('credit for a part of the order'),
    ]);
    const rules = { ...texts(false, ['a  b', 100_000]), spaceMatters: true };
    expect(sent({ key: { kind: 'short', rules } }, version).losses).toEqual(['that spaces matter']);
  });
});

describe('the names of a version', () => {
  const question = { key: { kind: 'single' as const, choices: [choice(1, 'a', 100_000), choice(2, 'b', 0)], hasDontKnow: false } };
  it('are written as the version has them, with its templates', () => {
    expect(sent(question, '2.1').xml).toContain('<choiceInteraction responseIdentifier="RESPONSE" shuffle="true" maxChoices="1">');
    expect(sent(question, '2.2').xml).toContain('http://www.imsglobal.org/question/qti_v2p2/rptemplates/match_correct"');
    const three = sent(question, '3.0').xml;
    expect(three).toContain('<qti-choice-interaction response-identifier="RESPONSE" shuffle="true" max-choices="1">');
    expect(three).toContain('https://purl.imsglobal.org/spec/qti/v3p0/rptemplates/match_correct.xml');
    expect(three).not.toContain('<choiceInteraction');
  });
});
