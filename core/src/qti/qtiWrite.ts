import type { DocumentNode } from '../document/plainText.ts';
import { toBody, type BodyTargets } from './qtiBody.ts';
import { float } from './qtiFormula.ts';
import { correctOf, ItemWriter, setScore, variable, type Parts, type QtiQuestion, type QtiTargets } from './qtiParts.ts';
import { h, q, writeQtiXml, type QtiNode, type QtiVersion } from './qtiTree.ts';

export interface QtiWritten {
  readonly xml: string;
  /** What the standard has no words for: kept for Rosemary beside the item, and lost to others. */
  readonly losses: readonly string[];
}

const NAMESPACES: Readonly<Record<QtiVersion, string>> = {
  '2.1': 'http://www.imsglobal.org/xsd/imsqti_v2p1',
  '2.2': 'http://www.imsglobal.org/xsd/imsqti_v2p2',
  '3.0': 'http://www.imsglobal.org/xsd/imsqtiasi_v3p0',
};
/** The name space of items, tests and shared texts of a version. */
export const qtiNamespace = (version: QtiVersion): string => NAMESPACES[version];
const TEMPLATES: Readonly<Record<QtiVersion, string>> = {
  '2.1': 'http://www.imsglobal.org/question/qti_v2p1/rptemplates/',
  '2.2': 'http://www.imsglobal.org/question/qti_v2p2/rptemplates/',
  '3.0': 'https://purl.imsglobal.org/spec/qti/v3p0/rptemplates/',
};
const identifier = (text: string): QtiNode => q('baseValue', { baseType: 'identifier' }, text);

/** The same rules as a template says in one word, so that feedback can follow them. */
function rulesOf(scoring: Exclude<Parts['scoring'], null>): readonly QtiNode[] {
  if (typeof scoring !== 'string') return scoring;
  if (scoring === 'map_response_point') return [setScore(q('mapResponsePoint', { identifier: 'RESPONSE' }))];
  if (scoring === 'map_response') return [setScore(q('mapResponse', { identifier: 'RESPONSE' }))];
  return [
    q(
      'responseCondition',
      {},
      q('responseIf', {}, q('match', {}, variable('RESPONSE'), correctOf('RESPONSE')), setScore(float(1))),
      q('responseElse', {}, setScore(float(0))),
    ),
  ];
}

const SAID = { right: 'right', wrong: 'wrong', general: 'always' } as const;

/**
 * A question as an item of QTI: its words, its key with the standard's own templates where one says it, its feedback. Scores are shares of 1;
 * a test gives their weight. What the standard cannot say is named.
 * Worked example: a single choice with one right answer is a `choiceInteraction` with the template `match_correct`.
 */
export function writeItem(question: QtiQuestion, to: QtiTargets): QtiWritten {
  const writer = new ItemWriter(question, to);
  const parts = writer.parts();
  const { key, feedback, stimulus } = question;
  const hasChoiceFeedback = 'choices' in key && key.choices.some((c) => c.feedback !== null);
  const said = (Object.keys(SAID) as (keyof typeof SAID)[]).filter((when) => feedback[when] !== null);
  const isMarked = parts.scoring === null;
  const feedbackRules = [
    ...(hasChoiceFeedback ? [q('setOutcomeValue', { identifier: 'CHOSEN' }, variable('RESPONSE'))] : []),
    ...(said.length === 0
      ? []
      : [
          q(
            'responseCondition',
            {},
            q(
              'responseIf',
              {},
              q('gte', {}, variable('SCORE'), float(1)),
              q('setOutcomeValue', { identifier: 'FEEDBACK' }, q('multiple', {}, identifier('right'), identifier('always'))),
            ),
            q(
              'responseElse',
              {},
              q('setOutcomeValue', { identifier: 'FEEDBACK' }, q('multiple', {}, identifier('wrong'), identifier('always'))),
            ),
          ),
        ]),
  ];
  const processing =
    parts.scoring === null && feedbackRules.length === 0
      ? null
      : typeof parts.scoring === 'string' && feedbackRules.length === 0
        ? q('responseProcessing', { template: `${TEMPLATES[to.version]}${parts.scoring}${to.version === '3.0' ? '.xml' : ''}` })
        : q('responseProcessing', {}, ...(parts.scoring === null ? [] : rulesOf(parts.scoring)), ...feedbackRules);
  const isMulti = key.kind === 'several';
  const isShared = stimulus !== null && to.version !== '2.1';
  const shared =
    stimulus === null || isShared
      ? []
      : [h('div', { class: 'stimulus', id: stimulus.id }, ...(stimulus.title === '' ? [] : [h('p', { class: 'stimulus-title' }, stimulus.title)]), ...writer.says(stimulus.document))]; // prettier-ignore
  const root = q(
    'assessmentItem',
    {
      xmlns: NAMESPACES[to.version],
      identifier: question.id,
      title: question.title,
      adaptive: false,
      timeDependent: false,
    },
    ...parts.declarations,
    q(
      'outcomeDeclaration',
      {
        identifier: 'SCORE',
        cardinality: 'single',
        baseType: 'float',
        normalMaximum: 1,
        externalScored: isMarked && to.version !== '2.1' ? 'human' : null,
      },
      q('defaultValue', {}, q('value', {}, '0')),
    ),
    q(
      'outcomeDeclaration',
      { identifier: 'MAXSCORE', cardinality: 'single', baseType: 'float' },
      q('defaultValue', {}, q('value', {}, '1')),
    ),
    said.length === 0 ? null : q('outcomeDeclaration', { identifier: 'FEEDBACK', cardinality: 'multiple', baseType: 'identifier' }),
    hasChoiceFeedback
      ? q('outcomeDeclaration', { identifier: 'CHOSEN', cardinality: isMulti ? 'multiple' : 'single', baseType: 'identifier' })
      : null,
    ...(parts.templates ?? []),
    parts.templateProcessing === undefined ? null : q('templateProcessing', {}, ...parts.templateProcessing),
    isShared
      ? q('assessmentStimulusRef', { identifier: stimulus.id, href: `../stimuli/${stimulus.id}.xml`, title: stimulus.title || null })
      : null,
    q('itemBody', {}, ...shared, ...parts.body),
    processing,
    ...said.map((when) => {
      const inside = writer.says(feedback[when]);
      const own = to.version === '3.0' ? [q('contentBody', {}, ...inside)] : inside;
      return q('modalFeedback', { outcomeIdentifier: 'FEEDBACK', identifier: SAID[when], showHide: 'show' }, ...own);
    }),
  );
  return { xml: writeQtiXml(root, to.version), losses: parts.losses ?? [] };
}

/** A text that several questions share, as a document of its own (from version 2.2 on). */
export function writeStimulus(
  stimulus: { readonly id: string; readonly title: string; readonly document: DocumentNode },
  to: QtiTargets,
): string {
  const body: BodyTargets = { version: to.version, file: to.file, placeOf: () => h('span') };
  return writeQtiXml(
    q(
      'assessmentStimulus',
      { xmlns: NAMESPACES[to.version], identifier: stimulus.id, title: stimulus.title },
      q('stimulusBody', {}, ...toBody(stimulus.document, body)),
    ),
    to.version,
  );
}
