import { plainText, type DocumentNode } from '../document/plainText.ts';
import { pathFrom } from '../exchange/cartridge.ts';
import { toBody, type BodyTargets } from './qtiBody.ts';
import { Unread } from './qtiFormula.ts';
import { attr, allNamed, childNamed, childrenNamed, h, nodesIn, q, readQtiXml, wordsIn, writeQtiXml, type QtiChild, type QtiNode, type QtiVersion } from './qtiTree.ts'; // prettier-ignore
import type { QtiProblem } from './qtiReadKey.ts';
import { qtiNamespace } from './qtiWrite.ts';

/**
 * Packages of questions: `imsmanifest.xml` at the root names the items, tests and shared texts, each with its files and what is known of it.
 * Source: 1EdTech QTI 2.1, 2.2 and 3.0, Packaging (profiles of IMS Content Packaging 1.1 and 1.2).
 */
const PACKAGES: Readonly<Record<QtiVersion, { readonly xmlns: string; readonly schema: string; readonly version: string }>> = {
  '2.1': { xmlns: 'http://www.imsglobal.org/xsd/imscp_v1p1', schema: 'QTIv2.1 Package', version: '1.0.0' },
  '2.2': { xmlns: 'http://www.imsglobal.org/xsd/imscp_v1p1', schema: 'QTIv2.2 Package', version: '1.0.0' },
  '3.0': { xmlns: 'http://www.imsglobal.org/xsd/qti/qtiv3p0/imscp_v1p1', schema: 'QTI Package', version: '3.0.0' },
};
/** What Rosemary keeps beside an item that the standard has no words for; it holds as long as the item's file is as it was written. */
export const OWN_FORM = 'urn:rosemary:question:1';
const typeOf = (what: 'item' | 'test' | 'stimulus', version: QtiVersion): string => `imsqti_${what}_xmlv${version.replace('.', 'p')}`;
const LEVELS = { easy: 'easy', medium: 'medium', hard: 'difficult' } as const;
type Level = keyof typeof LEVELS;

export interface QtiResource {
  readonly id: string;
  readonly what: 'item' | 'test' | 'stimulus' | 'file';
  readonly path: string;
  /** Pictures and sounds that it shows. */
  readonly files: readonly string[];
  readonly title: string;
  readonly tags: readonly string[];
  readonly objectives: readonly string[];
  readonly level: Level | null;
  /** Identifiers of resources it rests on. */
  readonly needs: readonly string[];
  /** Our own form of it, with the check sum of the file it was made for. */
  readonly own: { readonly sum: string; readonly json: string } | null;
}

function lomOf(r: QtiResource): QtiNode | null {
  if (r.what === 'file') return null;
  const said = (text: string): QtiNode => h('lom:string', { language: 'x-none' }, text);
  const objectives = r.objectives.map((code) =>
    h(
      'lom:classification',
      {},
      h('lom:purpose', {}, h('lom:source', {}, 'LOMv1.0'), h('lom:value', {}, 'educational objective')),
      h('lom:keyword', {}, said(code)),
    ),
  );
  const level =
    r.level === null
      ? []
      : [h('lom:educational', {}, h('lom:difficulty', {}, h('lom:source', {}, 'LOMv1.0'), h('lom:value', {}, LEVELS[r.level])))];
  return h(
    'lom:lom',
    {},
    h(
      'lom:general',
      {},
      ...(r.title === '' ? [] : [h('lom:title', {}, said(r.title))]),
      ...r.tags.map((tag) => h('lom:keyword', {}, said(tag))),
    ),
    ...level,
    ...objectives,
  );
}

/** The manifest of a package. Worked example: one item with one picture is two resources, the second a need of the first. */
export function writeQtiManifest(id: string, resources: readonly QtiResource[], version: QtiVersion): string {
  const { xmlns, schema, version: schemaVersion } = PACKAGES[version];
  const nodes = resources.map((r) => {
    const own = r.own === null ? null : h('own:question', { 'xmlns:own': OWN_FORM, sum: r.own.sum }, r.own.json);
    const lom = lomOf(r);
    return h(
      'resource',
      {
        identifier: r.id,
        type: r.what === 'file' ? 'webcontent' : typeOf(r.what, version),
        href: r.path,
      },
      lom === null && own === null ? null : h('metadata', {}, lom, own),
      ...[r.path, ...r.files].map((href) => h('file', { href: href.split('/').map(encodeURIComponent).join('/') })),
      ...r.needs.map((need) => h('dependency', { identifierref: need })),
    );
  });
  return writeQtiXml(
    h(
      'manifest',
      { xmlns, 'xmlns:lom': 'http://ltsc.ieee.org/xsd/LOM', identifier: id },
      h('metadata', {}, h('schema', {}, schema), h('schemaversion', {}, schemaVersion)),
      h('organizations'),
      h('resources', {}, ...nodes),
    ),
    version,
  );
}

export interface QtiManifest {
  readonly resources: readonly QtiResource[];
  readonly problems: readonly string[];
}
const levelOf = (word: string): Level | null =>
  word === 'difficult' || word === 'very difficult' ? 'hard' : word === 'easy' || word === 'very easy' ? 'easy' : word === 'medium' ? 'medium' : null; // prettier-ignore
const langWords = (node: QtiNode): string =>
  wordsIn(childrenNamed(node, 'string', 'langstring')[0] ?? node)
    .trim()
    .replace(/\s+/g, ' ');

function readResource(node: QtiNode): QtiResource {
  const type = attr(node, 'type');
  const what = /^imsqti_(item|test|stimulus|assessment)_xmlv\d/.exec(type)?.[1];
  const files = childrenNamed(node, 'file').map((f) => pathFrom('', attr(f, 'href')) ?? '');
  const path = pathFrom('', attr(node, 'href')) ?? files.find((f) => f.endsWith('.xml')) ?? files[0] ?? '';
  const metadata = childNamed(node, 'metadata');
  const lom = childNamed(metadata, 'lom');
  const general = childNamed(lom, 'general');
  const own = childNamed(metadata, 'question');
  return {
    id: attr(node, 'identifier'),
    what: what === 'assessment' ? 'test' : what === 'item' || what === 'test' || what === 'stimulus' ? what : 'file',
    path,
    files: files.filter((f) => f !== path && f !== ''),
    title: childrenNamed(general, 'title').map(langWords)[0] ?? '',
    tags: childrenNamed(general, 'keyword').map(langWords).filter((t) => t !== ''), // prettier-ignore
    objectives: childrenNamed(lom, 'classification')
      .filter((c) => /objective|competency/.test(wordsIn(childNamed(c, 'purpose', 'value'))))
      .flatMap((c) => childrenNamed(c, 'keyword').map(langWords))
      .filter((t) => t !== ''),
    level: levelOf(wordsIn(childNamed(lom, 'educational', 'difficulty', 'value')).trim()),
    needs: childrenNamed(node, 'dependency').map((d) => attr(d, 'identifierref')),
    own: own === undefined ? null : { sum: attr(own, 'sum'), json: wordsIn(own) },
  };
}

/** Reads a manifest; what is no manifest or names nothing to ask is refused with its reason. */
export function readQtiManifest(
  xml: string,
): { readonly ok: true; readonly manifest: QtiManifest } | { readonly ok: false; readonly reason: string } {
  const read = readQtiXml(xml);
  if (!read.ok) return { ok: false, reason: `The manifest cannot be read: ${read.reason}.` };
  if (read.root.name !== 'manifest') return { ok: false, reason: `The manifest begins with <${read.root.name}>, not with <manifest>.` };
  const all = childrenNamed(childNamed(read.root, 'resources'), 'resource').map(readResource);
  const asks = all.filter((r) => r.what === 'item' || r.what === 'test');
  if (asks.length === 0)
    return { ok: false, reason: 'The manifest names no items and no tests of QTI 2 or 3, so there is nothing to take in.' };
  const strange = childrenNamed(childNamed(read.root, 'resources'), 'resource')
    .map((r) => attr(r, 'type'))
    .filter((type) => !/^(imsqti_(item|test|stimulus|assessment)_|webcontent|associatedcontent\/|controlfile\/|css3?$|resourcelib|imsqti_(rp|op)template|imsqti_outcomes|imsqti_section|imsqti_fragment)/.test(type)); // prettier-ignore
  const problems = [...new Set(strange)].map((type) => `Resources of the type “${type.slice(0, 80)}” were left out.`);
  return { ok: true, manifest: { resources: all, problems } };
}

/** A place of a section: one item, or so many drawn of several. */
export interface QtiTestPart {
  /** Paths of items, as seen from the root of the package. */
  readonly items: readonly string[];
  readonly count: number | null;
  /** What each is worth: times what the item is worth by itself. */
  readonly weight: number;
}
export interface QtiTest {
  readonly title: string;
  readonly instructions: readonly QtiChild[];
  readonly sections: readonly {
    readonly title: string;
    readonly instructions: string;
    readonly isShuffled: boolean;
    readonly parts: readonly QtiTestPart[];
  }[];
  readonly limitMinutes: number | null;
  readonly mayGoBack: boolean;
}
export interface QtiTestWish extends Omit<QtiTest, 'instructions'> {
  readonly id: string;
  readonly instructions: DocumentNode;
}
const OPENING = 'rosemary-instructions';

/** A quiz as a test: its sections, a draw as a section of which so many are selected, points as weights. */
export function writeTest(test: QtiTestWish, version: QtiVersion, file: BodyTargets['file']): string {
  let n = 0;
  const refs = (part: QtiTestPart): QtiNode[] =>
    part.items.map((path) => {
      n += 1;
      return q(
        'assessmentItemRef',
        { identifier: `ref_${n}`, href: `../${path}` },
        q('weight', { identifier: 'POINTS', value: String(part.weight) }),
      );
    });
  const instructions = toBody(test.instructions, { version, file, placeOf: () => h('span') });
  const use = version === '3.0' ? 'instructions' : null;
  const rubric = (children: readonly QtiChild[], name: string | null): QtiNode => {
    const inside = version === '3.0' ? [q('contentBody', {}, ...children)] : children;
    return q('rubricBlock', { view: 'candidate', use, class: name }, ...inside);
  };
  const sections = test.sections.map((s, k) => {
    const parts = s.parts.flatMap((part, m): QtiNode[] => {
      if (part.count === null) return refs(part);
      const id = `section_${k + 1}_draw_${m + 1}`;
      return [
        q(
          'assessmentSection',
          { identifier: id, title: '', visible: false },
          q('selection', { select: part.count }),
          q('ordering', { shuffle: true }),
          ...refs(part),
        ),
      ];
    });
    return q(
      'assessmentSection',
      { identifier: `section_${k + 1}`, title: s.title, visible: true },
      s.isShuffled ? q('ordering', { shuffle: true }) : null,
      k === 0 && plainText(test.instructions).trim() !== '' ? rubric(instructions, OPENING) : null,
      s.instructions === '' ? null : rubric([h('p', {}, s.instructions)], null),
      ...parts,
    );
  });
  const outcome = q(
    'outcomeProcessing',
    {},
    q(
      'setOutcomeValue',
      { identifier: 'SCORE' },
      q('sum', {}, q('testVariables', { variableIdentifier: 'SCORE', weightIdentifier: 'POINTS' })),
    ),
  );
  return writeQtiXml(
    q(
      'assessmentTest',
      { xmlns: qtiNamespace(version), identifier: test.id, title: test.title },
      q('outcomeDeclaration', { identifier: 'SCORE', cardinality: 'single', baseType: 'float' }),
      test.limitMinutes === null ? null : q('timeLimits', { maxTime: test.limitMinutes * 60 }),
      q(
        'testPart',
        { identifier: 'part_1', navigationMode: test.mayGoBack ? 'nonlinear' : 'linear', submissionMode: 'simultaneous' },
        ...sections,
      ),
      outcome,
    ),
    version,
  );
}

const inside = (node: QtiNode | undefined): readonly QtiNode[] => nodesIn(node).flatMap((child) => [child, ...inside(child)]);

interface SectionRead {
  readonly title: string;
  readonly instructions: string;
  readonly isShuffled: boolean;
  readonly parts: readonly QtiTestPart[];
}

/** Reads a test; `path` is where it stands, for the addresses of its items are seen from there. */
export function readTest(root: QtiNode, path: string): { readonly test: QtiTest; readonly problems: readonly QtiProblem[] } {
  if (root.name !== 'assessmentTest') throw new Unread(root.name, 'This is no test: a test begins with assessmentTest.');
  const problems: QtiProblem[] = [];
  const note = (element: string, text: string): void => {
    if (!problems.some((p) => p.element === element && p.text === text)) problems.push({ element, text });
  };
  let opening: readonly QtiChild[] = [];
  const pathOf = (ref: QtiNode): string => pathFrom(path, attr(ref, 'href')) ?? '';
  const weightOf = (ref: QtiNode): number => {
    const value = Number(attr(childNamed(ref, 'weight'), 'value') || '1');
    return Number.isFinite(value) && value >= 0 ? value : 1;
  };
  const isShuffled = (node: QtiNode): boolean => attr(childNamed(node, 'ordering'), 'shuffle') === 'true';
  const drawOf = (node: QtiNode): QtiTestPart[] => {
    const all = allNamed(node, 'assessmentItemRef');
    const weights = [...new Set(all.map(weightOf))];
    if (weights.length > 1) note('weight', 'Items of which some are drawn have to be worth the same; the first weight is taken for all.');
    const count = Math.min(all.length, Number(attr(childNamed(node, 'selection'), 'select')) || 1);
    return all.length === 0 ? [] : [{ items: all.map(pathOf), count, weight: weights[0] ?? 1 }];
  };
  const partsOf = (node: QtiNode): QtiTestPart[] =>
    nodesIn(node).flatMap((child): QtiTestPart[] => {
      switch (child.name) {
        case 'assessmentItemRef':
          return [{ items: [pathOf(child)], count: null, weight: weightOf(child) }];
        case 'assessmentSection':
          if (childNamed(child, 'selection') !== undefined) return drawOf(child);
          note('assessmentSection', 'A section within a section came in as a part of the outer one.');
          return partsOf(child);
        case 'preCondition':
        case 'branchRule':
          note(child.name, 'What is asked next does not hang on an answer here; the rule was left out.');
          return [];
        case 'timeLimits':
          note('timeLimits', 'A time for one section has no place here; only that of the whole test is kept.');
          return [];
        case 'assessmentSectionRef':
          note('assessmentSectionRef', 'A section that stands in a file of its own was left out.');
          return [];
        default:
          return [];
      }
    });
  const instructionsOf = (node: QtiNode): string => {
    const blocks = childrenNamed(node, 'rubricBlock').filter((r) => attr(r, 'view') === '' || /candidate/.test(attr(r, 'view')));
    const [own] = blocks.filter((r) => attr(r, 'class') === OPENING);
    if (own !== undefined) opening = childNamed(own, 'contentBody')?.children ?? own.children;
    return blocks
      .filter((r) => r !== own)
      .map((r) => wordsIn(r).replace(/\s+/g, ' ').trim())
      .join('\n');
  };
  const sections = childrenNamed(root, 'testPart').flatMap((part) =>
    childrenNamed(part, 'assessmentSection').map((s): SectionRead => ({
      title: attr(s, 'title'),
      instructions: instructionsOf(s),
      isShuffled: isShuffled(s),
      parts: childNamed(s, 'selection') === undefined ? partsOf(s) : drawOf(s),
    })),
  );
  const limit = Number(attr(childNamed(root, 'timeLimits'), 'maxTime'));
  const modes = childrenNamed(root, 'testPart').map((p) => attr(p, 'navigationMode'));
  const sums = new Set(['setOutcomeValue', 'sum', 'testVariables']);
  const scoring = childNamed(root, 'outcomeProcessing');
  if (inside(scoring).some((n) => !sums.has(n.name)))
    note('outcomeProcessing', 'The score of a quiz is the sum of its questions here, whatever else was worked out.');
  if (allNamed(root, 'itemSessionControl').length > 0)
    note('itemSessionControl', 'How often single items may be tried, and what is shown of them, is set for the whole quiz here.');
  for (const feedback of childrenNamed(root, 'testFeedback'))
    note('testFeedback', `The words “${wordsIn(feedback).trim().slice(0, 60)}” were left out.`);
  return {
    test: {
      title: attr(root, 'title'),
      instructions: opening,
      sections,
      limitMinutes: Number.isFinite(limit) && limit > 0 ? Math.max(1, Math.round(limit / 60)) : null,
      mayGoBack: !modes.includes('linear'),
    },
    problems,
  };
}

/** Our own form of a question for the manifest: its documents as they are, each file by its path in the package. */
export function ownForm<T>(value: T, pathOf: (fileId: string) => string | null): string {
  return JSON.stringify(value, (key, held: unknown) => {
    if (key === 'src' || key === 'captionsSrc') return '';
    return (key === 'fileId' || key === 'captionsId') && typeof held === 'string' && held !== '' ? (pathOf(held) ?? '') : held;
  });
}
/** Reads {@link ownForm} again, with the files where they are now; null where it is not of that form. */
export function fromOwnForm(json: string, fileAt: (path: string) => { readonly fileId: string; readonly src: string } | null): unknown {
  const place = (value: unknown): unknown => {
    if (Array.isArray(value)) return value.map(place);
    if (typeof value !== 'object' || value === null) return value;
    const held = Object.fromEntries(Object.entries(value).map(([key, inner]) => [key, place(inner)]));
    const { fileId, captionsId } = held;
    const file = typeof fileId === 'string' && fileId !== '' ? fileAt(fileId) : null;
    const captions = typeof captionsId === 'string' && captionsId !== '' ? fileAt(captionsId) : null;
    return {
      ...held,
      ...(typeof fileId === 'string' ? { fileId: file?.fileId ?? '', src: file?.src ?? '' } : {}),
      ...(typeof captionsId === 'string' ? { captionsId: captions?.fileId ?? null, captionsSrc: captions?.src ?? '' } : {}),
    };
  };
  try {
    return place(JSON.parse(json));
  } catch {
    return null;
  }
}
