/** Elements of word processors that carry no text of their own. */
const JUNK = 'style, script, meta, link, title, xml, o\\:p, [style*="mso-hide"]';
const BLOCKS = 'p, div, li, tr, h1, h2, h3, h4, h5, h6, blockquote, pre, table, ul, ol, section, article';
const STRUCTURE = 'b, strong, i, em, sub, sup, ol, ul, table, [style*="mso-list"], [style*="font-weight"], [style*="background"], mark';
const BOLD = /font-weight\s*:\s*(?:bold|bolder|[6-9]00)/i;
const NOT_BOLD = /font-weight\s*:\s*(?:normal|lighter|[1-5]00)/i;
const ITALIC = /font-style\s*:\s*italic/i;
const LIT = /background(?:-color)?\s*:\s*(?!\s*(?:white|transparent|inherit|none|initial|#fff(?:fff)?\b|rgba?\(255, ?255, ?255))/i;
const RAISED = /vertical-align\s*:\s*super/i;
const LOWERED = /vertical-align\s*:\s*sub\b/i;

type Tag = 'b' | 'i' | 'sub' | 'sup';
function tagOf(element: Element): Tag | null {
  const style = element.getAttribute('style') ?? '';
  const name = element.tagName.toLowerCase();
  if (name === 'sub' || LOWERED.test(style)) return 'sub';
  if (name === 'sup' || RAISED.test(style)) return 'sup';
  // What is marked by colour is meant as what is marked by weight: the right answer.
  if (((name === 'b' || name === 'strong') && !NOT_BOLD.test(style)) || BOLD.test(style) || name === 'mark' || LIT.test(style)) return 'b';
  return name === 'i' || name === 'em' || ITALIC.test(style) ? 'i' : null;
}
/** Spaces stay outside of what is marked, so that the mark is that of its words. */
const tagged = (inside: string, tag: Tag): string => {
  const words = inside.trim();
  if (words === '' || inside.includes(`<${tag}>`)) return inside;
  return inside.replace(words, `<${tag}>${words}</${tag}>`);
};

const LETTERS = 'abcdefghijklmnopqrstuvwxyz';
/** The number or letter before a line of a list, which is drawn and stands in no text. */
function markOf(item: Element): string {
  const list = item.parentElement;
  if (list?.tagName !== 'OL') return '- ';
  const style = list.getAttribute('style') ?? '';
  const type = list.getAttribute('type') ?? '';
  const place = [...list.children].filter((one) => one.tagName === 'LI').indexOf(item) + Number(list.getAttribute('start') ?? '1') - 1;
  const depth = item.closest('ol ol, ul ol') === null ? 0 : 1;
  const isLetters =
    /^a$/i.test(type) || /lower-alpha|upper-alpha|lower-latin|upper-latin/i.test(style) || (type === '' && style === '' && depth > 0);
  return isLetters ? `${LETTERS[place] ?? 'z'}) ` : `${place + 1}. `;
}

function read(node: Node, out: string[]): void {
  const add = (text: string): void => {
    out[out.length - 1] += text;
  };
  if (node.nodeType === Node.TEXT_NODE) {
    add((node.textContent ?? '').replace(/[\s\u00a0]+/g, ' '));
    return;
  }
  if (!(node instanceof Element)) return;
  const name = node.tagName.toLowerCase();
  if (name === 'br') {
    out.push('');
    return;
  }
  if (name === 'td' || name === 'th') {
    const cell: string[] = [''];
    for (const child of node.childNodes) read(child, cell);
    add(
      `${cell
        .map((line) => line.trim())
        .filter(Boolean)
        .join(' ')}\t`,
    );
    return;
  }
  const isBlock = node.matches(BLOCKS);
  if (isBlock && out.at(-1)?.trim() !== '') out.push('');
  if (name === 'li') add(markOf(node));
  const tag = isBlock ? null : tagOf(node);
  if (tag === null) for (const child of node.childNodes) read(child, out);
  else {
    const inside: string[] = [''];
    for (const child of node.childNodes) read(child, inside);
    const [first = '', ...rest] = inside.map((line) => tagged(line, tag));
    add(first);
    out.push(...rest);
  }
  if (isBlock && out.at(-1) !== '') out.push('');
}

/**
 * What was copied from a word processor or a page, as the plain lines of a list of questions: numbers and letters of lists that are only
 * drawn are written out, cells of a table are parted by tabs, and bold, italic, low and high letters keep their signs. Null where it holds
 * nothing but plain words, which are pasted as they are.
 */
export function listFromHtml(html: string): string | null {
  const { body } = new DOMParser().parseFromString(html.replace(/<!--[\s\S]*?-->/g, '').replace(/<!\[[^\]]*\]>/g, ''), 'text/html');
  for (const junk of body.querySelectorAll(JUNK)) junk.remove();
  if (body.querySelector(STRUCTURE) === null) return null;
  const lines = [''];
  for (const child of body.childNodes) read(child, lines);
  return lines
    .map((line) =>
      line
        .replace(/[^\S\t]+$/, '')
        .replace(/^ +/, '')
        .replace(/\t$/, ''),
    )
    .filter((line, n, all) => line !== '' || (all[n - 1] ?? '') !== '')
    .join('\n')
    .trim();
}
