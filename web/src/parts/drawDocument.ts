import { BLOCK_DEFAULTS, type BlockName } from '@rosemary/api';
import type { DocumentNode } from '@rosemary/core';

type Attrs = Readonly<Record<string, unknown>>;

/** Marks from the outside in, as the editor nests them. */
const MARKS: readonly (readonly [name: string, tag: string])[] = [
  ['link', 'a'],
  ['bold', 'strong'],
  ['code', 'code'],
  ['italic', 'em'],
  ['strike', 's'],
  ['underline', 'u'],
];
const PLAIN: Readonly<Record<string, string>> = {
  paragraph: 'p',
  blockquote: 'blockquote',
  bulletList: 'ul',
  listItem: 'li',
  tableRow: 'tr',
  hardBreak: 'br',
  horizontalRule: 'hr',
};
const SAFE_LINK = /^(https?:|mailto:|\/|#)/i;

function element(tag: string, attrs: Attrs = {}): HTMLElement {
  const made = document.createElement(tag);
  for (const [name, value] of Object.entries(attrs)) if (value !== null && value !== undefined) made.setAttribute(name, String(value));
  return made;
}

function markElement(mark: NonNullable<DocumentNode['marks']>[number]): HTMLElement {
  const tag = MARKS.find(([name]) => name === mark.type)?.[1] ?? 'span';
  if (mark.type !== 'link') return element(tag);
  const href = String(mark.attrs?.href ?? '');
  return element(tag, { target: '_blank', rel: 'noopener noreferrer nofollow', href: SAFE_LINK.test(href) ? href : '' });
}

/** The words of a line; neighbours that share a mark stand in one element. */
function drawInline(children: readonly DocumentNode[], into: Node): void {
  let open: { readonly key: string; readonly at: Node }[] = [];
  for (const child of children) {
    const marks = MARKS.flatMap(([name]) => child.marks?.filter((m) => m.type === name) ?? []);
    const keys = marks.map((m) => JSON.stringify([m.type, m.attrs ?? null]));
    let kept = 0;
    while (kept < keys.length && open[kept]?.key === keys[kept]) kept += 1;
    open = open.slice(0, kept);
    for (const [n, mark] of marks.entries()) {
      if (n < kept) continue;
      const made = markElement(mark);
      (open.at(-1)?.at ?? into).appendChild(made);
      open.push({ key: keys[n] ?? '', at: made });
    }
    (open.at(-1)?.at ?? into).appendChild(child.type === 'text' ? document.createTextNode(child.text ?? '') : drawNode(child));
  }
}

function drawPicture(attrs: Attrs): HTMLElement {
  const { fileId = null, src = null, alt = '', size = 'full', source = '', licence = '', caption = '' } = attrs;
  const figure = element('figure', { class: `size-${String(size)}` });
  figure.append(
    element('img', {
      'data-file': fileId,
      src,
      alt,
      'data-size': size,
      'data-source': source,
      'data-licence': licence,
      'data-caption': caption,
    }),
  );
  const words = [caption, source, licence].filter((w) => w !== '').join(' · ');
  if (words !== '') {
    const line = element('figcaption');
    line.textContent = words;
    figure.append(line);
  }
  return figure;
}

const PIECE_WORDS: { readonly [name in BlockName]: string } = {
  formula: 'tex',
  formulaInline: 'tex',
  media: 'title',
  embed: 'title',
  fileShown: 'name',
  question: 'prompt',
  response: 'title',
};
/** A piece travels as its data; whoever shows it draws it from that. */
function drawPiece(name: BlockName, own: Attrs): HTMLElement {
  const attrs = { ...BLOCK_DEFAULTS[name], ...own } as Attrs;
  const known = Object.fromEntries(Object.keys(BLOCK_DEFAULTS[name]).map((key) => [key, attrs[key]]));
  const made = element(name === 'formulaInline' ? 'span' : 'div', { 'data-block': name, 'data-attrs': JSON.stringify(known) });
  made.textContent = String(known[PIECE_WORDS[name]] ?? '');
  return made;
}

function drawPlace(name: 'blank' | 'value', own: Attrs): HTMLElement {
  const attrs = name === 'blank' ? { id: own.id ?? '', size: own.size ?? 0 } : { name: own.name ?? '' };
  const made = element('span', { 'data-place': name, 'data-attrs': JSON.stringify(attrs), class: `place ${name}` });
  made.textContent = 'size' in attrs ? '\u00a0'.repeat(Math.max(12, Number(attrs.size))) : String(attrs.name);
  return made;
}

function shell(node: DocumentNode): { readonly outer: HTMLElement; readonly inner: HTMLElement } {
  const attrs = node.attrs ?? {};
  const both = (made: HTMLElement) => ({ outer: made, inner: made });
  const within = (outer: HTMLElement, inner: HTMLElement) => {
    outer.append(inner);
    return { outer, inner };
  };
  switch (node.type) {
    case 'heading':
      return both(element(`h${String(attrs.level ?? 2)}`));
    case 'orderedList':
      return both(element('ol', Number(attrs.start ?? 1) === 1 ? {} : { start: attrs.start }));
    case 'callout':
      return both(element('aside', { class: 'callout' }));
    case 'codeBlock':
      return within(element('pre'), element('code', typeof attrs.language === 'string' ? { class: `language-${attrs.language}` } : {}));
    case 'table':
      return within(element('table'), element('tbody'));
    case 'tableCell':
    case 'tableHeader':
      return both(element(node.type === 'tableCell' ? 'td' : 'th', { colspan: attrs.colspan ?? 1, rowspan: attrs.rowspan ?? 1 }));
    default:
      return both(element(PLAIN[node.type] ?? 'div'));
  }
}

function drawNode(node: DocumentNode): Node {
  const attrs = node.attrs ?? {};
  if (node.type === 'picture') return drawPicture(attrs);
  if (node.type === 'blank' || node.type === 'value') return drawPlace(node.type, attrs);
  if (node.type in BLOCK_DEFAULTS) return drawPiece(node.type as BlockName, attrs);
  const { outer, inner } = shell(node);
  drawInline(node.content ?? [], inner);
  return outer;
}

/**
 * A document as the browser shows it, the same elements that the editor's schema makes, without the editor: a page that only reads does not
 * load it. Every word becomes a text node, so nobody's text can become markup.
 */
export function drawDocument(node: DocumentNode): DocumentFragment {
  const made = document.createDocumentFragment();
  drawInline(node.content ?? [], made);
  return made;
}
