import type { DocumentNode } from '../document/plainText.ts';
import type { QuestionContent } from '../quiz/question.ts';
import { formulaParts } from '../quiz/formula.ts';
import type { AcceptedText, Choice, NumberRules, QuestionKey, Region, TextRules, Tolerance } from '../quiz/question.ts';
import { toBody, type BodyTargets } from './qtiBody.ts';
import { float, toExpression } from './qtiFormula.ts';
import { h, q, type QtiChild, type QtiNode, type QtiVersion } from './qtiTree.ts';

/** A question as it goes into a package. */
export interface QtiQuestion extends QuestionContent {
  /** Letters, digits, `_` and `-`, a letter first; each once in a package. */
  readonly id: string;
  readonly title: string;
  readonly stimulus: { readonly id: string; readonly title: string; readonly document: DocumentNode } | null;
}
export interface QtiTargets {
  readonly version: QtiVersion;
  /** The address of a file as seen from the item, or null where it does not come along. */
  readonly file: (fileId: string) => string | null;
  /** Width and height of a picture in pixels, and its media type. */
  readonly picture: (fileId: string) => { readonly width: number; readonly height: number; readonly mediaType: string };
}
/** The answer that is pinned last and worth nothing. */
export const DONT_KNOW = 'dont_know';
const WHOLE = 100_000;
/** Thousandths of a percent as a share of 1, exactly: 33333 is 0.33333. */
const shareText = (share: number): string => String(share / WHOLE);
/** A number as a key may have it (`1,2×10^-4`) in the form of the standard (`1.2e-4`). */
const plainNumber = (text: string): string => text.trim().replace(',', '.').replace(/[×*]10\^/, 'e').replace(/−/g, '-'); // prettier-ignore
export const variable = (id: string): QtiNode => q('variable', { identifier: id });
export const correctOf = (id: string): QtiNode => q('correct', { identifier: id });
export const setScore = (...value: QtiNode[]): QtiNode => q('setOutcomeValue', { identifier: 'SCORE' }, ...value);

function declare(
  id: string,
  cardinality: string,
  baseType: string,
  correct: readonly string[],
  ...more: readonly (QtiNode | null)[]
): QtiNode {
  const key = correct.length === 0 ? null : q('correctResponse', {}, ...correct.map((value) => q('value', {}, value)));
  return q('responseDeclaration', { identifier: id, cardinality, baseType }, key, ...more);
}
const mappingOf = (entries: readonly QtiNode[], bounds: Readonly<Record<string, string>> = {}): QtiNode =>
  q('mapping', { defaultValue: '0', ...bounds }, ...entries);
const entry = (mapKey: string, value: string, more: Readonly<Record<string, string>> = {}): QtiNode =>
  q('mapEntry', { mapKey, mappedValue: value, ...more });

/** What is asked and how it is scored, as parts of an item. */
export interface Parts {
  readonly declarations: readonly QtiNode[];
  readonly body: readonly QtiChild[];
  /** A template of the standard, or rules that set SCORE; none where a person marks. */
  readonly scoring: 'match_correct' | 'map_response' | 'map_response_point' | readonly QtiNode[] | null;
  readonly templates?: readonly QtiNode[];
  readonly templateProcessing?: readonly QtiNode[];
  readonly losses?: readonly string[];
}

export class ItemWriter {
  readonly #to: QtiTargets;
  readonly #question: QtiQuestion;
  readonly #body: BodyTargets;
  constructor(question: QtiQuestion, to: QtiTargets) {
    this.#to = to;
    this.#question = question;
    const { key } = question;
    this.#body = {
      version: to.version,
      file: to.file,
      placeOf: (place) => {
        const name = String(place.attrs?.name ?? '');
        if (place.type === 'value') {
          const parameter = key.kind === 'calculated' ? key.question.parameters.find((p) => p.name === name) : undefined;
          return q('printedVariable', { identifier: name, format: `%.${parameter?.decimals ?? 0}f` });
        }
        const n = key.kind === 'blanks' ? key.blanks.findIndex((b) => b.id === place.attrs?.id) + 1 : 0;
        const size = Number(place.attrs?.size ?? 0);
        return q('textEntryInteraction', { responseIdentifier: `RESPONSE_${n}`, expectedLength: size > 0 ? size : null });
      },
    };
  }

  says(document: DocumentNode | null): QtiChild[] {
    return document === null ? [] : toBody(document, this.#body);
  }

  parts(): Parts {
    const { key } = this.#question;
    switch (key.kind) {
      case 'single':
      case 'truth':
        return this.#single(key.choices, key.hasDontKnow, key.kind === 'truth');
      case 'several':
        return this.#several(key);
      case 'numeric':
        return this.#numeric(key.rules, key.rules.accepted, null);
      case 'calculated':
        return this.#calculated(key);
      case 'short':
        return this.#short(key.rules);
      case 'blanks':
        return this.#blanks(key.blanks);
      case 'matching':
        return this.#matching(key.pairs);
      case 'ordering':
        return this.#ordering(key.order, key.isAllOrNothing);
      case 'hotspot':
        return this.#hotspot(key.regions);
      case 'essay':
      case 'file':
        return {
          declarations: [declare('RESPONSE', 'single', key.kind === 'file' ? 'file' : 'string', [])],
          body: [
            ...this.says(this.#question.words),
            key.kind === 'file'
              ? q('uploadInteraction', { responseIdentifier: 'RESPONSE' })
              : q('extendedTextInteraction', { responseIdentifier: 'RESPONSE', expectedLines: 12 }),
          ],
          scoring: null,
        };
    }
  }

  #choices(choices: readonly Choice[], hasDontKnow: boolean, isFixed: boolean, most: number): QtiNode {
    const said = (c: Choice, id: string): QtiChild[] => {
      if (c.feedback === null) return [];
      const inside = this.says(c.feedback);
      const [only] = inside;
      const isLine = inside.length === 1 && typeof only === 'object' && only.name === 'p';
      const attrs = { outcomeIdentifier: 'CHOSEN', identifier: id, showHide: 'show' };
      if (isLine) return [q('feedbackInline', attrs, ...only.children)];
      return [q('feedbackBlock', attrs, ...(this.#to.version === '3.0' ? [q('contentBody', {}, ...inside)] : inside))];
    };
    const made = choices.map((c, n) => q('simpleChoice', { identifier: `C${n + 1}` }, ...this.says(c.words), ...said(c, `C${n + 1}`)));
    const dontKnow = q('simpleChoice', { identifier: DONT_KNOW, fixed: true }, h('p', {}, 'I do not know'));
    return q(
      'choiceInteraction',
      { responseIdentifier: 'RESPONSE', shuffle: !isFixed, maxChoices: most },
      ...made,
      hasDontKnow ? dontKnow : null,
    );
  }

  #single(choices: readonly Choice[], hasDontKnow: boolean, isFixed: boolean): Parts {
    const right = choices.flatMap((c, n) => (c.share >= WHOLE ? [`C${n + 1}`] : []));
    const isPlain = right.length === 1 && choices.every((c) => c.share === 0 || c.share === WHOLE);
    const mapping = mappingOf(choices.flatMap((c, n) => (c.share === 0 ? [] : [entry(`C${n + 1}`, shareText(c.share))])));
    return {
      declarations: [declare('RESPONSE', 'single', 'identifier', right.slice(0, 1), isPlain ? null : mapping)],
      body: [...this.says(this.#question.words), this.#choices(choices, hasDontKnow, isFixed, 1)],
      scoring: isPlain ? 'match_correct' : 'map_response',
    };
  }

  #several(key: Extract<QuestionKey, { kind: 'several' }>): Parts {
    const { choices, rule } = key;
    const right = choices.flatMap((c, n) => (c.share > 0 ? [`C${n + 1}`] : []));
    const body = [...this.says(this.#question.words), this.#choices(choices, key.hasDontKnow, false, 0)];
    if (rule === 'all or nothing')
      return { declarations: [declare('RESPONSE', 'multiple', 'identifier', right)], body, scoring: 'match_correct' };
    const isOwn = rule === 'own values';
    // A share such as a third is no decimal: then the right ones less the wrong ones are divided by how many are right.
    const isDivided = !isOwn && !Number.isInteger(1_000_000 / Math.max(1, right.length));
    const one = isDivided ? 1 : 1 / Math.max(1, right.length);
    const entries = choices.flatMap((c, n) => {
      if (isOwn && c.share === 0) return [];
      return [entry(`C${n + 1}`, isOwn ? shareText(c.share) : String(c.share > 0 ? one : -one))];
    });
    const mapping = mappingOf(entries, isDivided ? { lowerBound: '0' } : { lowerBound: '0', upperBound: '1' });
    const divided = setScore(q('divide', {}, q('mapResponse', { identifier: 'RESPONSE' }), float(right.length)));
    return {
      declarations: [declare('RESPONSE', 'multiple', 'identifier', right, mapping)],
      body,
      scoring: isDivided ? [divided] : 'map_response',
    };
  }

  /** `calculated` is the answer that follows from drawn numbers; else `accepted` are those that are right. */
  #numeric(rules: Omit<NumberRules, 'accepted'>, accepted: NumberRules['accepted'], calculated: Tolerance | null): Parts {
    const given = variable('RESPONSE');
    const [unitEntries, hasUnits] = [rules.units.map((u, n) => entry(`U${n + 1}`, plainNumber(u.factor))), rules.units.length > 0];
    const inFirst = hasUnits ? q('product', {}, given, q('mapResponse', { identifier: 'UNIT' })) : given;
    const free = (node: QtiNode): QtiNode => (rules.isSignFree ? q('mathOperator', { name: 'abs' }, node) : node);
    const near = (wanted: QtiNode, t: Tolerance): QtiNode => {
      if (t.kind === 'significant')
        return q('equalRounded', { roundingMode: 'significantFigures', figures: t.figures }, free(wanted), free(inFirst));
      const by = plainNumber(t.kind === 'absolute' ? t.amount : t.percent);
      const isExact = Number(by) === 0;
      const mode = isExact ? 'exact' : t.kind;
      return q('equal', { toleranceMode: mode, tolerance: isExact ? null : `${by} ${by}` }, free(wanted), free(inFirst));
    };
    const best = accepted.toSorted((a, b) => b.share - a.share);
    const rows: readonly (readonly [QtiNode, number])[] =
      calculated !== null
        ? [[near(correctOf('RESPONSE'), calculated), WHOLE]]
        : best.map((a) => [near(float(plainNumber(a.value)), a.tolerance), a.share]);
    const branches = rows.map(([test, share], n) =>
      q(n === 0 ? 'responseIf' : 'responseElseIf', {}, test, setScore(float(shareText(share)))),
    );
    const mask = rules.decimals === null ? null : `[+\\-]?[0-9]*${rules.decimals === 0 ? '' : `[.,][0-9]{${rules.decimals}}`}`;
    const unitChoice = q(
      'inlineChoiceInteraction',
      { responseIdentifier: 'UNIT', shuffle: false, required: rules.isUnitNeeded ? true : null },
      ...rules.units.map((u, n) => q('inlineChoice', { identifier: `U${n + 1}` }, u.name)),
    );
    return {
      declarations: [
        declare('RESPONSE', 'single', 'float', calculated === null ? best.slice(0, 1).map((a) => plainNumber(a.value)) : []),
        ...(hasUnits
          ? [
              declare(
                'UNIT',
                'single',
                'identifier',
                ['U1'],
                q('mapping', { defaultValue: rules.isUnitNeeded ? '0' : '1' }, ...unitEntries),
              ),
            ]
          : []),
      ],
      body: [
        ...this.says(this.#question.words),
        h(
          'p',
          {},
          q('textEntryInteraction', { responseIdentifier: 'RESPONSE', patternMask: mask }),
          ...(hasUnits ? [' ', unitChoice] : []),
        ),
      ],
      scoring: branches.length === 0 ? null : [q('responseCondition', {}, ...branches)],
    };
  }

  #calculated(key: Extract<QuestionKey, { kind: 'calculated' }>): Parts {
    const names = key.question.parameters.map((p) => p.name);
    const expression = (text: string): QtiNode | null => {
      const parts = formulaParts(text, names);
      return parts === null ? null : toExpression(parts);
    };
    const formula = expression(key.question.formula);
    const drawn = key.question.parameters.map((p) => {
      const [from, to, step] = [p.from, p.to, p.step].map(plainNumber) as [string, string, string];
      const isWhole = [from, to, step].every((t) => /^-?\d+$/.test(t));
      const steps = Math.max(0, Math.floor((Number(to) - Number(from)) / Number(step) + 1e-9));
      const value = isWhole
        ? q('randomInteger', { min: from, max: to, step })
        : q('sum', {}, float(from), q('product', {}, q('randomInteger', { min: 0, max: steps }), float(step)));
      return q('setTemplateValue', { identifier: p.name }, value);
    });
    const conditions = key.question.conditions.flatMap((c) => {
      const made = expression(c);
      return made === null ? [] : [q('templateConstraint', {}, made)];
    });
    const parts = this.#numeric(key.rules, [], key.question.tolerance);
    return {
      ...parts,
      templates: names.map((identifier) => q('templateDeclaration', { identifier, cardinality: 'single', baseType: 'float' })),
      templateProcessing: [
        ...drawn,
        ...conditions,
        ...(formula === null ? [] : [q('setCorrectResponse', { identifier: 'RESPONSE' }, formula)]),
      ],
      losses: formula === null ? ['its formula cannot be read, so it has no key'] : [],
    };
  }

  /** The texts that are taken, as a mapping, or as a test of each where one is a pattern. */
  #texts(id: string, rules: TextRules, weight: number): { declaration: QtiNode; scored: QtiNode | null; branches: QtiNode[] } {
    const worth = (a: AcceptedText): string => String(Number(((a.share / WHOLE) * weight).toFixed(10)));
    const best = rules.accepted.toSorted((a, b) => b.share - a.share);
    const plain = best.filter((a) => !a.isPattern);
    const caseSensitive = String(rules.caseMatters);
    const key = plain.slice(0, 1).map((a) => a.text);
    if (plain.length === best.length) {
      const once = plain.filter((a, n) => plain.findIndex((b) => b.text === a.text) === n);
      const mapping = mappingOf(once.map((a) => entry(a.text, worth(a), { caseSensitive })));
      return { declaration: declare(id, 'single', 'string', key, mapping), scored: q('mapResponse', { identifier: id }), branches: [] };
    }
    const test = (a: AcceptedText): QtiNode =>
      a.isPattern
        ? q('patternMatch', { pattern: rules.caseMatters ? a.text : `(?i:${a.text})` }, variable(id))
        : q('stringMatch', { caseSensitive }, variable(id), q('baseValue', { baseType: 'string' }, a.text));
    const add = (a: AcceptedText): QtiNode => setScore(q('sum', {}, variable('SCORE'), float(worth(a))));
    const branches = best.map((a, n) => q(n === 0 ? 'responseIf' : 'responseElseIf', {}, test(a), add(a)));
    return { declaration: declare(id, 'single', 'string', key), scored: null, branches: [q('responseCondition', {}, ...branches)] };
  }

  #short(rules: TextRules): Parts {
    const { declaration, branches } = this.#texts('RESPONSE', rules, 1);
    return {
      declarations: [declaration],
      body: [...this.says(this.#question.words), h('p', {}, q('textEntryInteraction', { responseIdentifier: 'RESPONSE' }))],
      scoring: branches.length === 0 ? 'map_response' : branches,
      losses: rules.spaceMatters ? ['that spaces matter'] : [],
    };
  }

  #blanks(blanks: Extract<QuestionKey, { kind: 'blanks' }>['blanks']): Parts {
    const made = blanks.map((b, n) => this.#texts(`RESPONSE_${n + 1}`, b.rules, b.weight / WHOLE));
    const scored = made.flatMap((m) => m.scored ?? []);
    const set = scored.length === 0 ? [] : [setScore(q('sum', {}, variable('SCORE'), ...scored))];
    return {
      declarations: made.map((m) => m.declaration),
      body: this.says(this.#question.words),
      scoring: [...set, ...made.flatMap((m) => m.branches)],
      losses: blanks.some((b) => b.rules.spaceMatters) ? ['that spaces matter'] : [],
    };
  }

  #matching(pairs: readonly { readonly left: string; readonly right: string }[]): Parts {
    const lefts = pairs.filter((p) => p.left !== '');
    const rights = [...new Set(pairs.map((p) => p.right))];
    const many = (right: string): number => Math.max(1, lefts.filter((p) => p.right === right).length);
    const choice = (id: string, matchMax: number, text: string): QtiNode => q('simpleAssociableChoice', { identifier: id, matchMax }, text);
    const keys = lefts.map((p, n) => `L${n + 1} R${rights.indexOf(p.right) + 1}`);
    const isDivided = !Number.isInteger(1_000_000 / Math.max(1, lefts.length));
    const each = isDivided ? '1' : String(1 / Math.max(1, lefts.length));
    const divided = setScore(q('divide', {}, q('mapResponse', { identifier: 'RESPONSE' }), float(lefts.length)));
    return {
      declarations: [declare('RESPONSE', 'multiple', 'directedPair', keys, mappingOf(keys.map((k) => entry(k, each))))],
      body: [
        ...this.says(this.#question.words),
        q(
          'matchInteraction',
          { responseIdentifier: 'RESPONSE', shuffle: true, maxAssociations: lefts.length },
          q('simpleMatchSet', {}, ...lefts.map((p, n) => choice(`L${n + 1}`, 1, p.left))),
          q('simpleMatchSet', {}, ...rights.map((right, n) => choice(`R${n + 1}`, many(right), right))),
        ),
      ],
      scoring: isDivided ? [divided] : 'map_response',
    };
  }

  #ordering(order: readonly string[], isAllOrNothing: boolean): Parts {
    return {
      declarations: [
        declare(
          'RESPONSE',
          'ordered',
          'identifier',
          order.map((_, n) => `O${n + 1}`),
        ),
      ],
      body: [
        ...this.says(this.#question.words),
        q(
          'orderInteraction',
          { responseIdentifier: 'RESPONSE', shuffle: true },
          ...order.map((text, n) => q('simpleChoice', { identifier: `O${n + 1}` }, text)),
        ),
      ],
      scoring: 'match_correct',
      losses: isAllOrNothing ? [] : ['credit for a part of the order: the standard takes the whole order or nothing'],
    };
  }

  #hotspot(regions: Extract<QuestionKey, { kind: 'hotspot' }>['regions']): Parts {
    const { picture } = this.#question;
    const address = picture === null ? null : this.#to.file(picture.fileId);
    const { width, height, mediaType } = picture === null ? { width: 1000, height: 1000, mediaType: '' } : this.#to.picture(picture.fileId);
    const areas = regions.map((r) => q('areaMapEntry', { ...shapeOf(r.region, width, height), mappedValue: shareText(r.share) }));
    const best = regions.toSorted((a, b) => b.share - a.share)[0];
    const middle = best === undefined ? [] : [middleOf(best.region, width, height)];
    const shown =
      this.#to.version === '3.0'
        ? h('img', { src: address ?? '', width, height, alt: picture?.alt ?? '' })
        : h('object', { data: address ?? '', type: mediaType, width, height }, picture?.alt ?? '');
    return {
      declarations: [declare('RESPONSE', 'single', 'point', middle, q('areaMapping', { defaultValue: '0' }, ...areas))],
      body: [...this.says(this.#question.words), q('selectPointInteraction', { responseIdentifier: 'RESPONSE', maxChoices: 1 }, shown)],
      scoring: 'map_response_point',
      losses: address === null ? ['its picture'] : [],
    };
  }
}

const px = (share: number, size: number): number => Math.round(share * size);
function shapeOf(region: Region, width: number, height: number): { shape: string; coords: string } {
  if (region.shape === 'rectangle') {
    const { from, to } = region;
    const [left, right] = [Math.min(from.x, to.x), Math.max(from.x, to.x)];
    const [top, bottom] = [Math.min(from.y, to.y), Math.max(from.y, to.y)];
    return { shape: 'rect', coords: [px(left, width), px(top, height), px(right, width), px(bottom, height)].join(',') };
  }
  if (region.shape === 'ellipse') {
    const { centre, radius } = region;
    const [a, b] = [px(radius.x, width), px(radius.y, height)];
    const at = [px(centre.x, width), px(centre.y, height)];
    return a === b ? { shape: 'circle', coords: [...at, a].join(',') } : { shape: 'ellipse', coords: [...at, a, b].join(',') };
  }
  return { shape: 'poly', coords: region.corners.flatMap((c) => [px(c.x, width), px(c.y, height)]).join(',') };
}
function middleOf(region: Region, width: number, height: number): string {
  const spots = region.shape === 'rectangle' ? [region.from, region.to] : region.shape === 'ellipse' ? [region.centre] : region.corners;
  const mean = (of: (s: { x: number; y: number }) => number): number => spots.reduce((sum, s) => sum + of(s), 0) / spots.length;
  return `${px(
    mean((s) => s.x),
    width,
  )} ${px(
    mean((s) => s.y),
    height,
  )}`;
}
