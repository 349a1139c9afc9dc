import type { DocumentNode } from './plainText.ts';
import { MARK_ORDER, type MarkName } from './marksOrder.ts';

const ESCAPES: Readonly<Record<string, string>> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' };
/** Text as it stands in HTML or XML. Example: `a < "b"` becomes `a &lt; &quot;b&quot;`. */
export const escapeMarkup = (text: string): string => text.replace(/[&<>"]/g, (c) => ESCAPES[c] ?? c);

/** Where the things that a document names are found by whoever reads the HTML. */
export interface HtmlTargets {
  /** The address of a link, or null where it leads nowhere there: then its words stay without it. */
  readonly link: (href: string) => string | null;
  /** The address of a file of the course, or null where it does not come along. */
  readonly file: (fileId: string) => string | null;
}

const MARK_TAGS: Readonly<Record<Exclude<MarkName, 'link'>, string>> = {
  bold: 'strong',
  code: 'code',
  italic: 'em',
  strike: 's',
  underline: 'u',
};

const attr = (name: string, value: unknown): string =>
  value === '' || value === null || value === undefined
    ? ''
    : ` ${name}="${escapeMarkup(typeof value === 'string' ? value : JSON.stringify(value))}"`;
const word = (value: unknown): string => (typeof value === 'string' ? value : '');

function textHtml(node: DocumentNode, to: HtmlTargets): string {
  const marks = node.marks ?? [];
  return MARK_ORDER.toReversed().reduce(
    (html, name) => {
      const mark = marks.find((m) => m.type === name);
      if (mark === undefined) return html;
      if (name !== 'link') return `<${MARK_TAGS[name]}>${html}</${MARK_TAGS[name]}>`;
      const href = to.link(word(mark.attrs?.href));
      return href === null ? html : `<a${attr('href', href)}>${html}</a>`;
    },
    escapeMarkup(node.text ?? ''),
  );
}

function figure(inner: string, attrs: Readonly<Record<string, unknown>>, own: string, words: string): string {
  const note = [attrs.source, attrs.licence].map(word).filter((w) => w !== '');
  const small =
    note.length === 0
      ? ''
      : `<small${attr('data-source', attrs.source)}${attr('data-licence', attrs.licence)}>${escapeMarkup(note.join(' · '))}</small>`;
  const caption = escapeMarkup(words) + (words !== '' && small !== '' ? ' ' : '') + small;
  return `<figure${own}>${inner}${caption === '' ? '' : `<figcaption>${caption}</figcaption>`}</figure>`;
}

function mediaHtml(attrs: Readonly<Record<string, unknown>>, to: HtmlTargets): string {
  const src = typeof attrs.fileId === 'string' ? to.file(attrs.fileId) : word(attrs.src);
  if (src === null) return `<p>${escapeMarkup(word(attrs.title))}</p>`;
  const captions = typeof attrs.captionsId === 'string' ? to.file(attrs.captionsId) : null;
  const tag = attrs.kind === 'audio' ? 'audio' : 'video';
  const track = captions === null ? '' : `<track kind="captions"${attr('src', captions)}>`;
  return figure(`<${tag} controls${attr('src', src)}${attr('title', attrs.title)}>${track}</${tag}>`, attrs, '', '');
}

function questionHtml(attrs: Readonly<Record<string, unknown>>): string {
  const answers = (Array.isArray(attrs.answers) ? attrs.answers : []) as readonly { text: string }[];
  const list = answers.map((a) => `<li>${escapeMarkup(a.text)}</li>`).join('');
  const own = attr('data-question', JSON.stringify({ prompt: attrs.prompt, answers }));
  return `<div${own}><p>${escapeMarkup(word(attrs.prompt))}</p><ol>${list}</ol></div>`;
}

function cellHtml(tag: 'td' | 'th', node: DocumentNode, inner: string): string {
  const span = (name: string): string => (Number(node.attrs?.[name] ?? 1) > 1 ? ` ${name}="${Number(node.attrs?.[name])}"` : '');
  return `<${tag}${span('colspan')}${span('rowspan')}>${inner}</${tag}>`;
}

/**
 * A document of ours as HTML that any browser shows: headings, lists, tables, figures. What HTML has no element for (a formula,
 * a check-yourself question) is written readably and carries itself in a data attribute, so that {@link documentFromHtml} reads
 * it again as it was. Addresses are given by the caller. Worked example: a paragraph with the bold text `a` gives
 * `<p><strong>a</strong></p>`.
 */
export function documentToHtml(node: DocumentNode, to: HtmlTargets): string {
  const inner = (): string => (node.content ?? []).map((child) => documentToHtml(child, to)).join('');
  const wrap = (tag: string, own = ''): string => `<${tag}${own}>${inner()}</${tag}>`;
  const attrs = node.attrs ?? {};
  switch (node.type) {
    case 'text':
      return textHtml(node, to);
    case 'hardBreak':
      return '<br>';
    case 'horizontalRule':
      return '<hr>';
    case 'paragraph':
      return wrap('p');
    case 'heading':
      return wrap(`h${Math.min(6, Math.max(1, Number(attrs.level ?? 2)))}`);
    case 'bulletList':
      return wrap('ul');
    case 'orderedList':
      return wrap('ol', Number(attrs.start ?? 1) === 1 ? '' : ` start="${Number(attrs.start)}"`);
    case 'listItem':
      return wrap('li');
    case 'blockquote':
      return wrap('blockquote');
    case 'callout':
      return wrap('aside');
    case 'codeBlock': {
      const own = word(attrs.language) === '' ? '' : attr('class', `language-${word(attrs.language)}`);
      return `<pre><code${own}>${inner()}</code></pre>`;
    }
    case 'table':
      return `<table><tbody>${inner()}</tbody></table>`;
    case 'tableRow':
      return wrap('tr');
    case 'tableCell':
      return cellHtml('td', node, inner());
    case 'tableHeader':
      return cellHtml('th', node, inner());
    case 'picture': {
      const id = /files\/([0-9a-f-]{36})/.exec(word(attrs.src))?.[1] ?? word(attrs.fileId);
      const src = to.file(id);
      if (src === null) return `<p>${escapeMarkup(word(attrs.alt))}</p>`;
      const size = word(attrs.size) === 'full' ? '' : attr('data-size', attrs.size);
      const drawn = word(attrs.drawing) === '' ? '' : attr('data-drawing', attrs.drawing);
      const adorns = attrs.isDecorative === true ? ' data-decorative' : '';
      return figure(`<img${attr('src', src)}${drawn}${adorns} alt="${escapeMarkup(word(attrs.alt))}">`, attrs, size, word(attrs.caption));
    }
    case 'media':
      return mediaHtml(attrs, to);
    case 'embed':
      return `<iframe${attr('src', attrs.src)}${attr('title', attrs.title)}></iframe>`;
    case 'fileShown': {
      const href = to.file(word(attrs.fileId));
      return href === null
        ? `<p>${escapeMarkup(word(attrs.name))}</p>`
        : `<p data-file-shown="1"><a${attr('href', href)}>${escapeMarkup(word(attrs.name))}</a></p>`;
    }
    case 'response': {
      const href = to.link(word(attrs.href));
      const title = escapeMarkup(word(attrs.title));
      return href === null ? `<p>${title}</p>` : `<p data-response="1"><a${attr('href', href)}>${title}</a></p>`;
    }
    case 'formula':
      return `<div${attr('data-tex', attrs.tex)}>\\[${escapeMarkup(word(attrs.tex))}\\]</div>`;
    case 'formulaInline':
      return `<span${attr('data-tex', attrs.tex)}>\\(${escapeMarkup(word(attrs.tex))}\\)</span>`;
    case 'question':
      return questionHtml(attrs);
    default:
      return inner();
  }
}
