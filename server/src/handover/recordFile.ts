import type { WorkingLine } from '@rosemary/core';
import { writeTable } from '../files/index.ts';
import { INK, makePaper, setWorking, SOFT } from '../paper/index.ts';
import { maybe } from '../platform/database.ts';
import { notFound } from '../platform/errors.ts';
import type { MemberContext } from '../platform/route.ts';
import type { RecordContent, RecordedGrade } from './record.ts';

interface Held {
  readonly content: RecordContent;
  readonly at: Date;
  readonly who: string;
  readonly sum: string;
}

const HEADS = ['Student ID', 'Name', 'Letter', 'Number', 'Last day', 'Until', 'Then', 'How', 'Receipt', 'Sent by', 'At', 'Reason'];
const lineOf = (g: RecordedGrade): (string | null)[] => [
  ...[g.key, g.name, g.letter, g.percent, g.lastDay, g.expiresOn, g.lapsesTo, g.state, g.receipt, g.sentBy, g.settledAt, g.reason],
];
const asTable = ({ content, at, who, sum }: Held): (string | null)[][] => [
  ['Record of final grades', content.course, content.section, content.sectionKey],
  ['Handed over', at.toISOString(), who, `SHA-256 ${sum}`],
  [],
  HEADS,
  ...content.grades.map(lineOf),
];

const MARGIN = 46;
const asPdf = (held: Held): Promise<Buffer> =>
  makePaper(`Final grades, ${held.content.course}, ${held.content.section}`, MARGIN, (paper) => {
    const { content, at, who, sum } = held;
    paper.addPage();
    paper.font('bold').fontSize(15).fillColor(INK).text('Record of final grades');
    paper.font('text').fontSize(10).text(`${content.course} · ${content.section} (${content.sectionKey})`);
    paper.fillColor(SOFT).text(`Handed over ${at.toISOString()} by ${who} · ${content.grades.length} students`);
    paper.font('code').fontSize(7).text(`SHA-256 ${sum}`);
    for (const grade of content.grades) {
      paper.moveDown(0.7).font('bold').fontSize(10).fillColor(INK);
      paper.text(`${grade.letter}   ${grade.name}`, MARGIN, undefined, { continued: true });
      paper.font('text').fillColor(SOFT).text(`   ${grade.key}`);
      const facts = [
        grade.percent === null ? '' : `${grade.percent} %`,
        grade.lastDay === null ? '' : `last day ${grade.lastDay}`,
        grade.expiresOn === null ? '' : `until ${grade.expiresOn}, then ${grade.lapsesTo ?? '–'}`,
        grade.state === 'by hand' ? 'entered by hand' : `receipt ${grade.receipt ?? '–'}`,
        `${grade.settledAt}, ${grade.sentBy}`,
        grade.reason,
      ];
      paper
        .font('text')
        .fontSize(8.5)
        .text(facts.filter((f) => f !== '').join(' · '), MARGIN + 14);
      const working = grade.working as { readonly lines: readonly WorkingLine[] } | null;
      setWorking(paper, working?.lines ?? [], MARGIN + 14);
    }
  });

/** The record of a section as a file: what was written then, never made anew. */
export async function sendRecord(
  c: MemberContext<unknown, { readonly recordId: string }, { readonly format?: string }>,
): Promise<undefined> {
  const held = await maybe<Held & Record<string, unknown>>(
    c.db,
    `select r.content, r.at, p.given_name || ' ' || p.family_name as who, encode(r.sha256, 'hex') as sum from handover_record r join person p on p.id = r.actor_id
     where r.id = $1 and r.course_id = $2 and ($3::uuid[] is null or r.section_id = any($3))`,
    [c.params.recordId, c.courseId, c.member.sectionIds],
  );
  if (held === null) throw notFound();
  const name = `final grades ${held.content.section}`.replace(/[^\p{L}\p{N} .-]/gu, ' ');
  const isPdf = c.query.format === 'pdf';
  c.response.set('content-disposition', `attachment; filename*=UTF-8''${encodeURIComponent(`${name}.${isPdf ? 'pdf' : 'csv'}`)}`);
  if (isPdf) c.response.type('application/pdf').send(await asPdf(held));
  else c.response.type('text/csv').send(writeTable(asTable(held)));
  return undefined;
}
