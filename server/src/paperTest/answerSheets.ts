import {
  BUBBLE_RADIUS,
  codeCells,
  MARK_SIZE,
  MARKS,
  NAME_BOX,
  UP_MARK,
  UP_SIZE,
  type SheetPlace,
  type SheetPage,
  type SheetRow,
} from '@rosemary/core';
import { INK, makePaper, type Paper, SOFT } from '../paper/index.ts';

export interface PrintedSheet {
  readonly number: number;
  /** Empty on a spare sheet, where it is written by hand. */
  readonly name: string;
  readonly section: string;
  /** The letter of the version of the paper; empty where there is one. */
  readonly form: string;
  /** The pages of its paper, where they are others than those of the book. */
  readonly pages?: readonly SheetPage[];
}
export interface SheetBook {
  readonly title: string;
  readonly course: string;
  /** The number of this test, 0 to 255, in the strip. */
  readonly test: number;
  readonly pages: readonly SheetPage[];
  readonly sheets: readonly PrintedSheet[];
}

/** Points of PDF in a millimetre. */
const MM = 72 / 25.4;
const LEAF = '#6E8F78';
const LETTER = '#A9B8AD';

function square(paper: Paper, at: SheetPlace, size: number): void {
  paper.rect((at.x - size / 2) * MM, (at.y - size / 2) * MM, size * MM, size * MM).fill('#000');
}
function words(paper: Paper, text: string, x: number, y: number, size: number, face: string, width = 178): void {
  paper
    .font(face)
    .fontSize(size)
    .text(text, x * MM, y * MM, { width: width * MM, lineBreak: false, ellipsis: true, height: size * 1.6 });
}

function setHead(paper: Paper, book: SheetBook, sheet: PrintedSheet, page: number): void {
  for (const mark of MARKS) square(paper, mark, MARK_SIZE);
  square(paper, UP_MARK, UP_SIZE);
  for (const { box, isDark } of codeCells(book.test, sheet.number, page))
    if (isDark) paper.rect(box.x * MM, box.y * MM, box.width * MM, box.height * MM).fill('#000');
  paper.fillColor(INK);
  words(paper, book.title, NAME_BOX.x, 22, 12, 'bold', 120);
  paper.fillColor(SOFT);
  words(paper, book.course, NAME_BOX.x, 28, 8.5, 'sans', 120);
  paper.fillColor(INK);
  if (sheet.name === '') {
    words(paper, 'Name:', NAME_BOX.x, 34.5, 9.5, 'sans', 14);
    paper
      .moveTo(32 * MM, 39 * MM)
      .lineTo(136 * MM, 39 * MM)
      .lineWidth(0.6)
      .stroke(SOFT);
  } else words(paper, `${sheet.name}${sheet.section === '' ? '' : `   ${sheet.section}`}`, NAME_BOX.x, 34, 11, 'text', 120);
  const about = [`Sheet ${sheet.number}`, ...(book.pages.length > 1 ? [`page ${page + 1} of ${book.pages.length}`] : [])].join(', ');
  words(paper, about, 146, 22, 9.5, 'sans', 48);
  if (sheet.form !== '') words(paper, `Paper ${sheet.form}`, 146, 28, 12, 'bold', 48);
  paper.fillColor(SOFT);
  words(paper, 'Fill the circle of your answer with a dark pencil. To change it, rub it out well.', NAME_BOX.x, 43, 8, 'sans');
}

function setRow(paper: Paper, row: SheetRow): void {
  const middle = row.box.y + row.box.height / 2;
  paper.fillColor(INK).font('sans').fontSize(8.5);
  paper.text(row.label, row.box.x * MM, middle * MM - 5, { width: 8 * MM, align: 'right', lineBreak: false });
  if (row.bubbles.length === 0) {
    paper.fillColor(SOFT);
    words(paper, 'on the question paper', row.box.x + 10, middle - 1.6, 7.5, 'sans', row.box.width - 10);
  }
  for (const bubble of row.bubbles) {
    paper
      .circle(bubble.x * MM, bubble.y * MM, BUBBLE_RADIUS * MM)
      .lineWidth(0.55)
      .stroke(LEAF);
    paper.fillColor(LETTER).font('sans').fontSize(6.5);
    paper.text(bubble.letter, (bubble.x - 3) * MM, bubble.y * MM - 3.7, { width: 6 * MM, align: 'center', lineBreak: false });
  }
}

/** Answer sheets to be printed, one after another: each with its strip, its name and its circles, exactly where they are read again. */
export const answerSheets = (book: SheetBook): Promise<Buffer> =>
  makePaper(`${book.title}: answer sheets`, 0, (paper) => {
    for (const sheet of book.sheets)
      for (const page of sheet.pages ?? book.pages) {
        paper.addPage();
        setHead(paper, book, sheet, page.page);
        for (const row of page.rows) setRow(paper, row);
      }
  });
