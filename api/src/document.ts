import { getSchema, Node, type Extensions } from '@tiptap/core';
import Image from '@tiptap/extension-image';
import { TableKit } from '@tiptap/extension-table';
import type { Node as ProseNode, Schema } from '@tiptap/pm/model';
import StarterKit from '@tiptap/starter-kit';
import { readDrawing } from '@rosemary/core';
import { BLOCK_DEFAULTS, type BlockAttrs, type BlockName, type CheckQuestion } from './blocks.ts';

/** A passage set apart: a caution, a hint. */
const Callout = Node.create({
  name: 'callout',
  group: 'block',
  content: 'paragraph+',
  defining: true,
  parseHTML: () => [{ tag: 'aside' }],
  renderHTML: () => ['aside', { class: 'callout' }, 0],
});

/** Pictures carry their course file, a text alternative and a caption. */
const Picture = Image.extend({
  name: 'picture',
  addAttributes() {
    return {
      fileId: { default: null, parseHTML: (e) => e.getAttribute('data-file'), renderHTML: (a) => ({ 'data-file': a.fileId }) },
      src: { default: null },
      alt: { default: '' },
      /** It only decorates the page: whoever cannot see it misses nothing, and hears nothing of it. */
      isDecorative: {
        default: false,
        parseHTML: (e) => e.hasAttribute('data-decorative'),
        renderHTML: (a) => (a.isDecorative === true ? { 'data-decorative': '' } : {}),
      },
      size: { default: 'full', parseHTML: (e) => e.getAttribute('data-size') ?? 'full', renderHTML: (a) => ({ 'data-size': a.size }) },
      source: { default: '', parseHTML: (e) => e.getAttribute('data-source') ?? '', renderHTML: (a) => ({ 'data-source': a.source }) },
      licence: { default: '', parseHTML: (e) => e.getAttribute('data-licence') ?? '', renderHTML: (a) => ({ 'data-licence': a.licence }) },
      /** What a diagram was drawn from, so that it can be drawn on. */
      drawing: { default: '', parseHTML: (e) => e.getAttribute('data-drawing') ?? '', rendered: false },
      caption: { default: '', parseHTML: (e) => e.getAttribute('data-caption') ?? '', renderHTML: (a) => ({ 'data-caption': a.caption }) },
    };
  },
  renderHTML: ({ HTMLAttributes, node }) => {
    const words = [node.attrs.caption, node.attrs.source, node.attrs.licence].filter((w) => w !== '').join(' · ');
    return [
      'figure',
      { class: `size-${String(node.attrs.size)}` },
      ['img', HTMLAttributes],
      ...(words === '' ? [] : [['figcaption', {}, words] as const]),
    ];
  },
  parseHTML: () => [{ tag: 'img[data-file]' }],
});

/** A block of one piece: its attributes travel as data, and what shows it is drawn from them on every side. */
function piece<N extends BlockName>(name: N, words: (attrs: BlockAttrs[N]) => string): Node {
  const isInline = name === 'formulaInline';
  const tag = isInline ? 'span' : 'div';
  const defaults = BLOCK_DEFAULTS[name];
  return Node.create({
    name,
    group: isInline ? 'inline' : 'block',
    inline: isInline,
    atom: true,
    selectable: true,
    draggable: !isInline,
    addAttributes: () =>
      Object.fromEntries(Object.entries(defaults).map(([key, value]) => [key, { default: value as unknown, rendered: false }])),
    parseHTML: () => [
      {
        tag: `${tag}[data-block="${name}"]`,
        getAttrs: (element) => {
          try {
            return JSON.parse(element.getAttribute('data-attrs') ?? '') as Record<string, unknown>;
          } catch {
            return false;
          }
        },
      },
    ],
    renderHTML: ({ node }) => [
      tag,
      { 'data-block': name, 'data-attrs': JSON.stringify(node.attrs) },
      words(node.attrs as unknown as BlockAttrs[N]),
    ],
  });
}

/** The pieces, for readers; the editor gives each of them a view of its own. */
export const pieces: readonly Node[] = [
  piece('formula', (a) => a.tex),
  piece('formulaInline', (a) => a.tex),
  piece('media', (a) => a.title),
  piece('embed', (a) => a.title),
  piece('fileShown', (a) => a.name),
  piece('question', (a) => a.prompt),
  piece('response', (a) => a.title),
];

/** A place in a line that a question fills: a blank to be written into, or a number that differs from student to student. */
function place(
  name: 'blank' | 'value',
  defaults: Readonly<Record<string, unknown>>,
  words: (attrs: Readonly<Record<string, unknown>>) => string,
): Node {
  return Node.create({
    name,
    group: 'inline',
    inline: true,
    atom: true,
    selectable: true,
    addAttributes: () => Object.fromEntries(Object.entries(defaults).map(([key, value]) => [key, { default: value, rendered: false }])),
    parseHTML: () => [
      {
        tag: `span[data-place="${name}"]`,
        getAttrs: (element) => {
          try {
            return JSON.parse(element.getAttribute('data-attrs') ?? '') as Record<string, unknown>;
          } catch {
            return false;
          }
        },
      },
    ],
    renderHTML: ({ node }) => [
      'span',
      { 'data-place': name, 'data-attrs': JSON.stringify(node.attrs), class: `place ${name}` },
      words(node.attrs),
    ],
  });
}
/** The places of questions; their size is in letters, 0 follows the answer. */
export const places: readonly Node[] = [
  place('blank', { id: '', size: 0 }, (a) => '\u00a0'.repeat(Math.max(12, Number(a.size)))),
  place('value', { name: '' }, (a) => String(a.name)),
];

/** Everything but the pieces. */
export const textExtensions: Extensions = [
  StarterKit.configure({
    heading: { levels: [2, 3, 4] },
    link: { openOnClick: false, protocols: ['http', 'https', 'mailto'], autolink: true },
  }),
  Picture,
  Callout,
  TableKit.configure({ table: { resizable: false } }),
];

/** The one schema of text in Rosemary: the editor, the server's check and every reader use it. */
export const documentSchema: Schema = getSchema([...textExtensions, ...pieces, ...places]);

export type DocumentCheck = { readonly ok: true; readonly node: ProseNode } | { readonly ok: false; readonly reason: string };

const SAFE_LINK = /^(https?:|mailto:|\/|#)/i;
const OWN_FILE = /^\/api\/courses\/[0-9a-f-]{36}\/files\/([0-9a-f-]{36})$/;

function fileFault(src: string, fileId: unknown): string | null {
  return OWN_FILE.exec(src)?.[1] === fileId && fileId !== null ? null : 'must be a file of this course. Insert it again';
}

/** Whether a page of this address may be shown inside ours: its site, or the site it belongs to, is on the list. */
export function isEmbeddable(address: string, hosts: readonly string[]): boolean {
  if (!URL.canParse(address)) return false;
  const { protocol, hostname } = new URL(address);
  return protocol === 'https:' && hosts.some((host) => hostname === host || hostname.endsWith(`.${host}`));
}

export const isWebAddress = (address: string): boolean => URL.canParse(address) && ['http:', 'https:'].includes(new URL(address).protocol);

/** What nobody writes and what would stop whoever opens it: nested so deep, in so many parts, a cell over so many others. */
const [MOST_DEPTH, MOST_PARTS, MOST_SPAN] = [40, 20_000, 60];

const isSpan = (span: unknown): boolean => Number.isInteger(span) && Number(span) >= 1 && Number(span) <= MOST_SPAN;

/** Whether a document is of a size that can be shown, seen before it is taken apart. */
function sizeFault(json: unknown): string | null {
  let parts = 0;
  const left: { readonly node: unknown; readonly depth: number }[] = [{ node: json, depth: 1 }];
  for (let one = left.pop(); one !== undefined; one = left.pop()) {
    parts += 1;
    if (one.depth > MOST_DEPTH) return `The text is nested more than ${MOST_DEPTH} deep. Take some of the quotes or lists apart.`;
    if (parts > MOST_PARTS) return `The text has more than ${MOST_PARTS.toLocaleString('en')} parts. Divide it into several.`;
    const { content } = (typeof one.node === 'object' && one.node !== null ? one.node : {}) as { content?: unknown };
    if (Array.isArray(content)) for (const node of content) left.push({ node, depth: one.depth + 1 });
  }
  return null;
}

/** What is wrong with one block, in words that name it, or null. */
function blockFault(
  name: string,
  attrs: Readonly<Record<string, unknown>>,
  embedHosts: readonly string[],
  isQuestion: boolean,
): string | null {
  const src = String(attrs.src ?? '');
  switch (name) {
    case 'picture': {
      // Pictures of before have no file named beside their address.
      const fault = OWN_FILE.test(src) && (attrs.fileId === null || OWN_FILE.exec(src)?.[1] === attrs.fileId) ? null : fileFault(src, null);
      if (fault !== null) return `A picture ${fault}.`;
      const drawn = String(attrs.drawing ?? '');
      return drawn === '' || (drawn.length <= 200_000 && readDrawing(drawn) !== null)
        ? null
        : 'A diagram cannot be read as one. Draw it again.';
    }
    case 'fileShown': {
      const fault = fileFault(src, attrs.fileId);
      return fault === null ? null : `A file shown in the page ${fault}.`;
    }
    case 'media': {
      const isFile = attrs.fileId !== null;
      if (isFile && fileFault(src, attrs.fileId) !== null)
        return 'A video or sound must be a file of this course, or an address. Insert it again.';
      if (!isFile && !(isWebAddress(src) && src.startsWith('https:')))
        return `The video or sound “${src.slice(0, 80)}” is no address of the web. It begins with https://.`;
      if (attrs.captionsId !== null && fileFault(String(attrs.captionsSrc), attrs.captionsId) !== null)
        return 'The captions must be a file of this course. Choose them again.';
      return null;
    }
    case 'embed':
      return isEmbeddable(src, embedHosts)
        ? null
        : `Pages of “${URL.canParse(src) ? new URL(src).hostname : src.slice(0, 60)}” are not shown inside a page here. An administrator keeps the list of sites; a link always works.`;
    case 'question': {
      const { prompt, answers } = attrs as unknown as CheckQuestion;
      if (typeof prompt !== 'string' || prompt.trim() === '') return 'A check-yourself question has no question. Type it.';
      if (!Array.isArray(answers) || answers.length < 2 || answers.length > 8)
        return `The question “${prompt.slice(0, 60)}” takes two to eight answers.`;
      if (answers.some((a) => typeof a.text !== 'string' || a.text.trim() === '' || typeof a.feedback !== 'string'))
        return `The question “${prompt.slice(0, 60)}” has an empty answer. Type it or remove it.`;
      return answers.some((a) => a.isRight === true) ? null : `The question “${prompt.slice(0, 60)}” has no right answer. Mark one.`;
    }
    case 'response':
      return OWN_ITEM.test(String(attrs.href)) && typeof attrs.title === 'string' && attrs.title.trim() !== ''
        ? null
        : 'What students hand in here names no assignment of a course. Insert it again.';
    case 'tableCell':
    case 'tableHeader':
      return isSpan(attrs.colspan ?? 1) && isSpan(attrs.rowspan ?? 1)
        ? null
        : `A cell of a table goes over more than ${MOST_SPAN} others. Make it narrower.`;
    case 'blank':
    case 'value':
      return isQuestion ? null : 'Blanks and drawn numbers stand in questions of a quiz alone.';
    case 'formula':
    case 'formulaInline':
      return typeof attrs.tex === 'string' && attrs.tex.trim() !== '' && attrs.tex.length <= 4000
        ? null
        : 'A formula is empty or longer than 4,000 characters.';
    default:
      return null;
  }
}

const OWN_ITEM = /^\/courses\/[0-9a-f-]{36}\/items\/[0-9a-f-]{36}$/;

/** Checks editor JSON against the schema, the addresses of links, files and embeds, and what each block needs. */
export function checkDocument(json: unknown, embedHosts: readonly string[] = [], isQuestion = false): DocumentCheck {
  const tooLarge = sizeFault(json);
  if (tooLarge !== null) return { ok: false, reason: tooLarge };
  try {
    const node = documentSchema.nodeFromJSON(json as Record<string, unknown>);
    node.check();
    let reason: string | null = null;
    node.descendants((child) => {
      for (const mark of child.marks) {
        if (mark.type.name === 'link' && !SAFE_LINK.test(String(mark.attrs.href ?? '')))
          reason ??= `The link “${String(mark.attrs.href).slice(0, 80)}” does not lead to the web or to a mail address.`;
      }
      reason ??= blockFault(child.type.name, child.attrs, embedHosts, isQuestion);
    });
    return reason === null ? { ok: true, node } : { ok: false, reason };
  } catch (error) {
    return {
      ok: false,
      reason: `The text has a part that is not known here (${error instanceof Error ? error.message.slice(0, 120) : 'unknown'}).`,
    };
  }
}

/**
 * Checks what a student writes, which is opened by those who mark it: as any text, but with no frame, video or sound of another site in it,
 * and no question with its key.
 */
export function checkWork(json: unknown): DocumentCheck {
  const check = checkDocument(json);
  if (!check.ok) return check;
  let reason: string | null = null;
  check.node.descendants((child) => {
    if (child.type.name === 'media' && child.attrs.fileId === null)
      reason ??= 'A video or sound of another site cannot stand in what you hand in. Add it as a file, or write its address as a link.';
    if (child.type.name === 'question') reason ??= 'A check-yourself question stands in pages of a course alone. Remove it.';
    if (child.type.name === 'response') reason ??= 'A place to hand in stands in pages of a course alone. Remove it.';
  });
  return reason === null ? check : { ok: false, reason };
}
