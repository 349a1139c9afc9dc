import { readDrawing } from '../drawing/drawing.ts';
import { parse, type DefaultTreeAdapterMap } from 'parse5';
import { MARK_ORDER, type MarkName } from './marksOrder.ts';
import { type DocumentNode, plainText } from './plainText.ts';

type HtmlNode = DefaultTreeAdapterMap['node'];
type HtmlElement = DefaultTreeAdapterMap['element'];
type Mark = NonNullable<DocumentNode['marks']>[number];

/** A file of the course that an address in the HTML leads to. */
export interface HtmlFile {
  readonly fileId: string;
  readonly src: string;
  readonly name: string;
  readonly mediaType: string;
}
/** What the addresses in the HTML mean to us. */
export interface HtmlSources {
  /** Our address of a link, or null where it leads nowhere: its words stay. */
  readonly link: (href: string) => string | null;
  readonly file: (address: string) => HtmlFile | null;
  readonly isEmbeddable: (address: string) => boolean;
}
export interface HtmlRead {
  readonly document: DocumentNode;
  /** The title that the page gives itself, if it does. */
  readonly title: string;
  /** What could not be kept, each once, in words. */
  readonly problems: readonly string[];
}

const OWN_ITEM = /^\/courses\/[^/]+\/items\/[^/]+$/;
const MOST_DEPTH = 80;
const DROPPED = new Set([
  'script',
  'style',
  'template',
  'noscript',
  'head',
  'link',
  'meta',
  'title',
  'input',
  'button',
  'select',
  'textarea',
  'svg',
  'canvas',
]);
const BLOCKS = new Set([
  ...[
    'address',
    'article',
    'aside',
    'blockquote',
    'body',
    'center',
    'dd',
    'details',
    'dialog',
    'div',
    'dl',
    'dt',
    'fieldset',
    'form',
    'figure',
    'figcaption',
  ],
  ...[
    'footer',
    'h1',
    'h2',
    'h3',
    'h4',
    'h5',
    'h6',
    'header',
    'hgroup',
    'hr',
    'html',
    'li',
    'main',
    'nav',
    'ol',
    'p',
    'pre',
    'section',
    'summary',
    'table',
  ],
  ...['tbody', 'td', 'tfoot', 'th', 'thead', 'tr', 'ul', 'img', 'picture', 'video', 'audio', 'iframe', 'object', 'embed', 'math'],
]);
const MARK_OF: Readonly<Record<string, MarkName>> = {
  ...{
    b: 'bold',
    strong: 'bold',
    em: 'italic',
    i: 'italic',
    cite: 'italic',
    dfn: 'italic',
    var: 'italic',
    u: 'underline',
    ins: 'underline',
  },
  ...{ s: 'strike', del: 'strike', strike: 'strike', code: 'code', kbd: 'code', samp: 'code', tt: 'code' },
};
const LEVEL: Readonly<Record<string, number>> = { h1: 2, h2: 2, h3: 3, h4: 4, h5: 4, h6: 4 };

const isElement = (node: HtmlNode): node is HtmlElement => 'tagName' in node;
const childrenOf = (node: HtmlNode): readonly HtmlNode[] => ('childNodes' in node ? node.childNodes : []);
const get = (element: HtmlElement, name: string): string => element.attrs.find((a) => a.name === name)?.value ?? '';
const words = (node: HtmlNode): string => ('value' in node ? node.value : childrenOf(node).map(words).join(''));
const tidy = (text: string): string => text.replace(/[\t\n\f\r ]+/g, ' ').trim();

function find(node: HtmlNode, is: (element: HtmlElement) => boolean): HtmlElement | null {
  for (const child of childrenOf(node)) {
    if (!isElement(child)) continue;
    const found = is(child) ? child : find(child, is);
    if (found !== null) return found;
  }
  return null;
}
const findTag = (node: HtmlNode, ...tags: string[]): HtmlElement | null => find(node, (e) => tags.includes(e.tagName));

/** In the order of the schema, each once; code lets nothing stand beside it. */
function sorted(marks: readonly Mark[]): Mark[] {
  const byName = new Map(marks.map((mark) => [mark.type, mark]));
  const code = byName.get('code');
  return code === undefined ? MARK_ORDER.flatMap((name) => byName.get(name) ?? []) : [code];
}

const ALONE = new Set([
  'area',
  'base',
  'br',
  'col',
  'embed',
  'hr',
  'img',
  'input',
  'link',
  'meta',
  'source',
  'track',
  'wbr',
  'p',
  'li',
  'dt',
  'dd',
  'tr',
  'td',
  'th',
  'option',
]);

/** Whether many more elements are opened than closed, told by one pass over the letters: a parser takes squared time for such. */
function isHeap(html: string): boolean {
  let open = 0;
  for (const [, end, name = '', rest] of html.matchAll(/<(\/?)([a-z][a-z0-9]*)[^>]*?(\/?)>/gi)) {
    if (ALONE.has(name.toLowerCase()) || rest === '/') continue;
    open = Math.max(0, open + (end === '/' ? -1 : 1));
    if (open > 1000) return true;
  }
  return false;
}

function tooDeep(node: HtmlNode): boolean {
  const open: { node: HtmlNode; depth: number }[] = [{ node, depth: 0 }];
  for (let at = open.pop(); at !== undefined; at = open.pop()) {
    if (at.depth > MOST_DEPTH) return true;
    for (const child of childrenOf(at.node)) open.push({ node: child, depth: at.depth + 1 });
  }
  return false;
}

class HtmlReader {
  readonly problems = new Set<string>();
  readonly #from: HtmlSources;
  constructor(from: HtmlSources) {
    this.#from = from;
  }

  /** The blocks of these nodes; words that stand loose between blocks become paragraphs. */
  blocks(nodes: readonly HtmlNode[], marks: readonly Mark[] = []): DocumentNode[] {
    const made: DocumentNode[] = [];
    let line: DocumentNode[] = [];
    const flush = (): void => {
      const content = trimmed(line);
      if (content.length > 0) made.push({ type: 'paragraph', content });
      line = [];
    };
    for (const node of nodes) {
      if (this.#isBlock(node)) {
        flush();
        made.push(...this.#block(node, marks));
      } else line.push(...this.#inline(node, marks));
    }
    flush();
    return made;
  }

  /** An inline element that holds blocks is no more than a wrapping of them. */
  #isBlock(node: HtmlNode): node is HtmlElement {
    if (!isElement(node) || DROPPED.has(node.tagName)) return false;
    return BLOCKS.has(node.tagName) || find(node, (e) => BLOCKS.has(e.tagName)) !== null;
  }

  #inline(node: HtmlNode, marks: readonly Mark[]): DocumentNode[] {
    if ('value' in node) {
      const text = node.value.replace(/[\t\n\f\r ]+/g, ' ');
      return text === '' ? [] : [{ type: 'text', text, ...(marks.length === 0 ? {} : { marks: sorted(marks) }) }];
    }
    if (!isElement(node)) return [];
    if (DROPPED.has(node.tagName)) return this.#drop(node);
    if (node.tagName === 'br') return [{ type: 'hardBreak' }];
    const tex = get(node, 'data-tex');
    if (tex !== '') return [{ type: 'formulaInline', attrs: { tex } }];
    const own = [...marks, ...this.#markOf(node)];
    return node.childNodes.flatMap((child) => this.#inline(child, own));
  }

  #markOf(node: HtmlElement): Mark[] {
    const name = MARK_OF[node.tagName];
    if (name !== undefined) return [{ type: name }];
    const href = get(node, 'href').trim();
    if (node.tagName !== 'a' || href === '') return [];
    const to = this.#from.link(href);
    if (to === null) {
      this.problems.add(`a link to “${href.slice(0, 80)}” leads nowhere; its words stay`);
      return [];
    }
    return [{ type: 'link', attrs: { href: to, target: '_blank', rel: 'noopener noreferrer nofollow', class: null, title: null } }];
  }

  #drop(node: HtmlElement): [] {
    if (['input', 'button', 'select', 'textarea'].includes(node.tagName)) this.problems.add('the fields of a form were left out');
    if (node.tagName === 'script') this.problems.add('a script was left out');
    if (['svg', 'canvas'].includes(node.tagName))
      this.problems.add('a drawing that stands in the page itself was left out; only pictures that are files come in');
    return [];
  }

  #block(node: HtmlElement, marks: readonly Mark[]): DocumentNode[] {
    const level = LEVEL[node.tagName];
    if (level !== undefined) return this.#heading(node, level, marks);
    switch (node.tagName) {
      case 'ul':
        return this.#list(node, { type: 'bulletList' });
      case 'ol':
        return this.#list(node, { type: 'orderedList', attrs: { start: Number.parseInt(get(node, 'start'), 10) || 1, type: null } });
      case 'blockquote': {
        const content = this.blocks(node.childNodes, marks);
        return content.length === 0 ? [] : [{ type: 'blockquote', content }];
      }
      case 'aside':
        return this.#callout(node, marks);
      case 'pre':
        return this.#code(node);
      case 'hr':
        return [{ type: 'horizontalRule' }];
      case 'dt':
        return this.blocks(node.childNodes, [...marks, { type: 'bold' }]);
      case 'table':
        return this.#table(node);
      case 'figure':
        return this.#figure(node, marks);
      case 'img':
        return this.#picture(node, null);
      case 'video':
      case 'audio':
        return this.#media(node, null);
      case 'iframe':
      case 'embed':
      case 'object':
        return this.#embed(node);
      case 'math':
        return this.#math(node);
      default:
        return this.#wrapping(node, marks);
    }
  }

  #wrapping(node: HtmlElement, marks: readonly Mark[]): DocumentNode[] {
    const tex = get(node, 'data-tex');
    if (tex !== '') return [{ type: 'formula', attrs: { tex } }];
    const question = get(node, 'data-question');
    if (question !== '') {
      try {
        return [{ type: 'question', attrs: JSON.parse(question) as Record<string, unknown> }];
      } catch {
        this.problems.add('a question could not be read; its words stay');
      }
    }
    if (get(node, 'data-file-shown') !== '') {
      const link = findTag(node, 'a');
      const file = link === null ? null : this.#from.file(get(link, 'href'));
      if (file !== null) return [{ type: 'fileShown', attrs: { ...file } }];
    }
    if (get(node, 'data-response') !== '') {
      const link = findTag(node, 'a');
      const href = link === null ? null : this.#from.link(get(link, 'href'));
      // Where its assignment did not come along, the link stays as a link.
      if (href !== null && OWN_ITEM.test(href))
        return [{ type: 'response', attrs: { href, title: plainText({ type: 'doc', content: this.blocks(node.childNodes) }).trim() } }];
    }
    return this.blocks(node.childNodes, [...marks, ...this.#markOf(node)]);
  }

  #heading(node: HtmlElement, level: number, marks: readonly Mark[]): DocumentNode[] {
    // A picture in a heading stands after it; its words are the heading.
    const inside = this.blocks(node.childNodes, marks);
    const content = trimmed(
      inside.flatMap((block, n) => [
        ...(n > 0 && block.type === 'paragraph' ? [{ type: 'text', text: ' ' }] : []),
        ...(block.type === 'paragraph' ? (block.content ?? []) : []),
      ]),
    );
    const others = inside.filter((block) => block.type !== 'paragraph');
    return content.length === 0 ? others : [{ type: 'heading', attrs: { level }, content }, ...others];
  }

  #list(node: HtmlElement, list: DocumentNode): DocumentNode[] {
    const items: { type: string; content: DocumentNode[] }[] = [];
    for (const child of node.childNodes) {
      const isItem = isElement(child) && child.tagName === 'li';
      const content = this.blocks(isItem ? child.childNodes : [child]);
      const last = items.at(-1);
      // A list that stands in a list without an item of its own belongs to the item before it.
      if (!isItem && last !== undefined) last.content.push(...content);
      else if (content.length > 0 || isItem)
        items.push({ type: 'listItem', content: content[0]?.type === 'paragraph' ? content : [{ type: 'paragraph' }, ...content] });
    }
    return items.length === 0 ? [] : [{ ...list, content: items }];
  }

  #callout(node: HtmlElement, marks: readonly Mark[]): DocumentNode[] {
    const inside = this.blocks(node.childNodes, marks);
    const lines = inside.filter((block) => block.type === 'paragraph');
    const others = inside.filter((block) => block.type !== 'paragraph');
    return [...(lines.length === 0 ? [] : [{ type: 'callout', content: lines }]), ...others];
  }

  #code(node: HtmlElement): DocumentNode[] {
    const text = words(node).replace(/^\n/, '').replace(/\n$/, '');
    const language = /language-([\w+#-]+)/.exec(get(findTag(node, 'code') ?? node, 'class'))?.[1] ?? null;
    return text === '' ? [] : [{ type: 'codeBlock', attrs: { language }, content: [{ type: 'text', text }] }];
  }

  #table(node: HtmlElement): DocumentNode[] {
    const rows: DocumentNode[] = [];
    const before: DocumentNode[] = [];
    const walk = (parent: HtmlElement): void => {
      for (const child of parent.childNodes) {
        if (!isElement(child)) continue;
        if (['thead', 'tbody', 'tfoot'].includes(child.tagName)) walk(child);
        else if (child.tagName === 'caption') before.push(...this.blocks(child.childNodes));
        else if (child.tagName === 'tr') {
          const content = child.childNodes.flatMap((cell) =>
            isElement(cell) && ['td', 'th'].includes(cell.tagName) ? [this.#cell(cell)] : [],
          );
          if (content.length > 0) rows.push({ type: 'tableRow', content });
        }
      }
    };
    walk(node);
    return rows.length === 0 ? before : [...before, { type: 'table', content: rows }];
  }

  #cell(cell: HtmlElement): DocumentNode {
    const span = (name: string): number => Math.min(100, Math.max(1, Number.parseInt(get(cell, name), 10) || 1));
    const content = this.blocks(cell.childNodes);
    const attrs = { colspan: span('colspan'), rowspan: span('rowspan'), colwidth: null, align: null };
    return {
      type: cell.tagName === 'th' ? 'tableHeader' : 'tableCell',
      attrs,
      content: content.length === 0 ? [{ type: 'paragraph' }] : content,
    };
  }

  #figure(node: HtmlElement, marks: readonly Mark[]): DocumentNode[] {
    const picture = findTag(node, 'img');
    if (picture !== null) return this.#picture(picture, node);
    const media = findTag(node, 'video', 'audio');
    return media === null ? this.blocks(node.childNodes, marks) : this.#media(media, node);
  }

  #noteOf(figure: HtmlElement | null): { source: string; licence: string; caption: string } {
    const note = figure === null ? null : find(figure, (e) => get(e, 'data-source') !== '' || get(e, 'data-licence') !== '');
    const caption = figure === null ? null : findTag(figure, 'figcaption');
    const all =
      caption === null
        ? ''
        : caption.childNodes
            .filter((child) => child !== note)
            .map(words)
            .join('');
    return {
      source: note === null ? '' : get(note, 'data-source'),
      licence: note === null ? '' : get(note, 'data-licence'),
      caption: tidy(all),
    };
  }

  #picture(node: HtmlElement, figure: HtmlElement | null): DocumentNode[] {
    const address = get(node, 'src');
    const file = this.#from.file(address);
    const alt = tidy(get(node, 'alt'));
    if (file === null) {
      this.problems.add(`the picture “${(alt === '' ? address : alt).slice(0, 80)}” is not a file of the package and was left out`);
      return [];
    }
    const size = figure === null ? '' : get(figure, 'data-size');
    const attrs = {
      fileId: file.fileId,
      src: file.src,
      alt,
      ...(node.attrs.some((a) => a.name === 'data-decorative') ? { isDecorative: true } : {}),
      size: ['full', 'half', 'small'].includes(size) ? size : 'full',
      ...(readDrawing(get(node, 'data-drawing')) === null ? {} : { drawing: get(node, 'data-drawing') }),
      ...this.#noteOf(figure),
    };
    return [{ type: 'picture', attrs }];
  }

  #media(node: HtmlElement, figure: HtmlElement | null): DocumentNode[] {
    const own = get(node, 'src');
    const address = own === '' ? get(findTag(node, 'source') ?? node, 'src') : own;
    const file = this.#from.file(address);
    const track = findTag(node, 'track');
    const captions = track === null ? null : this.#from.file(get(track, 'src'));
    if (file === null && !address.startsWith('https://')) {
      this.problems.add(
        `the ${node.tagName === 'audio' ? 'sound' : 'video'} “${address.slice(0, 80)}” is not a file of the package and was left out`,
      );
      return [];
    }
    const { source, licence } = this.#noteOf(figure);
    const attrs = {
      ...{ kind: node.tagName === 'audio' ? 'audio' : 'video', fileId: file?.fileId ?? null, src: file?.src ?? address },
      ...{ captionsId: captions?.fileId ?? null, captionsSrc: captions?.src ?? '', title: tidy(get(node, 'title')), source, licence },
    };
    return [{ type: 'media', attrs }];
  }

  #embed(node: HtmlElement): DocumentNode[] {
    const address = get(node, node.tagName === 'object' ? 'data' : 'src').trim();
    const title = tidy(get(node, 'title'));
    if (this.#from.isEmbeddable(address)) return [{ type: 'embed', attrs: { src: address, title } }];
    if (address === '') return this.blocks(node.childNodes);
    const to = this.#from.link(address);
    this.problems.add(
      `what was shown from “${address.slice(0, 80)}” ${to === null ? 'was left out' : 'is a link now: that site is not on the school’s list'}`,
    );
    if (to === null) return [];
    const text = title === '' ? address : title;
    const attrs = { href: to, target: '_blank', rel: 'noopener noreferrer nofollow', class: null, title: null };
    return [{ type: 'paragraph', content: [{ type: 'text', text, marks: [{ type: 'link', attrs }] }] }];
  }

  #math(node: HtmlElement): DocumentNode[] {
    const note = find(node, (e) => e.tagName === 'annotation' && get(e, 'encoding') === 'application/x-tex');
    const tex = note === null ? '' : tidy(words(note));
    if (tex !== '') return [{ type: 'formula', attrs: { tex } }];
    this.problems.add('a formula stands as its bare letters, since it names no TeX');
    const text = tidy(words(node));
    return text === '' ? [] : [{ type: 'paragraph', content: [{ type: 'text', text }] }];
  }
}

/** Spaces that meet are one, none stand at the ends, and neighbours with the same marks are one run. */
function trimmed(line: readonly DocumentNode[]): DocumentNode[] {
  const runs: { type: string; text?: string; attrs?: DocumentNode['attrs']; marks?: DocumentNode['marks'] }[] = [];
  for (const node of line) {
    const last = runs.at(-1);
    const isAfterSpace = last === undefined || last.type === 'hardBreak' || (last.text ?? '').endsWith(' ');
    const text = node.type === 'text' && isAfterSpace ? (node.text ?? '').replace(/^ +/, '') : node.text;
    if (node.type === 'text' && text === '') continue;
    const isSame = last?.type === 'text' && node.type === 'text' && JSON.stringify(last.marks ?? []) === JSON.stringify(node.marks ?? []);
    if (isSame) last.text = (last.text ?? '') + (text ?? '');
    else runs.push(text === undefined ? { ...node } : { ...node, text });
  }
  for (let last = runs.at(-1); last !== undefined; last = runs.at(-1)) {
    if (last.type === 'text') last.text = (last.text ?? '').replace(/ +$/, '');
    if (last.type !== 'hardBreak' && !(last.type === 'text' && last.text === '')) break;
    runs.pop();
  }
  return runs.filter((run) => run.type !== 'text' || run.text !== '') as DocumentNode[];
}

/**
 * HTML of anywhere as a document of ours: headings (the first level becomes our first), paragraphs, lists, tables, figures,
 * links, code, quotations. Scripts, styles and forms are dropped; addresses mean what the caller says. Read by the rules of the
 * HTML standard, so that broken markup gives what a browser would show. What {@link documentToHtml} wrote is read as it was.
 * Nested deeper than 80 elements, only the words are kept, and it says so. Worked example: `<h1>A</h1>b<p>c` gives a heading of
 * level 2 and two paragraphs.
 */
export function documentFromHtml(html: string, from: HtmlSources): HtmlRead {
  const tree = isHeap(html) ? null : parse(html);
  const body =
    tree === null
      ? null
      : (childrenOf(childrenOf(tree).find((n) => isElement(n) && n.tagName === 'html') ?? tree).find(
          (n) => isElement(n) && n.tagName === 'body',
        ) ?? tree);
  if (tree === null || body === null || tooDeep(body)) {
    const plain = tidy(html.replace(/<(script|style)[\s\S]*?<\/\1>/gi, ' ').replace(/<[^>]*>/g, ' '));
    const content = plain === '' ? [] : [{ type: 'text', text: plain }];
    return {
      document: { type: 'doc', content: [{ type: 'paragraph', content }] },
      title: '',
      problems: ['it is nested far too deeply; only its words were kept'],
    };
  }
  const head = findTag(tree, 'title');
  const reader = new HtmlReader(from);
  const content = reader.blocks(childrenOf(body));
  return {
    document: { type: 'doc', content: content.length === 0 ? [{ type: 'paragraph' }] : content },
    title: head === null ? '' : tidy(words(head)),
    problems: [...reader.problems],
  };
}
