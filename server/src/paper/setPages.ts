import type { RubricView } from '@rosemary/api';
import { criterionPoints, formatPoints, plainText, type DocumentNode } from '@rosemary/core';
import { INK, makePaper, SOFT, type Paper } from './paperBook.ts';
import { paperLines, type Numbered, type PaperLine, type Stretch } from './paperText.ts';

export interface CopiedFile {
  readonly id: string;
  readonly name: string;
  readonly mediaType: string;
  /** Null where it cannot be read. */
  readonly bytes: Buffer | null;
}
/** Everything that stands on a marked copy. */
export interface MarkedWork {
  readonly title: string;
  readonly who: string;
  readonly handedIn: string;
  readonly hash: string;
  readonly score: string | null;
  readonly scoreReason: string;
  readonly document: DocumentNode | null;
  readonly link: string;
  readonly notes: readonly Numbered[];
  readonly rubric: RubricView | null;
  readonly choices: { readonly [criterionId: string]: string };
  readonly given: { readonly [criterionId: string]: number };
  readonly comments: { readonly [criterionId: string]: string };
  readonly feedback: DocumentNode | null;
  readonly feedbackFiles: readonly string[];
  readonly files: readonly CopiedFile[];
}

const BLOOM = '#5C5FA8';
const LEFT = 62;

/** Files whose pages or picture follow on the copy. */
export const isPaged = (file: CopiedFile): boolean =>
  file.bytes !== null && ['application/pdf', 'image/png', 'image/jpeg'].includes(file.mediaType);

function setStretch(paper: Paper, s: Stretch, line: PaperLine, size: number, isLast: boolean): void {
  const face = line.kind === 'code' ? 'code' : line.kind === 'heading' || s.isBold ? 'bold' : s.isItalic ? 'italic' : 'text';
  const marks = s.after.map((number) => `[${number}]`).join('');
  const options = {
    continued: !(isLast && marks === '' && s.inserted === ''),
    underline: s.isNoted && !s.isStruck,
    strike: s.isStruck,
    lineGap: 2,
  };
  paper.font(face).fontSize(size).fillColor(INK).text(s.text, options);
  const after = (words: string, font: string, at: number, goesOn: boolean): void => {
    paper.font(font).fontSize(at).fillColor(BLOOM).text(words, { continued: goesOn, underline: false, strike: false });
  };
  if (s.inserted !== '') after(` ${s.inserted} `, 'italic', size, !(isLast && marks === ''));
  if (marks !== '') after(`${marks} `, 'bold', 7.5, !isLast);
}

function setLine(paper: Paper, line: PaperLine): void {
  const size = line.kind === 'heading' ? 16 - line.level : line.kind === 'code' ? 8.5 : 10.5;
  paper.moveDown(line.kind === 'heading' ? 0.6 : 0.3);
  paper.x = LEFT;
  const bullet: Stretch[] =
    line.kind === 'item' ? [{ text: '•  ', isNoted: false, isStruck: false, isBold: false, isItalic: false, after: [], inserted: '' }] : [];
  const stretches = [...bullet, ...line.stretches];
  stretches.forEach((s, n) => {
    setStretch(paper, s, line, size, n === stretches.length - 1);
  });
}

function heading(paper: Paper, words: string): void {
  paper.moveDown(0.9).font('bold').fontSize(12).fillColor(INK).text(words, LEFT, paper.y);
  const y = paper.y + 2;
  paper
    .moveTo(LEFT, y)
    .lineTo(paper.page.width - LEFT, y)
    .lineWidth(0.5)
    .stroke('#DCE3DB');
  paper.moveDown(0.3);
}

function setNotes(paper: Paper, title: string, notes: readonly Numbered[]): void {
  if (notes.length === 0) return;
  heading(paper, title);
  for (const note of notes) {
    const place = note.anchor.kind === 'pdf' ? `page ${note.anchor.page}${note.quote === '' ? '' : ', '}` : '';
    const quote = note.quote === '' ? '' : `“${note.quote.slice(0, 120)}${note.quote.length > 120 ? '…' : ''}”`;
    const proposed = note.replacement === null ? '' : note.replacement === '' ? 'Strike this. ' : `Rather: “${note.replacement}”. `;
    paper.moveDown(0.3).font('bold').fontSize(9.5).fillColor(BLOOM).text(`${note.number}  `, LEFT, paper.y, { continued: true });
    paper.font('italic').fillColor(SOFT).text(`${place}${quote}  `, { continued: true });
    paper.font('text').fillColor(INK).text(`${proposed}${note.body}`);
    // On a line of its own: a smaller size within a line that breaks would stand on the line below.
    paper
      .fillColor(SOFT)
      .fontSize(8.5)
      .text(note.author, LEFT + 14, paper.y);
  }
}

function setRubric(paper: Paper, work: MarkedWork): void {
  if (work.rubric === null || work.rubric.criteria.length === 0) return;
  heading(paper, 'Criteria');
  for (const criterion of work.rubric.criteria) {
    const points = criterionPoints(criterion, work);
    const level = criterion.levels.find((l) => l.id === work.choices[criterion.id]);
    const most = criterion.levels.reduce((m, l) => Math.max(m, l.points), 0);
    const value = criterion.form === 'comment' ? '' : `${points === null ? '–' : formatPoints(points)} of ${formatPoints(most)}`;
    paper.moveDown(0.3).font('bold').fontSize(10).fillColor(INK).text(`${criterion.title}   `, LEFT, paper.y, { continued: true });
    paper.font('text').text(`${value}   `, { continued: true });
    paper.fillColor(SOFT).text(level?.descriptor ?? ' ');
    const words = work.comments[criterion.id];
    if (words !== undefined) paper.fillColor(INK).text(words, LEFT + 14, paper.y);
  }
}

function setHead(paper: Paper, work: MarkedWork): void {
  paper.font('bold').fontSize(17).fillColor(INK).text(work.title, LEFT);
  paper
    .font('text')
    .fontSize(10)
    .fillColor(SOFT)
    .text([work.who, work.handedIn].filter((w) => w !== '').join(' · '));
  if (work.hash !== '') paper.fontSize(7.5).text(`content hash ${work.hash}`);
  if (work.score !== null) paper.moveDown(0.5).font('bold').fontSize(15).fillColor(INK).text(work.score);
  if (work.scoreReason !== '') paper.font('italic').fontSize(10).fillColor(SOFT).text(work.scoreReason);
}

function setFeedback(paper: Paper, work: MarkedWork): void {
  if (work.feedback !== null && plainText(work.feedback).trim() !== '') {
    heading(paper, 'Feedback');
    for (const line of paperLines(work.feedback, [])) setLine(paper, line);
  }
  if (work.feedbackFiles.length > 0)
    paper
      .moveDown(0.3)
      .font('text')
      .fontSize(9)
      .fillColor(SOFT)
      .text(`With it: ${work.feedbackFiles.join(', ')}`, LEFT);
}

function setWork(paper: Paper, work: MarkedWork): void {
  const own = work.notes.filter((n) => n.fileId === null);
  if (work.link !== '') {
    heading(paper, 'Handed in as a link');
    paper.font('text').fontSize(10).fillColor(INK).text(work.link);
  }
  if (work.document !== null) {
    heading(paper, 'The work');
    for (const line of paperLines(work.document, own)) setLine(paper, line);
  }
  setNotes(paper, 'Notes', own);
  for (const file of work.files) {
    setNotes(
      paper,
      `Notes on ${file.name}`,
      work.notes.filter((n) => n.fileId === file.id),
    );
    if (isPaged(file)) continue;
    const why = file.bytes === null ? 'it cannot be read' : 'it is no paper';
    paper.moveDown(0.5).font('italic').fontSize(9).fillColor(SOFT).text(`${file.name} is not on this copy: ${why}.`, LEFT);
  }
}

/** The pages of ours: head, score, criteria, feedback, the written answer with its notes, the notes of each file. */
export const setPages = (work: MarkedWork): Promise<Buffer> =>
  makePaper(work.title, 56, (paper) => {
    paper.addPage({ size: 'A4', margins: { top: 56, bottom: 56, left: LEFT, right: LEFT } });
    setHead(paper, work);
    setRubric(paper, work);
    setFeedback(paper, work);
    setWork(paper, work);
  });
