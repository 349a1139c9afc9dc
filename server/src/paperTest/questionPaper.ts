import type { PaperQuestionView, PaperShown } from '@rosemary/api';
import {
  formatPoints,
  pointsInWords,
  nodesOfType,
  plainText,
  type AskedQuestion,
  type DocumentNode,
  type QuestionKind,
} from '@rosemary/core';
import { INK, makePaper, type Paper, type PaperLine, paperLines, SOFT } from '../paper/index.ts';

export interface QuestionPaper {
  readonly title: string;
  readonly course: string;
  readonly form: string;
  readonly minutes: number | null;
  readonly possible: number;
  readonly instructions: DocumentNode;
  readonly sections: PaperShown['sections'];
  /** The letters of the answers of a question, as its row on the sheet has them. */
  readonly lettersOf: (question: number) => readonly string[];
  readonly hasSheet: boolean;
  readonly pictures: ReadonlyMap<string, Buffer>;
}
const MARGIN = 56;
const INDENT = MARGIN + 26;
const RULE = '#DCE3DB';

/** A place to fill in is a line on paper. */
function withLines(node: DocumentNode): DocumentNode {
  if (node.type === 'blank') return { type: 'text', text: '______________' };
  return node.content === undefined ? node : { ...node, content: node.content.map(withLines) };
}

function setLine(paper: Paper, line: PaperLine, left: number, size: number): void {
  paper.x = left;
  const width = paper.page.width - MARGIN - left;
  const stretches = line.stretches.filter((s) => s.text !== '');
  if (stretches.length === 0) paper.moveDown(0.4);
  stretches.forEach((s, n) => {
    const face = line.kind === 'code' ? 'code' : line.kind === 'heading' || s.isBold ? 'bold' : s.isItalic ? 'italic' : 'text';
    const before = n === 0 && line.kind === 'item' ? '•  ' : '';
    paper
      .font(face)
      .fontSize(line.kind === 'code' ? size - 1.5 : size)
      .fillColor(INK)
      .text(`${before}${s.text}`, { width, continued: n < stretches.length - 1, lineGap: 2 });
  });
}

/** The words of a question, then its pictures, which are as wide as they are, and no wider than the column. */
function setWords(paper: Paper, node: DocumentNode, left: number, pictures: QuestionPaper['pictures']): void {
  for (const line of paperLines(withLines(node), []))
    if (!/^\[picture/.test(line.stretches[0]?.text ?? '')) setLine(paper, line, left, 10.5);
  for (const picture of nodesOfType(node, 'picture')) setPicture(paper, pictures.get(String(picture.attrs?.fileId ?? '')), left);
}
function setPicture(paper: Paper, bytes: Buffer | undefined, left: number): void {
  if (bytes === undefined) return;
  try {
    const { width, height } = (paper as unknown as { openImage: (b: Buffer) => { width: number; height: number } }).openImage(bytes);
    const scale = Math.min(1, (paper.page.width - MARGIN - left) / width, 260 / height);
    room(paper, height * scale + 12);
    paper.moveDown(0.4).image(bytes, left, paper.y, { width: width * scale });
    paper.y += height * scale + 6;
  } catch {
    // A picture of a kind that paper does not take is passed over; its alternative stands in the words.
  }
}
/** Goes to the next page where what follows would be torn apart. */
function room(paper: Paper, height: number): void {
  if (paper.y + height > paper.page.height - MARGIN) paper.addPage();
}
function ruled(paper: Paper, many: number): void {
  for (let n = 0; n < many; n += 1) {
    room(paper, 22);
    paper.y += 20;
    paper
      .moveTo(INDENT, paper.y)
      .lineTo(paper.page.width - MARGIN, paper.y)
      .lineWidth(0.4)
      .stroke(RULE);
  }
  paper.y += 4;
}
const LETTERS = [...'ABCDEFGHIJKLMNOPQRSTUVWXYZ'];

function setListed(paper: Paper, words: readonly string[], marks: readonly string[]): void {
  words.forEach((word, n) => {
    room(paper, 16);
    setLine(paper, { kind: 'text', level: 0, stretches: [{ ...PLAIN, text: `${marks[n] ?? ''}   ${word}` }] }, INDENT, 10.5);
  });
}
type SetAnswers = (paper: Paper, asked: AskedQuestion, letters: readonly string[]) => void;

const setChoices: SetAnswers = (paper, { choices }, letters) => {
  const known = letters.length > 0 ? letters : LETTERS;
  if (choices.every((c) => plainText(c.words).trim() === '')) return;
  choices.forEach((choice, n) => {
    room(paper, 16);
    const y = paper.y;
    paper
      .font('bold')
      .fontSize(10.5)
      .fillColor(INK)
      .text(known[n] ?? '', INDENT, y, { lineBreak: false });
    paper.y = y;
    setWords(paper, choice.words, INDENT + 20, new Map());
  });
};
const lines =
  (many: number): SetAnswers =>
  (paper) => {
    ruled(paper, many);
  };
/** What is answered stands in the words or in the picture. */
const nothingMore: SetAnswers = () => undefined;

/** What stands under a question on paper, for its answer. */
const UNDER: { readonly [kind in QuestionKind]: SetAnswers } = {
  single: setChoices,
  truth: setChoices,
  several: setChoices,
  numeric: lines(1),
  calculated: lines(1),
  short: lines(1),
  blanks: nothingMore,
  matching: (paper, { lefts, rights }) => {
    setListed(
      paper,
      lefts,
      lefts.map((_, n) => `${n + 1}`),
    );
    paper.moveDown(0.4);
    setListed(paper, rights, LETTERS);
  },
  ordering: (paper, { things }) => {
    setListed(
      paper,
      things,
      things.map(() => '___'),
    );
  },
  hotspot: nothingMore,
  essay: lines(9),
  file: lines(1),
};
const PLAIN = { isNoted: false, isStruck: false, isBold: false, isItalic: false, after: [], inserted: '' };

function setQuestion(paper: Paper, q: PaperQuestionView, number: number, book: QuestionPaper): void {
  const lines = plainText(q.asked.words).length / 85 + q.asked.choices.length + 2;
  room(paper, Math.min(260, lines * 15));
  paper.moveDown(0.8);
  const y = paper.y;
  paper
    .font('bold')
    .fontSize(10.5)
    .fillColor(INK)
    .text(String(number + 1), MARGIN, y, { width: 20, align: 'right', lineBreak: false });
  paper
    .font('sans')
    .fontSize(8)
    .fillColor(SOFT)
    .text(formatPoints(q.points), paper.page.width - MARGIN + 8, y + 2, { width: 40, lineBreak: false });
  paper.y = y;
  setWords(paper, q.asked.words, INDENT, book.pictures);
  if (q.asked.picture !== null) setPicture(paper, book.pictures.get(q.asked.picture.fileId), INDENT);
  paper.moveDown(0.2);
  UNDER[q.asked.kind](paper, q.asked, book.lettersOf(number));
}

/** The question paper as it is handed out: head, instructions, sections, and the questions with the letters of their answer sheet. */
export const questionPaper = (book: QuestionPaper): Promise<Buffer> =>
  makePaper(book.title, MARGIN, (paper) => {
    paper.addPage();
    paper.font('bold').fontSize(17).fillColor(INK).text(book.title, MARGIN, MARGIN);
    const about = [
      book.course,
      ...(book.form === '' ? [] : [`Paper ${book.form}`]),
      ...(book.minutes === null ? [] : [`${book.minutes} minutes`]),
      pointsInWords(book.possible),
    ].join('  ·  ');
    paper.font('sans').fontSize(9).fillColor(SOFT).text(about);
    if (!book.hasSheet) paper.moveDown(0.8).font('sans').fontSize(9.5).text('Name: ______________________________________');
    paper.moveDown(0.6);
    if (plainText(book.instructions).trim() !== '') setWords(paper, book.instructions, MARGIN, book.pictures);
    let number = 0;
    let stimulus: DocumentNode | null = null;
    for (const section of book.sections) {
      if (section.title !== '') {
        room(paper, 80);
        paper.moveDown(1).font('bold').fontSize(12.5).fillColor(INK).text(section.title, MARGIN);
      }
      if (section.instructions !== '') paper.moveDown(0.2).font('italic').fontSize(10).fillColor(SOFT).text(section.instructions, MARGIN);
      for (const q of section.questions) {
        if (q.stimulus !== null && JSON.stringify(q.stimulus) !== JSON.stringify(stimulus)) {
          paper.moveDown(0.8);
          setWords(paper, q.stimulus, INDENT, book.pictures);
        }
        stimulus = q.stimulus;
        setQuestion(paper, q, number, book);
        number += 1;
      }
    }
    const { count } = paper.bufferedPageRange();
    for (let n = 0; n < count; n += 1) {
      paper.switchToPage(n);
      paper.page.margins.bottom = 0;
      const foot = `${book.title}${book.form === '' ? '' : `, paper ${book.form}`}    ${n + 1} / ${count}`;
      paper
        .font('sans')
        .fontSize(8)
        .fillColor(SOFT)
        .text(foot, MARGIN, paper.page.height - 36, { lineBreak: false });
    }
  });
