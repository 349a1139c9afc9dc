import { XMLBuilder, XMLParser } from 'fast-xml-parser';
import { readXml } from '../exchange/xml.ts';

/** An element of an item, a test or a manifest, with what stands in it in its order: elements and texts. Names are those of QTI 2. */
export interface QtiNode {
  readonly name: string;
  readonly attrs: { readonly [name: string]: string };
  readonly children: readonly QtiChild[];
  /** Of HTML: its name is the same in every version. */
  readonly isHtml?: boolean;
}
export type QtiChild = QtiNode | string;

export const QTI_VERSIONS = ['2.1', '2.2', '3.0'] as const;
export type QtiVersion = (typeof QTI_VERSIONS)[number];

type Attributes = Readonly<Record<string, string | number | boolean | null | undefined>>;
function make(name: string, attributes: Attributes, children: readonly (QtiChild | null)[], isHtml: boolean): QtiNode {
  const attrs = Object.fromEntries(
    Object.entries(attributes).flatMap(([key, value]) => (value === null || value === undefined ? [] : [[key, String(value)]])),
  );
  return { name, attrs, children: children.filter((child) => child !== null), ...(isHtml ? { isHtml } : {}) };
}
/** An element of QTI; attributes that are null or undefined are left out. */
export const q = (name: string, attributes: Attributes = {}, ...children: readonly (QtiChild | null)[]): QtiNode =>
  make(name, attributes, children, false);
/** An element of HTML. */
export const h = (name: string, attributes: Attributes = {}, ...children: readonly (QtiChild | null)[]): QtiNode =>
  make(name, attributes, children, true);

const isNode = (child: QtiChild): child is QtiNode => typeof child !== 'string';
export const nodesIn = (node: QtiNode | undefined): readonly QtiNode[] => (node?.children ?? []).filter(isNode);
export const childrenNamed = (node: QtiNode | undefined, ...names: readonly string[]): readonly QtiNode[] =>
  nodesIn(node).filter((child) => names.includes(child.name));
export const childNamed = (node: QtiNode | undefined, ...path: readonly string[]): QtiNode | undefined =>
  path.reduce<QtiNode | undefined>((at, name) => childrenNamed(at, name)[0], node);
/** Every element of these names below one, in reading order. */
export function allNamed(node: QtiNode | undefined, ...names: readonly string[]): readonly QtiNode[] {
  return nodesIn(node).flatMap((child) => [...(names.includes(child.name) ? [child] : []), ...allNamed(child, ...names)]);
}
/** The words in an element, as they stand. */
export const wordsIn = (node: QtiChild | undefined): string =>
  node === undefined ? '' : typeof node === 'string' ? node : node.children.map(wordsIn).join('');
export const attr = (node: QtiNode | undefined, name: string): string => node?.attrs[name]?.trim() ?? '';

const camel = (name: string): string => name.replace(/-([a-z0-9])/g, (_, c: string) => c.toUpperCase());
const kebab = (name: string): string => name.replace(/[A-Z]/g, (c) => `-${c.toLowerCase()}`);

const parser = new XMLParser({
  preserveOrder: true,
  ignoreAttributes: false,
  attributeNamePrefix: '',
  removeNSPrefix: true,
  parseTagValue: false,
  parseAttributeValue: false,
  trimValues: false,
  ignoreDeclaration: true,
  ignorePiTags: true,
  htmlEntities: true,
  textNodeName: '#',
});
type Ordered = Readonly<Record<string, unknown>>;

function fromOrdered(list: readonly Ordered[]): QtiChild[] {
  return list.flatMap((entry): QtiChild[] => {
    const [raw] = Object.keys(entry).filter((key) => key !== ':@');
    if (raw === undefined) return [];
    if (raw === '#') return [String(entry[raw])];
    const isThree = raw.startsWith('qti-');
    const given = (entry[':@'] ?? {}) as Readonly<Record<string, string>>;
    // Attributes of the standard are written with hyphens in version 3 alone; those of HTML keep their names.
    const attrs = Object.fromEntries(
      Object.entries(given).map(([key, value]) => [isThree && !/^(data|aria)-/.test(key) ? camel(key) : key, String(value)]),
    );
    const children = fromOrdered((entry[raw] ?? []) as readonly Ordered[]);
    return [{ name: isThree ? camel(raw.slice(4)) : raw, attrs, children }];
  });
}

export type QtiRead = { readonly ok: true; readonly root: QtiNode } | { readonly ok: false; readonly reason: string };
/**
 * Reads XML with the order of what stands in it kept, and the names of version 3 as those of version 2: `qti-choice-interaction` with
 * `max-choices` is `choiceInteraction` with `maxChoices`. Refuses what {@link readXml} refuses: document types, entities, broken XML.
 * Worked example: `<p>a <b>c</b> d</p>` is p with `a `, b, ` d`.
 */
export function readQtiXml(text: string): QtiRead {
  const checked = readXml(text);
  if (!checked.ok) return checked;
  const [root] = fromOrdered(parser.parse(text.replace(/^\uFEFF/, '')) as readonly Ordered[]).filter(isNode);
  return root === undefined ? { ok: false, reason: 'it holds no element' } : { ok: true, root };
}

// XML has no place for these at all.
const FORBIDDEN = /[\u0000-\u0008\u000B\u000C\u000E-\u001F\uFFFE\uFFFF]/g;
const builder = new XMLBuilder({
  preserveOrder: true,
  ignoreAttributes: false,
  attributeNamePrefix: '',
  textNodeName: '#',
  suppressEmptyNode: true,
});

function toOrdered(child: QtiChild, version: QtiVersion): Ordered {
  if (typeof child === 'string') return { '#': child.replace(FORBIDDEN, '').replace(/\r\n?/g, '\n') };
  const isThree = version === '3.0' && child.isHtml !== true;
  const attrs = Object.entries(child.attrs).map(([key, value]) => [
    isThree && !key.includes(':') && key !== 'xmlns' ? kebab(key) : key,
    value.replace(FORBIDDEN, '').replace(/[\r\n\t]+/g, ' '),
  ]);
  return {
    [isThree ? `qti-${kebab(child.name)}` : child.name]: child.children.map((c) => toOrdered(c, version)),
    ...(attrs.length === 0 ? {} : { ':@': Object.fromEntries(attrs) as Readonly<Record<string, string>> }),
  };
}

/** XML of an element in the names of one version, UTF-8. Signs that XML cannot hold are left out. */
export const writeQtiXml = (root: QtiNode, version: QtiVersion): string =>
  `<?xml version="1.0" encoding="UTF-8"?>\n${builder.build([toOrdered(root, version)])}`;
