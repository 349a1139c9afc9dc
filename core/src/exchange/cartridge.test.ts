import {
  addressFrom,
  entryFinder,
  pathFrom,
  readManifest,
  resourceKind,
  writeManifest,
  type Cartridge,
  type CartridgeWish,
} from './cartridge.ts';
import {
  readAssignmentPart,
  readDiscussionPart,
  readLinkPart,
  writeAssignmentPart,
  writeDiscussionPart,
  writeLinkPart,
} from './cartridgeParts.ts';
import { elementOf, elementsOf, readXml, writeXml, xmlAttribute, xmlText } from './xml.ts';

describe('XML that came from elsewhere', () => {
  it('is read without its name spaces, with text, entities of XML and CDATA', () => {
    const read = readXml(
      '<?xml version="1.0"?><x:a xmlns:x="u" b="1&amp;2"><c> d &lt; &#65; </c><c/><d><![CDATA[<p>&amp;</p>]]></d></x:a>',
    );
    if (!read.ok) throw new Error(read.reason);
    expect([read.name, xmlAttribute(read.root, 'b')]).toEqual(['a', '1&2']);
    expect(elementsOf(read.root, 'c').map(xmlText)).toEqual(['d < A', '']);
    expect(xmlText(elementOf(read.root, 'd'))).toBe('<p>&amp;</p>');
  });
  it.each([
    ['<!DOCTYPE a [<!ENTITY x SYSTEM "file:///etc/passwd">]><a>&x;</a>', 'never opened'],
    ['<!doctype a><a/>', 'never opened'],
    ['<a><b></a>', 'line 1'],
    ['plain words', 'no well-formed XML'],
    ['   ', 'empty'],
    [`${'<a>'.repeat(20_000)}${'</a>'.repeat(20_000)}`, 'too deeply'],
  ])('%#: what is no XML to be read is refused in words', (text, words) => {
    const read = readXml(text);
    expect(read.ok ? '' : read.reason).toContain(words);
  });
  it('is written with everything escaped, and read again', () => {
    const xml = writeXml({ a: { '@b': '"<&>\'', c: 'x & <y>', d: [{ '@n': '1' }, 'two'], e: undefined } });
    const read = readXml(xml);
    expect(read.ok && [xmlAttribute(read.root, 'b'), xmlText(elementOf(read.root, 'c')), elementsOf(read.root, 'd').length]).toEqual([
      '"<&>\'',
      'x & <y>',
      2,
    ]);
  });
});

describe('addresses in a package', () => {
  it.each([
    ['pages/one.html', '../img/a%20b.png?x#y', 'img/a b.png'],
    ['one.html', 'two.html', 'two.html'],
    ['deep/er/one.html', '../../../../etc/passwd', 'etc/passwd'],
    ['pages/one.html', '/files/a.png', 'files/a.png'],
    ['x/topic.xml', '$IMS-CC-FILEBASE$../files/a.png', 'files/a.png'],
    ['x/topic.xml', '%24IMS-CC-FILEBASE%24/files/a.png', 'x/files/a.png'],
    ['one.html', '100%.txt', '100%.txt'],
    ['one.html', 'https://x.example/a', null],
    ['one.html', '//x.example/a', null],
    ['one.html', '#part', null],
    ['one.html', 'javascript:1', null],
  ])('from %s, %s is %s', (base, address, path) => {
    expect(pathFrom(base, address)).toBe(path);
  });
  it('lead back to the path they were made of', () => {
    const address = addressFrom('pages/one.html', 'files/Räder & Öl/a b.png');
    expect([address, pathFrom('pages/one.html', address)]).toEqual([
      '../files/R%C3%A4der%20%26%20%C3%96l/a%20b.png',
      'files/Räder & Öl/a b.png',
    ]);
  });
  it('are found from where they stand, from the root, or as the only entry that ends so', () => {
    const find = entryFinder(['img/a.png', 'pages/img/a.png', 'kept/web/b.png', 'one/c.png', 'two/c.png']);
    expect(find('pages/x.html', 'img/a.png')).toBe('pages/img/a.png');
    expect(find('pages/x.html', '$IMS-CC-FILEBASE$/web/b.png')).toBe('kept/web/b.png');
    expect([find('x.html', 'c.png'), find('x.html', 'gone.png'), find('x.html', 'mailto:a@b')]).toEqual([null, null, null]);
  });
  it('types of any version of the standard are known, others are not', () => {
    expect(
      ['webcontent', 'imswl_xmlv1p1', 'imsqti_xmlv1p2/imscc_xmlv1p3/question-bank', 'imsbasiclti_xmlv1p0', 'own/kind'].map(resourceKind),
    ).toEqual(['content', 'link', 'questions', 'tool', null]);
  });
});

const wish: CartridgeWish = {
  id: 'course_1',
  title: 'Wheels & <pinions>',
  description: 'A "description"',
  language: 'en',
  units: [
    { title: 'One', items: [{ title: 'Reading', resourceId: 'item_1' }] },
    { title: 'Empty', items: [] },
  ],
  resources: [
    { id: 'item_1', kind: 'content', path: 'pages/1.html', needs: ['file_1', 'file_1'], isStaffOnly: true },
    { id: 'file_1', kind: 'content', path: 'files/a & b.png', needs: [], isStaffOnly: false },
    { id: 'item_2', kind: 'link', path: 'links/2.xml', needs: [], isStaffOnly: false },
  ],
};
function cartridgeOf(xml: string): Cartridge {
  const read = readManifest(xml);
  if (!read.ok) throw new Error(read.reason);
  return read.cartridge;
}

describe('a manifest', () => {
  it('written by us is read again as it was, with nothing to complain of', () => {
    const made = cartridgeOf(writeManifest(wish));
    expect(made).toMatchObject({ title: wish.title, description: wish.description, problems: [] });
    expect(made.tree).toEqual([
      { title: 'One', resourceId: null, children: [{ title: 'Reading', resourceId: 'item_1', children: [] }] },
      { title: 'Empty', resourceId: null, children: [] },
    ]);
    expect([...made.resources.values()].map((r) => [r.id, r.kind, r.paths, r.isStaffOnly])).toEqual([
      ['item_1', 'content', ['pages/1.html'], true],
      ['file_1', 'content', ['files/a & b.png'], false],
      ['item_2', 'link', ['links/2.xml'], false],
    ]);
  });
  it('holds what the published structure asks for, in its order', () => {
    const read = readXml(writeManifest(wish));
    if (!read.ok) throw new Error(read.reason);
    expect(Object.keys(read.root).filter((k) => !k.startsWith('@') && k !== '#')).toEqual(['metadata', 'organizations', 'resources']);
    expect(xmlText(elementOf(read.root, 'metadata', 'schemaversion'))).toBe('1.3.0');
    const organizations = elementsOf(elementOf(read.root, 'organizations'), 'organization');
    expect([organizations.length, xmlAttribute(organizations[0], 'structure')]).toEqual([1, 'rooted-hierarchy']);
    const [root, ...others] = elementsOf(organizations[0], 'item');
    expect([others.length, xmlText(elementOf(root, 'title')), xmlAttribute(root, 'identifierref')]).toEqual([0, '', '']);
    const [page, , link] = elementsOf(elementOf(read.root, 'resources'), 'resource');
    expect([xmlAttribute(page, 'href'), xmlAttribute(link, 'href'), elementsOf(link, 'file').length]).toEqual(['pages/1.html', '', 1]);
    expect(elementsOf(page, 'dependency')).toHaveLength(1);
  });
  it('with bases of its own, no root and an older version is read, and what differs is said', () => {
    const made =
      cartridgeOf(`<manifest xml:base="a/"><metadata><schema>IMS Common Cartridge</schema><schemaversion>1.1.0</schemaversion></metadata>
      <organizations><organization><item identifier="i1" identifierref="r1"><title>One</title></item><item identifier="i2" identifierref="gone"><title>Two</title></item></organization><organization/></organizations>
      <resources xml:base="b"><resource identifier="r1" type="webcontent" xml:base="c" href="x.html"><file href="x.html"/><dependency identifierref="lost"/></resource>
      <resource identifier="r1" type="own/kind"><file href="y"/></resource><resource identifier="9 x" type="webcontent"/></resources></manifest>`);
    expect(made.tree.map((n) => n.title)).toEqual(['One', 'Two']);
    const said = made.problems.join('\n');
    for (const words of [
      '“1.1.0”; it is read as 1.3',
      'several organizations',
      'rooted hierarchy',
      '“r1” stands twice',
      '“9 x” is not of the form',
      '“Two” names the resource “gone”',
      'rests on “lost”',
      '“own/kind”, which is not known',
      '“9 x” names no file',
    ])
      expect(said).toContain(words);
    expect(
      cartridgeOf(
        '<manifest><resources xml:base="b"><resource identifier="r" type="webcontent" xml:base="c" href="x.html"/></resources></manifest>',
      ).resources.get('r')?.paths,
    ).toEqual(['b/c/x.html']);
  });
  it.each([
    ['<lom/>', 'not with <manifest>'],
    ['<manifest/>', 'names no resources'],
    ['<manifest>', 'no well-formed XML'],
    [
      `<manifest><organizations><organization>${'<item>'.repeat(60)}${'</item>'.repeat(60)}</organization></organizations><resources><resource/></resources></manifest>`,
      'more than 40 deep',
    ],
  ])('%#: that holds nothing to take is refused in words', (xml, words) => {
    const read = readManifest(xml);
    expect(read.ok ? '' : read.reason).toContain(words);
  });
});

describe('the descriptions in a package', () => {
  it('are read again as they were written', () => {
    expect(readLinkPart(writeLinkPart({ title: 'A & b', address: 'https://x.example/?a=1&b=2' }))).toEqual({
      ok: true,
      part: { title: 'A & b', address: 'https://x.example/?a=1&b=2' },
    });
    const html = '<p>Say <strong>it</strong> &amp; <img src="a.png" alt="&quot;"></p>';
    expect(readDiscussionPart(writeDiscussionPart({ title: 'Talk', html }))).toMatchObject({
      ok: true,
      part: { text: { text: html, isHtml: true }, attachments: [] },
    });
    expect(
      readAssignmentPart(writeAssignmentPart({ id: 'a1', title: 'Log', html, points: '12.5', acceptsText: true, acceptsFiles: false })),
    ).toMatchObject({
      ok: true,
      part: { title: 'Log', text: { text: html }, points: 12_500, acceptsText: true, acceptsFiles: false, others: [], pointsFault: null },
    });
    expect(
      readAssignmentPart(writeAssignmentPart({ id: 'a1', title: 'Log', html, points: null, acceptsText: false, acceptsFiles: true })),
    ).toMatchObject({ part: { points: null, acceptsFiles: true } });
  });
  it('say what stands in them for staff, what cannot be handed in, and points that are none', () => {
    const read =
      readAssignmentPart(`<assignment><title>T</title><instructor_text texttype="text/plain">Watch out</instructor_text><text texttype="text/plain">Do it</text>
      <attachments><attachment href="../a.pdf"/></attachments><gradable points_possible="many">true</gradable><submission_formats><format type="url"/></submission_formats></assignment>`);
    expect(read).toMatchObject({
      ok: true,
      part: {
        staffText: { text: 'Watch out', isHtml: false },
        text: { text: 'Do it', isHtml: false },
        attachments: ['../a.pdf'],
        points: null,
        others: ['url'],
      },
    });
    expect(read.ok && read.part.pointsFault).toContain('“many” is not a number of points');
  });
  it('of another kind than they should be are refused', () => {
    expect(readLinkPart('<topic/>')).toEqual({ ok: false, reason: 'it begins with <topic> where <webLink> is meant' });
    expect(readDiscussionPart('<!DOCTYPE topic><topic/>')).toMatchObject({ ok: false });
  });
});
