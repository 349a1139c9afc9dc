import fc from 'fast-check';
import { documentFromHtml, type HtmlSources } from './fromHtml.ts';
import { documentToHtml } from './toHtml.ts';
import { withoutFiles, type DocumentNode } from './plainText.ts';

const file = (name: string) => ({ fileId: `id-${name}`, src: `/files/${name}`, name, mediaType: 'application/pdf' });
const known = new Set(['a.png', 'b.pdf', 'c.mp4', 'c.vtt']);
const from: HtmlSources = {
  link: (href) => (/^(https?:|mailto:)/.test(href) ? href : href === 'two.html' ? '/courses/x/items/two' : null),
  file: (address) => (known.has(address) ? file(address) : null),
  isEmbeddable: (address) => address.startsWith('https://films.example/'),
};
const to = { link: (href: string) => href, file: (id: string) => (known.has(id.slice(3)) ? id.slice(3) : null) };
const read = (html: string) => documentFromHtml(html, from);
const blocks = (html: string) => read(html).document.content ?? [];
const text = (words: string, ...marks: string[]): DocumentNode =>
  marks.length === 0 ? { type: 'text', text: words } : { type: 'text', text: words, marks: marks.map((type) => ({ type })) };
const line = (...content: DocumentNode[]): DocumentNode => ({ type: 'paragraph', content });

describe('HTML of anywhere as a document', () => {
  it('keeps headings, the first level as our first, and words that stand loose', () => {
    expect(blocks('<h1>A</h1>b<p>c')).toEqual([
      { type: 'heading', attrs: { level: 2 }, content: [text('A')] },
      line(text('b')),
      line(text('c')),
    ]);
  });
  it('makes one space of white space and none at the ends', () => {
    expect(blocks('<p>  one\n\t two <b> three</b> </p><p> &nbsp;</p><p>  </p>')).toEqual([
      line(text('one two '), text('three', 'bold')),
      line(text('\u00a0')),
    ]);
  });
  it('sorts the marks as the schema does; code stands alone', () => {
    expect(blocks('<u><i><b>x</b></i></u> <b><code>y</code></b>')).toEqual([
      line(text('x', 'bold', 'italic', 'underline'), text(' '), text('y', 'code')),
    ]);
  });
  it('nests lists, also those that stand in a list without an item of their own', () => {
    const [list] = blocks('<ul><li>a<ol start="3"><li>b</li></ol></li><ul><li>c</li></ul></ul>');
    const item = (words: string, ...more: DocumentNode[]) => ({ type: 'listItem', content: [line(text(words)), ...more] });
    expect(list).toEqual({
      type: 'bulletList',
      content: [
        item(
          'a',
          { type: 'orderedList', attrs: { start: 3, type: null }, content: [item('b')] },
          { type: 'bulletList', content: [item('c')] },
        ),
      ],
    });
  });
  it('reads tables with heads, joined cells and a caption', () => {
    const found = blocks(
      '<table><caption>Wear</caption><thead><tr><th colspan="2">Part</th></tr></thead><tr><td>a</td><td></td></tr></table>',
    );
    expect(found[0]).toEqual(line(text('Wear')));
    const rows = found[1]?.content ?? [];
    expect(rows.map((row) => row.content?.map((c) => [c.type, c.attrs?.colspan]))).toEqual([
      [['tableHeader', 2]],
      [
        ['tableCell', 1],
        ['tableCell', 1],
      ],
    ]);
    expect(rows[1]?.content?.[1]?.content).toEqual([{ type: 'paragraph' }]);
  });
  it('takes pictures and films of the package with their captions, and says which are not there', () => {
    const made = read(
      '<figure data-size="half"><img src="a.png" alt="A wheel"><figcaption>The third wheel</figcaption></figure><p>before <img src="lost.png" alt="Lost"> after</p><video src="c.mp4" title="Film"><track src="c.vtt"></video><video src="http://x.example/f"></video>',
    );
    const [picture, before, after, film] = made.document.content ?? [];
    expect(picture?.attrs).toMatchObject({ fileId: 'id-a.png', alt: 'A wheel', caption: 'The third wheel', size: 'half' });
    expect([before, after]).toEqual([line(text('before')), line(text('after'))]);
    expect(film?.attrs).toMatchObject({ kind: 'video', fileId: 'id-c.mp4', captionsId: 'id-c.vtt', title: 'Film' });
    expect(made.problems).toEqual([
      'the picture “Lost” is not a file of the package and was left out',
      'the video “http://x.example/f” is not a file of the package and was left out',
    ]);
  });
  it('leads links to their new places, and keeps the words of those that lead nowhere', () => {
    const made = read('<a href="two.html">Two</a> <a href="gone.html">gone</a> <a href="javascript:alert(1)">run</a>');
    const [first, rest] = made.document.content?.[0]?.content ?? [];
    expect(first?.marks?.[0]?.attrs?.href).toBe('/courses/x/items/two');
    expect(rest).toEqual(text(' gone run'));
    expect(made.problems).toHaveLength(2);
  });
  it('shows only sites of the list inside a page; others become a link, and it says so', () => {
    const made = read(
      '<iframe src="https://films.example/1" title="One"></iframe><iframe src="https://other.example/2"></iframe><iframe src="data:x"></iframe>',
    );
    expect(made.document.content?.map((b) => b.type)).toEqual(['embed', 'paragraph']);
    expect(made.problems.join()).toMatch(/other\.example.*is a link now.*data:x.*left out/);
  });
  it('drops scripts, styles, forms and drawings, and says what a reader would miss', () => {
    const made = read('<style>p{}</style><form><p>a<svg></svg></p><script>1</script><input></form><!-- c --><template>t</template>');
    expect(made.document.content).toEqual([line(text('a'))]);
    expect(made.problems).toHaveLength(3);
  });
  it('reads quotations, notes, code with its language, rules, terms, and an element of inline kind around blocks', () => {
    const found = blocks(
      '<blockquote>q</blockquote><aside><p>n</p><ul><li>x</li></ul></aside><pre><code class="language-c">\na  b\n</code></pre><hr><dl><dt>T</dt><dd>d</dd></dl><span><p>s</p></span>',
    );
    expect(found.map((b) => b.type)).toEqual([
      'blockquote',
      'callout',
      'bulletList',
      'codeBlock',
      'horizontalRule',
      'paragraph',
      'paragraph',
      'paragraph',
    ]);
    expect(found[3]).toEqual({ type: 'codeBlock', attrs: { language: 'c' }, content: [text('a  b')] });
    expect(found[5]).toEqual(line(text('T', 'bold')));
  });
  it('reads formulas from their TeX, and says where there is none', () => {
    const made = read(
      '<math><semantics><mi>x</mi><annotation encoding="application/x-tex">x^2</annotation></semantics></math><math><mi>y</mi></math>',
    );
    expect(made.document.content).toEqual([{ type: 'formula', attrs: { tex: 'x^2' } }, line(text('y'))]);
    expect(made.problems).toHaveLength(1);
  });
  it('keeps only the words of what is nested far too deeply', () => {
    const made = read(`${'<div>'.repeat(100_000)}deep<script>no</script>`);
    expect(made.document.content).toEqual([line(text('deep'))]);
    expect(made.problems[0]).toContain('nested far too deeply');
  });
  it('is an empty page where there is nothing, and knows the title a page gives itself', () => {
    expect(read('<title> The  train </title>')).toEqual({
      document: { type: 'doc', content: [{ type: 'paragraph' }] },
      title: 'The train',
      problems: [],
    });
  });
});

describe('a document as HTML', () => {
  const picture = {
    fileId: 'id-a.png',
    src: '/files/a.png',
    alt: 'A "wheel"',
    size: 'small',
    source: 'Museum',
    licence: 'CC0',
    caption: 'Third <wheel>',
    drawing: '{"width":800,"height":500,"shapes":[]}',
  };
  const rich: DocumentNode = {
    type: 'doc',
    content: [
      { type: 'heading', attrs: { level: 3 }, content: [text('One & two')] },
      line(text('a '), text('b', 'bold', 'italic'), { type: 'hardBreak' }, text('x < y', 'code'), {
        type: 'formulaInline',
        attrs: { tex: '\\frac{1}{2}' },
      }),
      { type: 'formula', attrs: { tex: 'a<b' } },
      { type: 'picture', attrs: picture },
      {
        type: 'media',
        attrs: {
          kind: 'video',
          fileId: 'id-c.mp4',
          src: '/files/c.mp4',
          captionsId: 'id-c.vtt',
          captionsSrc: '/files/c.vtt',
          title: 'Film',
          source: '',
          licence: 'CC BY',
        },
      },
      { type: 'embed', attrs: { src: 'https://films.example/1', title: 'One' } },
      { type: 'fileShown', attrs: file('b.pdf') },
      {
        type: 'question',
        attrs: {
          prompt: 'Which?',
          answers: [
            { text: '<a>', isRight: true, feedback: 'Yes & no' },
            { text: 'b', isRight: false, feedback: '' },
          ],
        },
      },
      { type: 'response', attrs: { href: '/courses/x/items/two', title: 'Two & more' } },
      { type: 'callout', content: [line(text('Careful'))] },
      { type: 'codeBlock', attrs: { language: null }, content: [text('  if (a < b)\n    c')] },
      { type: 'horizontalRule' },
      {
        type: 'table',
        content: [
          {
            type: 'tableRow',
            content: [{ type: 'tableHeader', attrs: { colspan: 2, rowspan: 1, colwidth: null, align: null }, content: [line(text('h'))] }],
          },
        ],
      },
    ],
  };
  it('is read again as it was, every block of it', () => {
    const made = read(documentToHtml(rich, { ...to, link: (href) => (href === '/courses/x/items/two' ? 'two.html' : href) }));
    expect(made.document).toEqual(rich);
    expect(made.problems).toEqual([]);
  });
  it('says a file that does not come along by its words, and leaves out a link that leads nowhere', () => {
    const lost: DocumentNode = {
      type: 'doc',
      content: [
        { type: 'picture', attrs: { ...picture, fileId: 'id-gone' } },
        { type: 'fileShown', attrs: { ...file('b.pdf'), fileId: 'id-gone', name: 'Chart' } },
        { type: 'media', attrs: { kind: 'audio', fileId: 'id-gone', title: 'Sound' } },
        { type: 'response', attrs: { href: '/courses/x/items/gone', title: 'Report' } },
        line({ type: 'text', text: 'there', marks: [{ type: 'link', attrs: { href: '/x' } }] }),
      ],
    };
    expect(documentToHtml(lost, { ...to, link: () => null })).toBe(
      '<p>A &quot;wheel&quot;</p><p>Chart</p><p>Sound</p><p>Report</p><p>there</p>',
    );
  });
  it('any text in any marks comes back, and no text makes an element', () => {
    const words = fc.string({ minLength: 1 }).map((s) => s.replace(/[\s\0\r]+/g, '_'));
    const marks = fc.subarray(['bold', 'italic', 'strike', 'underline']);
    fc.assert(
      fc.property(fc.array(fc.tuple(words, marks), { minLength: 1, maxLength: 6 }), (runs) => {
        const joined: { words: string; marks: string[] }[] = [];
        for (const [w, m] of runs) {
          const last = joined.at(-1);
          if (last !== undefined && last.marks.join() === m.join()) last.words += w;
          else joined.push({ words: w, marks: m });
        }
        const document = { type: 'doc', content: [line(...joined.map((run) => text(run.words, ...run.marks)))] };
        expect(read(documentToHtml(document, to)).document).toEqual(document);
      }),
    );
  });
});

describe('a document without files that did not come', () => {
  it('names what was lost, keeps the rest, and is never without a block', () => {
    const gone = { type: 'picture', attrs: { fileId: 'gone', alt: 'A wheel' } };
    const film = { type: 'media', attrs: { fileId: 'here', captionsId: 'gone', captionsSrc: '/x', title: 'Film' } };
    const made = withoutFiles({ type: 'doc', content: [{ type: 'blockquote', content: [gone] }, film] }, (id) => id === 'here');
    expect(made.lost).toEqual(['A wheel']);
    expect(made.node.content).toEqual([
      { type: 'blockquote', content: [{ type: 'paragraph' }] },
      { type: 'media', attrs: { fileId: 'here', captionsId: null, captionsSrc: '', title: 'Film' } },
    ]);
  });
});
