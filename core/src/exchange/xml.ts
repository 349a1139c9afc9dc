import { XMLBuilder, XMLParser, XMLValidator } from 'fast-xml-parser';

/** An element as it was read: attributes begin with `@`, text stands under `#`, children under their names as lists. */
export interface XmlElement {
  readonly [name: string]: string | readonly XmlElement[];
}
export type XmlRead =
  { readonly ok: true; readonly root: XmlElement; readonly name: string } | { readonly ok: false; readonly reason: string };

/** Children of one name, in order; none where there are none. */
export function elementsOf(element: XmlElement | undefined, name: string): readonly XmlElement[] {
  const found = element?.[name];
  return Array.isArray(found) ? (found as readonly XmlElement[]) : [];
}
export const elementOf = (element: XmlElement | undefined, ...path: readonly string[]): XmlElement | undefined =>
  path.reduce<XmlElement | undefined>((at, name) => elementsOf(at, name)[0], element);
const textOf = (value: XmlElement[string] | undefined): string => (typeof value === 'string' ? value.trim() : '');
/** The text of an element, of white space at its ends freed; empty where there is none. */
export const xmlText = (element: XmlElement | undefined): string => textOf(element?.['#']);
export const xmlAttribute = (element: XmlElement | undefined, name: string): string => textOf(element?.[`@${name}`]);

const options = { ignoreAttributes: false, attributeNamePrefix: '@', textNodeName: '#', cdataPropName: false } as const;
const parser = new XMLParser({
  ...options,
  removeNSPrefix: true,
  parseTagValue: false,
  parseAttributeValue: false,
  trimValues: false,
  alwaysCreateTextNode: true,
  ignoreDeclaration: true,
  ignorePiTags: true,
  htmlEntities: true,
  isArray: (_name, _path, _isLeaf, isAttribute) => !isAttribute,
});

/**
 * Reads XML that came from elsewhere. A document type is refused whatever it says, so that no entity of its own is ever opened
 * (neither one that grows without end nor one that reads a file); only the five of XML itself and numbered ones are read. Name
 * spaces are dropped from the names. Worked example: `<a b="1"><c>d</c></a>` gives `{ '@b': '1', c: [{ '#': 'd' }] }`.
 */
export function readXml(text: string): XmlRead {
  const body = text.replace(/^\uFEFF/, '');
  if (/<!DOCTYPE|<!ENTITY/i.test(body))
    return { ok: false, reason: 'it declares a document type or entities, which are never opened here' };
  if (body.trim() === '') return { ok: false, reason: 'it is empty' };
  const valid = XMLValidator.validate(body);
  if (valid !== true)
    return { ok: false, reason: `it is no well-formed XML (line ${valid.err.line}: ${valid.err.msg.replace(/\.$/, '')})` };
  try {
    const read = parser.parse(body) as { readonly [name: string]: unknown };
    const name = Object.keys(read).find((key) => Array.isArray(read[key]));
    if (name === undefined) return { ok: false, reason: 'it holds no element' };
    const root = (read[name] as readonly XmlElement[])[0];
    return root === undefined ? { ok: false, reason: 'it holds no element' } : { ok: true, root, name };
  } catch {
    return { ok: false, reason: 'it is nested far too deeply or cannot be read' };
  }
}

/** What is to be written: attributes begin with `@`, text is under `#`, a list is the element repeated. */
export interface XmlWish {
  readonly [name: string]: string | XmlWish | readonly (XmlWish | string)[] | undefined;
}
const builder = new XMLBuilder({ ...options, format: true, indentBy: ' ', suppressEmptyNode: true });

/** XML with its declaration, UTF-8; text and attributes are escaped. Example: `{ a: { '@b': '"' } }` gives `<a b="&quot;"/>`. */
export const writeXml = (wish: XmlWish): string => `<?xml version="1.0" encoding="UTF-8"?>\n${builder.build(wish)}`;
