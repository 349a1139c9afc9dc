import { plainText } from '../document/plainText.ts';
import type { QtiItemRead } from './qtiItem.ts';
import { readItem } from './qtiRead.ts';
import { readQtiManifest, readTest } from './qtiPackage.ts';
import { readQtiXml, type QtiNode } from './qtiTree.ts';

/** Items as others write them: every way of processing that is common, and every interaction. */
const FILE = { fileId: 'f1', src: '/files/f1', name: 'map.png', mediaType: 'image/png' };
const sources = () => {
  let n = 0;
  return {
    newId: () => `n${(n += 1)}`,
    file: (address: string) => (address.endsWith('map.png') ? FILE : null),
  };
};
function parsed(xml: string): QtiNode {
  const tree = readQtiXml(xml);
  if (!tree.ok) throw new Error(tree.reason);
  return tree.root;
}
const TEMPLATES = 'http://www.imsglobal.org/question/qti_v2p1/rptemplates/';
const item = (declarations: string, body: string, processing = '', more = ''): QtiItemRead =>
  readItem(
    parsed(
      `<assessmentItem identifier="i" title="An item">${declarations}<itemBody>${body}</itemBody>${processing}${more}</assessmentItem>`,
    ),
    sources(),
  );
const declare = (cardinality: string, baseType: string, correct: readonly string[], more = '', id = 'RESPONSE'): string =>
  `<responseDeclaration identifier="${id}" cardinality="${cardinality}" baseType="${baseType}">${
    correct.length === 0 ? '' : `<correctResponse>${correct.map((v) => `<value>${v}</value>`).join('')}</correctResponse>`
  }${more}</responseDeclaration>`;
const mapping = (entries: Readonly<Record<string, number>>, more = ''): string =>
  `<mapping ${more}>${Object.entries(entries)
    .map(([key, value]) => `<mapEntry mapKey="${key}" mappedValue="${value}"/>`)
    .join('')}</mapping>`;
const template = (name: string): string => `<responseProcessing template="${TEMPLATES}${name}"/>`;
const choices = (names: readonly string[], most = 1): string =>
  `<p>Which?</p><choiceInteraction responseIdentifier="RESPONSE" maxChoices="${most}"><prompt>Choose.</prompt>${names
    .map((n) => `<simpleChoice identifier="${n}">${n}</simpleChoice>`)
    .join('')}</choiceInteraction>`;
const shares = (read: QtiItemRead): unknown => {
  const key = read.questions[0]?.key;
  return key !== undefined && 'choices' in key ? key.choices.map((c) => c.share / 1000) : key;
};
const textsOf = (read: QtiItemRead): string[] => read.problems.map((p) => `${p.element}: ${p.text}`);
const variable = (id = 'RESPONSE'): string => `<variable identifier="${id}"/>`;
const set = (value: string, id = 'SCORE'): string => `<setOutcomeValue identifier="${id}">${value}</setOutcomeValue>`;
const number = (value: number): string => `<baseValue baseType="float">${value}</baseValue>`;
const when = (test: string, then: string, otherwise = ''): string =>
  `<responseCondition><responseIf>${test}${then}</responseIf>${otherwise === '' ? '' : `<responseElse>${otherwise}</responseElse>`}</responseCondition>`;
const rules = (...inside: readonly string[]): string => `<responseProcessing>${inside.join('')}</responseProcessing>`;

describe('choices', () => {
  it('are read by the templates of the standard and by their names elsewhere', () => {
    const one = declare('single', 'identifier', ['B']);
    for (const name of ['match_correct', 'match_correct.xml', 'CC2_match'])
      expect(shares(item(one, choices(['A', 'B', 'C']), template(name)))).toEqual([0, 100, 0]);
    const mapped = declare('single', 'identifier', ['B'], mapping({ A: 1, B: 4, C: -2 }));
    const read = item(mapped, choices(['A', 'B', 'C']), template('map_response'));
    expect(shares(read)).toEqual([25, 100, -50]);
    expect(read.questions[0]).toMatchObject({ points: 4000, takesAway: true });
    expect(plainText(read.questions[0]?.words ?? null)).toBe('Which?\nChoose.');
  });

  it('are read by running rules that are written out, whatever they are', () => {
    const one = declare('single', 'identifier', ['B']);
    const written = rules(
      when(`<isNull>${variable()}</isNull>`, set(number(0)), set(number(1))),
      when(
        `<match>${variable()}<correct identifier="RESPONSE"/></match>`,
        set(`<sum>${variable('SCORE')}${number(4)}</sum>`),
        when(
          `<match>${variable()}<baseValue baseType="identifier">C</baseValue></match>`,
          set(`<product>${variable('SCORE')}${number(2.5)}</product>`),
        ),
      ),
    );
    expect(shares(item(one, choices(['A', 'B', 'C']), written))).toEqual([20, 100, 50]);
    const member = rules(
      when(
        `<member>${variable()}<multiple><baseValue baseType="identifier">A</baseValue><baseValue baseType="identifier">B</baseValue></multiple></member>`,
        set(number(1)),
      ),
    );
    expect(shares(item(declare('single', 'identifier', []), choices(['A', 'B', 'C']), member))).toEqual([100, 100, 0]);
  });

  it('of which several are right keep how a part of them counts', () => {
    const many = (processing: string, more = ''): unknown => {
      const key = item(declare('multiple', 'identifier', ['A', 'B'], more), choices(['A', 'B', 'C'], 0), processing).questions[0]?.key;
      return key?.kind === 'several' ? [key.rule, ...key.choices.map((c) => c.share / 1000)] : key;
    };
    expect(many(template('match_correct'))).toEqual(['all or nothing', 100, 100, 0]);
    expect(many(template('map_response'), mapping({ A: 1, B: 1, C: -1 }, 'lowerBound="0"'))).toEqual(['less wrong', 100, 100, 0]);
    expect(many(template('map_response'), mapping({ A: 3, B: 1 }))).toEqual(['own values', 75, 25, 0]);
    const each = rules(
      ...['A', 'B'].map((c) =>
        when(
          `<member><baseValue baseType="identifier">${c}</baseValue>${variable()}</member>`,
          set(`<sum>${variable('SCORE')}${number(1)}</sum>`),
        ),
      ),
      when(
        `<member><baseValue baseType="identifier">C</baseValue>${variable()}</member>`,
        set(`<subtract>${variable('SCORE')}${number(0.5)}</subtract>`),
      ),
    );
    expect(many(each)).toEqual(['own values', 50, 50, -25]);
  });

  it('keep what is said after one of them, and what is said after right and wrong', () => {
    const body = `<choiceInteraction responseIdentifier="RESPONSE" maxChoices="1"><simpleChoice identifier="A">a<feedbackInline outcomeIdentifier="F" identifier="A" showHide="show">So it is.</feedbackInline></simpleChoice><simpleChoice identifier="B">b</simpleChoice></choiceInteraction>`;
    const modal = (id: string, words: string): string =>
      `<modalFeedback outcomeIdentifier="FEEDBACK" identifier="${id}" showHide="show">${words}</modalFeedback>`;
    const outcome = '<outcomeDeclaration identifier="FEEDBACK" cardinality="single" baseType="identifier"/>';
    const flag = (id: string): string => set(`<baseValue baseType="identifier">${id}</baseValue>`, 'FEEDBACK');
    const read = item(
      declare('single', 'identifier', ['A']) + outcome,
      body,
      rules(when(`<match>${variable()}<correct identifier="RESPONSE"/></match>`, set(number(1)) + flag('x1'), flag('x2'))),
      modal('x1', '<p>Well.</p>') + modal('x2', 'Not so.') + modal('x3', 'Never.'),
    );
    const [question] = read.questions;
    expect([question?.feedback.right, question?.feedback.wrong].map((d) => plainText(d ?? null))).toEqual(['Well.', 'Not so.']);
    expect(question?.key.kind === 'single' && question.key.choices.map((c) => plainText(c.feedback))).toEqual(['So it is.', '']);
    expect(textsOf(read)).toEqual(['modalFeedback: The words “Never.” are shown by a rule that has no place here.']);
  });
});

describe('words and numbers', () => {
  const entry = '<p>Name it:</p><p><textEntryInteraction responseIdentifier="RESPONSE"/></p>';
  it('are read from mappings, rules and patterns, case and all', () => {
    const mapped = (more: string): unknown =>
      item(
        declare('single', 'string', ['lever'], `<mapping><mapEntry mapKey="lever" mappedValue="2" ${more}/><mapEntry mapKey="arm" mappedValue="1" ${more}/></mapping>`),
        entry,
        template('map_response'),
      ).questions[0]; // prettier-ignore
    const accepted = [
      { text: 'lever', isPattern: false, share: 100_000 },
      { text: 'arm', isPattern: false, share: 50_000 },
    ];
    expect(mapped('caseSensitive="false"')).toMatchObject({
      points: 2000,
      key: { kind: 'short', rules: { accepted, caseMatters: false } },
    });
    expect(mapped('')).toMatchObject({ key: { rules: { caseMatters: true } } });
    const matched = rules(
      when(`<stringMatch caseSensitive="false">${variable()}<baseValue baseType="string">fork</baseValue></stringMatch>`, set(number(1))),
      when(`<patternMatch pattern="p[ao]llet">${variable()}</patternMatch>`, set(number(0.5))),
    );
    expect(item(declare('single', 'string', []), entry, matched).questions[0]?.key).toMatchObject({
      rules: { caseMatters: false, accepted: [{ text: 'fork', share: 100_000 }, { text: 'p[ao]llet', isPattern: true, share: 50_000 }] },
    }); // prettier-ignore
  });

  it('with a tolerance each way it can be said', () => {
    const near = (test: string, correct = ['9.81']): unknown => {
      const { key } = item(declare('single', 'float', correct), entry, rules(when(test, set(number(1))))).questions[0] ?? {};
      return key?.kind === 'numeric' ? key.rules.accepted.map((a) => [a.value, a.tolerance]) : key;
    };
    const equal = (more: string): string => `<equal ${more}>${variable()}<correct identifier="RESPONSE"/></equal>`;
    expect(near(equal('toleranceMode="exact"'))).toEqual([['9.81', { kind: 'absolute', amount: '0' }]]);
    expect(near(equal('toleranceMode="absolute" tolerance="0.05 0.05"'))).toEqual([['9.81', { kind: 'absolute', amount: '0.05' }]]);
    expect(near(equal('toleranceMode="relative" tolerance="1"'))).toEqual([['9.81', { kind: 'relative', percent: '1' }]]);
    expect(near(`<equalRounded roundingMode="significantFigures" figures="3">${variable()}${number(0.0123)}</equalRounded>`, [])).toEqual([
      ['0.0123', { kind: 'significant', figures: 3 }],
    ]);
    expect(near(`<and><gte>${variable()}${number(2)}</gte><lte>${variable()}${number(3)}</lte></and>`, [])).toEqual([
      ['2.5', { kind: 'absolute', amount: '0.5' }],
    ]);
  });

  it('in a sentence are gaps, with weights by what each gives', () => {
    const gap = (id: string): string => `<textEntryInteraction responseIdentifier="${id}" expectedLength="8"/>`;
    const read = item(
      declare('single', 'string', ['lever'], mapping({ lever: 1 }), 'R1') +
        declare('single', 'string', ['train'], mapping({ train: 3 }), 'R2'),
      `<p>The ${gap('R1')} locks the ${gap('R2')}.</p>`,
      rules(set('<sum><mapResponse identifier="R1"/><mapResponse identifier="R2"/></sum>')),
    );
    const [question] = read.questions;
    expect(question?.key).toMatchObject({ kind: 'blanks', blanks: [{ id: 'n1', weight: 25_000 }, { id: 'n2', weight: 75_000 }] }); // prettier-ignore
    expect(plainText(question?.words ?? null)).toBe('The ____ locks the ____.');
    expect(question?.points).toBe(4000);
    const both = `<and>${['R1', 'R2'].map((r) => `<match>${variable(r)}<correct identifier="${r}"/></match>`).join('')}</and>`;
    const joint = item(
      declare('single', 'string', ['lever'], '', 'R1') + declare('single', 'string', ['train'], '', 'R2'),
      `<p>The ${gap('R1')} locks the ${gap('R2')}.</p>`,
      rules(when(both, set(number(1)))),
    );
    expect(joint.questions[0]?.key).toMatchObject({ blanks: [{ weight: 50_000, rules: { accepted: [{ text: 'lever' }] } }, { weight: 50_000 }] }); // prettier-ignore
    expect(textsOf(joint)).toEqual(['responseProcessing: It gave all of its points or none; here each place gives its share.']);
  });

  it('that are drawn are parameters, and the rest of the template is the formula', () => {
    const declared = ['x', 'step-size', 'area'].map(
      (t) => `<templateDeclaration identifier="${t}" cardinality="single" baseType="float"/>`,
    );
    const value = (id: string, inner: string): string => `<setTemplateValue identifier="${id}">${inner}</setTemplateValue>`;
    const drawn = `<templateProcessing>${value('x', '<randomInteger min="2" max="10" step="2"/>')}${value(
      'step-size',
      `<divide><randomInteger min="1" max="9"/>${number(10)}</divide>`,
    )}${value('area', `<product>${variable('x')}${variable('step-size')}</product>`)}<setCorrectResponse identifier="RESPONSE"><subtract>${variable(
      'area',
    )}${number(1)}</subtract></setCorrectResponse></templateProcessing>`;
    const body =
      '<p>With <printedVariable identifier="x"/> and <printedVariable identifier="step-size" format="%.2f"/>:</p><p><textEntryInteraction responseIdentifier="RESPONSE"/></p>';
    const near = rules(when(`<equal toleranceMode="relative" tolerance="2 2">${variable()}<correct identifier="RESPONSE"/></equal>`, set(number(1)))); // prettier-ignore
    const read = item(declare('single', 'float', []) + declared.join('') + drawn, body, near);
    expect(read.questions[0]?.key).toMatchObject({
      kind: 'calculated',
      question: {
        formula: '(x * value2) - 1',
        parameters: [
          { name: 'x', from: '2', to: '10', step: '2', decimals: 0 },
          { name: 'value2', from: '0.1', to: '0.9', step: '0.1', decimals: 2 },
        ],
        tolerance: { kind: 'relative', percent: '2' },
      },
    });
    expect(plainText(read.questions[0]?.words ?? null)).toBe('With {x} and {value2}:');
  });
});

describe('every other interaction', () => {
  it('becomes the question that is nearest to it, and that is said', () => {
    const hot = item(
      declare('single', 'identifier', ['B']),
      '<hottextInteraction responseIdentifier="RESPONSE" maxChoices="1"><p>The <hottext identifier="A">quick</hottext> fox <hottext identifier="B">jump</hottext> over.</p></hottextInteraction>',
      template('match_correct'),
    );
    expect(plainText(hot.questions[0]?.words ?? null)).toBe('The quick fox jump over.');
    expect(shares(hot)).toEqual([0, 100]);
    const pick = item(
      declare('single', 'identifier', ['B']),
      '<p>It <inlineChoiceInteraction responseIdentifier="RESPONSE"><inlineChoice identifier="A">is</inlineChoice><inlineChoice identifier="B">are</inlineChoice></inlineChoiceInteraction> so.</p>',
      template('match_correct'),
    );
    expect(plainText(pick.questions[0]?.words ?? null)).toBe('It ____ (is / are) so.');
    expect(pick.questions[0]?.key).toMatchObject({ kind: 'blanks', blanks: [{ weight: 100_000, rules: { accepted: [{ text: 'are', share: 100_000 }] } }] }); // prettier-ignore
    const gaps = item(
      declare('multiple', 'directedPair', ['W G1', 'S G2'], mapping({ 'W G1': 1, 'S G2': 1 })),
      '<gapMatchInteraction responseIdentifier="RESPONSE"><gapText identifier="W">winter</gapText><gapText identifier="S">summer</gapText><p>Now is the <gap identifier="G1"/> and then <gap identifier="G2"/>.</p></gapMatchInteraction>',
      template('map_response'),
    );
    expect(plainText(gaps.questions[0]?.words ?? null)).toBe('Now is the ____ and then ____.\nwinter · summer');
    expect(gaps.questions[0]?.key).toMatchObject({ blanks: [{ rules: { accepted: [{ text: 'winter' }] } }, { rules: { accepted: [{ text: 'summer' }] } }] }); // prettier-ignore
    const pairs = item(
      declare('multiple', 'pair', ['A B', 'C D'], mapping({ 'A B': 1, 'C D': 1 })),
      `<associateInteraction responseIdentifier="RESPONSE">${['A', 'B', 'C', 'D', 'E'].map((c) => `<simpleAssociableChoice identifier="${c}" matchMax="1">${c.toLowerCase()}</simpleAssociableChoice>`).join('')}</associateInteraction>`,
      template('map_response'),
    );
    expect(pairs.questions[0]?.key).toMatchObject({ pairs: [{ left: 'a', right: 'b' }, { left: 'c', right: 'd' }, { left: '', right: 'e' }] }); // prettier-ignore
    const slider = item(
      declare('single', 'integer', ['16']),
      '<sliderInteraction responseIdentifier="RESPONSE" lowerBound="0" upperBound="30"><prompt>How many?</prompt></sliderInteraction>',
      template('match_correct'),
    );
    expect(slider.questions[0]?.key).toMatchObject({ kind: 'numeric', rules: { accepted: [{ value: '16' }] } });
    const draw = item(declare('single', 'file', []), '<drawingInteraction responseIdentifier="RESPONSE"/>');
    expect(draw.questions[0]?.key).toEqual({ kind: 'file' });
    const told = [hot, pick, gaps, pairs, slider, draw].map((r) => r.problems[0]?.element);
    expect(told).toEqual(['hottextInteraction', 'inlineChoiceInteraction', 'gapMatchInteraction', 'associateInteraction', 'sliderInteraction', 'drawingInteraction']); // prettier-ignore
  });

  it('of places in a picture is a picture with regions', () => {
    const picture = '<object data="img/map.png" type="image/png" width="200" height="100">A map</object>';
    const spots = item(
      declare('single', 'identifier', ['A']),
      `<hotspotInteraction responseIdentifier="RESPONSE" maxChoices="1">${picture}<hotspotChoice identifier="A" shape="circle" coords="50,50,10"/><hotspotChoice identifier="B" shape="rect" coords="0,0,20,20"/></hotspotInteraction>`,
      template('match_correct'),
    );
    expect(spots.questions[0]).toMatchObject({
      picture: { fileId: 'f1', alt: 'A map' },
      key: {
        kind: 'hotspot',
        regions: [{ share: 100_000, region: { shape: 'ellipse', centre: { x: 0.25, y: 0.5 }, radius: { x: 0.05, y: 0.1 } } }],
      },
    });
    const several = `<hotspotInteraction responseIdentifier="RESPONSE" maxChoices="2">${picture}</hotspotInteraction>`;
    expect(() => item(declare('multiple', 'identifier', ['A', 'B']), several, template('match_correct'))).toThrow(
      'one can be pointed at here',
    );
    const sizeless = `<selectPointInteraction responseIdentifier="RESPONSE"><img src="map.png" alt=""/></selectPointInteraction>`;
    expect(() => item(declare('single', 'point', ['1 2']), sizeless)).toThrow('does not say its width and height');
  });

  it('of several things at once is a question for each, with the words around them shared', () => {
    const read = item(
      declare('single', 'identifier', ['A'], '', 'R1') + declare('single', 'string', [], '', 'R2'),
      '<p>Read this letter.</p><choiceInteraction responseIdentifier="R1" maxChoices="1"><prompt>Who?</prompt><simpleChoice identifier="A">a</simpleChoice><simpleChoice identifier="B">b</simpleChoice></choiceInteraction><extendedTextInteraction responseIdentifier="R2"><prompt>Why?</prompt></extendedTextInteraction>',
    );
    expect(read.questions.map((q) => [q.title, q.key.kind, plainText(q.words), plainText(q.stimulus?.document ?? null)])).toEqual([
      ['An item 1', 'single', 'Who?', 'Read this letter.'],
      ['An item 2', 'essay', 'Why?', 'Read this letter.'],
    ]);
    expect(textsOf(read)).toEqual(['itemBody: It asks 2 things at once; each came in as a question of its own.']);
  });

  it('is read without what stands around it, and that is named', () => {
    const around = '<stylesheet href="a.css" type="text/css"/><catalogInfo/><mathTools/>';
    const body =
      '<rubricBlock view="scorer"><p>Two points for a date.</p></rubricBlock><extendedTextInteraction responseIdentifier="RESPONSE"/>';
    expect(textsOf(item(declare('single', 'string', []), body, '', around))).toEqual([
      'stylesheet: Its styles were left out; questions look as everything here does.',
      'catalogInfo: Other forms of its words (spoken, signed, translated) were left out.',
      'mathTools: This part of an item is not understood; it was left out.',
      'rubricBlock: Words for whoever scores were left out: “Two points for a date.”.',
    ]);
  });

  it('is named where it has no place, or where nothing can be made of it', () => {
    const refused =
      (body: string, declared = declare('single', 'identifier', [])): (() => unknown) =>
      () =>
        item(declared, body);
    expect(refused('<positionObjectStage/>')).toThrow('There is no interaction in it');
    expect(refused('<mediaInteraction responseIdentifier="RESPONSE"/>')).toThrow('Questions of this kind have no place here.');
    expect(refused('<choiceInteraction responseIdentifier="OTHER"/>')).toThrow('names the response “OTHER”, which is not declared');
    expect(() => readItem(parsed('<assessment/>'), sources())).toThrow('This is no item');
    expect(() => readItem(parsed('<assessmentItem/>'), sources())).toThrow('The item has none');
    const two = declare('multiple', 'directedPair', ['A X', 'A Y', 'B X']);
    const set = (names: string): string =>
      `<simpleMatchSet>${[...names].map((n) => `<simpleAssociableChoice identifier="${n}">${n}</simpleAssociableChoice>`).join('')}</simpleMatchSet>`;
    expect(refused(`<matchInteraction responseIdentifier="RESPONSE">${set('AB')}${set('XY')}</matchInteraction>`, two)).toThrow('One thing belongs to several'); // prettier-ignore
    const keyless = item(declare('single', 'identifier', []), choices(['A', 'B']), template('match_correct'));
    expect(textsOf(keyless)).toEqual(['responseDeclaration: No answer gives anything: the key is missing. Give the question its key.']);
    const endless = rules(when(`<randomInteger max="4"/>`, set('')));
    expect(() => item(declare('single', 'identifier', ['A']), choices(['A', 'B']), endless)).toThrow('not understood in the processing');
  });
});

describe('a test', () => {
  it('gives its sections, draws and weights, and names what has no place', () => {
    const ref = (n: number, more = ''): string =>
      `<assessmentItemRef identifier="r${n}" href="../items/${n}.xml">${more}</assessmentItemRef>`;
    const xml = `<qti-assessment-test identifier="t" title="Final"><qti-time-limits max-time="2700"/><qti-test-part navigation-mode="nonlinear" submission-mode="simultaneous" identifier="p">
      <qti-assessment-section identifier="a" title="One" visible="true"><qti-ordering shuffle="true"/><qti-rubric-block view="candidate scorer" use="instructions"><p>Answer all.</p></qti-rubric-block>
        <qti-assessment-item-ref identifier="r1" href="../items/1.xml"><qti-weight identifier="w" value="2.5"/></qti-assessment-item-ref>
        <qti-assessment-section identifier="b" title="" visible="false"><qti-selection select="2"/><qti-assessment-item-ref identifier="r2" href="../items/2.xml"/><qti-assessment-item-ref identifier="r3" href="../items/3.xml"/><qti-assessment-item-ref identifier="r4" href="../items/4.xml"/></qti-assessment-section>
      </qti-assessment-section></qti-test-part></qti-assessment-test>`;
    const { test, problems } = readTest(parsed(xml), 'tests/t.xml');
    expect(problems).toEqual([]);
    expect(test).toMatchObject({ title: 'Final', limitMinutes: 45, mayGoBack: true });
    expect(test.sections).toEqual([
      {
        ...{ title: 'One', instructions: 'Answer all.', isShuffled: true },
        parts: [
          { items: ['items/1.xml'], count: null, weight: 2.5 },
          { items: ['items/2.xml', 'items/3.xml', 'items/4.xml'], count: 2, weight: 1 },
        ],
      },
    ]);
    const odd = `<assessmentTest title="t"><testPart navigationMode="linear"><assessmentSection identifier="a" title="A"><branchRule target="EXIT_TEST"/>${ref(1)}<timeLimits maxTime="60"/><assessmentSection identifier="b" title="B">${ref(2)}</assessmentSection></assessmentSection></testPart><outcomeProcessing><setOutcomeValue identifier="PASS"><gte/></setOutcomeValue></outcomeProcessing><testFeedback>Bye.</testFeedback></assessmentTest>`;
    expect(readTest(parsed(odd), 'tests/t.xml').problems.map((p) => p.element)).toEqual(['branchRule', 'timeLimits', 'assessmentSection', 'outcomeProcessing', 'testFeedback']); // prettier-ignore
    expect(() => readTest(parsed('<assessmentItem/>'), 't.xml')).toThrow('This is no test');
  });
});

describe('a manifest', () => {
  it('names items with what is known of them, and is refused where it asks nothing', () => {
    const xml = `<manifest xmlns:imsmd="x"><resources><resource identifier="r" type="imsqti_item_xmlv2p2" href="a/b%20c.xml"><metadata><imsmd:lom><imsmd:general><imsmd:title><imsmd:langstring>The lock</imsmd:langstring></imsmd:title><imsmd:keyword><imsmd:string>train</imsmd:string></imsmd:keyword></imsmd:general><imsmd:educational><imsmd:difficulty><imsmd:value>very difficult</imsmd:value></imsmd:difficulty></imsmd:educational></imsmd:lom></metadata><file href="a/b%20c.xml"/><file href="img/x.png"/></resource><resource identifier="z" type="imsbasiclti_xmlv1p0" href="t.xml"/></resources></manifest>`;
    const read = readQtiManifest(xml);
    if (!read.ok) throw new Error(read.reason);
    expect(read.manifest.resources[0]).toMatchObject({
      what: 'item',
      path: 'a/b c.xml',
      files: ['img/x.png'],
      title: 'The lock',
      tags: ['train'],
      level: 'hard',
    });
    expect(read.manifest.problems).toEqual(['Resources of the type “imsbasiclti_xmlv1p0” were left out.']);
    expect(readQtiManifest('<course/>')).toEqual({ ok: false, reason: 'The manifest begins with <course>, not with <manifest>.' });
    expect(readQtiManifest('<manifest><resources/></manifest>')).toMatchObject({
      ok: false,
      reason: expect.stringContaining('no items and no tests'),
    });
    expect(readQtiManifest('<!DOCTYPE x><manifest/>')).toMatchObject({ ok: false });
  });
});
