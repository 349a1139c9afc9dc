import { parsePoints, type Thousandths } from '../exact/points.ts';
import { elementOf, elementsOf, readXml, writeXml, xmlAttribute, xmlText, type XmlElement } from './xml.ts';

/** The descriptions in XML that a Common Cartridge 1.3 has for a link, a discussion and an assignment. */
const NAMESPACE = {
  link: 'http://www.imsglobal.org/xsd/imsccv1p3/imswl_v1p3',
  discussion: 'http://www.imsglobal.org/xsd/imsccv1p3/imsdt_v1p3',
  assignment: 'http://www.imsglobal.org/xsd/imscc_extensions/assignment',
} as const;
const ROOT = { link: 'webLink', discussion: 'topic', assignment: 'assignment' } as const;

export interface PartText {
  readonly text: string;
  readonly isHtml: boolean;
}
export interface LinkPart {
  readonly title: string;
  readonly address: string;
}
export interface DiscussionPart {
  readonly title: string;
  readonly text: PartText;
  readonly attachments: readonly string[];
}
export interface AssignmentPart extends DiscussionPart {
  readonly staffText: PartText;
  /** In thousandths; null where it is not judged by points. */
  readonly points: Thousandths | null;
  /** What is wrong with the points that stand there, or null. */
  readonly pointsFault: string | null;
  readonly acceptsText: boolean;
  readonly acceptsFiles: boolean;
  /** Forms of handing in that have no place here, by their names. */
  readonly others: readonly string[];
}
export type PartRead<T> = { readonly ok: true; readonly part: T } | { readonly ok: false; readonly reason: string };

function readPart<T>(xml: string, kind: keyof typeof ROOT, take: (root: XmlElement) => T): PartRead<T> {
  const read = readXml(xml);
  if (!read.ok) return read;
  return read.name === ROOT[kind]
    ? { ok: true, part: take(read.root) }
    : { ok: false, reason: `it begins with <${read.name}> where <${ROOT[kind]}> is meant` };
}
const titleOf = (root: XmlElement): string => xmlText(elementOf(root, 'title')).replace(/\s+/g, ' ');
const textOf = (element: XmlElement | undefined): PartText => ({
  text: xmlText(element),
  isHtml: xmlAttribute(element, 'texttype') !== 'text/plain',
});
const attachmentsOf = (root: XmlElement): string[] =>
  elementsOf(elementOf(root, 'attachments'), 'attachment').map((a) => xmlAttribute(a, 'href'));

/** Example: `<webLink><title>A</title><url href="https://a.example"/></webLink>` gives the title `A` and that address. */
export const readLinkPart = (xml: string): PartRead<LinkPart> =>
  readPart(xml, 'link', (root) => ({ title: titleOf(root), address: xmlAttribute(elementOf(root, 'url'), 'href') }));

export const readDiscussionPart = (xml: string): PartRead<DiscussionPart> =>
  readPart(xml, 'discussion', (root) => ({
    title: titleOf(root),
    text: textOf(elementOf(root, 'text')),
    attachments: attachmentsOf(root),
  }));

/** An assignment of the extension: its words, what is said to staff alone, points if it is judged, and what may come in. */
export const readAssignmentPart = (xml: string): PartRead<AssignmentPart> =>
  readPart(xml, 'assignment', (root) => {
    const gradable = elementOf(root, 'gradable');
    const formats = elementsOf(elementOf(root, 'submission_formats'), 'format').map((f) => xmlAttribute(f, 'type'));
    const points = xmlText(gradable) === 'true' ? parsePoints(xmlAttribute(gradable, 'points_possible')) : null;
    return {
      title: titleOf(root),
      text: textOf(elementOf(root, 'text')),
      staffText: textOf(elementOf(root, 'instructor_text')),
      attachments: attachmentsOf(root),
      points: points?.ok === true ? points.value : null,
      pointsFault: points?.ok === false ? points.reason : null,
      acceptsText: formats.includes('text') || formats.includes('html'),
      acceptsFiles: formats.includes('file'),
      others: formats.filter((f) => !['text', 'html', 'file'].includes(f)),
    };
  });

const html = (text: string) => ({ '@texttype': 'text/html', '#': text });

export const writeLinkPart = (part: LinkPart): string =>
  writeXml({ webLink: { '@xmlns': NAMESPACE.link, title: part.title, url: { '@href': part.address, '@target': '_blank' } } });

export const writeDiscussionPart = (part: { readonly title: string; readonly html: string }): string =>
  writeXml({ topic: { '@xmlns': NAMESPACE.discussion, title: part.title, text: html(part.html) } });

export function writeAssignmentPart(part: {
  readonly id: string;
  readonly title: string;
  readonly html: string;
  readonly points: string | null;
  readonly acceptsText: boolean;
  readonly acceptsFiles: boolean;
}): string {
  const formats = [...(part.acceptsText ? ['html'] : []), ...(part.acceptsFiles ? ['file'] : [])];
  return writeXml({
    assignment: {
      '@xmlns': NAMESPACE.assignment,
      '@identifier': part.id,
      title: part.title,
      text: html(part.html),
      gradable: part.points === null ? 'false' : { '@points_possible': part.points, '#': 'true' },
      submission_formats: formats.length === 0 ? undefined : { format: formats.map((type) => ({ '@type': type })) },
    },
  });
}
