import katex from 'katex';
import { parseFragment, type DefaultTreeAdapterMap } from 'parse5';
import { documentFromHtml, type HtmlFile } from '../document/fromHtml.ts';
import type { DocumentNode } from '../document/plainText.ts';
import { documentToHtml, escapeMarkup } from '../document/toHtml.ts';
import { attr, childNamed, h, nodesIn, readQtiXml, wordsIn, type QtiChild, type QtiNode, type QtiVersion } from './qtiTree.ts';

/** A place in the words is a number between these two signs of the private area, on its way through HTML. */
const [OPEN, CLOSE] = ['\uE100', '\uE101'];
const PLACE = new RegExp(`${OPEN}(\\d+)${CLOSE}`, 'g');
const withoutSigns = (text: string): string => text.replaceAll(OPEN, '').replaceAll(CLOSE, '');

/** Elements that HTML has and the earlier versions do not, as a division or a span of a class that tells what it was. */
const AS_CLASS: Readonly<Record<string, 'div' | 'span'>> = { figure: 'div', figcaption: 'div', aside: 'div', u: 'span', s: 'span' };
const classesOf = (node: QtiNode): readonly string[] => attr(node, 'class').split(/\s+/);
const isMedia = (name: string): boolean => name === 'video' || name === 'audio' || name === 'iframe';
const MEDIA_TYPES: Readonly<Record<string, string>> = { video: 'video/mp4', audio: 'audio/mpeg', iframe: 'text/html' };

/** A formula as MathML, which carries its TeX along; one that cannot be set is its TeX as text. */
function mathOf(tex: string, isBlock: boolean): QtiChild {
  const html = katex.renderToString(tex, { output: 'mathml', displayMode: isBlock, throwOnError: false });
  const math = /<math[\s\S]*<\/math>/.exec(html)?.[0];
  const read = math === undefined ? null : readQtiXml(math);
  const asHtml = (node: QtiNode): QtiNode => ({
    ...node,
    isHtml: true,
    children: node.children.map((c) => (typeof c === 'string' ? c : asHtml(c))),
  });
  if (read?.ok !== true) return `\\(${tex}\\)`;
  const node = asHtml(read.root);
  return { ...node, attrs: { xmlns: 'http://www.w3.org/1998/Math/MathML', ...(isBlock ? { display: 'block' } : {}) } };
}

function fromElement(element: DefaultTreeAdapterMap['element'], version: QtiVersion): QtiChild[] {
  const attrs = Object.fromEntries(element.attrs.map((a) => [a.name, a.value]));
  const tex = attrs['data-tex'];
  if (tex !== undefined) return [mathOf(tex, element.tagName === 'div')];
  const children = element.childNodes.flatMap((child) => fromHtmlNode(child, version));
  const { src, title = '' } = attrs;
  if (element.tagName === 'iframe') return [h('p', {}, h('a', { href: src }, title === '' ? (src ?? '') : title))];
  if (version === '3.0') return [h(element.tagName, attrs, ...children)];
  // The earlier versions know few attributes and no elements of newer HTML.
  const kept = Object.fromEntries(Object.entries(attrs).filter(([name]) => /^(href|src|alt|class|id|colspan|rowspan)$/.test(name)));
  if (isMedia(element.tagName)) return [h('object', { data: src, type: MEDIA_TYPES[element.tagName] }, title)];
  const as = AS_CLASS[element.tagName];
  return [as === undefined ? h(element.tagName, kept, ...children) : h(as, { class: element.tagName }, ...children)];
}
function fromHtmlNode(node: DefaultTreeAdapterMap['node'], version: QtiVersion): QtiChild[] {
  if ('value' in node) return [node.value];
  return 'tagName' in node ? fromElement(node, version) : [];
}

function withMarks(node: DocumentNode, places: DocumentNode[]): DocumentNode {
  if (node.type === 'blank' || node.type === 'value')
    return { type: 'text', text: `${OPEN}${places.push(node) - 1}${CLOSE}`, ...(node.marks === undefined ? {} : { marks: node.marks }) };
  if (node.type === 'text') return { ...node, text: withoutSigns(node.text ?? '') };
  return node.content === undefined ? node : { ...node, content: node.content.map((child) => withMarks(child, places)) };
}

export interface BodyTargets {
  readonly version: QtiVersion;
  /** The address of a file in the package as seen from the item, or null where it does not come along. */
  readonly file: (fileId: string) => string | null;
  /** What stands where the words have a place to fill in or a drawn number. */
  readonly placeOf: (place: DocumentNode) => QtiNode;
}

/**
 * A document as it stands in the body of an item: HTML in the words of the version, formulas as MathML, places as `placeOf` says.
 * Worked example: a paragraph “lever {1}” with a blank is `<p>lever <textEntryInteraction/></p>`.
 */
export function toBody(document: DocumentNode, to: BodyTargets): QtiChild[] {
  const places: DocumentNode[] = [];
  const html = documentToHtml(withMarks(document, places), { link: (href) => href, file: to.file });
  const placed = (child: QtiChild): QtiChild[] => {
    if (typeof child !== 'string') return [{ ...child, children: child.children.flatMap(placed) }];
    const parts: QtiChild[] = [];
    let from = 0;
    for (const match of child.matchAll(PLACE)) {
      parts.push(child.slice(from, match.index), to.placeOf(places[Number(match[1])] as DocumentNode));
      from = match.index + match[0].length;
    }
    return [...parts, child.slice(from)].filter((part) => part !== '');
  };
  return parseFragment(html)
    .childNodes.flatMap((node) => fromHtmlNode(node, to.version))
    .flatMap(placed);
}

export interface BodySources {
  /** A file of the package, by its address as seen from the item. */
  readonly file: (address: string) => HtmlFile | null;
  /** What an element of the standard becomes: a place in the words, nodes of HTML that stand for it, or null where it is left out. */
  readonly place: (node: QtiNode) => DocumentNode | readonly QtiChild[] | null;
}
export interface BodyRead {
  readonly document: DocumentNode;
  readonly problems: readonly string[];
}

const VOID = new Set(['br', 'hr', 'img', 'col', 'source', 'track']);
const HTML_NAMES = new Set(
  (
    'a abbr acronym address article aside audio b bdi bdo big blockquote body br caption center cite code col colgroup dd del details dfn ' +
    'div dl dt em embed figcaption figure footer h1 h2 h3 h4 h5 h6 header hgroup hr i img ins kbd label li main math nav object ol p picture ' +
    'pre q rb rp rt ruby s samp section small source span strike strong sub summary sup table tbody td tfoot th thead tr track tt u ul var video'
  ).split(' '),
);

class BodyReader {
  readonly places: DocumentNode[] = [];
  readonly #from: BodySources;
  constructor(from: BodySources) {
    this.#from = from;
  }

  html(child: QtiChild): string {
    if (typeof child === 'string') return escapeMarkup(withoutSigns(child));
    if (child.name === 'math') return this.#math(child);
    if (child.name === 'object') return this.#object(child);
    if (HTML_NAMES.has(child.name)) return this.#element(child);
    const made = this.#from.place(child);
    if (made === null) return '';
    if (Array.isArray(made)) return (made as readonly QtiChild[]).map((c) => this.html(c)).join('');
    return `${OPEN}${this.places.push(made as DocumentNode) - 1}${CLOSE}`;
  }

  #element(node: QtiNode): string {
    const inner = node.children.map((c) => this.html(c)).join('');
    // What the earlier versions had to call a division or a span is again what it was.
    const was = node.name === 'div' || node.name === 'span' ? classesOf(node).find((c) => AS_CLASS[c] === node.name) : undefined;
    const name = was ?? (node.name === 'object' ? 'div' : node.name);
    const attrs = Object.entries(node.attrs)
      .map(([key, value]) => ` ${key}="${escapeMarkup(withoutSigns(value))}"`)
      .join('');
    return VOID.has(name) ? `<${name}${attrs}>` : `<${name}${attrs}>${inner}</${name}>`;
  }

  #math(node: QtiNode): string {
    const notes = nodesIn(childNamed(node, 'semantics')).filter((n) => n.name === 'annotation' && /x-tex/i.test(attr(n, 'encoding')));
    const tex = wordsIn(notes[0]).trim();
    if (tex === '') return this.#element(node);
    const tag = attr(node, 'display') === 'block' ? 'div' : 'span';
    return `<${tag} data-tex="${escapeMarkup(tex)}"></${tag}>`;
  }

  #object(node: QtiNode): string {
    const [address, type] = [attr(node, 'data'), attr(node, 'type')];
    const words = wordsIn(node).trim();
    const src = escapeMarkup(address);
    if (type.startsWith('image/')) return `<img src="${src}" alt="${escapeMarkup(words)}">`;
    if (type.startsWith('video/')) return `<video src="${src}" title="${escapeMarkup(words)}"></video>`;
    if (type.startsWith('audio/')) return `<audio src="${src}" title="${escapeMarkup(words)}"></audio>`;
    return `<p>${node.children.map((c) => this.html(c)).join('')}</p>`;
  }
}

/** Text nodes parted at their places. */
function withPlaces(node: DocumentNode, places: readonly DocumentNode[]): DocumentNode {
  if (node.content === undefined) return node;
  const content = node.content.flatMap((child): DocumentNode[] => {
    if (child.type !== 'text') return [withPlaces(child, places)];
    const text = child.text ?? '';
    const parts: DocumentNode[] = [];
    let from = 0;
    for (const match of text.matchAll(PLACE)) {
      if (match.index > from) parts.push({ ...child, text: text.slice(from, match.index) });
      parts.push(places[Number(match[1])] as DocumentNode);
      from = match.index + match[0].length;
    }
    return from < text.length ? [...parts, { ...child, text: text.slice(from) }] : parts;
  });
  return { ...node, content };
}

/** Reads what stands in a body as a document; see {@link toBody}. */
export function fromBody(children: readonly QtiChild[], from: BodySources): BodyRead {
  const reader = new BodyReader(from);
  const html = children.map((child) => reader.html(child)).join('');
  const { document, problems } = documentFromHtml(html, { link: (href) => href, isEmbeddable: () => false, file: from.file });
  return { document: withPlaces(document, reader.places), problems };
}
