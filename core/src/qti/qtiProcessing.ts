import { readPattern } from '../quiz/matchText.ts';
import { Unread } from './qtiFormula.ts';
import { allNamed, attr, childNamed, childrenNamed, nodesIn, wordsIn, type QtiNode } from './qtiTree.ts';

/** A value of the standard: some of one type, in order; none at all is null. Points and pairs are two words in one text. */
export type QtiValue = readonly (string | number | boolean)[] | null;

/** A response as an item declares it: its type, its key, and what each answer is worth. */
export interface Declaration {
  readonly id: string;
  readonly baseType: string;
  readonly isMany: boolean;
  readonly correct: readonly string[];
  readonly mapping: QtiNode | null;
  readonly areas: QtiNode | null;
}

export function readDeclarations(item: QtiNode): ReadonlyMap<string, Declaration> {
  return new Map(
    childrenNamed(item, 'responseDeclaration').map((node) => [
      attr(node, 'identifier'),
      {
        id: attr(node, 'identifier'),
        baseType: attr(node, 'baseType'),
        isMany: ['multiple', 'ordered'].includes(attr(node, 'cardinality')),
        correct: childrenNamed(childNamed(node, 'correctResponse'), 'value').map((v) => wordsIn(v).trim()),
        mapping: childNamed(node, 'mapping') ?? null,
        areas: childNamed(node, 'areaMapping') ?? null,
      },
    ]),
  );
}

const NUMERIC = new Set(['float', 'integer']);
function typed(text: string, baseType: string): string | number | boolean {
  if (baseType === 'boolean') return text === 'true' || text === '1';
  if (!NUMERIC.has(baseType)) return baseType === 'string' ? text : text.trim().replace(/\s+/g, ' ');
  const number = Number(text.trim().replace(',', '.'));
  if (text.trim() === '' || Number.isNaN(number)) throw new Unread('baseValue', `“${text.slice(0, 40)}” is no number.`);
  return number;
}
const isSame = (a: string | number | boolean, b: string | number | boolean, baseType: string): boolean =>
  a === b || (baseType === 'pair' && typeof a === 'string' && typeof b === 'string' && a.split(' ').reverse().join(' ') === b);
const numberIn = (value: QtiValue): number | null => (value === null || typeof value[0] !== 'number' ? null : value[0]);
const textIn = (value: QtiValue): string => (value === null ? '' : String(value[0]));

/** The templates of the standard, by their last word; several tools write an ending or a prefix. */
export function templateOf(processing: QtiNode | undefined): string | null {
  const address = attr(processing, 'template') || attr(processing, 'templateLocation');
  return /(?:^|\/)(?:CC2_)?(match_correct|match_basic|match|map_response_point|map_response)(?:\.xml)?$/.exec(address)?.[1] ?? null;
}

/** Whether a place (`x y` in pixels) lies in a shape by its coordinates. */
function isInShape(point: string, shape: string, coords: readonly number[]): boolean {
  const [x = NaN, y = NaN] = point.split(/[\s,]+/).map(Number);
  const [a = 0, b = 0, c = 0, d = c] = coords;
  if (shape === 'default') return true;
  if (shape === 'rect') return x >= a && x <= c && y >= b && y <= d;
  if (shape === 'circle' || shape === 'ellipse') return ((x - a) / c) ** 2 + ((y - b) / (shape === 'circle' ? c : d)) ** 2 <= 1;
  let isIn = false;
  const corners = Array.from({ length: Math.floor(coords.length / 2) }, (_, n) => [coords[2 * n] ?? 0, coords[2 * n + 1] ?? 0] as const);
  corners.forEach(([ax, ay], n) => {
    const [bx, by] = corners[(n + corners.length - 1) % corners.length] as readonly [number, number];
    if (ay > y !== by > y && x < ((bx - ax) * (y - ay)) / (by - ay) + ax) isIn = !isIn;
  });
  return isIn;
}
export const coordsOf = (node: QtiNode): readonly number[] =>
  attr(node, 'coords')
    .split(/[\s,]+/)
    .filter((word) => word !== '')
    .map(Number);

const MATHS: Readonly<Record<string, (x: number) => number>> = {
  ...{ sin: Math.sin, cos: Math.cos, tan: Math.tan, asin: Math.asin, acos: Math.acos, atan: Math.atan },
  ...{ exp: Math.exp, ln: Math.log, log: Math.log10, abs: Math.abs, floor: Math.floor, ceil: Math.ceil, signum: Math.sign },
};
const MOST_STEPS = 20_000;

/** Runs the processing of one item for answers that are tried, to learn what each is worth. */
export class QtiProcessing {
  readonly #declarations: ReadonlyMap<string, Declaration>;
  readonly #processing: QtiNode | undefined;
  readonly #starts: ReadonlyMap<string, QtiValue>;
  #responses: ReadonlyMap<string, QtiValue> = new Map();
  #outcomes = new Map<string, QtiValue>();
  /** A pattern that is taken to fit whatever is answered, while all others do not. */
  #fitting: QtiNode | null = null;
  #steps = 0;

  constructor(item: QtiNode, declarations: ReadonlyMap<string, Declaration>) {
    this.#declarations = declarations;
    this.#processing = childNamed(item, 'responseProcessing');
    this.#starts = new Map<string, QtiValue>([
      // Some leave out what every item has.
      ['SCORE', [0]],
      ...childrenNamed(item, 'outcomeDeclaration').map((node): [string, QtiValue] => {
        const values = childrenNamed(childNamed(node, 'defaultValue'), 'value').map((v) => typed(wordsIn(v), attr(node, 'baseType')));
        return [attr(node, 'identifier'), values.length === 0 ? (NUMERIC.has(attr(node, 'baseType')) ? [0] : null) : values];
      }),
    ]);
  }

  /** Every element of a name in the processing that is written out; none where it is a template. */
  all(...names: readonly string[]): readonly QtiNode[] {
    return allNamed(this.#processing, ...names);
  }

  /**
   * SCORE after these answers. An item without processing is taken by its mapping, else by its key. Throws {@link Unread} where something
   * is used that is not understood.
   */
  score(responses: ReadonlyMap<string, QtiValue>, fitting: QtiNode | null = null): number {
    this.#responses = responses;
    this.#outcomes = new Map(this.#starts);
    this.#fitting = fitting;
    this.#steps = 0;
    const template = templateOf(this.#processing);
    if (template === null && this.#processing !== undefined && nodesIn(this.#processing).length > 0) this.#rules(nodesIn(this.#processing));
    else {
      const [first] = [...this.#declarations.values()];
      const declaration = this.#declarations.get('RESPONSE') ?? first;
      if (declaration !== undefined) this.#outcomes.set('SCORE', [this.#byTemplate(template, declaration)]);
    }
    return numberIn(this.#outcomes.get('SCORE') ?? null) ?? 0;
  }

  /** What an outcome holds after the last run. */
  outcome(id: string): QtiValue {
    return this.#outcomes.get(id) ?? null;
  }

  #byTemplate(template: string | null, declaration: Declaration): number {
    const answer = this.#responses.get(declaration.id) ?? null;
    if (template === 'map_response_point' || (template === null && declaration.areas !== null)) return this.#mapPoint(declaration, answer);
    if (template === 'map_response' || (template === null && declaration.mapping !== null)) return this.#map(declaration, answer);
    return this.#isMatch(answer, this.#correct(declaration), declaration) ? 1 : 0;
  }

  #rules(rules: readonly QtiNode[]): boolean {
    for (const rule of rules) if (this.#rule(rule)) return true;
    return false;
  }
  /** Gives true where the rest is not looked at any more. */
  #rule(rule: QtiNode): boolean {
    this.#steps += 1;
    if (this.#steps > MOST_STEPS) throw new Unread('responseProcessing', 'It takes far too many steps.');
    switch (rule.name) {
      case 'responseCondition': {
        const branch = nodesIn(rule).find((b) => b.name === 'responseElse' || this.#value(nodesIn(b)[0])?.[0] === true);
        return branch !== undefined && this.#rules(branch.name === 'responseElse' ? nodesIn(branch) : nodesIn(branch).slice(1));
      }
      case 'setOutcomeValue':
        this.#outcomes.set(attr(rule, 'identifier'), this.#value(nodesIn(rule)[0]));
        return false;
      case 'responseProcessingFragment':
        return this.#rules(nodesIn(rule));
      case 'exitResponse':
        return true;
      default:
        throw new Unread(rule.name, 'This rule of processing is not understood.');
    }
  }

  #correct(declaration: Declaration | undefined): QtiValue {
    if (declaration === undefined || declaration.correct.length === 0) return null;
    return declaration.correct.map((text) => typed(text, declaration.baseType));
  }
  #typeOf(node: QtiNode | undefined): { readonly baseType: string; readonly isOrdered: boolean } {
    const declaration = this.#declarations.get(attr(node, 'identifier'));
    if (node !== undefined && declaration !== undefined) return { baseType: declaration.baseType, isOrdered: false };
    return { baseType: attr(node, 'baseType'), isOrdered: node?.name === 'ordered' };
  }
  #isMatch(a: QtiValue, b: QtiValue, declaration: { readonly baseType: string } | undefined, isOrdered = false): boolean {
    if (a === null || b === null || a.length !== b.length) return false;
    const baseType = declaration?.baseType ?? '';
    if (isOrdered) return a.every((x, n) => isSame(x, b[n] as string, baseType));
    return a.every((x) => b.some((y) => isSame(x, y, baseType))) && b.every((y) => a.some((x) => isSame(x, y, baseType)));
  }

  #map(declaration: Declaration, answer: QtiValue): number {
    const { mapping, baseType } = declaration;
    if (mapping === null) throw new Unread('mapResponse', `The response “${declaration.id}” has no mapping.`);
    const entries = childrenNamed(mapping, 'mapEntry');
    const worth = (given: string | number | boolean): number => {
      const entry = entries.find((e) => {
        const key = typed(attr(e, 'mapKey'), baseType);
        if (typeof key !== 'string' || typeof given !== 'string') return key === given;
        const isFree = baseType === 'string' && attr(e, 'caseSensitive') === 'false';
        return isFree ? key.trim().toLowerCase() === given.trim().toLowerCase() : isSame(key.trim(), given.trim(), baseType);
      });
      return Number(attr(entry, 'mappedValue') || attr(mapping, 'defaultValue') || '0');
    };
    return bounded(
      [...new Set(answer ?? [])].reduce<number>((sum, given) => sum + worth(given), 0),
      mapping,
    );
  }
  #mapPoint(declaration: Declaration, answer: QtiValue): number {
    const { areas } = declaration;
    if (areas === null) throw new Unread('mapResponsePoint', `The response “${declaration.id}” has no areaMapping.`);
    const hit = childrenNamed(areas, 'areaMapEntry').filter((e) =>
      (answer ?? []).some((p) => isInShape(String(p), attr(e, 'shape'), coordsOf(e))),
    );
    const worth =
      hit.length === 0 ? Number(attr(areas, 'defaultValue') || '0') : hit.reduce((s, e) => s + Number(attr(e, 'mappedValue')), 0);
    return bounded(worth, areas);
  }

  #need(node: QtiNode): Declaration {
    const declaration = this.#declarations.get(attr(node, 'identifier'));
    if (declaration === undefined) throw new Unread(node.name, `There is no response “${attr(node, 'identifier')}”.`);
    return declaration;
  }
  #numbers(nodes: readonly QtiNode[]): number[] | null {
    const values = nodes.flatMap((node): (number | null)[] => {
      const value = this.#value(node);
      return value === null ? [null] : value.map((v) => (typeof v === 'number' ? v : null));
    });
    return values.some((v) => v === null) ? null : (values as number[]);
  }
  #fold(nodes: readonly QtiNode[], fold: (numbers: readonly number[]) => number | boolean): QtiValue {
    const numbers = this.#numbers(nodes);
    return numbers === null ? null : [fold(numbers)];
  }

  #value(node: QtiNode | undefined): QtiValue {
    if (node === undefined) return null;
    this.#steps += 1;
    if (this.#steps > MOST_STEPS) throw new Unread('responseProcessing', 'It takes far too many steps.');
    const parts = nodesIn(node);
    const [first, second] = parts;
    switch (node.name) {
      case 'baseValue':
        return [typed(wordsIn(node), attr(node, 'baseType'))];
      case 'null':
        return null;
      case 'variable': {
        const id = attr(node, 'identifier');
        return this.#declarations.has(id) ? (this.#responses.get(id) ?? null) : (this.#outcomes.get(id) ?? null);
      }
      case 'correct':
        return this.#correct(this.#need(node));
      case 'mapResponse': {
        const declaration = this.#need(node);
        return [this.#map(declaration, this.#responses.get(declaration.id) ?? null)];
      }
      case 'mapResponsePoint': {
        const declaration = this.#need(node);
        return [this.#mapPoint(declaration, this.#responses.get(declaration.id) ?? null)];
      }
      case 'isNull': {
        const value = this.#value(first);
        return [value === null || value.length === 0 || (value.length === 1 && value[0] === '')];
      }
      case 'not':
        return [this.#value(first)?.[0] !== true];
      case 'and':
        return [parts.every((p) => this.#value(p)?.[0] === true)];
      case 'or':
        return [parts.some((p) => this.#value(p)?.[0] === true)];
      case 'anyN': {
        const many = parts.filter((p) => this.#value(p)?.[0] === true).length;
        return [many >= Number(attr(node, 'min')) && many <= Number(attr(node, 'max'))];
      }
      case 'match': {
        const type = this.#typeOf(first?.name === 'variable' ? first : second);
        const isOrdered = type.isOrdered || first?.name === 'ordered' || second?.name === 'ordered';
        return [this.#isMatch(this.#value(first), this.#value(second), type, isOrdered)];
      }
      case 'multiple':
      case 'ordered': {
        const all = parts.flatMap((p) => this.#value(p) ?? []);
        return all.length === 0 ? null : all;
      }
      case 'member':
      case 'contains': {
        const [inner, outer] = [this.#value(first) ?? [], this.#value(second) ?? []];
        const { baseType } = this.#typeOf(first?.name === 'variable' ? first : second);
        return [inner.length > 0 && inner.every((x) => outer.some((y) => isSame(x, y, baseType)))];
      }
      case 'containerSize':
        return [(this.#value(first) ?? []).length];
      case 'index':
        return [this.#value(first)?.[Number(attr(node, 'n')) - 1] ?? ''];
      case 'delete': {
        const [gone, from] = [this.#value(first)?.[0], this.#value(second) ?? []];
        return from.filter((x) => x !== gone);
      }
      case 'sum':
        return this.#fold(parts, (n) => n.reduce((a, b) => a + b, 0));
      case 'product':
        return this.#fold(parts, (n) => n.reduce((a, b) => a * b, 1));
      case 'subtract':
        return this.#fold(parts, ([a = 0, b = 0]) => a - b);
      case 'divide':
        return this.#fold(parts, ([a = 0, b = 0]) => a / b);
      case 'power':
        return this.#fold(parts, ([a = 0, b = 0]) => a ** b);
      case 'min':
        return this.#fold(parts, (n) => Math.min(...n));
      case 'max':
        return this.#fold(parts, (n) => Math.max(...n));
      case 'round':
        return this.#fold(parts, ([a = 0]) => Math.round(a));
      case 'truncate':
        return this.#fold(parts, ([a = 0]) => Math.trunc(a));
      case 'integerToFloat':
        return this.#value(first);
      case 'gt':
        return this.#fold(parts, ([a = 0, b = 0]) => a > b);
      case 'gte':
        return this.#fold(parts, ([a = 0, b = 0]) => a >= b);
      case 'lt':
        return this.#fold(parts, ([a = 0, b = 0]) => a < b);
      case 'lte':
        return this.#fold(parts, ([a = 0, b = 0]) => a <= b);
      case 'equal':
        return this.#fold(parts, ([a = 0, b = 0]) => isNear(node, a, b));
      case 'equalRounded':
        return this.#fold(parts, ([a = 0, b = 0]) => isRoundedAlike(node, a, b));
      case 'mathOperator': {
        const run = MATHS[attr(node, 'name')];
        if (run === undefined) throw new Unread('mathOperator', `“${attr(node, 'name')}” is not understood in processing.`);
        return this.#fold(parts, ([a = 0]) => run(a));
      }
      case 'stringMatch':
      case 'substring':
        return [this.#isText(node, textIn(this.#value(first)), textIn(this.#value(second)))];
      case 'patternMatch': {
        if (this.#fitting !== null) return [this.#fitting === node];
        const pattern = readPattern(attr(node, 'pattern'), true);
        return [pattern.ok && pattern.matches(textIn(this.#value(first)))];
      }
      case 'inside':
        return [(this.#value(first) ?? []).some((p) => isInShape(String(p), attr(node, 'shape'), coordsOf(node)))];
      default:
        throw new Unread(node.name, 'This is not understood in the processing of an answer.');
    }
  }

  #isText(node: QtiNode, a: string, b: string): boolean {
    if (this.#fitting !== null) return false;
    const [x, y] = attr(node, 'caseSensitive') === 'false' ? [a.toLowerCase(), b.toLowerCase()] : [a, b];
    return node.name === 'substring' || attr(node, 'substring') === 'true' ? y.includes(x) : x === y;
  }
}

function bounded(value: number, mapping: QtiNode): number {
  const [low, high] = [attr(mapping, 'lowerBound'), attr(mapping, 'upperBound')];
  return Math.min(high === '' ? Infinity : Number(high), Math.max(low === '' ? -Infinity : Number(low), value));
}
/** How near an `equal` lets two numbers be: by an amount or by percent, each way. */
export function tolerancesOf(node: QtiNode): readonly [number, number] {
  const [low = 0, high = low] = attr(node, 'tolerance').split(/\s+/).filter((w) => w !== '').map(Number); // prettier-ignore
  return [low, high];
}
function isNear(node: QtiNode, a: number, b: number): boolean {
  const [low, high] = tolerancesOf(node);
  const mode = attr(node, 'toleranceMode');
  // As the standard has it the first is compared with the second, and how far it may be is seen from the first.
  if (mode === 'absolute') return b >= a - low - 1e-12 && b <= a + high + 1e-12;
  if (mode === 'relative') return Math.abs(b - a) <= (Math.abs(a) * (b < a ? low : high)) / 100 + 1e-12;
  return a === b;
}
function isRoundedAlike(node: QtiNode, a: number, b: number): boolean {
  const figures = Number(attr(node, 'figures'));
  const round = (x: number): string => (attr(node, 'roundingMode') === 'decimalPlaces' ? x.toFixed(figures) : x.toPrecision(figures));
  return round(a) === round(b);
}
