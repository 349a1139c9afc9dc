import { parse } from 'csv-parse/sync';
import { open, readFile, stat } from 'node:fs/promises';
import { AppError, invalid } from '../platform/errors.ts';
import { decodeText } from './decodeText.ts';
import { unguarded } from './tableFile.ts';
import { DOCUMENT_BOUNDS, readZip } from './unzip.ts';

const MOST_BYTES = 20_971_520;
const MOST_ROWS = 6000;
const MOST_COLUMNS = 600;

/** A workbook for spreadsheets: one sheet, its first line bold and standing still. Texts stay texts, so nothing in it runs. */
export async function writeSheet(title: string, lines: readonly (readonly (string | number | null)[])[]): Promise<Buffer> {
  const { default: excel } = await import('exceljs');
  const book = new excel.Workbook();
  const sheet = book.addWorksheet(title.replace(/[\\/*?:[\]]/g, ' ').slice(0, 31), { views: [{ state: 'frozen', ySplit: 1, xSplit: 2 }] });
  sheet.addRows(lines.map((line) => [...line]));
  sheet.getRow(1).font = { bold: true };
  return Buffer.from(await book.xlsx.writeBuffer());
}

/** What a cell of a workbook reads as: the result of a formula, the words of a link or of rich text, a day as it is written here. */
function textOf(value: unknown): string {
  if (value === null || value === undefined) return '';
  if (value instanceof Date) return value.toISOString().slice(0, 10);
  if (typeof value !== 'object') return String(value as string | number | boolean);
  if ('richText' in value) return (value.richText as { text: string }[]).map((part) => part.text).join('');
  if ('result' in value) return textOf(value.result);
  if ('text' in value) return textOf(value.text);
  return '';
}

async function readWorkbook(path: string): Promise<string[][]> {
  // Its bounds and names are looked at before anything is unpacked.
  const zip = await readZip(path, DOCUMENT_BOUNDS);
  const names = [...zip.sizes.keys()];
  zip.close();
  if (names.some((name) => /vbaProject/i.test(name)))
    throw invalid('file', 'This workbook holds macros, which are not taken. Save it as an ordinary workbook (.xlsx) or as CSV.');
  if (!names.includes('xl/workbook.xml')) throw invalid('file', 'This archive is no workbook. Choose a file saved as .xlsx or .csv.');
  const { default: excel } = await import('exceljs');
  const book = new excel.Workbook();
  try {
    await book.xlsx.readFile(path);
  } catch {
    throw invalid('file', 'This workbook cannot be read. Open it in a spreadsheet and save it again, as .xlsx or as CSV.');
  }
  const sheet = book.worksheets.find((one) => one.actualRowCount > 0);
  if (sheet === undefined) throw invalid('file', 'There is nothing in this workbook.');
  const lines: string[][] = [];
  for (let n = 1; n <= Math.min(sheet.rowCount, MOST_ROWS + 1); n += 1) {
    const row = sheet.getRow(n);
    lines.push(Array.from({ length: Math.min(sheet.columnCount, MOST_COLUMNS + 1) }, (_, c) => textOf(row.getCell(c + 1).value).trim()));
  }
  return lines;
}

/** What parts the cells: of tab, semicolon and comma the one that the first lines have most of, outside of quotation marks. */
function delimiterOf(text: string): string {
  const top = text
    .split('\n', 12)
    .join('\n')
    .replace(/"[^"]*"/g, '');
  const count = (sign: string): number => top.split(sign).length;
  return ['\t', ';', ','].reduce((best, sign) => (count(sign) > count(best) ? sign : best), '\t');
}

/** The lines of a table in a file: CSV with any usual delimiter and encoding, or the first sheet of a workbook. What is neither is refused. */
export async function readSheetFile(path: string): Promise<string[][]> {
  if ((await stat(path)).size > MOST_BYTES) throw new AppError('too-large', 'A table may have 20 MB. This file is larger.');
  const file = await open(path);
  const { buffer } = await file.read(Buffer.alloc(8), 0, 8, 0).finally(() => file.close());
  let lines: string[][];
  if (buffer.subarray(0, 2).toString('latin1') === 'PK') lines = await readWorkbook(path);
  else if (buffer.readUInt32BE(0) === 0xd0cf11e0)
    throw invalid('file', 'This is a workbook of the old kind (.xls). Save it as .xlsx or as CSV and choose that file.');
  else {
    const text = decodeText(await readFile(path), 'table').text.replace(/^\uFEFF/, '');
    if (text.includes('\u0000')) throw invalid('file', 'This file is no table. Choose one saved as .xlsx or .csv.');
    try {
      const read: string[][] = parse(text, { delimiter: delimiterOf(text), relax_column_count: true, skip_empty_lines: false, trim: true });
      lines = read.map((line) => line.map(unguarded));
    } catch (error) {
      const at = /line (\d+)/.exec(error instanceof Error ? error.message : '')?.[1] ?? '?';
      throw invalid(
        'file',
        `The table cannot be read: a quotation mark in line ${at} is opened and not closed, or stands inside a cell alone.`,
      );
    }
  }
  if (lines.every((line) => line.every((cell) => cell === ''))) throw invalid('file', 'The file is empty.');
  if (lines.length > MOST_ROWS) throw invalid('file', `A table may have ${MOST_ROWS} lines. This one has more; import it in parts.`);
  if (lines.some((line) => line.length > MOST_COLUMNS))
    throw invalid('file', `A table may have ${MOST_COLUMNS} columns. This one has more.`);
  return lines;
}
