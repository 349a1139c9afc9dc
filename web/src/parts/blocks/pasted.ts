/** Elements of word processors that carry no text of their own. */
const JUNK = 'style, script, meta, link, title, xml, o\\:p, [style*="mso-hide"]';
const LIST = /mso-list:\s*l\d+\s+level(\d+)/i;
const NUMBERED = /^\s*(\d+|[a-z]|[ivx]+)[.)]/i;

/** The mark a word processor types before a list's words is no part of them. */
function takeMark(line: Element): string {
  const marks = [...line.querySelectorAll('[style*="mso-list:Ignore" i], [style*="mso-list: Ignore" i]')];
  const mark = marks.map((m) => m.textContent).join('');
  for (const one of marks) one.remove();
  return mark;
}

/** Paragraphs that are list lines only by their style become lists, one inside the other by their level. */
function makeLists(body: HTMLElement): void {
  const open: { level: number; list: HTMLElement }[] = [];
  for (const line of [...body.querySelectorAll<HTMLElement>('p[style*="mso-list"], p[class*="MsoListParagraph"]')]) {
    const level = Number(LIST.exec(line.getAttribute('style') ?? '')?.[1] ?? '1');
    const mark = takeMark(line);
    const follows = open[0] !== undefined && line.previousElementSibling === open[0].list;
    if (!follows) open.length = 0;
    while (open.length > level) open.pop();
    while (open.length < level) {
      const list = body.ownerDocument.createElement(NUMBERED.test(mark) ? 'ol' : 'ul');
      const parent = open.at(-1)?.list;
      if (parent === undefined) line.before(list);
      else (parent.lastElementChild ?? parent.appendChild(body.ownerDocument.createElement('li'))).append(list);
      open.push({ level: open.length + 1, list });
    }
    const item = body.ownerDocument.createElement('li');
    const words = body.ownerDocument.createElement('p');
    words.append(...line.childNodes);
    item.append(words);
    open.at(-1)?.list.append(item);
    line.remove();
  }
}

/** How many pictures of other places a pasted text shows: they are not taken along. */
export const picturesIn = (html: string): number =>
  new DOMParser().parseFromString(html, 'text/html').querySelectorAll('img:not([data-file])').length;

const LEVELS: Readonly<Record<string, string>> = { H1: 'h2', H5: 'h4', H6: 'h4' };

/**
 * What was copied from a word processor or another page, as the structure it means: headings (the first level becomes ours),
 * lists that were lists only by their style, tables, links, bold and italic. Comments, styles and empty paragraphs are dropped;
 * pictures of other places are not taken along. What is then left is read by the schema of our texts, which knows nothing else.
 */
export function cleanPasted(html: string): string {
  const { body } = new DOMParser().parseFromString(html.replace(/<!--[\s\S]*?-->/g, ''), 'text/html');
  for (const junk of body.querySelectorAll(JUNK)) junk.remove();
  makeLists(body);
  for (const picture of body.querySelectorAll('img:not([data-file])')) picture.remove();
  for (const [from, to] of Object.entries(LEVELS))
    for (const heading of body.querySelectorAll(from)) {
      const next = body.ownerDocument.createElement(to);
      next.append(...heading.childNodes);
      heading.replaceWith(next);
    }
  for (const line of body.querySelectorAll('p'))
    if ((line.textContent ?? '').replace(/\u00a0/g, ' ').trim() === '' && line.querySelector('img, br + br') === null) line.remove();
  return body.innerHTML;
}
