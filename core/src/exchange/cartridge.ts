import { elementOf, elementsOf, readXml, writeXml, xmlAttribute, xmlText, type XmlElement, type XmlWish } from './xml.ts';

/**
 * Packages of a course after 1EdTech Common Cartridge 1.3: `imsmanifest.xml` at the root of a zip holds one organization (the
 * outline, one tree under one root without a title) and the resources, each of a type, with its files. Source: 1EdTech Common
 * Cartridge Profile 1.3 and its Assignment extension 1.0.
 */
export const MANIFEST = 'imsmanifest.xml';
const NAMESPACES = {
  '@xmlns': 'http://www.imsglobal.org/xsd/imsccv1p3/imscp_v1p1',
  '@xmlns:lom': 'http://ltsc.ieee.org/xsd/imsccv1p3/LOM/resource',
  '@xmlns:lomimscc': 'http://ltsc.ieee.org/xsd/imsccv1p3/LOM/manifest',
} as const;

/** What a resource is, by its type. A set is a bundle of files of its own; questions and tools have no place here yet. */
export type ResourceKind = 'content' | 'link' | 'discussion' | 'assignment' | 'questions' | 'tool' | 'set';
const KINDS: readonly (readonly [RegExp, ResourceKind])[] = [
  [/^webcontent$/, 'content'],
  [/^imswl_xmlv1p\d$/, 'link'],
  [/^imsdt_xmlv1p\d$/, 'discussion'],
  [/^assignment_xmlv1p\d$/, 'assignment'],
  [/^imsqti_xmlv1p2\/imscc_xmlv1p\d\/(assessment|question-bank)$/, 'questions'],
  [/^imsbasiclti_xmlv1p\d(p\d)?$/, 'tool'],
  [/^associatedcontent\/imscc_xmlv1p\d\/learning-application-resource$/, 'set'],
];
const TYPES = {
  content: 'webcontent',
  link: 'imswl_xmlv1p3',
  discussion: 'imsdt_xmlv1p3',
  assignment: 'assignment_xmlv1p0',
} as const;

/** Example: `imswl_xmlv1p3` is a link; a type of no standard is null. */
export const resourceKind = (type: string): ResourceKind | null => KINDS.find(([is]) => is.test(type))?.[1] ?? null;

export interface CartridgeResource {
  readonly id: string;
  readonly type: string;
  readonly kind: ResourceKind | null;
  /** Paths from the root of the package; the first is the one that is opened. */
  readonly paths: readonly string[];
  readonly isStaffOnly: boolean;
}
export interface CartridgeNode {
  readonly title: string;
  readonly resourceId: string | null;
  readonly children: readonly CartridgeNode[];
}
export interface Cartridge {
  readonly title: string;
  readonly description: string;
  readonly tree: readonly CartridgeNode[];
  readonly resources: ReadonlyMap<string, CartridgeResource>;
  /** What is not as the standard has it, and was read all the same. */
  readonly problems: readonly string[];
}
export type CartridgeRead = { readonly ok: true; readonly cartridge: Cartridge } | { readonly ok: false; readonly reason: string };

const TOKEN = /^(\$|%24)IMS-CC-FILEBASE(\$|%24)\/?/i;

/**
 * The path in a package that an address leads to, seen from a file in it, or null for one of elsewhere. Queries and fragments
 * fall away, and nothing leads out of the root. Worked example: `../img/a%20b.png?x` seen from `pages/one.html` is `img/a b.png`.
 */
export function pathFrom(base: string, address: string): string | null {
  const bare = address
    .trim()
    .replace(TOKEN, '')
    .replace(/[?#].*$/, '');
  if (bare === '' || /^[a-z][a-z0-9+.-]*:/i.test(bare) || bare.startsWith('//')) return null;
  let plain = bare;
  try {
    plain = decodeURIComponent(bare);
  } catch {
    // A percent sign that is no code stands for itself.
  }
  const from = plain.startsWith('/') ? [] : base.split('/').slice(0, -1);
  const parts: string[] = [];
  for (const part of [...from, ...plain.split('/')]) {
    if (part === '..') parts.pop();
    else if (part !== '' && part !== '.') parts.push(part);
  }
  return parts.length === 0 ? null : parts.join('/');
}

/** The address of a path seen from another file of the package. Example: `files/a b.png` from `pages/x.html` is `../files/a%20b.png`. */
export function addressFrom(base: string, path: string): string {
  const up = base.split('/').length - 1;
  return '../'.repeat(up) + path.split('/').map(encodeURIComponent).join('/');
}

/**
 * Finds the entry of a package that an address means: seen from the file it stands in, else from the root, else the only entry
 * that ends so. Worked example: `web/a.png` from `pages/x.html`, where only `assets/web/a.png` is there, is that one.
 */
export function entryFinder(names: readonly string[]): (base: string, address: string) => string | null {
  const known = new Set(names);
  const ends = new Map<string, string[]>();
  for (const name of names) {
    const last = name.split('/').at(-1) ?? name;
    ends.set(last, [...(ends.get(last) ?? []), name]);
  }
  return (base, address) => {
    const own = pathFrom(base, address);
    const rooted = pathFrom('', address);
    for (const path of [own, rooted]) if (path !== null && known.has(path)) return path;
    if (rooted === null) return null;
    const alike = (ends.get(rooted.split('/').at(-1) ?? '') ?? []).filter((name) => name.endsWith(`/${rooted}`));
    return alike.length === 1 ? (alike[0] ?? null) : null;
  };
}

const join = (...parts: readonly string[]): string => pathFrom('', parts.filter((p) => p !== '').join('/')) ?? '';

function readResource(element: XmlElement, base: string): CartridgeResource {
  const own = join(base, xmlAttribute(element, 'base'));
  const href = xmlAttribute(element, 'href');
  const hrefs = [href, ...elementsOf(element, 'file').map((file) => xmlAttribute(file, 'href'))].filter((h) => h !== '');
  const type = xmlAttribute(element, 'type').trim();
  const roles = elementsOf(elementOf(element, 'metadata', 'lom', 'educational'), 'intendedEndUserRole').map((role) =>
    xmlText(elementOf(role, 'value')),
  );
  return {
    id: xmlAttribute(element, 'identifier'),
    type,
    kind: resourceKind(type),
    paths: [...new Set(hrefs.map((h) => join(own, h)))].filter((path) => path !== ''),
    isStaffOnly: roles.length > 0 && !roles.includes('Learner'),
  };
}

const readNode = (item: XmlElement): CartridgeNode => ({
  title: xmlText(elementOf(item, 'title')).replace(/\s+/g, ' '),
  resourceId: xmlAttribute(item, 'identifierref') || null,
  children: elementsOf(item, 'item').map(readNode),
});

function depthOf(item: XmlElement): number {
  let depth = 0;
  for (let level: readonly XmlElement[] = [item]; level.length > 0 && depth < 200; level = level.flatMap((one) => elementsOf(one, 'item')))
    depth += 1;
  return depth;
}

function countTwice(ids: readonly string[]): string[] {
  const seen = new Set<string>();
  return [...new Set(ids.filter((id) => seen.has(id) || !seen.add(id)))];
}

/** What of a manifest is not as the standard has it. */
function faultsOf(root: XmlElement, resources: readonly CartridgeResource[], items: readonly XmlElement[]): string[] {
  const schema = xmlText(elementOf(root, 'metadata', 'schema'));
  const version = xmlText(elementOf(root, 'metadata', 'schemaversion'));
  const organization = elementOf(root, 'organizations', 'organization');
  const ids = [...resources.map((r) => r.id), ...items.map((i) => xmlAttribute(i, 'identifier'))];
  const known = new Set(resources.map((r) => r.id));
  const lost = items.filter((i) => xmlAttribute(i, 'identifierref') !== '' && !known.has(xmlAttribute(i, 'identifierref')));
  const dependencies = elementsOf(elementOf(root, 'resources'), 'resource').flatMap((r) =>
    elementsOf(r, 'dependency').map((d) => xmlAttribute(d, 'identifierref')),
  );
  const say = (is: boolean, text: string): string[] => (is ? [text] : []);
  return [
    ...say(
      schema !== 'IMS Common Cartridge' && schema !== 'IMS Thin Common Cartridge',
      `The manifest says its schema is “${schema}”, not IMS Common Cartridge.`,
    ),
    ...say(!/^1\.3(\.\d)?$/.test(version), `The manifest says its version is “${version}”; it is read as 1.3.`),
    ...say(elementsOf(elementOf(root, 'organizations'), 'organization').length > 1, 'There are several organizations; the first is read.'),
    ...say(
      organization !== undefined && xmlAttribute(organization, 'structure') !== 'rooted-hierarchy',
      'The outline does not say that it is a rooted hierarchy.',
    ),
    ...countTwice(ids.filter((id) => id !== '')).map((id) => `The identifier “${id}” stands twice.`),
    ...ids
      .filter((id) => id !== '' && !/^[A-Za-z_][\w.-]*$/.test(id))
      .map((id) => `The identifier “${id.slice(0, 60)}” is not of the form that is allowed.`),
    ...lost.map((i) => `“${xmlText(elementOf(i, 'title'))}” names the resource “${xmlAttribute(i, 'identifierref')}”, which is not there.`),
    ...dependencies.filter((id) => !known.has(id)).map((id) => `A resource rests on “${id}”, which is not there.`),
    ...resources.filter((r) => r.id === '').map(() => 'A resource has no identifier.'),
    ...resources.filter((r) => r.kind === null).map((r) => `The resource “${r.id}” is of the type “${r.type}”, which is not known here.`),
    ...resources.filter((r) => r.paths.length === 0).map((r) => `The resource “${r.id}” names no file.`),
  ];
}

/**
 * Reads a manifest. Refused are what is no XML and what holds neither an outline nor resources; whatever else is wrong is said
 * and the rest read. Worked example: a manifest with one item that names a web page gives a tree of one node and one resource.
 */
export function readManifest(xml: string): CartridgeRead {
  const read = readXml(xml);
  if (!read.ok) return { ok: false, reason: `The manifest cannot be read: ${read.reason}.` };
  const { root, name } = read;
  if (!/(^|:)manifest$/.test(name)) return { ok: false, reason: `The manifest begins with <${name}>, not with <manifest>.` };
  const resourcesElement = elementOf(root, 'resources');
  const organization = elementOf(root, 'organizations', 'organization');
  if (resourcesElement === undefined) return { ok: false, reason: 'The manifest names no resources, so there is nothing to take in.' };
  const base = join(xmlAttribute(root, 'base'), xmlAttribute(resourcesElement, 'base'));
  const resources = elementsOf(resourcesElement, 'resource').map((r) => readResource(r, base));
  const tops = elementsOf(organization, 'item');
  if (tops.some((item) => depthOf(item) > 40)) return { ok: false, reason: 'The outline in the manifest is nested more than 40 deep.' };
  const all = (items: readonly XmlElement[]): XmlElement[] => items.flatMap((i) => [i, ...all(elementsOf(i, 'item'))]);
  const [root1] = tops;
  // The standard has one item without a title as the root; what has its items at the top is read as they stand.
  const isRooted =
    tops.length === 1 && root1 !== undefined && xmlAttribute(root1, 'identifierref') === '' && xmlText(elementOf(root1, 'title')) === '';
  const general = elementOf(root, 'metadata', 'lom', 'general');
  const words = (part: string): string => xmlText(elementOf(general, part, 'string')) || xmlText(elementOf(general, part, 'langstring'));
  return {
    ok: true,
    cartridge: {
      title: words('title').replace(/\s+/g, ' '),
      description: words('description'),
      tree: (isRooted ? elementsOf(root1, 'item') : tops).map(readNode),
      resources: new Map(resources.map((r) => [r.id, r])),
      problems: faultsOf(root, resources, all(tops)),
    },
  };
}

export interface ResourceWish {
  readonly id: string;
  readonly kind: keyof typeof TYPES;
  readonly path: string;
  /** Resources whose files this one shows. */
  readonly needs: readonly string[];
  readonly isStaffOnly: boolean;
}
export interface CartridgeWish {
  readonly id: string;
  readonly title: string;
  readonly description: string;
  readonly language: string;
  readonly units: readonly { readonly title: string; readonly items: readonly { readonly title: string; readonly resourceId: string }[] }[];
  readonly resources: readonly ResourceWish[];
}

const said = (text: string, language: string): XmlWish => ({ 'lomimscc:string': { '@language': language, '#': text } });

function resourceXml(resource: ResourceWish): XmlWish {
  const role = { 'lom:source': 'IMSGLC_CC_Rolesv1p1', 'lom:value': 'Instructor' };
  return {
    '@identifier': resource.id,
    '@type': TYPES[resource.kind],
    // What is opened by itself names what is opened; a description in XML is found through its file alone.
    '@href': resource.kind === 'content' ? resource.path : undefined,
    metadata: resource.isStaffOnly ? { 'lom:lom': { 'lom:educational': { 'lom:intendedEndUserRole': role } } } : undefined,
    file: { '@href': resource.path },
    dependency: [...new Set(resource.needs)].map((id) => ({ '@identifierref': id })),
  };
}

/**
 * The manifest of a package. Identifiers must be letters, digits, `.`, `-`, `_` and begin with a letter. Worked example: one unit
 * with one page gives an organization of root, unit and item, and a resource of the type webcontent.
 */
export function writeManifest(wish: CartridgeWish): string {
  const units = wish.units.map((unit, n) => ({
    '@identifier': `unit_${n + 1}`,
    title: unit.title,
    item: unit.items.map((item, k) => ({
      '@identifier': `unit_${n + 1}_item_${k + 1}`,
      '@identifierref': item.resourceId,
      title: item.title,
    })),
  }));
  return writeXml({
    manifest: {
      '@identifier': wish.id,
      ...NAMESPACES,
      metadata: {
        schema: 'IMS Common Cartridge',
        schemaversion: '1.3.0',
        'lomimscc:lom': {
          'lomimscc:general': {
            'lomimscc:title': said(wish.title, wish.language),
            ...(wish.description === '' ? {} : { 'lomimscc:description': said(wish.description, wish.language) }),
          },
        },
      },
      organizations: {
        organization: { '@identifier': 'outline', '@structure': 'rooted-hierarchy', item: { '@identifier': 'root', item: units } },
      },
      resources: { resource: wish.resources.map(resourceXml) },
    },
  });
}
